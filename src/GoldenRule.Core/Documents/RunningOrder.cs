using System.Collections.Immutable;

namespace GoldenRule.Core.Documents;

/// <summary>Released masters that a document refers to. Releases never change, so this can be shared and kept.</summary>
public sealed class ReleaseCatalog
{
    private readonly ImmutableDictionary<(Guid Id, int Release), SavedRow> rows;
    private readonly ImmutableDictionary<(Guid Id, int Release), Template> templates;
    private readonly ImmutableHashSet<Guid> withheld;
    private readonly Dictionary<Guid, int> newest;

    /// <summary>By which the kinds that rows have and zones take are compared.</summary>
    public RowKindPlan RowKinds { get; private init; } = RowKindPlan.Usual;

    /// <summary>Campaign types that others took the place of.</summary>
    public MergedKeys CampaignTypes { get; private init; } = MergedKeys.None;

    /// <param name="withheld">Saved rows that are retired or private: what uses them goes on, but they are not offered.</param>
    public ReleaseCatalog(
        ImmutableDictionary<(Guid Id, int Release), SavedRow> rows,
        ImmutableDictionary<(Guid Id, int Release), Template> templates,
        ImmutableHashSet<Guid>? withheld = null
    )
    {
        this.rows = rows;
        this.templates = templates;
        this.withheld = withheld ?? [];
        newest = rows.Keys.GroupBy(r => r.Id).ToDictionary(g => g.Key, g => g.Max(r => r.Release));
    }

    /// <summary>A shelf with more rows on it.</summary>
    public ReleaseCatalog With(IEnumerable<KeyValuePair<(Guid Id, int Release), SavedRow>> more) =>
        new(rows.SetItems(more), templates, withheld) { RowKinds = RowKinds, CampaignTypes = CampaignTypes };

    /// <summary>The same with one release of a template more.</summary>
    public ReleaseCatalog With(Guid id, int release, Template template) =>
        new(rows, templates.SetItem((id, release), template), withheld) { RowKinds = RowKinds, CampaignTypes = CampaignTypes };

    /// <summary>The same releases, as the lead plans row kinds and campaign types now.</summary>
    public ReleaseCatalog PlannedBy(RowKindPlan kinds, MergedKeys campaignTypes) =>
        new(rows, templates, withheld) { RowKinds = kinds, CampaignTypes = campaignTypes };

    /// <summary>The row that is placed: its own, or the saved row's release.</summary>
    public SavedRow Row(PlacedRow placed) =>
        placed.Own
        ?? (placed is { Master: { } id, Release: { } release } ? rows.GetValueOrDefault((id, release)) : null)
        ?? throw new StructureException(
            placed.Master is null
                ? "A placed row is either a saved row's release or a row of its own; this one is neither."
                : $"Saved row {placed.Master}, release {placed.Release}, is not known.",
            placed.Id
        );

    public Template Template(Guid id, int release) =>
        FindTemplate(id, release) ?? throw new StructureException($"Template {id}, release {release}, is not known.");

    /// <summary>Null: there is no such release.</summary>
    public Template? FindTemplate(Guid id, int release) => templates.GetValueOrDefault((id, release));

    /// <summary>Null: there is no such release.</summary>
    public SavedRow? FindRow(Guid id, int release) => rows.GetValueOrDefault((id, release));

    /// <summary>The newest release here of a saved row, with its number.</summary>
    public (int Release, SavedRow Row)? Newest(Guid id) => newest.TryGetValue(id, out var release) ? (release, rows[(id, release)]) : null;

    /// <summary>What a row is called where it is placed.</summary>
    public string NameOf(PlacedRow placed) =>
        placed.Name
        ?? placed.Own?.Name
        ?? (placed is { Master: { } id, Release: { } release } ? FindRow(id, release)?.Name : null)
        ?? "a row";

    /// <summary>Every release of every template.</summary>
    public IEnumerable<Template> Templates => templates.Values;

    /// <summary>Every release of every template, by its id and number.</summary>
    public IEnumerable<KeyValuePair<(Guid Id, int Release), Template>> TemplateReleases => templates;

    /// <summary>Whether a saved row is retired or private.</summary>
    public bool IsWithheld(Guid id) => withheld.Contains(id);

    /// <summary>The newest releases of saved rows that are neither retired nor private.</summary>
    public IEnumerable<(Guid Id, int Release, SavedRow Row)> Offered =>
        newest.Where(n => !withheld.Contains(n.Key)).Select(n => (n.Key, n.Value, rows[(n.Key, n.Value)]));
}

