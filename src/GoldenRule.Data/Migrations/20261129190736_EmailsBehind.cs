using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace GoldenRule.Data.Migrations
{
    /// <summary>Which emails' words are to be taken in, apart from the emails, and written by the database itself.</summary>
    public partial class EmailsBehind : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(name: "ix_documents_words_behind", table: "documents");

            // It stays for a server of the release before, which may run beside this one.
            migrationBuilder.Sql("alter table documents alter column words_behind set default false");

            migrationBuilder.CreateTable(
                name: "emails_behind",
                columns: table => new
                {
                    document_id = table.Column<Guid>(type: "uuid", nullable: false),
                    revision = table.Column<long>(type: "bigint", nullable: false),
                    since = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_emails_behind", x => x.document_id);
                    table.ForeignKey(
                        name: "fk_emails_behind_documents_document_id",
                        column: x => x.document_id,
                        principalTable: "documents",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade
                    );
                }
            );
            migrationBuilder.Sql(
                """
                insert into emails_behind select id, revision, now() from documents where words_behind;
                create function email_falls_behind() returns trigger language plpgsql as $$
                begin
                    insert into emails_behind (document_id, revision, since) values (new.id, new.revision, now())
                    on conflict (document_id) do update set revision = excluded.revision, since = excluded.since;
                    return null;
                end $$;
                create trigger emails_fall_behind after insert or update of head on documents
                    for each row when (new.kind = 'Email') execute function email_falls_behind();
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("drop trigger emails_fall_behind on documents; drop function email_falls_behind()");
            migrationBuilder.Sql("update documents d set words_behind = true from emails_behind b where b.document_id = d.id");
            migrationBuilder.Sql("alter table documents alter column words_behind drop default");
            migrationBuilder.DropTable(name: "emails_behind");

            migrationBuilder.CreateIndex(name: "ix_documents_words_behind", table: "documents", column: "id", filter: "words_behind");
        }
    }
}
