using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Home;

/// <summary>Where something can wait for somebody: a file for each, named in <see cref="All"/>.</summary>
public abstract class WaitSource
{
    public static IReadOnlyList<Type> All { get; } =
    [
        typeof(CommentWaits),
        typeof(DraftWaits),
        typeof(SnippetWaits),
        typeof(PlannedReleaseWaits),
        typeof(PausedSendWaits),
        typeof(ApprovalWaits),
    ];

    /// <summary>At most so many comments or reviews are looked through.</summary>
    internal const int Most = 200;

    /// <summary>So near that it has to be told of.</summary>
    protected static readonly TimeSpan Soon = TimeSpan.FromDays(7);

    /// <summary>Those of the emails that are there and that this person may see, by their ids.</summary>
    internal static Task<Dictionary<Guid, StoredDocument>> EmailsAsync(
        GoldenRuleDb db,
        List<Guid> ids,
        Person everywhere,
        LibrarySnapshot snapshot,
        CancellationToken cancel
    ) =>
        db
            .Documents.AsNoTracking()
            .Where(d => ids.Contains(d.Id) && !d.Retired)
            .EmailsSeenBy(everywhere, snapshot.Plan.Teams)
            .ToDictionaryAsync(d => d.Id, cancel);

    public abstract Task<IReadOnlyList<WaitEntry>> FindAsync(Person everywhere, LibrarySnapshot snapshot, CancellationToken cancel);
}
