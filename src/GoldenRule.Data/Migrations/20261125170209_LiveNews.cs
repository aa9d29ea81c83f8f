using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace GoldenRule.Data.Migrations
{
    /// <inheritdoc />
    public partial class LiveNews : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // Told when it is stored and not before, whichever server stored it.
            migrationBuilder.Sql(
                """
                create function tell_edits() returns trigger language plpgsql as $$
                begin
                    perform pg_notify('document_edited', document_id || ' ' || max(sequence)) from stored group by document_id;
                    return null;
                end $$;
                create trigger edits_are_told after insert on edits
                    referencing new table as stored for each statement execute function tell_edits();

                create function tell_library() returns trigger language plpgsql as $$
                begin
                    perform pg_notify('library_moved', '');
                    return null;
                end $$;
                create trigger library_is_told after update on library_stamp
                    for each statement execute function tell_library();
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql(
                """
                drop function tell_edits() cascade;
                drop function tell_library() cascade;
                """
            );
        }
    }
}
