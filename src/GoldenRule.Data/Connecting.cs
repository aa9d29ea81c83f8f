using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;
using Npgsql;

namespace GoldenRule.Data;

public static class Connecting
{
    /// <summary>
    /// PostgreSQL with snake_case names. Statements stay prepared: no session leaves anything behind that would have to be
    /// cleared.
    /// </summary>
    public static DbContextOptionsBuilder UseGoldenRule(this DbContextOptionsBuilder options, string connection)
    {
        var wanted = new NpgsqlConnectionStringBuilder(connection)
        {
            NoResetOnClose = true,
            MaxAutoPrepare = 100,
            AutoPrepareMinUsages = 2,
        };
        wanted.MaxPoolSize = wanted.MaxPoolSize == DriversPool ? Pool : wanted.MaxPoolSize;
        return options.UseNpgsql(wanted.ConnectionString).UseSnakeCaseNamingConvention();
    }

    // What the driver takes where nothing is said. PostgreSQL gives a hundred to all together; two servers leave room for jobs.
    private const int DriversPool = 100;

    /// <summary>Connections of one server at most, where the connection string says no other number: more only wait in turn.</summary>
    private const int Pool = 40;

    /// <summary>
    /// A document's row, locked until the transaction ends, without its origin and, where it is still at the revision
    /// the asker knows, without its head: the two are large, and every key of someone typing comes here.
    /// </summary>
    /// <param name="known">A revision whose head is known. Null: none is.</param>
    public static IQueryable<StoredDocument> Locked(this GoldenRuleDb db, Guid id, long? known) =>
        db.Documents.FromSql(
            $"""
            select id, kind, name, campaign_type, state, owner, private, retired, heir, row_kind, technical_name, serves, words,
                references_known, revision, created_by, created_at, changed_at,
                'null'::jsonb as origin, case when revision = {known ?? -1} then 'null'::jsonb else head end as head
            from documents where id = {id} for update
            """
        );

    /// <summary>Brings the database up to this version. Servers that start together take turns by an advisory lock.</summary>
    public static async Task MigrateAsync(GoldenRuleDb db, CancellationToken cancel = default)
    {
        const long Turn = 0x60_1D_E4_41;
        await db.Database.OpenConnectionAsync(cancel);
        try
        {
            await db.Database.ExecuteSqlAsync($"select pg_advisory_lock({Turn})", cancel);
            // Where nothing is left to do, the driver would still build the whole model a second time to compare.
            if ((await db.Database.GetPendingMigrationsAsync(cancel)).Any())
            {
                await db.Database.MigrateAsync(cancel);
            }

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
