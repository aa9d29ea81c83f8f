using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace GoldenRule.Data.Migrations
{
    /// <inheritdoc />
    public partial class Composing : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(
                name: "words_behind",
                table: "documents",
                type: "boolean",
                nullable: false,
                defaultValue: false
            );

            migrationBuilder.AddColumn<string>(
                name: "link_tags",
                table: "campaign_types",
                type: "jsonb",
                nullable: false,
                defaultValue: "{\"tags\":[],\"hosts\":[]}"
            );

            migrationBuilder.CreateTable(
                name: "email_words",
                columns: table => new
                {
                    document_id = table.Column<Guid>(type: "uuid", nullable: false),
                    words = table.Column<string>(type: "text", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_email_words", x => x.document_id);
                    table.ForeignKey(
                        name: "fk_email_words_documents_document_id",
                        column: x => x.document_id,
                        principalTable: "documents",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade
                    );
                }
            );

            migrationBuilder.CreateIndex(name: "ix_documents_words_behind", table: "documents", column: "id", filter: "words_behind");

            migrationBuilder
                .CreateIndex(name: "ix_email_words_words", table: "email_words", column: "words")
                .Annotation("Npgsql:IndexMethod", "gin")
                .Annotation("Npgsql:IndexOperators", new[] { "gin_trgm_ops" });

            // The words of emails that are there are taken at the first search.
            migrationBuilder.Sql("update documents set words_behind = true, words = '' where kind = 'Email';");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(name: "email_words");

            migrationBuilder.DropIndex(name: "ix_documents_words_behind", table: "documents");

            migrationBuilder.DropColumn(name: "words_behind", table: "documents");

            migrationBuilder.DropColumn(name: "link_tags", table: "campaign_types");
        }
    }
}