/// <summary>A row where it stands in a document, with every layer that speaks about it, outermost first.</summary>
/// <param name="Zone">The zone it stands in; null: it is the template's own.</param>
/// <param name="TemplateFills">What the template of an email says about it.</param>
/// <param name="Fills">What the document itself says about it.</param>
public sealed record OrderedRow(
    PlacedRow Placed,
    SavedRow Master,
    Zone? Zone,
    ImmutableSortedDictionary<string, PieceFill> TemplateFills,
    ImmutableSortedDictionary<string, PieceFill> Fills
)
{
    public string Id => Placed.Id;

    /// <summary>True: it stands only here, with all its pieces, and is not there by reference.</summary>
    public bool IsOwn => Placed.Own is not null;

    /// <summary>
    /// True: whoever edits the document built it there, and every look that its kinds know may be chosen: all are the house
    /// style's.
    /// </summary>
    public bool IsBuilt => IsOwn && Placed.Master is null && Master.Row.Locks == Locks.Open;

    public string Name => Placed.Name ?? Master.Name;

    /// <summary>The master's row with the rules that the template adds laid on it.</summary>
    public Row Row { get; } = Placed.Rules.IsEmpty ? Master.Row : RuleOverlay.Row(Master.Row, Placed.Rules);

    public Block? FindBlock(string piece) => Row.Blocks.FirstOrDefault(b => b.Id == piece);

    /// <summary>What a block of it says once every layer has spoken, as it was written: brand variables are not filled in.</summary>
    public ImmutableSortedDictionary<string, FieldValue> ContentOf(Block block)
    {
        var content = TemplateFills.TryGetValue(block.Id, out var beneath) ? block.Content.SetItems(beneath.Content) : block.Content;
        return Fills.TryGetValue(block.Id, out var fill) ? content.SetItems(fill.Content) : content;
    }

    /// <summary>The same of one field.</summary>
    public FieldValue ContentOf(Block block, string field)
    {
        if (Fills.TryGetValue(block.Id, out var fill) && fill.Content.TryGetValue(field, out var here))
        {
            return here;
        }

        return TemplateFills.TryGetValue(block.Id, out var beneath) && beneath.Content.TryGetValue(field, out var there)
            ? there
            : block.Content[field];
    }

    /// <summary>Whether someone said it here or in the template, over what the saved row says.</summary>
    public bool IsFilled(string piece, string field) => Holds(TemplateFills, piece, field) || Holds(Fills, piece, field);

    private static bool Holds(ImmutableSortedDictionary<string, PieceFill> fills, string piece, string field) =>
        fills.TryGetValue(piece, out var fill) && fill.Content.ContainsKey(field);

    /// <summary>The column that is the piece, or that the block stands in. Null: it is neither, as the row's own piece.</summary>
    public Column? ColumnOf(string piece) => Master.Row.Columns.FirstOrDefault(c => c.Id == piece || c.Blocks.Any(b => b.Id == piece));

    /// <summary>What the template's rules lay on a piece: the nearest of its own, its column's and its row's. Null: nothing.</summary>
    public Lock? AddedLock(string piece, Aspect aspect) =>
        Placed.Rules.GetValueOrDefault(piece)?.Locks[aspect]
        ?? (ColumnOf(piece) is { } column ? Placed.Rules.GetValueOrDefault(column.Id)?.Locks[aspect] : null)
        ?? Placed.Rules.GetValueOrDefault(Master.Row.Id)?.Locks[aspect];

    /// <summary>
    /// Whether it is the row itself that is to be shown to an audience that a lead has named, and no layer beneath has said who sees
    /// it: whoever may put it here and take it away may say so, even where what it says is locked.
    /// </summary>
    public bool IsForChosenAudience(string piece, Condition? condition) =>
        piece == Master.Row.Id
        && Zone is not null
        && Master.Row.Condition is null
        && condition is null or Condition.Audience or { IsEveryone: true };

    /// <summary>Whether these are the very fills it was made of.</summary>
    internal bool HasFills(
        ImmutableSortedDictionary<string, PieceFill> templateFills,
        ImmutableSortedDictionary<string, PieceFill> fills
    ) => ReferenceEquals(TemplateFills, templateFills) && ReferenceEquals(Fills, fills);
}

/// <summary>The rows of a document in the order they are read, and the zones between them.</summary>
/// <param name="Template">The email's template, or the document itself; a saved row stands in one of no name.</param>
public sealed record RunningOrder(Template Template, ImmutableArray<OrderedRow> Rows)
{
    // Default: it was not laid out, but put together as it is.
    private ImmutableArray<Stretch> stretches;

