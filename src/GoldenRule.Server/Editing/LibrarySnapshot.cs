using System.Collections.Concurrent;
using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Releases;
using GoldenRule.Data;

namespace GoldenRule.Server.Editing;

/// <summary>A release as lists show it.</summary>
/// <param name="Revision">Of the draft it was made from.</param>
public sealed record ReleaseMark(
    Guid Document,
    int Number,
    DocumentKind Kind,
    long Revision,
    string Note,
    bool Required,
    Guid Author,
    DateTime At
);

/// <summary>Everything released, at one moment: what documents resolve against.</summary>
/// <param name="Masters">Every release of a row or template, as documents stand on it.</param>
public sealed record LibrarySnapshot(
    long Version,
    ReleaseCatalog Masters,
    NewestReleases Releases,
    StyleLibrary Styles,
    PictureCatalog Pictures,
    SnippetCatalog Snippets,
    AudiencePlan Audiences,
    LibraryPlan Plan,
    TimeProvider Clock
)
{
    private readonly ConcurrentDictionary<(string, DateOnly), CheckContext> around = new();

    /// <summary>
    /// What the snippets and fields of an email come to on the day it goes out, at noon, or as long as that is not settled now.
    /// </summary>
    /// <param name="day">Another day to look at. Null: its own.</param>
    public InlineValues InlineFor(Email email, DateOnly? day = null)
    {
        var everybody = Snippets
            .At(
                (day ?? RenderContext.DayOf(email.Details.SendDay))?.ToDateTime(new TimeOnly(12, 0), DateTimeKind.Utc)
                    ?? Clock.GetUtcNow().UtcDateTime
            )
            .For(Audiences, email.Language);
        return email.Recipient is { } one ? everybody.As(one) : everybody;
    }

    /// <summary>What the checks know beside an email of that campaign type. The same day, the same object.</summary>
    public CheckContext CheckContextFor(string campaignType, DateOnly today) =>
        around.GetOrAdd((Plan.Merged.Current(campaignType), today), key => new CheckContext
        {
            CampaignType = key.Item1,
            CampaignTypes = Plan.Merged,
            RowKinds = Plan.RowKinds,
            Transactional = Plan.Find(key.Item1)?.Transactional == true,
            Needed = Plan.Needs.GetValueOrDefault(key.Item1, []),
            Newest = Releases
                .Newest.Where(n => n.Value.Kind is DocumentKind.Row or DocumentKind.Template)
                .ToImmutableDictionary(n => n.Key, n => n.Value.Number),
            Required = Releases.Required,
            Retired = Releases.Retired,
            Today = key.Item2,
            Policy = Plan.Checks,
        });
}

/// <summary>What is offered for new documents and updates: the newest release of each row, template and house style.</summary>
/// <param name="Hidden">Retired and private templates and rows: what uses them goes on, but they are not offered.</param>
/// <param name="Required">Number of the last release of each that has to be taken.</param>
/// <param name="Retired">Those that are retired, each with what takes its place; null: nothing is named.</param>
public sealed record NewestReleases(
    ImmutableDictionary<Guid, ReleaseMark> Newest,
    ImmutableDictionary<Guid, SavedRow> Rows,
    ImmutableDictionary<Guid, Template> Templates,
    ImmutableHashSet<Guid> Hidden,
    ImmutableDictionary<Guid, int> Required,
    ImmutableDictionary<Guid, Heir?> Retired
)
{
    /// <summary>Where the newest rows and templates refer to brand variables.</summary>
    public ImmutableArray<(string Key, VariableUse Use)> VariableUses { get; } =
        Core.Releases.VariableUses.OfMasters(Rows.Select(r => (r.Key, r.Value)), Templates.Select(t => (t.Key, t.Value)));
}

/// <summary>What the lead plans for the campaign types: what each needs, and what is checked.</summary>
/// <param name="CampaignTypes">In the lead's order, also those that are retired or merged.</param>
/// <param name="Needs">Keys of row kinds by the key of the campaign type.</param>
public sealed record LibraryPlan(
    ImmutableArray<CampaignType> CampaignTypes,
    RowKindPlan RowKinds,
    TeamPlan Teams,
    CheckPolicy Checks,
    ImmutableDictionary<string, ImmutableArray<string>> Needs
)
{
    /// <summary>Campaign types that others took the place of.</summary>
    public MergedKeys Merged { get; } = Merges(CampaignTypes);

    /// <summary>Those that emails and templates are made for.</summary>
    public IEnumerable<CampaignType> Offered => CampaignTypes.Where(t => t is { Retired: false, MergedInto: null });

    /// <summary>The campaign type of that key, or the one that took its place. Null: there is none.</summary>
    public CampaignType? Find(string? key) => CampaignTypes.FirstOrDefault(t => t.Key == Merged.Current(key ?? ""));

    public static MergedKeys Merges(ImmutableArray<CampaignType> types) =>
        new(types.Where(t => t.MergedInto is not null).ToImmutableDictionary(t => t.Key, t => t.MergedInto!, StringComparer.Ordinal));
}
