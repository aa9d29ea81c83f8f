using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NpgsqlTypes;

#nullable disable

namespace GoldenRule.Data.Migrations
{
    /// <summary>What uses what, and the words of emails by their stems in the language of each.</summary>
    public partial class ReferencesAndFullText : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(name: "ix_email_words_words", table: "email_words");

            // What begins with the words that are typed: of a name's beginning alone, as an index holds no long texts.
            migrationBuilder.Sql(
                "create index ix_documents_beginnings on documents (kind, substring(words, 1, 100) text_pattern_ops) "
                    + "include (retired, changed_at, id)"
            );
            // Taken in anew, in the background.
            migrationBuilder.Sql("delete from email_words; update documents set words_behind = true where kind = 'Email'");
            // The stemmers that PostgreSQL brings (Snowball), by the language's subtag.
            migrationBuilder.Sql(
                """
                create function search_config(language text) returns regconfig language sql immutable parallel safe as $$
                    select case split_part(lower(language), '-', 1)
                        when 'ar' then 'arabic'::regconfig
                        when 'hy' then 'armenian'::regconfig
                        when 'eu' then 'basque'::regconfig
                        when 'ca' then 'catalan'::regconfig
                        when 'da' then 'danish'::regconfig
                        when 'nl' then 'dutch'::regconfig
                        when 'en' then 'english'::regconfig
                        when 'fi' then 'finnish'::regconfig
                        when 'fr' then 'french'::regconfig
                        when 'de' then 'german'::regconfig
                        when 'el' then 'greek'::regconfig
                        when 'hi' then 'hindi'::regconfig
                        when 'hu' then 'hungarian'::regconfig
                        when 'id' then 'indonesian'::regconfig
                        when 'ga' then 'irish'::regconfig
                        when 'it' then 'italian'::regconfig
                        when 'lt' then 'lithuanian'::regconfig
                        when 'ne' then 'nepali'::regconfig
                        when 'nb' then 'norwegian'::regconfig
                        when 'nn' then 'norwegian'::regconfig
                        when 'no' then 'norwegian'::regconfig
                        when 'pt' then 'portuguese'::regconfig
                        when 'ro' then 'romanian'::regconfig
                        when 'ru' then 'russian'::regconfig
                        when 'sr' then 'serbian'::regconfig
                        when 'es' then 'spanish'::regconfig
                        when 'sv' then 'swedish'::regconfig
                        when 'ta' then 'tamil'::regconfig
                        when 'tr' then 'turkish'::regconfig
                        when 'yi' then 'yiddish'::regconfig
                        else 'simple'::regconfig
                    end
                $$;
                -- What is searched for, in each language that there are emails in (found by jumps through their index).
                create function search_query(lexemes text) returns tsquery language plpgsql stable as $$
                declare
                    sought tsquery := to_tsquery('simple', lexemes);
                    config regconfig;
                begin
                    for config in
                        with recursive languages(language) as (
                            (select language from email_words order by language limit 1)
                            union all
                            select (select w.language from email_words w where w.language > l.language order by w.language limit 1)
                            from languages l where l.language is not null
                        )
                        select distinct search_config(language) from languages where language is not null
                    loop
                        if config <> 'simple'::regconfig then
                            sought := sought || to_tsquery(config, lexemes);
                        end if;
                    end loop;
                    return sought;
                end
                $$;
                """
            );

            migrationBuilder.AddColumn<string>(name: "language", table: "email_words", type: "text", nullable: false, defaultValue: "");

            migrationBuilder.AddColumn<bool>(
                name: "references_known",
                table: "documents",
                type: "boolean",
                nullable: false,
                defaultValue: false
            );

            migrationBuilder.AddColumn<NpgsqlTsVector>(
                name: "search",
                table: "email_words",
                type: "tsvector",
                nullable: false,
                computedColumnSql: "to_tsvector(search_config(language), words)",
                stored: true
            );

