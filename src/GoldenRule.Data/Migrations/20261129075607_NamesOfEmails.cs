using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace GoldenRule.Data.Migrations
{
    /// <summary>Emails are found by their names, as templates and rows are.</summary>
    public partial class NamesOfEmails : Migration
    {
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql("update documents set words = lower(name) where kind in ('Email', 'HouseStyle') and words <> lower(name)");

        protected override void Down(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql("update documents set words = '' where kind = 'Email'");
    }
}
