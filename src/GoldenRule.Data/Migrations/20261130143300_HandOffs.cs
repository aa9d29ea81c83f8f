using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace GoldenRule.Data.Migrations
{
    /// <inheritdoc />
    public partial class HandOffs : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<Guid>(name: "subject", table: "jobs", type: "uuid", nullable: true);

            migrationBuilder.CreateTable(
                name: "frozen_contents",
                columns: table => new
                {
                    sha256 = table.Column<string>(type: "text", nullable: false),
                    content = table.Column<byte[]>(type: "bytea", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_frozen_contents", x => x.sha256);
                }
            );

            migrationBuilder.CreateTable(
                name: "hand_offs",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    document_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    by = table.Column<Guid>(type: "uuid", nullable: false),
                    address = table.Column<string>(type: "text", nullable: false),
                    record = table.Column<string>(type: "text", nullable: false),
                    seal = table.Column<string>(type: "text", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_hand_offs", x => x.id);
                    table.ForeignKey(
                        name: "fk_hand_offs_documents_document_id",
                        column: x => x.document_id,
                        principalTable: "documents",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict
                    );
                }
            );

            migrationBuilder.CreateTable(
                name: "test_sends",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    document_id = table.Column<Guid>(type: "uuid", nullable: false),
                    asked_by = table.Column<Guid>(type: "uuid", nullable: false),
                    asked_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    revision = table.Column<long>(type: "bigint", nullable: false),
                    pictures_inside = table.Column<bool>(type: "boolean", nullable: false),
                    @base = table.Column<string>(name: "base", type: "text", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_test_sends", x => x.id);
                    table.ForeignKey(
                        name: "fk_test_sends_documents_document_id",
                        column: x => x.document_id,
                        principalTable: "documents",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade
                    );
                }
            );

            migrationBuilder.CreateTable(
                name: "testers",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    address = table.Column<string>(type: "text", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_testers", x => x.id);
                }
            );

            migrationBuilder.CreateTable(
                name: "hand_off_files",
                columns: table => new
                {
                    hand_off_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    sha256 = table.Column<string>(type: "text", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_hand_off_files", x => new { x.hand_off_id, x.name });
                    table.ForeignKey(
                        name: "fk_hand_off_files_frozen_contents_sha256",
                        column: x => x.sha256,
                        principalTable: "frozen_contents",
                        principalColumn: "sha256",
                        onDelete: ReferentialAction.Restrict
                    );
                    table.ForeignKey(
                        name: "fk_hand_off_files_hand_offs_hand_off_id",
                        column: x => x.hand_off_id,
                        principalTable: "hand_offs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict
                    );
                }
            );

            migrationBuilder.CreateTable(
                name: "hand_off_pages",
                columns: table => new
                {
                    hand_off_id = table.Column<Guid>(type: "uuid", nullable: false),
                    until = table.Column<DateOnly>(type: "date", nullable: true),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_hand_off_pages", x => x.hand_off_id);
                    table.ForeignKey(
                        name: "fk_hand_off_pages_hand_offs_hand_off_id",
                        column: x => x.hand_off_id,
                        principalTable: "hand_offs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict
                    );
                }
            );

            migrationBuilder.CreateTable(
                name: "hand_off_withdrawals",
                columns: table => new
                {
                    hand_off_id = table.Column<Guid>(type: "uuid", nullable: false),
                    by = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    reason = table.Column<string>(type: "text", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_hand_off_withdrawals", x => x.hand_off_id);
                    table.ForeignKey(
                        name: "fk_hand_off_withdrawals_hand_offs_hand_off_id",
                        column: x => x.hand_off_id,
                        principalTable: "hand_offs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict
                    );
                }
            );

            migrationBuilder.CreateTable(
                name: "test_messages",
                columns: table => new
                {
                    test_send_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    address = table.Column<string>(type: "text", nullable: false),
                    reader = table.Column<Guid>(type: "uuid", nullable: true),
                    combination = table.Column<int>(type: "integer", nullable: true),
                    seen = table.Column<string>(type: "text", nullable: false),
                    state = table.Column<string>(type: "text", nullable: false),
                    answer = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_test_messages", x => new { x.test_send_id, x.number });
                    table.ForeignKey(
                        name: "fk_test_messages_test_sends_test_send_id",
                        column: x => x.test_send_id,
                        principalTable: "test_sends",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade
                    );
                }
            );

            migrationBuilder.CreateIndex(name: "ix_hand_off_files_sha256", table: "hand_off_files", column: "sha256");

            migrationBuilder.CreateIndex(name: "ix_hand_offs_address", table: "hand_offs", column: "address", unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_hand_offs_document_id_number",
                table: "hand_offs",
                columns: new[] { "document_id", "number" },
                unique: true
            );

            migrationBuilder.CreateIndex(
                name: "ix_test_sends_asked_by_asked_at",
                table: "test_sends",
                columns: new[] { "asked_by", "asked_at" }
            );

            migrationBuilder.CreateIndex(
                name: "ix_test_sends_document_id_asked_at",
                table: "test_sends",
                columns: new[] { "document_id", "asked_at" }
            );

            migrationBuilder.CreateIndex(name: "ix_testers_address", table: "testers", column: "address", unique: true);

            // What was handed off stays as it was, byte for byte, and so do the pictures that its pages show.
            migrationBuilder.Sql(
                """
                create trigger hand_offs_never_change before update or delete on hand_offs
                    for each row execute function refuse_change();
                create trigger hand_offs_are_never_emptied before truncate on hand_offs
                    for each statement execute function refuse_change();
                create trigger hand_off_files_never_change before update or delete on hand_off_files
                    for each row execute function refuse_change();
                create trigger hand_off_files_are_never_emptied before truncate on hand_off_files
                    for each statement execute function refuse_change();
                create trigger frozen_contents_never_change before update or delete on frozen_contents
                    for each row execute function refuse_change();
                create trigger frozen_contents_are_never_emptied before truncate on frozen_contents
                    for each statement execute function refuse_change();
                create trigger hand_off_withdrawals_never_change before update or delete on hand_off_withdrawals
                    for each row execute function refuse_change();
                create trigger hand_off_withdrawals_are_never_emptied before truncate on hand_off_withdrawals
                    for each statement execute function refuse_change();
                create trigger picture_files_never_change before update or delete on picture_files
                    for each row execute function refuse_change();
                create trigger picture_files_are_never_emptied before truncate on picture_files
                    for each statement execute function refuse_change();
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql(
                """
                drop trigger picture_files_never_change on picture_files;
                drop trigger picture_files_are_never_emptied on picture_files;
                """
            );
            migrationBuilder.DropTable(name: "hand_off_files");

            migrationBuilder.DropTable(name: "hand_off_pages");

            migrationBuilder.DropTable(name: "hand_off_withdrawals");

            migrationBuilder.DropTable(name: "test_messages");

            migrationBuilder.DropTable(name: "testers");

            migrationBuilder.DropTable(name: "frozen_contents");

            migrationBuilder.DropTable(name: "hand_offs");

            migrationBuilder.DropTable(name: "test_sends");

            migrationBuilder.DropColumn(name: "subject", table: "jobs");
        }
    }
}
