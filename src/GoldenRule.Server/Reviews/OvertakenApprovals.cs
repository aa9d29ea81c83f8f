using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Reviews;

/// <summary>
/// Looks at approved emails once something that they take by reference moved, and now and then: a snippet's schedule asks nobody.
/// </summary>
public sealed partial class OvertakenApprovals(IServiceScopeFactory scopes, TimeProvider clock, ILogger<OvertakenApprovals> log)
    : BackgroundService
{
    /// <summary>Parts of the library that emails take by reference.</summary>
    private static readonly string[] Taken = ["audiences", "pictures", "releases", "snippets"];

    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(1);

    /// <summary>How often they are looked at though nothing moved.</summary>
    private static readonly TimeSpan NowAndThen = TimeSpan.FromMinutes(5);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        var (known, looked) = ("", DateTimeOffset.MinValue);
        using var timer = new PeriodicTimer(Pause);
        while (await timer.WaitForNextTickAsync(stoppingToken))
        {
            try
            {
                await using var scope = scopes.CreateAsyncScope();
                var db = scope.ServiceProvider.GetRequiredService<GoldenRuleDb>();
                var parts = await db
                    .LibraryParts.AsNoTracking()
                    .Where(p => Taken.Contains(p.Name))
                    .OrderBy(p => p.Name)
                    .ToListAsync(stoppingToken);
                var now = string.Join(' ', parts.Select(p => p.Version));
                if (now != known || clock.GetUtcNow() - looked > NowAndThen)
                {
                    await LookAsync(scope.ServiceProvider, stoppingToken);
                    (known, looked) = (now, clock.GetUtcNow());
                }
            }
            catch (Exception fault) when (!stoppingToken.IsCancellationRequested)
            {
                LogFailed(log, fault);
            }
        }
    }

    public static async Task LookAsync(IServiceProvider services, CancellationToken cancel)
    {
        var db = services.GetRequiredService<GoldenRuleDb>();
        var approved = await db
            .Documents.Where(d => d.Kind == DocumentKind.Email && d.State == EmailState.Approved && !d.Retired)
            .OrderByDescending(d => d.ChangedAt)
            .Select(d => d.Id)
            .ToListAsync(cancel);
        var reviews = services.GetRequiredService<ReviewDesk>();
        foreach (var id in approved)
        {
            db.ChangeTracker.Clear();
            await reviews.LookAgainAsync(id, cancel);
        }
    }

    [LoggerMessage(Level = LogLevel.Warning, Message = "Approved emails could not be looked at again")]
    private static partial void LogFailed(ILogger log, Exception fault);
}