            migrationBuilder.CreateTable(
                name: "document_references",
                columns: table => new
                {
                    document_id = table.Column<Guid>(type: "uuid", nullable: false),
                    release = table.Column<int>(type: "integer", nullable: false),
                    kind = table.Column<string>(type: "text", nullable: false),
                    key = table.Column<string>(type: "text", nullable: false),
                    target_release = table.Column<int>(type: "integer", nullable: false),
                    place = table.Column<string>(type: "text", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_document_references", x => new
                    {
                        x.document_id,
                        x.release,
                        x.kind,
                        x.key,
                        x.target_release,
                        x.place,
                    });
                    table.ForeignKey(
                        name: "fk_document_references_documents_document_id",
                        column: x => x.document_id,
                        principalTable: "documents",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade
                    );
                }
            );

            migrationBuilder.CreateTable(
                name: "job_findings",
                columns: table => new
                {
                    job_id = table.Column<Guid>(type: "uuid", nullable: false),
                    sequence = table.Column<int>(type: "integer", nullable: false),
                    body = table.Column<string>(type: "jsonb", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_job_findings", x => new { x.job_id, x.sequence });
                    table.ForeignKey(
                        name: "fk_job_findings_jobs_job_id",
                        column: x => x.job_id,
                        principalTable: "jobs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade
                    );
                }
            );

            migrationBuilder.CreateIndex(name: "ix_email_words_language", table: "email_words", column: "language");

            migrationBuilder
                .CreateIndex(name: "ix_email_words_search", table: "email_words", column: "search")
                .Annotation("Npgsql:IndexMethod", "gin");

            migrationBuilder
                .CreateIndex(name: "ix_documents_emails", table: "documents", column: "id", filter: "kind = 'Email'")
                .Annotation("Npgsql:IndexInclude", new[] { "campaign_type", "state" });

            migrationBuilder
                .CreateIndex(
                    name: "ix_documents_emails_by_author",
                    table: "documents",
                    columns: new[] { "retired", "created_by", "changed_at", "id" },
                    descending: new[] { false, false, true, true },
                    filter: "kind = 'Email'"
                )
                .Annotation("Npgsql:IndexInclude", new[] { "campaign_type", "state" });

            migrationBuilder
                .CreateIndex(
                    name: "ix_documents_emails_by_state",
                    table: "documents",
                    columns: new[] { "retired", "state", "changed_at", "id" },
                    descending: new[] { false, false, true, true },
                    filter: "kind = 'Email'"
                )
                .Annotation("Npgsql:IndexInclude", new[] { "created_by", "campaign_type" });

            migrationBuilder
                .CreateIndex(
                    name: "ix_documents_emails_by_type",
                    table: "documents",
                    columns: new[] { "retired", "campaign_type", "changed_at", "id" },
                    descending: new[] { false, false, true, true },
                    filter: "kind = 'Email'"
                )
                .Annotation("Npgsql:IndexInclude", new[] { "created_by", "state" });

            migrationBuilder.CreateIndex(
                name: "ix_documents_references_unknown",
                table: "documents",
                column: "id",
                filter: "not references_known"
            );

            migrationBuilder.CreateIndex(
                name: "ix_document_references_kind_key_target_release_release_documen",
                table: "document_references",
                columns: new[] { "kind", "key", "target_release", "release", "document_id" }
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(name: "document_references");

            migrationBuilder.DropTable(name: "job_findings");

            migrationBuilder.DropIndex(name: "ix_email_words_language", table: "email_words");

            migrationBuilder.DropIndex(name: "ix_email_words_search", table: "email_words");

            migrationBuilder.DropIndex(name: "ix_documents_emails", table: "documents");

            migrationBuilder.DropIndex(name: "ix_documents_emails_by_author", table: "documents");

            migrationBuilder.DropIndex(name: "ix_documents_emails_by_state", table: "documents");

            migrationBuilder.DropIndex(name: "ix_documents_emails_by_type", table: "documents");

            migrationBuilder.DropIndex(name: "ix_documents_references_unknown", table: "documents");

            migrationBuilder.DropColumn(name: "search", table: "email_words");

            migrationBuilder.DropColumn(name: "language", table: "email_words");

            migrationBuilder.DropColumn(name: "references_known", table: "documents");

            migrationBuilder
                .CreateIndex(name: "ix_email_words_words", table: "email_words", column: "words")
                .Annotation("Npgsql:IndexMethod", "gin")
                .Annotation("Npgsql:IndexOperators", new[] { "gin_trgm_ops" });
            migrationBuilder.Sql("drop index ix_documents_beginnings; drop function search_query(text); drop function search_config(text)");
        }
    }
}
