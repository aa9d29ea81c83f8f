using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Coverage;

/// <summary>What a campaign type and a row kind have between them.</summary>
public enum CoverageState
{
    /// <summary>A released row serves it.</summary>
    Served,

    /// <summary>Only drafts serve it: nobody can use them yet.</summary>
    DraftOnly,

    /// <summary>It is needed and nothing serves it.</summary>
    Missing,

    /// <summary>The plan says that this campaign type has no such rows.</summary>
    NotNeeded,

    /// <summary>Nothing serves it and nobody has said whether it is needed.</summary>
    Unplanned,
}

/// <summary>A saved row as coverage sees it.</summary>
/// <param name="CampaignTypes">Keys; empty: it serves all.</param>
/// <param name="Released">False: there is only a draft.</param>
public sealed record CoveringRow(Guid Id, string Name, string RowKind, ImmutableArray<string> CampaignTypes, bool Released);

/// <param name="Shared">True: it serves all campaign types; else it is for some by name.</param>
public sealed record Covering(Guid Id, string Name, bool Shared, bool Released);

/// <param name="Needed">What the plan says; null: nothing.</param>
public sealed record CoverageCell(string CampaignType, string RowKind, CoverageState State, bool? Needed, ImmutableArray<Covering> Rows);

/// <summary>Campaign types by row kinds: what the library has and lacks.</summary>
public sealed record CoverageGrid(ImmutableArray<CoverageCell> Cells)
{
    public int Count(CoverageState state) => Cells.Count(c => c.State == state);

    /// <param name="campaignTypes">Keys.</param>
    /// <param name="rowKinds">Keys.</param>
    /// <param name="needs">What the plan says of a campaign type and a row kind.</param>
    public static CoverageGrid For(
        IEnumerable<string> campaignTypes,
        IEnumerable<string> rowKinds,
        IReadOnlyCollection<CoveringRow> rows,
        IReadOnlyDictionary<(string CampaignType, string RowKind), bool> needs
    ) =>
        new([
            .. from kind in rowKinds
            from type in campaignTypes
            select Cell(type, kind, rows, needs.TryGetValue((type, kind), out var needed) ? needed : null),
        ]);

    private static CoverageCell Cell(string type, string kind, IReadOnlyCollection<CoveringRow> rows, bool? needed)
    {
        ImmutableArray<Covering> serving =
        [
            .. rows.Where(r => r.RowKind == kind && (r.CampaignTypes.IsEmpty || r.CampaignTypes.Contains(type)))
                .Select(r => new Covering(r.Id, r.Name, r.CampaignTypes.IsEmpty, r.Released))
                .OrderByDescending(r => r.Released)
                .ThenBy(r => r.Shared)
                .ThenBy(r => r.Name, StringComparer.Ordinal),
        ];
        var state = needed switch
        {
            false => CoverageState.NotNeeded,
            _ when serving.Any(r => r.Released) => CoverageState.Served,
            _ when !serving.IsEmpty => CoverageState.DraftOnly,
            true => CoverageState.Missing,
            null => CoverageState.Unplanned,
        };
        return new CoverageCell(type, kind, state, needed, serving);
    }
}
