using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;

namespace GoldenRule.Data;

public static class Connecting
{
    /// <summary>PostgreSQL with snake_case names.</summary>
    public static DbContextOptionsBuilder UseGoldenRule(this DbContextOptionsBuilder options, string connection) =>
        options.UseNpgsql(connection).UseSnakeCaseNamingConvention();

    /// <summary>Brings the database up to this version. Servers that start together take turns by an advisory lock.</summary>
    public static async Task MigrateAsync(GoldenRuleDb db, CancellationToken cancel = default)
    {
        const long Turn = 0x60_1D_E4_41;
        await db.Database.OpenConnectionAsync(cancel);
        try
        {
            await db.Database.ExecuteSqlAsync($"select pg_advisory_lock({Turn})", cancel);
            await db.Database.MigrateAsync(cancel);
            await db.Database.ExecuteSqlAsync($"select pg_advisory_unlock({Turn})", cancel);
        }
        finally
        {
            await db.Database.CloseConnectionAsync();
        }
    }
}

/// <summary>For the migration tool only; it never connects.</summary>
public sealed class DesignTimeDb : IDesignTimeDbContextFactory<GoldenRuleDb>
{
    public GoldenRuleDb CreateDbContext(string[] args)
    {
        var options = new DbContextOptionsBuilder<GoldenRuleDb>();
        options.UseGoldenRule("Host=127.0.0.1;Database=none");
        return new GoldenRuleDb(options.Options);
    }
}
