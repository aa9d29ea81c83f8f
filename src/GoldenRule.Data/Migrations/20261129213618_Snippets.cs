using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace GoldenRule.Data.Migrations
{
    /// <inheritdoc />
    public partial class Snippets : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(name: "technical_name", table: "documents", type: "text", nullable: true);

            migrationBuilder.CreateTable(
                name: "library_parts",
                columns: table => new
                {
                    name = table.Column<string>(type: "text", nullable: false),
                    version = table.Column<long>(type: "bigint", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_library_parts", x => x.name);
                }
            );

            migrationBuilder.CreateTable(
                name: "sample_readers",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    values = table.Column<string>(type: "jsonb", nullable: false),
                    position = table.Column<int>(type: "integer", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_sample_readers", x => x.id);
                }
            );

            migrationBuilder.CreateIndex(
                name: "ix_documents_snippets_by_technical_name",
                table: "documents",
                column: "technical_name",
                unique: true,
                filter: "kind = 'Snippet'"
            );

            migrationBuilder.CreateIndex(
                name: "ix_sample_readers_position_id",
                table: "sample_readers",
                columns: new[] { "position", "id" }
            );

            // Of the library only the parts that moved are read again. What a snippet or field says holds at once: every server
            // hears that the library has moved.
            migrationBuilder.Sql(
                """
                create or replace function move_library_stamp() returns trigger language plpgsql as $$
                begin
                    insert into library_parts (name, version) values (coalesce(tg_argv[0], tg_table_name), 1)
                        on conflict (name) do update set version = library_parts.version + 1;
                    update library_stamp set version = version + 1;
                    return null;
                end $$;
                insert into documents (id, kind, name, state, owner, private, retired, serves, words, references_known,
                    origin, head, revision, created_by, created_at, changed_at)
                values ('00000000-0000-7000-8000-0000000000a1', 'Audiences', 'Audiences', 'Draft',
                    '00000000-0000-0000-0000-000000000000', false, false, '{}', 'audiences', true,
                    '{"format": 2, "name": "Audiences"}', '{"format": 2, "name": "Audiences"}', 0,
                    '00000000-0000-0000-0000-000000000000', now(), now());
                create trigger snippets_move_the_stamp after insert or update of head, retired on documents
                    for each row when (new.kind = 'Snippet') execute function move_library_stamp('snippets');
                create trigger audiences_move_the_stamp after insert or update of head on documents
                    for each row when (new.kind = 'Audiences') execute function move_library_stamp('audiences');
                create trigger statuses_move_the_stamp after update of retired, private on documents
                    for each row when (new.kind in ('Row', 'Template')) execute function move_library_stamp('statuses');
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql(
                """
                drop trigger snippets_move_the_stamp on documents;
                drop trigger audiences_move_the_stamp on documents;
                drop trigger statuses_move_the_stamp on documents;
                create or replace function move_library_stamp() returns trigger language plpgsql as $$
                begin
                    update library_stamp set version = version + 1;
                    return null;
                end $$;
                delete from documents where kind in ('Snippet', 'Audiences') and revision = 0;
                """
            );
            migrationBuilder.DropTable(name: "library_parts");

            migrationBuilder.DropTable(name: "sample_readers");

            migrationBuilder.DropIndex(name: "ix_documents_snippets_by_technical_name", table: "documents");

            migrationBuilder.DropColumn(name: "technical_name", table: "documents");
        }
    }
}
