using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking;

/// <summary>What takes the place of a retired template or saved row.</summary>
/// <param name="Release">Its newest.</param>
public sealed record Heir(Guid Id, int Release, string Name);

/// <summary>What the checks know beside the email itself.</summary>
public sealed record CheckContext
{
    public static CheckContext Usual { get; } = new();

    /// <summary>Key of the campaign type, by which severities are set.</summary>
    public string CampaignType { get; init; } = "";

    /// <summary>Campaign types that others took the place of.</summary>
    public MergedKeys CampaignTypes { get; init; } = MergedKeys.None;

    /// <summary>True for campaign types that answer a reader's own act, such as a booking confirmation.</summary>
    public bool Transactional { get; init; }

    /// <summary>By which row kinds are compared and called.</summary>
    public RowKindPlan RowKinds { get; init; } = RowKindPlan.Usual;

    /// <summary>Keys of the row kinds that emails of this campaign type need.</summary>
    public ImmutableArray<string> Needed { get; init; } = [];

    /// <summary>Number of the newest release of each template and saved row.</summary>
    public ImmutableDictionary<Guid, int> Newest { get; init; } = ImmutableDictionary<Guid, int>.Empty;

    /// <summary>Number of the newest release of each that has to be taken before hand-off.</summary>
    public ImmutableDictionary<Guid, int> Required { get; init; } = ImmutableDictionary<Guid, int>.Empty;

    /// <summary>Templates and saved rows that are retired, each with what takes its place; null: nothing is named.</summary>
    public ImmutableDictionary<Guid, Heir?> Retired { get; init; } = ImmutableDictionary<Guid, Heir?>.Empty;

    /// <summary>The day it is; null: dates are judged by the email's send day alone.</summary>
    public DateOnly? Today { get; init; }

    public CheckPolicy Policy { get; init; } = CheckPolicy.Usual;
}
