using System;
using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace GoldenRule.Data.Migrations
{
    /// <inheritdoc />
    public partial class RowLibrary : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<Guid>(
                name: "owner",
                table: "documents",
                type: "uuid",
                nullable: false,
                defaultValue: new Guid("00000000-0000-0000-0000-000000000000")
            );

            migrationBuilder.AddColumn<bool>(name: "private", table: "documents", type: "boolean", nullable: false, defaultValue: false);

            migrationBuilder.AddColumn<bool>(name: "retired", table: "documents", type: "boolean", nullable: false, defaultValue: false);

            migrationBuilder.AddColumn<string>(name: "row_kind", table: "documents", type: "text", nullable: true);

            migrationBuilder.AddColumn<List<string>>(
                name: "serves",
                table: "documents",
                type: "text[]",
                nullable: false,
                defaultValue: new List<string>()
            );

            migrationBuilder.AddColumn<string>(name: "words", table: "documents", type: "text", nullable: false, defaultValue: "");

            migrationBuilder.CreateTable(
                name: "coverage_needs",
                columns: table => new
                {
                    campaign_type = table.Column<string>(type: "text", nullable: false),
                    row_kind = table.Column<string>(type: "text", nullable: false),
                    needed = table.Column<bool>(type: "boolean", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_coverage_needs", x => new { x.campaign_type, x.row_kind });
                    table.ForeignKey(
                        name: "fk_coverage_needs_campaign_types_campaign_type",
                        column: x => x.campaign_type,
                        principalTable: "campaign_types",
                        principalColumn: "key",
                        onDelete: ReferentialAction.Cascade
                    );
                }
            );

            migrationBuilder
                .CreateIndex(name: "ix_documents_words", table: "documents", column: "words")
                .Annotation("Npgsql:IndexMethod", "gin")
                .Annotation("Npgsql:IndexOperators", new[] { "gin_trgm_ops" });

            // What lists show and search, from what the documents say.
            migrationBuilder.Sql(
                """
                update documents set
                    owner = created_by,
                    words = lower(concat_ws(' ', name, head->>'description')),
                    row_kind = case when kind = 'Row' then replace(initcap(replace(head->>'rowKind', '-', ' ')), ' ', '') end,
                    serves = case when kind = 'Row' then array(select jsonb_array_elements_text(head->'campaignTypes')) else '{}' end;
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(name: "coverage_needs");

            migrationBuilder.DropIndex(name: "ix_documents_words", table: "documents");

            migrationBuilder.DropColumn(name: "owner", table: "documents");

            migrationBuilder.DropColumn(name: "private", table: "documents");

            migrationBuilder.DropColumn(name: "retired", table: "documents");

            migrationBuilder.DropColumn(name: "row_kind", table: "documents");

            migrationBuilder.DropColumn(name: "serves", table: "documents");

            migrationBuilder.DropColumn(name: "words", table: "documents");
        }
    }
}
