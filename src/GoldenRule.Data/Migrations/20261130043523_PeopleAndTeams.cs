using System;
using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace GoldenRule.Data.Migrations
{
    /// <inheritdoc />
    public partial class PeopleAndTeams : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(name: "browser", table: "sessions", type: "text", nullable: false, defaultValue: "");

            migrationBuilder.AddColumn<DateTime>(
                name: "seen_at",
                table: "sessions",
                type: "timestamp with time zone",
                nullable: false,
                defaultValue: new DateTime(1, 1, 1, 0, 0, 0, 0, DateTimeKind.Unspecified)
            );

            migrationBuilder.AddColumn<bool>(
                name: "retired",
                table: "campaign_types",
                type: "boolean",
                nullable: false,
                defaultValue: false
            );

            migrationBuilder.AddColumn<List<Guid>>(
                name: "teams",
                table: "campaign_types",
                type: "uuid[]",
                nullable: false,
                defaultValue: new List<Guid>()
            );

            migrationBuilder.AddColumn<DateTime>(
                name: "deactivated_at",
                table: "AspNetUsers",
                type: "timestamp with time zone",
                nullable: true
            );

            migrationBuilder.AddColumn<DateTime>(name: "erased_at", table: "AspNetUsers", type: "timestamp with time zone", nullable: true);

            migrationBuilder.AddColumn<DateTime>(
                name: "invited_at",
                table: "AspNetUsers",
                type: "timestamp with time zone",
                nullable: true
            );

            migrationBuilder.AddColumn<DateTime>(name: "joined_at", table: "AspNetUsers", type: "timestamp with time zone", nullable: true);

            migrationBuilder.CreateTable(
                name: "log_entries",
                columns: table => new
                {
                    sequence = table
                        .Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    at = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    kind = table.Column<string>(type: "text", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: true),
                    of_person_id = table.Column<Guid>(type: "uuid", nullable: true),
                    subject = table.Column<string>(type: "text", nullable: false),
                    before = table.Column<string>(type: "jsonb", nullable: true),
                    after = table.Column<string>(type: "jsonb", nullable: true),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_log_entries", x => x.sequence);
                }
            );

            migrationBuilder.CreateTable(
                name: "log_settings",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false),
                    kept_days = table.Column<int>(type: "integer", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_log_settings", x => x.id);
                }
            );

            migrationBuilder.CreateTable(
                name: "teams",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    for_others = table.Column<string>(type: "text", nullable: false),
                    merged_into = table.Column<Guid>(type: "uuid", nullable: true),
                    position = table.Column<int>(type: "integer", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_teams", x => x.id);
                    table.ForeignKey(
                        name: "fk_teams_teams_merged_into",
                        column: x => x.merged_into,
                        principalTable: "teams",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict
                    );
                }
            );

            migrationBuilder.CreateTable(
                name: "team_members",
                columns: table => new
                {
                    team_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    role = table.Column<string>(type: "text", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_team_members", x => new
                    {
                        x.person_id,
                        x.team_id,
                        x.role,
                    });
                    table.ForeignKey(
                        name: "fk_team_members_asp_net_users_person_id",
                        column: x => x.person_id,
                        principalTable: "AspNetUsers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade
                    );
                    table.ForeignKey(
                        name: "fk_team_members_teams_team_id",
                        column: x => x.team_id,
                        principalTable: "teams",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade
                    );
                }
            );

            migrationBuilder.InsertData(table: "log_settings", columns: new[] { "id", "kept_days" }, values: new object[] { 1, 730 });

            migrationBuilder.CreateIndex(name: "ix_log_entries_at", table: "log_entries", column: "at");

            migrationBuilder.CreateIndex(
                name: "ix_log_entries_kind_sequence",
                table: "log_entries",
                columns: new[] { "kind", "sequence" },
                descending: new[] { false, true }
            );

            migrationBuilder.CreateIndex(
                name: "ix_log_entries_person_id_sequence",
                table: "log_entries",
                columns: new[] { "person_id", "sequence" },
                descending: new[] { false, true }
            );

            migrationBuilder.CreateIndex(name: "ix_team_members_team_id", table: "team_members", column: "team_id");

            migrationBuilder.CreateIndex(name: "ix_teams_merged_into", table: "teams", column: "merged_into");

            // Teams were a word beside each campaign type; what is in the library goes on as it was, and roles hold everywhere.
            migrationBuilder.Sql(
                """
                insert into teams (id, name, for_others, position)
                    select gen_random_uuid(), team, 'ReadOnly', row_number() over (order by min(position)) - 1
                    from campaign_types where team <> '' group by team;
                update campaign_types c set teams = array[t.id] from teams t where t.name = c.team;
                alter table campaign_types alter column teams drop default;
                update "AspNetUsers" set joined_at = now();
                update sessions set seen_at = begun_at;
                insert into "AspNetRoles" (id, name, normalized_name, concurrency_stamp)
                    select gen_random_uuid(), r, upper(r), gen_random_uuid()::text
                    from unnest(array['Lead', 'Designer', 'Author', 'Reviewer']) r
                    where not exists (select from "AspNetRoles" known where known.normalized_name = upper(r));

                -- Whoever has something open looks again once people's roles have changed.
                create trigger teams_move_the_stamp after insert or update or delete on teams
                    for each statement execute function move_library_stamp();
                create trigger team_members_move_the_stamp after insert or update or delete on team_members
                    for each statement execute function move_library_stamp('people');
                create trigger roles_move_the_stamp after insert or update or delete on "AspNetUserRoles"
                    for each statement execute function move_library_stamp('people');

                create function refuse_log_change() returns trigger language plpgsql as $$
                begin
                    if tg_op = 'DELETE' and old.at < now() - make_interval(days => (select kept_days from log_settings)) then
                        return old;
                    end if;
                    raise exception 'the log is append-only: % is refused', lower(tg_op) using errcode = 'restrict_violation';
                end $$;
                create trigger log_entries_never_change before update or delete on log_entries
                    for each row execute function refuse_log_change();
                create trigger log_entries_are_never_emptied before truncate on log_entries
                    for each statement execute function refuse_change();
                """
            );
            migrationBuilder.DropColumn(name: "team", table: "campaign_types");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(name: "team", table: "campaign_types", type: "text", nullable: false, defaultValue: "");
            migrationBuilder.Sql(
                """
                update campaign_types c set team = t.name from teams t where t.id = c.teams[1];
                drop trigger roles_move_the_stamp on "AspNetUserRoles";
                drop function refuse_log_change() cascade;
                """
            );
            migrationBuilder.DropTable(name: "log_entries");

            migrationBuilder.DropTable(name: "log_settings");

            migrationBuilder.DropTable(name: "team_members");

            migrationBuilder.DropTable(name: "teams");

            migrationBuilder.DropColumn(name: "browser", table: "sessions");

            migrationBuilder.DropColumn(name: "seen_at", table: "sessions");

            migrationBuilder.DropColumn(name: "retired", table: "campaign_types");

            migrationBuilder.DropColumn(name: "teams", table: "campaign_types");

            migrationBuilder.DropColumn(name: "deactivated_at", table: "AspNetUsers");

            migrationBuilder.DropColumn(name: "erased_at", table: "AspNetUsers");

            migrationBuilder.DropColumn(name: "invited_at", table: "AspNetUsers");

            migrationBuilder.DropColumn(name: "joined_at", table: "AspNetUsers");
        }
    }
}
