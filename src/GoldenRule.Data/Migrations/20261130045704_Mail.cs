using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace GoldenRule.Data.Migrations
{
    /// <inheritdoc />
    public partial class Mail : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(name: "last_code_step", table: "AspNetUsers", type: "bigint", nullable: true);

            migrationBuilder.CreateTable(
                name: "organisations",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_organisations", x => x.id);
                }
            );

            migrationBuilder.CreateTable(
                name: "outgoing_mails",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    account_id = table.Column<Guid>(type: "uuid", nullable: true),
                    @sealed = table.Column<byte[]>(name: "sealed", type: "bytea", nullable: false),
                    asked_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    sent_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    next_try = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    tries = table.Column<int>(type: "integer", nullable: false),
                    problem = table.Column<string>(type: "text", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_outgoing_mails", x => x.id);
                    table.ForeignKey(
                        name: "fk_outgoing_mails_asp_net_users_account_id",
                        column: x => x.account_id,
                        principalTable: "AspNetUsers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade
                    );
                }
            );

            migrationBuilder.InsertData(table: "organisations", columns: new[] { "id", "name" }, values: new object[] { 1, "" });

            migrationBuilder.CreateIndex(
                name: "ix_outgoing_mails_account_id_asked_at",
                table: "outgoing_mails",
                columns: new[] { "account_id", "asked_at" }
            );

            migrationBuilder.CreateIndex(
                name: "ix_outgoing_mails_next_try",
                table: "outgoing_mails",
                column: "next_try",
                filter: "next_try is not null"
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(name: "organisations");

            migrationBuilder.DropTable(name: "outgoing_mails");

            migrationBuilder.DropColumn(name: "last_code_step", table: "AspNetUsers");
        }
    }
}
