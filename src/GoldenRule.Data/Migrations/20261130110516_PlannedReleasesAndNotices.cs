using System;
using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace GoldenRule.Data.Migrations
{
    /// <inheritdoc />
    public partial class PlannedReleasesAndNotices : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<List<Guid>>(
                name: "same_browser_as",
                table: "review_decisions",
                type: "uuid[]",
                nullable: false,
                defaultValueSql: "'{}'"
            );

            migrationBuilder.AddColumn<Guid>(name: "heir", table: "documents", type: "uuid", nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "notice_choices",
                table: "AspNetUsers",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'{}'"
            );

            migrationBuilder.AddColumn<DateTime>(
                name: "notices_mailed_at",
                table: "AspNetUsers",
                type: "timestamp with time zone",
                nullable: true
            );

            migrationBuilder.CreateTable(
                name: "known_browsers",
                columns: table => new
                {
                    browser = table.Column<string>(type: "text", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    seen_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_known_browsers", x => new { x.browser, x.person_id });
                    table.ForeignKey(
                        name: "fk_known_browsers_asp_net_users_person_id",
                        column: x => x.person_id,
                        principalTable: "AspNetUsers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade
                    );
                }
            );

            migrationBuilder.CreateTable(
                name: "notices",
                columns: table => new
                {
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    key = table.Column<string>(type: "text", nullable: false),
                    since = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    mailed_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    noted_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_notices", x => new { x.person_id, x.key });
                    table.ForeignKey(
                        name: "fk_notices_asp_net_users_person_id",
                        column: x => x.person_id,
                        principalTable: "AspNetUsers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade
                    );
                }
            );

            migrationBuilder.CreateTable(
                name: "planned_releases",
                columns: table => new
                {
                    document_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "text", nullable: false),
                    planned_by = table.Column<Guid>(type: "uuid", nullable: false),
                    revision = table.Column<long>(type: "bigint", nullable: false),
                    note = table.Column<string>(type: "text", nullable: false),
                    required = table.Column<bool>(type: "boolean", nullable: false),
                    at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    problem = table.Column<string>(type: "text", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_planned_releases", x => x.document_id);
                    table.ForeignKey(
                        name: "fk_planned_releases_documents_document_id",
                        column: x => x.document_id,
                        principalTable: "documents",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade
                    );
                }
            );

            migrationBuilder.CreateIndex(name: "ix_known_browsers_person_id", table: "known_browsers", column: "person_id");

            migrationBuilder.CreateIndex(name: "ix_planned_releases_at", table: "planned_releases", column: "at", filter: "problem = ''");

            migrationBuilder.Sql(
                """
                drop trigger statuses_move_the_stamp on documents;
                create trigger statuses_move_the_stamp after update of retired, private, heir on documents
                    for each row when (new.kind in ('Row', 'Template')) execute function move_library_stamp('statuses');
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql(
                """
                drop trigger statuses_move_the_stamp on documents;
                create trigger statuses_move_the_stamp after update of retired, private on documents
                    for each row when (new.kind in ('Row', 'Template')) execute function move_library_stamp('statuses');
                """
            );
            migrationBuilder.DropTable(name: "known_browsers");

            migrationBuilder.DropTable(name: "notices");

            migrationBuilder.DropTable(name: "planned_releases");

            migrationBuilder.DropColumn(name: "same_browser_as", table: "review_decisions");

            migrationBuilder.DropColumn(name: "heir", table: "documents");

            migrationBuilder.DropColumn(name: "notice_choices", table: "AspNetUsers");

            migrationBuilder.DropColumn(name: "notices_mailed_at", table: "AspNetUsers");
        }
    }
}