    private static readonly ImmutableSortedDictionary<string, PieceFill> NoFills = ImmutableSortedDictionary<string, PieceFill>.Empty;

    public OrderedRow? Find(string rowId) => Rows.FirstOrDefault(r => r.Id == rowId);

    public Zone? FindZone(string zoneId) => Template.Order.OfType<Zone>().FirstOrDefault(z => z.Id == zoneId);

    /// <summary>Rows that did not stand in the other order, or say something else now.</summary>
    /// <param name="former">Null: all of them are new.</param>
    public IEnumerable<OrderedRow> Since(RunningOrder? former) => former is null ? Rows : IncrementalMap.New(Rows, former.Rows);

    /// <param name="former">The order before the last edit: rows that stand where they stood and say what they said are taken
    /// over from it.</param>
    public static RunningOrder From(Email email, ReleaseCatalog masters, RunningOrder? former = null)
    {
        var template = masters.Template(email.Template, email.TemplateRelease);
        return From(email, template, masters, former);
    }

    /// <param name="template">The template's release, or a draft that the email is tried on.</param>
    public static RunningOrder From(Email email, Template template, ReleaseCatalog masters, RunningOrder? former = null) =>
        From(
            template,
            masters,
            placed => (placed.Fills, email.Fills.GetValueOrDefault(placed.Id, NoFills)),
            zone => email.Zones.GetValueOrDefault(zone.Id, []),
            former
        );

    /// <summary>A template's own order: in each zone stands what a new email starts with.</summary>
    public static RunningOrder From(Template template, ReleaseCatalog masters, RunningOrder? former = null) =>
        From(template, masters, placed => (NoFills, placed.Fills), zone => zone.Default, former);

    /// <summary>A saved row alone.</summary>
    /// <param name="houseStyle">The house style it is looked at in.</param>
    public static RunningOrder From(SavedRow row, Guid houseStyle)
    {
        var placed = new PlacedRow { Id = row.Row.Id, Own = row };
        return new RunningOrder(
            new Template
            {
                Name = row.Name,
                CampaignType = row.CampaignTypes.FirstOrDefault(""),
                HouseStyle = houseStyle,
                Order = [placed],
            },
            [new OrderedRow(placed, row, null, NoFills, NoFills)]
        );
    }

    private static RunningOrder From(
        Template template,
        ReleaseCatalog masters,
        Func<PlacedRow, (ImmutableSortedDictionary<string, PieceFill> Template, ImmutableSortedDictionary<string, PieceFill> Own)> fills,
        Func<Zone, ImmutableArray<PlacedRow>> inZone,
        RunningOrder? former
    )
    {
        var known = IncrementalMap.Rows(
            template.Order,
            former is null || former.stretches.IsDefault ? default : (former.Template.Order, former.stretches),
            (_, _) => Stretch.None
        );
        var now = ImmutableArray.CreateBuilder<Stretch>(known.Length);
        var rows = ImmutableArray.CreateBuilder<OrderedRow>(former?.Rows.Length ?? known.Length);
        foreach (var item in template.Order)
        {
            var (then, start) = known[now.Count];
            switch (item)
            {
                case PlacedRow placed:
                    now.Add(new([placed], rows.Count));
                    var (beneath, own) = fills(placed);
                    rows.Add(
                        !then.IsDefault && former!.Rows[start].HasFills(beneath, own)
                            ? former.Rows[start]
                            : new(placed, masters.Row(placed), null, beneath, own)
                    );
                    break;
                case Zone zone:
                    now.Add(new(inZone(zone), rows.Count));
                    IncrementalMap.Add(
                        rows,
                        now[^1].Placed.AsSpan(),
                        then.AsSpan(),
                        then.IsDefault ? default : former!.Rows.AsSpan(start, then.Length),
                        (placed, _) => new OrderedRow(placed, masters.Row(placed), zone, NoFills, placed.Fills)
                    );
                    break;
                default:
                    throw new StructureException("Unknown item in the running order.", item.Id);
            }
        }

        return new RunningOrder(template, rows.DrainToImmutable()) { stretches = now.MoveToImmutable() };
    }

    /// <summary>What stands where the template has a row or a zone.</summary>
    /// <param name="Start">Where the first of them stands in the whole order.</param>
    private sealed record Stretch(ImmutableArray<PlacedRow> Placed, int Start)
    {
        public static readonly Stretch None = new(default, 0);
    }
}
