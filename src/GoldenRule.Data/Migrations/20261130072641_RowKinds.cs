using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

#pragma warning disable CA1814 // Prefer jagged arrays over multidimensional

namespace GoldenRule.Data.Migrations
{
    /// <inheritdoc />
    public partial class RowKinds : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(name: "merged_into", table: "campaign_types", type: "text", nullable: true);

            migrationBuilder.CreateTable(
                name: "row_kinds",
                columns: table => new
                {
                    key = table.Column<string>(type: "text", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    purpose = table.Column<string>(type: "text", nullable: false),
                    retired = table.Column<bool>(type: "boolean", nullable: false),
                    merged_into = table.Column<string>(type: "text", nullable: true),
                    position = table.Column<int>(type: "integer", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_row_kinds", x => x.key);
                    table.ForeignKey(
                        name: "fk_row_kinds_row_kinds_merged_into",
                        column: x => x.merged_into,
                        principalTable: "row_kinds",
                        principalColumn: "key",
                        onDelete: ReferentialAction.Restrict
                    );
                }
            );

            migrationBuilder.InsertData(
                table: "row_kinds",
                columns: new[] { "key", "merged_into", "name", "position", "purpose", "retired" },
                values: new object[,]
                {
                    { "advert", null, "Advert", 5, "Ready", false },
                    { "footer", null, "Footer", 7, "Frame", false },
                    { "header", null, "Header", 0, "Frame", false },
                    { "hero", null, "Hero", 1, "Message", false },
                    { "legal", null, "Legal", 8, "Frame", false },
                    { "main", null, "Main", 2, "Message", false },
                    { "secondary", null, "Secondary", 3, "Message", false },
                    { "sign-off", null, "Sign-off", 6, "Ready", false },
                    { "supporting", null, "Supporting", 4, "Message", false },
                }
            );

            migrationBuilder.CreateIndex(name: "ix_campaign_types_merged_into", table: "campaign_types", column: "merged_into");

            migrationBuilder.CreateIndex(name: "ix_row_kinds_merged_into", table: "row_kinds", column: "merged_into");

            migrationBuilder.AddForeignKey(
                name: "fk_campaign_types_campaign_types_merged_into",
                table: "campaign_types",
                column: "merged_into",
                principalTable: "campaign_types",
                principalColumn: "key",
                onDelete: ReferentialAction.Restrict
            );

            // Until now the name of an enumeration: "SignOff". From now on the technical name: "sign-off".
            migrationBuilder.Sql(
                """
                update documents set row_kind = lower(regexp_replace(row_kind, '([a-z])([A-Z])', '\1-\2', 'g'))
                    where row_kind is not null;
                update coverage_needs set row_kind = lower(regexp_replace(row_kind, '([a-z])([A-Z])', '\1-\2', 'g'));
                create trigger row_kinds_move_the_stamp after insert or update or delete on row_kinds
                    for each statement execute function move_library_stamp();
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql(
                """
                update documents set row_kind = replace(initcap(replace(row_kind, '-', ' ')), ' ', '') where row_kind is not null;
                update coverage_needs set row_kind = replace(initcap(replace(row_kind, '-', ' ')), ' ', '');
                """
            );
            migrationBuilder.DropForeignKey(name: "fk_campaign_types_campaign_types_merged_into", table: "campaign_types");

            migrationBuilder.DropTable(name: "row_kinds");

            migrationBuilder.DropIndex(name: "ix_campaign_types_merged_into", table: "campaign_types");

            migrationBuilder.DropColumn(name: "merged_into", table: "campaign_types");
        }
    }
}
