using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Reviews;

/// <summary>
/// Looks at approved emails once something that they take by reference moved, and now and then: a snippet's schedule asks nobody.
/// </summary>
public sealed class OvertakenApprovals(IServiceScopeFactory scopes, TimeProvider clock, ILogger<OvertakenApprovals> log)
    : Recurring(TimeSpan.FromSeconds(1), scopes, log)
{
    /// <summary>Parts of the library that emails take by reference.</summary>
    private static readonly string[] Taken = ["audiences", "pictures", "releases", "snippets"];

    /// <summary>How often they are looked at though nothing moved.</summary>
    private static readonly TimeSpan NowAndThen = TimeSpan.FromMinutes(5);

    private (string Versions, DateTimeOffset At) looked = ("", DateTimeOffset.MinValue);

    protected override async Task RunAsync(IServiceProvider services, CancellationToken cancel)
    {
        var parts = await services
            .GetRequiredService<GoldenRuleDb>()
            .LibraryParts.AsNoTracking()
            .Where(p => Taken.Contains(p.Name))
            .OrderBy(p => p.Name)
            .ToListAsync(cancel);
        var now = string.Join(' ', parts.Select(p => p.Version));
        if (now != looked.Versions || clock.GetUtcNow() - looked.At > NowAndThen)
        {
            await LookAsync(services, cancel);
            looked = (now, clock.GetUtcNow());
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
}
