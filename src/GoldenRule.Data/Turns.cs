using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;

namespace GoldenRule.Data;

public static class Turns
{
    /// <summary>
    /// Begins a transaction that nobody else has begun under this name, on any server: what it finds holds until it ends.
    /// </summary>
    public static async Task<IDbContextTransaction> TakeTurnAsync(this GoldenRuleDb db, string name, CancellationToken cancel)
    {
        var turn = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock(hashtext({name}))", cancel);
        return turn;
    }
}
