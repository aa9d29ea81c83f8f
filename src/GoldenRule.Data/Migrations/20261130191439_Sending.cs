using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace GoldenRule.Data.Migrations
{
    /// <inheritdoc />
    public partial class Sending : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "api_tokens",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    hash = table.Column<byte[]>(type: "bytea", nullable: false),
                    beginning = table.Column<string>(type: "text", nullable: false),
                    scopes = table.Column<string[]>(type: "text[]", nullable: false),
                    made_by = table.Column<Guid>(type: "uuid", nullable: false),
                    made_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    used_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    revoked_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_api_tokens", x => x.id);
                }
            );

            migrationBuilder.CreateTable(
                name: "counted_events",
                columns: table => new
                {
                    hand_off_id = table.Column<Guid>(type: "uuid", nullable: false),
                    hash = table.Column<byte[]>(type: "bytea", nullable: false),
                    at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_counted_events", x => new { x.hand_off_id, x.hash });
                }
            );

            migrationBuilder.CreateTable(
                name: "destinations",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    kind = table.Column<string>(type: "text", nullable: false),
                    profile = table.Column<string>(type: "text", nullable: false),
                    pictures = table.Column<string>(type: "text", nullable: false),
                    address = table.Column<string>(type: "text", nullable: false),
                    user = table.Column<string>(type: "text", nullable: false),
                    secret = table.Column<byte[]>(type: "bytea", nullable: false),
                    tried_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    works = table.Column<bool>(type: "boolean", nullable: false),
                    tried_answer = table.Column<string>(type: "text", nullable: false),
                    retired_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_destinations", x => x.id);
                }
            );

            migrationBuilder.CreateTable(
                name: "returned_counts",
                columns: table => new
                {
                    hand_off_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "text", nullable: false),
                    link = table.Column<string>(type: "text", nullable: false),
                    scanner = table.Column<bool>(type: "boolean", nullable: false),
                    row = table.Column<string>(type: "text", nullable: false),
                    row_name = table.Column<string>(type: "text", nullable: false),
                    count = table.Column<int>(type: "integer", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_returned_counts", x => new
                    {
                        x.hand_off_id,
                        x.kind,
                        x.link,
                        x.scanner,
                    });
                    table.ForeignKey(
                        name: "fk_returned_counts_hand_offs_hand_off_id",
                        column: x => x.hand_off_id,
                        principalTable: "hand_offs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict
                    );
                }
            );

            migrationBuilder.CreateTable(
                name: "returned_hand_offs",
                columns: table => new
                {
                    hand_off_id = table.Column<Guid>(type: "uuid", nullable: false),
                    template = table.Column<string>(type: "text", nullable: false),
                    template_name = table.Column<string>(type: "text", nullable: false),
                    campaign_type = table.Column<string>(type: "text", nullable: false),
                    campaign_type_name = table.Column<string>(type: "text", nullable: false),
                    month = table.Column<DateOnly>(type: "date", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_returned_hand_offs", x => x.hand_off_id);
                    table.ForeignKey(
                        name: "fk_returned_hand_offs_hand_offs_hand_off_id",
                        column: x => x.hand_off_id,
                        principalTable: "hand_offs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict
                    );
                }
            );

            migrationBuilder.CreateTable(
                name: "unsubscribed_addresses",
                columns: table => new
                {
                    hash = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_unsubscribed_addresses", x => x.hash);
                }
            );

            migrationBuilder.CreateTable(
                name: "webhooks",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    address = table.Column<string>(type: "text", nullable: false),
                    kinds = table.Column<string[]>(type: "text[]", nullable: false),
                    secret = table.Column<byte[]>(type: "bytea", nullable: false),
                    former_secret = table.Column<byte[]>(type: "bytea", nullable: false),
                    former_until = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    retired_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_webhooks", x => x.id);
                }
            );

            migrationBuilder.CreateTable(
                name: "pushes",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    hand_off_id = table.Column<Guid>(type: "uuid", nullable: false),
                    destination_id = table.Column<Guid>(type: "uuid", nullable: false),
                    asked_by = table.Column<Guid>(type: "uuid", nullable: false),
                    asked_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    @base = table.Column<string>(name: "base", type: "text", nullable: false),
                    state = table.Column<string>(type: "text", nullable: false),
                    tries = table.Column<int>(type: "integer", nullable: false),
                    next_try = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    answer = table.Column<string>(type: "text", nullable: false),
                    other_id = table.Column<string>(type: "text", nullable: false),
                    taken_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    events_up_to = table.Column<string>(type: "text", nullable: false),
                    looked_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_pushes", x => x.id);
                    table.ForeignKey(
                        name: "fk_pushes_destinations_destination_id",
                        column: x => x.destination_id,
                        principalTable: "destinations",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict
                    );
                    table.ForeignKey(
                        name: "fk_pushes_hand_offs_hand_off_id",
                        column: x => x.hand_off_id,
                        principalTable: "hand_offs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict
                    );
                }
            );

            migrationBuilder.CreateTable(
                name: "sends",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    hand_off_id = table.Column<Guid>(type: "uuid", nullable: false),
                    destination_id = table.Column<Guid>(type: "uuid", nullable: false),
                    asked_by = table.Column<Guid>(type: "uuid", nullable: false),
                    asked_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    list_name = table.Column<string>(type: "text", nullable: false),
                    rule = table.Column<string>(type: "jsonb", nullable: false),
                    zone = table.Column<string>(type: "text", nullable: false),
                    @base = table.Column<string>(name: "base", type: "text", nullable: false),
                    state = table.Column<string>(type: "text", nullable: false),
                    answer = table.Column<string>(type: "text", nullable: false),
                    due_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_sends", x => x.id);
                    table.ForeignKey(
                        name: "fk_sends_destinations_destination_id",
                        column: x => x.destination_id,
                        principalTable: "destinations",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict
                    );
                    table.ForeignKey(
                        name: "fk_sends_hand_offs_hand_off_id",
                        column: x => x.hand_off_id,
                        principalTable: "hand_offs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict
                    );
                }
            );

            migrationBuilder.CreateTable(
                name: "webhook_deliveries",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    webhook_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "text", nullable: false),
                    body = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    state = table.Column<string>(type: "text", nullable: false),
                    tries = table.Column<int>(type: "integer", nullable: false),
                    next_try = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    answer = table.Column<string>(type: "text", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_webhook_deliveries", x => x.id);
                    table.ForeignKey(
                        name: "fk_webhook_deliveries_webhooks_webhook_id",
                        column: x => x.webhook_id,
                        principalTable: "webhooks",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade
                    );
                }
            );

            migrationBuilder.CreateTable(
                name: "send_batches",
                columns: table => new
                {
                    send_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    size = table.Column<int>(type: "integer", nullable: false),
                    begun_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    ended_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    sent = table.Column<int>(type: "integer", nullable: false),
                    refused = table.Column<int>(type: "integer", nullable: false),
                    left_out = table.Column<int>(type: "integer", nullable: false),
                    unknown = table.Column<int>(type: "integer", nullable: false),
                    other_id = table.Column<string>(type: "text", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_send_batches", x => new { x.send_id, x.number });
                    table.ForeignKey(
                        name: "fk_send_batches_sends_send_id",
                        column: x => x.send_id,
                        principalTable: "sends",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade
                    );
                }
            );

            migrationBuilder.CreateTable(
                name: "send_recipients",
                columns: table => new
                {
                    send_id = table.Column<Guid>(type: "uuid", nullable: false),
                    position = table.Column<int>(type: "integer", nullable: false),
                    address = table.Column<string>(type: "text", nullable: false),
                    other_id = table.Column<string>(type: "text", nullable: false),
                    values = table.Column<string>(type: "jsonb", nullable: false),
                    batch = table.Column<int>(type: "integer", nullable: false),
                    state = table.Column<string>(type: "text", nullable: false),
                    tries = table.Column<int>(type: "integer", nullable: false),
                    answer = table.Column<string>(type: "text", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_send_recipients", x => new { x.send_id, x.position });
                    table.ForeignKey(
                        name: "fk_send_recipients_sends_send_id",
                        column: x => x.send_id,
                        principalTable: "sends",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade
                    );
                }
            );

            migrationBuilder.CreateIndex(name: "ix_api_tokens_hash", table: "api_tokens", column: "hash", unique: true);

            migrationBuilder.CreateIndex(name: "ix_counted_events_at", table: "counted_events", column: "at");

            migrationBuilder.CreateIndex(
                name: "ix_destinations_name",
                table: "destinations",
                column: "name",
                unique: true,
                filter: "retired_at is null"
            );

            migrationBuilder.CreateIndex(name: "ix_pushes_destination_id", table: "pushes", column: "destination_id");

            migrationBuilder.CreateIndex(
                name: "ix_pushes_hand_off_id_destination_id",
                table: "pushes",
                columns: new[] { "hand_off_id", "destination_id" },
                unique: true
            );

            migrationBuilder.CreateIndex(name: "ix_pushes_next_try", table: "pushes", column: "next_try", filter: "next_try is not null");

            migrationBuilder.CreateIndex(name: "ix_returned_hand_offs_month", table: "returned_hand_offs", column: "month");

            migrationBuilder.CreateIndex(
                name: "ix_send_recipients_send_id_state_tries_position",
                table: "send_recipients",
                columns: new[] { "send_id", "state", "tries", "position" }
            );

            migrationBuilder.CreateIndex(name: "ix_sends_destination_id", table: "sends", column: "destination_id");

            migrationBuilder.CreateIndex(name: "ix_sends_due_at", table: "sends", column: "due_at", filter: "due_at is not null");

            migrationBuilder.CreateIndex(
                name: "ix_sends_hand_off_id_asked_at",
                table: "sends",
                columns: new[] { "hand_off_id", "asked_at" }
            );

            migrationBuilder.CreateIndex(
                name: "ix_webhook_deliveries_next_try",
                table: "webhook_deliveries",
                column: "next_try",
                filter: "next_try is not null"
            );

            migrationBuilder.CreateIndex(
                name: "ix_webhook_deliveries_webhook_id_at",
                table: "webhook_deliveries",
                columns: new[] { "webhook_id", "at" }
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(name: "api_tokens");

            migrationBuilder.DropTable(name: "counted_events");

            migrationBuilder.DropTable(name: "pushes");

            migrationBuilder.DropTable(name: "returned_counts");

            migrationBuilder.DropTable(name: "returned_hand_offs");

            migrationBuilder.DropTable(name: "send_batches");

            migrationBuilder.DropTable(name: "send_recipients");

            migrationBuilder.DropTable(name: "unsubscribed_addresses");

            migrationBuilder.DropTable(name: "webhook_deliveries");

            migrationBuilder.DropTable(name: "sends");

            migrationBuilder.DropTable(name: "webhooks");

            migrationBuilder.DropTable(name: "destinations");
        }
    }
}
