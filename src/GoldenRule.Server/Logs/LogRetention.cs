using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Logs;

/// <summary>Deletes what the log is kept for no longer.</summary>
public sealed class LogRetention(IServiceScopeFactory scopes, ILogger<LogRetention> log) : Recurring(TimeSpan.FromHours(1), scopes, log)
{
    protected override Task RunAsync(IServiceProvider services, CancellationToken cancel) =>
        DeleteAsync(services.GetRequiredService<GoldenRuleDb>(), cancel);

    // By the database's clock, as the trigger that refuses everything younger does.
    public static Task<int> DeleteAsync(GoldenRuleDb db, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync(
            $"delete from log_entries where at < now() - make_interval(days => (select kept_days from log_settings))",
            cancel
        );
}
