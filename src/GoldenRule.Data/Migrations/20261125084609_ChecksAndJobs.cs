using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace GoldenRule.Data.Migrations
{
    /// <inheritdoc />
    public partial class ChecksAndJobs : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(name: "required", table: "releases", type: "boolean", nullable: false, defaultValue: false);

            migrationBuilder.CreateTable(
                name: "check_policies",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false),
                    body = table.Column<string>(type: "jsonb", nullable: false),
                    revision = table.Column<long>(type: "bigint", nullable: false),
                    changed_by = table.Column<Guid>(type: "uuid", nullable: true),
                    changed_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_check_policies", x => x.id);
                }
            );

            migrationBuilder.CreateTable(
                name: "files",
                columns: table => new
                {
                    id = table.Column<string>(type: "text", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    media_type = table.Column<string>(type: "text", nullable: false),
                    bytes = table.Column<int>(type: "integer", nullable: false),
                    content = table.Column<byte[]>(type: "bytea", nullable: false),
                    added_by = table.Column<Guid>(type: "uuid", nullable: false),
                    added_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_files", x => x.id);
                }
            );

            migrationBuilder.CreateTable(
                name: "jobs",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    work = table.Column<string>(type: "text", nullable: false),
                    document = table.Column<Guid>(type: "uuid", nullable: true),
                    asked_by = table.Column<Guid>(type: "uuid", nullable: false),
                    asked_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    state = table.Column<string>(type: "text", nullable: false),
                    done = table.Column<int>(type: "integer", nullable: false),
                    total = table.Column<int>(type: "integer", nullable: false),
                    step = table.Column<string>(type: "text", nullable: false),
                    result = table.Column<byte[]>(type: "bytea", nullable: true),
                    result_name = table.Column<string>(type: "text", nullable: true),
                    result_type = table.Column<string>(type: "text", nullable: true),
                    ended_at = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_jobs", x => x.id);
                }
            );

            migrationBuilder.InsertData(
                table: "check_policies",
                columns: new[] { "id", "body", "changed_at", "changed_by", "revision" },
                values: new object[] { 1, "{}", null, null, 0L }
            );

            migrationBuilder.CreateIndex(
                name: "ix_files_added_at_id",
                table: "files",
                columns: new[] { "added_at", "id" },
                descending: new bool[0]
            );

            migrationBuilder.CreateIndex(
                name: "ix_jobs_work_asked_at",
                table: "jobs",
                columns: new[] { "work", "asked_at" },
                descending: new[] { false, true }
            );

            // What the checks know beside an email counts as part of the library.
            foreach (var table in new[] { "check_policies", "coverage_needs", "campaign_types" })
            {
                migrationBuilder.Sql(
                    $"create trigger {table}_move_the_stamp after insert or update or delete on {table} for each statement execute function move_library_stamp();"
                );
            }
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            foreach (var table in new[] { "coverage_needs", "campaign_types" })
            {
                migrationBuilder.Sql($"drop trigger {table}_move_the_stamp on {table};");
            }

            migrationBuilder.DropTable(name: "check_policies");

            migrationBuilder.DropTable(name: "files");

            migrationBuilder.DropTable(name: "jobs");

            migrationBuilder.DropColumn(name: "required", table: "releases");
        }
    }
}
