using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace GoldenRule.Data.Migrations
{
    /// <inheritdoc />
    public partial class PersonalSends : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "personal_sends",
                columns: table => new
                {
                    hand_off_id = table.Column<Guid>(type: "uuid", nullable: false),
                    by = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    state = table.Column<string>(type: "text", nullable: false),
                    answer = table.Column<string>(type: "text", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_personal_sends", x => x.hand_off_id);
                    table.ForeignKey(
                        name: "fk_personal_sends_hand_offs_hand_off_id",
                        column: x => x.hand_off_id,
                        principalTable: "hand_offs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict
                    );
                }
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(name: "personal_sends");
        }
    }
}
