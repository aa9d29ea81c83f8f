using GoldenRule.Data;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Logs;

/// <summary>Deletes what the log is kept for no longer.</summary>
public sealed partial class LogRetention(IServiceScopeFactory scopes, TimeProvider clock, ILogger<LogRetention> log) : BackgroundService
{
    private static readonly TimeSpan Every = TimeSpan.FromHours(1);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Every, clock);
        while (await timer.WaitForNextTickAsync(stoppingToken))
        {
            try
            {
                await using var scope = scopes.CreateAsyncScope();
                await DeleteAsync(scope.ServiceProvider.GetRequiredService<GoldenRuleDb>(), stoppingToken);
            }
            catch (Exception fault) when (!stoppingToken.IsCancellationRequested)
            {
                LogFault(log, fault.Message);
            }
        }
    }

    // By the database's clock, as the trigger that refuses everything younger does.
    public static Task<int> DeleteAsync(GoldenRuleDb db, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync(
            $"delete from log_entries where at < now() - make_interval(days => (select kept_days from log_settings))",
            cancel
        );

    [LoggerMessage(Level = LogLevel.Warning, Message = "Old entries of the log could not be deleted: {Message}")]
    private static partial void LogFault(ILogger log, string message);
}
