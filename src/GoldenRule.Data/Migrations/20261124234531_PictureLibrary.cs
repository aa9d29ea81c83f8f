using System;
using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace GoldenRule.Data.Migrations
{
    /// <inheritdoc />
    public partial class PictureLibrary : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AlterDatabase().Annotation("Npgsql:PostgresExtension:pg_trgm", ",,");

            migrationBuilder.AddColumn<Guid>(name: "added_by", table: "pictures", type: "uuid", nullable: true);

            migrationBuilder.AddColumn<bool>(name: "decorative", table: "pictures", type: "boolean", nullable: false, defaultValue: false);

            migrationBuilder.AddColumn<double>(
                name: "focal_x",
                table: "pictures",
                type: "double precision",
                nullable: false,
                defaultValue: 0.5
            );

            migrationBuilder.AddColumn<double>(
                name: "focal_y",
                table: "pictures",
                type: "double precision",
                nullable: false,
                defaultValue: 0.5
            );

            migrationBuilder.AddColumn<string>(name: "phone_crop", table: "pictures", type: "jsonb", nullable: true);

            migrationBuilder.AddColumn<string>(name: "replaced_by", table: "pictures", type: "text", nullable: true);

            migrationBuilder.AddColumn<string>(name: "smaller", table: "pictures", type: "jsonb", nullable: false, defaultValue: "[]");

            migrationBuilder.AddColumn<List<string>>(
                name: "tags",
                table: "pictures",
                type: "text[]",
                nullable: false,
                defaultValueSql: "'{}'"
            );

            migrationBuilder.AddColumn<string>(name: "words", table: "pictures", type: "text", nullable: false, defaultValue: "");

            migrationBuilder.CreateTable(
                name: "picture_files",
                columns: table => new
                {
                    name = table.Column<string>(type: "text", nullable: false),
                    content = table.Column<byte[]>(type: "bytea", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_picture_files", x => x.name);
                }
            );

            // The bytes move to the files that they are fetched as.
            migrationBuilder.Sql(
                """
                insert into picture_files (name, content) select id || '.' || extension, content from pictures;
                update pictures set words = lower(name || ' ' || alt);
                """
            );

            migrationBuilder.DropColumn(name: "content", table: "pictures");

            migrationBuilder.CreateIndex(
                name: "ix_pictures_added_at_id",
                table: "pictures",
                columns: new[] { "added_at", "id" },
                descending: new bool[0]
            );

            migrationBuilder.CreateIndex(name: "ix_pictures_replaced_by", table: "pictures", column: "replaced_by");

            migrationBuilder
                .CreateIndex(name: "ix_pictures_tags", table: "pictures", column: "tags")
                .Annotation("Npgsql:IndexMethod", "gin");

            migrationBuilder
                .CreateIndex(name: "ix_pictures_words", table: "pictures", column: "words")
                .Annotation("Npgsql:IndexMethod", "gin")
                .Annotation("Npgsql:IndexOperators", new[] { "gin_trgm_ops" });

            migrationBuilder.AddForeignKey(
                name: "fk_pictures_pictures_replaced_by",
                table: "pictures",
                column: "replaced_by",
                principalTable: "pictures",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(name: "fk_pictures_pictures_replaced_by", table: "pictures");

            migrationBuilder.DropIndex(name: "ix_pictures_added_at_id", table: "pictures");

            migrationBuilder.DropIndex(name: "ix_pictures_replaced_by", table: "pictures");

            migrationBuilder.DropIndex(name: "ix_pictures_tags", table: "pictures");

            migrationBuilder.DropIndex(name: "ix_pictures_words", table: "pictures");

            migrationBuilder.DropColumn(name: "added_by", table: "pictures");

            migrationBuilder.DropColumn(name: "decorative", table: "pictures");

            migrationBuilder.DropColumn(name: "focal_x", table: "pictures");

            migrationBuilder.DropColumn(name: "focal_y", table: "pictures");

            migrationBuilder.DropColumn(name: "phone_crop", table: "pictures");

            migrationBuilder.DropColumn(name: "replaced_by", table: "pictures");

            migrationBuilder.DropColumn(name: "smaller", table: "pictures");

            migrationBuilder.DropColumn(name: "tags", table: "pictures");

            migrationBuilder.DropColumn(name: "words", table: "pictures");

            migrationBuilder.AlterDatabase().OldAnnotation("Npgsql:PostgresExtension:pg_trgm", ",,");

            migrationBuilder.AddColumn<byte[]>(
                name: "content",
                table: "pictures",
                type: "bytea",
                nullable: false,
                defaultValue: new byte[0]
            );

            migrationBuilder.Sql(
                "update pictures p set content = f.content from picture_files f where f.name = p.id || '.' || p.extension"
            );

            migrationBuilder.DropTable(name: "picture_files");
        }
    }
}
