using System.Collections.Immutable;

namespace GoldenRule.Core.Documents;

/// <summary>Released masters that a document refers to. Releases never change, so this can be shared and kept.</summary>
public sealed class MasterShelf
{
    private readonly ImmutableDictionary<(Guid Id, int Release), SavedRow> rows;
    private readonly ImmutableDictionary<(Guid Id, int Release), Template> templates;

    public MasterShelf(
        ImmutableDictionary<(Guid Id, int Release), SavedRow> rows,
        ImmutableDictionary<(Guid Id, int Release), Template> templates)
    {
        this.rows = rows;
        this.templates = templates;
    }

    public SavedRow Row(Guid id, int release, string place) => rows.GetValueOrDefault((id, release))
        ?? throw new StructureException($"Saved row {id}, release {release}, is not known.", place);

    public Template Template(Guid id, int release) => templates.GetValueOrDefault((id, release))
        ?? throw new StructureException($"Template {id}, release {release}, is not known.");

    /// <summary>The newest release here of a saved row, with its number.</summary>
    public (int Release, SavedRow Row)? Newest(Guid id) =>
        rows.Where(r => r.Key.Id == id).OrderByDescending(r => r.Key.Release).Select(r => ((int, SavedRow)?)(r.Key.Release, r.Value)).FirstOrDefault();
}

/// <summary>A row where it stands in an email, with every layer that speaks about it, outermost first.</summary>
/// <param name="Zone">The zone it stands in; null: it is the template's own.</param>
/// <param name="TemplateFills">What the template says about it.</param>
/// <param name="EmailFills">What the email says about it.</param>
public sealed record OrderedRow(
    PlacedRow Placed,
    SavedRow Master,
    Zone? Zone,
    ImmutableSortedDictionary<string, PieceFill> TemplateFills,
    ImmutableSortedDictionary<string, PieceFill> EmailFills)
{
    public string Id => Placed.Id;

    public Block? FindBlock(string piece) => Master.Row.Blocks.FirstOrDefault(b => b.Id == piece);

    /// <summary>Fills keep reference identity across edits of other rows, so this tells whether anything here changed.</summary>
    public bool IsSameAs(OrderedRow other) =>
        ReferenceEquals(Master, other.Master)
        && ReferenceEquals(TemplateFills, other.TemplateFills)
        && ReferenceEquals(EmailFills, other.EmailFills)
        && ReferenceEquals(Placed, other.Placed);
}

/// <summary>The rows of an email in the order they are read, and the zones between them.</summary>
public sealed record RunningOrder(Template Template, ImmutableArray<OrderedRow> Rows)
{
    private static readonly ImmutableSortedDictionary<string, PieceFill> NoFills = ImmutableSortedDictionary<string, PieceFill>.Empty;

    public OrderedRow? Find(string rowId) => Rows.FirstOrDefault(r => r.Id == rowId);

    public Zone? FindZone(string zoneId) => Template.Order.OfType<Zone>().FirstOrDefault(z => z.Id == zoneId);

    public static RunningOrder Of(Email email, MasterShelf masters)
    {
        var template = masters.Template(email.Template, email.TemplateRelease);
        var rows = ImmutableArray.CreateBuilder<OrderedRow>();
        foreach (var item in template.Order)
        {
            switch (item)
            {
                case PlacedRow placed:
                    rows.Add(new OrderedRow(
                        placed,
                        masters.Row(placed.Master, placed.Release, placed.Id),
                        null,
                        placed.Fills,
                        email.Fills.GetValueOrDefault(placed.Id, NoFills)));
                    break;
                case Zone zone:
                    foreach (var placed in email.Zones.GetValueOrDefault(zone.Id, []))
                    {
                        rows.Add(new OrderedRow(placed, masters.Row(placed.Master, placed.Release, placed.Id), zone, NoFills, placed.Fills));
                    }

                    break;
                default:
                    throw new StructureException("Unknown item in the running order.", item.Id);
            }
        }

        return new RunningOrder(template, rows.ToImmutable());
    }
}
