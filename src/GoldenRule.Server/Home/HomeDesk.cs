using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Editing;

namespace GoldenRule.Server.Home;

/// <param name="With">Who is still asked.</param>
/// <param name="Approved">Who has approved.</param>
public sealed record AskedEntry(Guid Id, string Name, string CampaignType, string With, string Approved, DateTime Since);

/// <param name="Waits">What is most pressing first.</param>
public sealed record HomeAnswer(ImmutableArray<WaitEntry> Waits, ImmutableArray<AskedEntry> Asked);

/// <summary>Finds what waits for one person. Each entry comes of how things stand, not of a message that could be old.</summary>
public sealed class HomeDesk(
    GoldenRuleDb db,
    LibraryCache library,
    OpenReviews reviews,
    IEnumerable<WaitSource> sources,
    NoticeDesk notices
)
{
    public async Task<HomeAnswer> LookAsync(Person everywhere, CancellationToken cancel)
    {
        var snapshot = await library.GetAsync(db, cancel);
        var (found, asked) = await reviews.LookAsync(everywhere, snapshot, cancel);
        var waits = found.ToList();
        foreach (var source in sources)
        {
            waits.AddRange(await source.FindAsync(everywhere, snapshot, cancel));
        }

        await notices.MarkAsync(everywhere.Id, waits, cancel);
        return new HomeAnswer([.. waits.OrderBy(w => w.Kind).ThenByDescending(w => w.At)], [.. asked.OrderByDescending(a => a.Since)]);
    }
}
