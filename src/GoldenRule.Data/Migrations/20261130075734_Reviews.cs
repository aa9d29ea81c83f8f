using System;
using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace GoldenRule.Data.Migrations
{
    /// <inheritdoc />
    public partial class Reviews : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "review_rule",
                table: "campaign_types",
                type: "jsonb",
                nullable: false,
                defaultValue: "{\"needs\":[{\"name\":\"Lead\",\"roles\":[\"lead\"],\"people\":[]}],\"answerWarnings\":false,\"overtaken\":\"ask-again\"}"
            );

            migrationBuilder.CreateTable(
                name: "comments",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    document_id = table.Column<Guid>(type: "uuid", nullable: false),
                    thread_id = table.Column<Guid>(type: "uuid", nullable: true),
                    author_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    text = table.Column<string>(type: "text", nullable: false),
                    mentions = table.Column<List<Guid>>(type: "uuid[]", nullable: false),
                    row = table.Column<string>(type: "text", nullable: false),
                    block = table.Column<string>(type: "text", nullable: false),
                    field = table.Column<string>(type: "text", nullable: false),
                    place_name = table.Column<string>(type: "text", nullable: false),
                    field_text = table.Column<string>(type: "text", nullable: false),
                    start = table.Column<int>(type: "integer", nullable: false),
                    length = table.Column<int>(type: "integer", nullable: false),
                    resolved_by = table.Column<Guid>(type: "uuid", nullable: true),
                    resolved_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_comments", x => x.id);
                    table.ForeignKey(
                        name: "fk_comments_comments_thread_id",
                        column: x => x.thread_id,
                        principalTable: "comments",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade
                    );
                    table.ForeignKey(
                        name: "fk_comments_documents_document_id",
                        column: x => x.document_id,
                        principalTable: "documents",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade
                    );
                }
            );

            migrationBuilder.CreateTable(
                name: "review_rounds",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    document_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    asked_by = table.Column<Guid>(type: "uuid", nullable: false),
                    asked_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    by_itself = table.Column<bool>(type: "boolean", nullable: false),
                    note = table.Column<string>(type: "text", nullable: false),
                    revision = table.Column<long>(type: "bigint", nullable: false),
                    hash = table.Column<string>(type: "text", nullable: false),
                    rule = table.Column<string>(type: "jsonb", nullable: false),
                    asked = table.Column<List<Guid>>(type: "uuid[]", nullable: false),
                    answers = table.Column<string>(type: "jsonb", nullable: false),
                    state = table.Column<string>(type: "text", nullable: false),
                    closed_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_review_rounds", x => x.id);
                    table.ForeignKey(
                        name: "fk_review_rounds_documents_document_id",
                        column: x => x.document_id,
                        principalTable: "documents",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade
                    );
                }
            );

            migrationBuilder.CreateTable(
                name: "seen_emails",
                columns: table => new
                {
                    document_id = table.Column<Guid>(type: "uuid", nullable: false),
                    hash = table.Column<string>(type: "text", nullable: false),
                    body = table.Column<string>(type: "jsonb", nullable: false),
                    at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_seen_emails", x => new { x.document_id, x.hash });
                    table.ForeignKey(
                        name: "fk_seen_emails_documents_document_id",
                        column: x => x.document_id,
                        principalTable: "documents",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade
                    );
                }
            );

            migrationBuilder.CreateTable(
                name: "review_decisions",
                columns: table => new
                {
                    round_id = table.Column<Guid>(type: "uuid", nullable: false),
                    sequence = table.Column<int>(type: "integer", nullable: false),
                    need = table.Column<string>(type: "text", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    verdict = table.Column<string>(type: "text", nullable: false),
                    reason = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    hash = table.Column<string>(type: "text", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_review_decisions", x => new { x.round_id, x.sequence });
                    table.ForeignKey(
                        name: "fk_review_decisions_review_rounds_round_id",
                        column: x => x.round_id,
                        principalTable: "review_rounds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict
                    );
                }
            );

            migrationBuilder.CreateIndex(name: "ix_comments_document_id_at", table: "comments", columns: new[] { "document_id", "at" });

            migrationBuilder
                .CreateIndex(name: "ix_comments_mentions", table: "comments", column: "mentions")
                .Annotation("Npgsql:IndexMethod", "gin");

            migrationBuilder.CreateIndex(name: "ix_comments_thread_id", table: "comments", column: "thread_id");

            migrationBuilder.CreateIndex(
                name: "ix_review_rounds_document_id_number",
                table: "review_rounds",
                columns: new[] { "document_id", "number" },
                unique: true
            );

            migrationBuilder.CreateIndex(
                name: "ix_review_rounds_open",
                table: "review_rounds",
                column: "document_id",
                unique: true,
                filter: "state = 'Open'"
            );

            migrationBuilder.CreateIndex(
                name: "ix_review_rounds_state_asked_at",
                table: "review_rounds",
                columns: new[] { "state", "asked_at" }
            );

            migrationBuilder.Sql(
                """
                -- Until now nothing recorded who approved what: it is asked anew.
                update documents set state = 'Draft' where state in ('InReview', 'Approved');
                -- The calendar asks for emails by the day they go out.
                create index ix_documents_send_day on documents ((head -> 'details' ->> 'sendDay')) where kind = 'Email' and not retired;
                create trigger review_decisions_never_change before update or delete on review_decisions
                    for each row execute function refuse_change();
                create trigger review_decisions_are_never_emptied before truncate on review_decisions
                    for each statement execute function refuse_change();
                create trigger seen_emails_never_change before update on seen_emails
                    for each row execute function refuse_change();
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(name: "comments");

            migrationBuilder.DropTable(name: "review_decisions");

            migrationBuilder.DropTable(name: "seen_emails");

            migrationBuilder.DropTable(name: "review_rounds");

            migrationBuilder.DropColumn(name: "review_rule", table: "campaign_types");
        }
    }
}
