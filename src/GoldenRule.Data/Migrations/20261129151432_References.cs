using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace GoldenRule.Data.Migrations
{
    /// <inheritdoc />
    public partial class References : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(
                name: "references_known",
                table: "documents",
                type: "boolean",
                nullable: false,
                defaultValue: false
            );

            migrationBuilder.CreateTable(
                name: "document_references",
                columns: table => new
                {
                    document_id = table.Column<Guid>(type: "uuid", nullable: false),
                    release = table.Column<int>(type: "integer", nullable: false),
                    kind = table.Column<string>(type: "text", nullable: false),
                    key = table.Column<string>(type: "text", nullable: false),
                    target_release = table.Column<int>(type: "integer", nullable: false),
                    place = table.Column<string>(type: "text", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_document_references", x => new
                    {
                        x.document_id,
                        x.release,
                        x.kind,
                        x.key,
                        x.target_release,
                        x.place,
                    });
                    table.ForeignKey(
                        name: "fk_document_references_documents_document_id",
                        column: x => x.document_id,
                        principalTable: "documents",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade
                    );
                }
            );

            migrationBuilder.CreateTable(
                name: "job_findings",
                columns: table => new
                {
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    sequence = table.Column<int>(type: "integer", nullable: false),
                    body = table.Column<string>(type: "jsonb", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_job_findings", x => new { x.job_id, x.sequence });
                    table.ForeignKey(
                        name: "fk_job_findings_jobs_job_id",
                        column: x => x.job_id,
                        principalTable: "jobs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade
                    );
                }
            );

            migrationBuilder
                .CreateIndex(name: "ix_documents_emails", table: "documents", column: "id", filter: "kind = 'Email'")
                .Annotation("Npgsql:IndexInclude", new[] { "campaign_type", "state" });

            migrationBuilder.CreateIndex(
                name: "ix_documents_emails_by_author",
                table: "documents",
                columns: new[] { "retired", "created_by", "changed_at", "id" },
                descending: new[] { false, false, true, true },
                filter: "kind = 'Email'"
            );

            migrationBuilder.CreateIndex(
                name: "ix_documents_emails_by_state",
                table: "documents",
                columns: new[] { "retired", "state", "changed_at", "id" },
                descending: new[] { false, false, true, true },
                filter: "kind = 'Email'"
            );

            migrationBuilder.CreateIndex(
                name: "ix_documents_emails_by_type",
                table: "documents",
                columns: new[] { "retired", "campaign_type", "changed_at", "id" },
                descending: new[] { false, false, true, true },
                filter: "kind = 'Email'"
            );

            migrationBuilder.CreateIndex(
                name: "ix_documents_references_unknown",
                table: "documents",
                column: "id",
                filter: "not references_known"
            );

            migrationBuilder.CreateIndex(
                name: "ix_document_references_kind_key_target_release_release_documen",
                table: "document_references",
                columns: new[] { "kind", "key", "target_release", "release", "document_id" }
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(name: "document_references");

            migrationBuilder.DropTable(name: "job_findings");

            migrationBuilder.DropIndex(name: "ix_documents_emails", table: "documents");

            migrationBuilder.DropIndex(name: "ix_documents_emails_by_author", table: "documents");

            migrationBuilder.DropIndex(name: "ix_documents_emails_by_state", table: "documents");

            migrationBuilder.DropIndex(name: "ix_documents_emails_by_type", table: "documents");

            migrationBuilder.DropIndex(name: "ix_documents_references_unknown", table: "documents");

            migrationBuilder.DropColumn(name: "references_known", table: "documents");
        }
    }
}
