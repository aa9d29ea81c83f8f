using System.Collections.Frozen;
using System.Collections.Immutable;
using GoldenRule.Core.Compiling.Blocks;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Compiling;

/// <summary>Every block kind there is.</summary>
public static class BlockKinds
{
    public static ImmutableArray<WritableKind> All { get; } =
    [
        new HeadingBlock(),
        new TextBlock(),
        new QuoteBlock(),
        new ListBlock(),
        new TableBlock(),
        new SignatureBlock(),
        new PictureBlock(),
        new VideoBlock(),
        new ButtonBlock(),
        new ButtonPairBlock(),
        new MenuBlock(),
        new SocialLinksBlock(),
        new QuestionBlock(),
        new ReplyPairBlock(),
        new CardBlock(),
        new CardsBlock(),
        new OfferBlock(),
        new ContentsBlock(),
        new EventBlock(),
        new PlaceBlock(),
        new CountdownBlock(),
        new VoucherBlock(),
        new DividerBlock(),
        new SpacerBlock(),
        new ViewInBrowserBlock(),
        new WaysOutBlock(),
        new LegalFooterBlock(),
        new HtmlBlock(),
    ];

    private static readonly FrozenDictionary<string, WritableKind> ByName = All.ToFrozenDictionary(k => k.Name, StringComparer.Ordinal);

    public static WritableKind Of(Block block) => block.Completed is WritableKind known && known.Name == block.Kind
        ? known
        : ByName.GetValueOrDefault(block.Kind) ?? throw new StructureException($"There is no block kind \"{block.Kind}\".", block.Id);

    /// <summary>Gives every block of every own row all its fields, and checks their structure.</summary>
    /// <exception cref="StructureException">Not 1 to 4 columns, an id used twice, an unknown kind or field.</exception>
    public static Document Complete(Document document) => document switch
    {
        SavedRow row => Complete(row),
        Template template => template with
        {
            Order = [.. template.Order.Select(item => item switch
            {
                PlacedRow placed => Complete(placed),
                Zone zone => zone with { Default = Complete(zone.Default) },
                _ => item,
            })],
        },
        Email email when email.Zones.Values.Any(rows => rows.Any(r => r.Own is not null)) => email with
        {
            Zones = email.Zones.ToImmutableSortedDictionary(z => z.Key, z => Complete(z.Value), StringComparer.Ordinal),
        },
        _ => document,
    };

    /// <summary>Gives every block all its fields and checks the row's structure.</summary>
    /// <exception cref="StructureException">Not 1 to 4 columns, an id used twice, an unknown kind or field.</exception>
    public static SavedRow Complete(SavedRow saved)
    {
        var row = saved.Row;
        if (row.Columns.Length is < 1 or > 4)
        {
            throw new StructureException($"A row has 1 to 4 columns; this one has {row.Columns.Length}.", row.Id);
        }

        if (row.Columns.FirstOrDefault(c => c.Parts is < 1 or > 12) is { } column)
        {
            throw new StructureException($"A column is 1 to 12 parts wide; this one says {column.Parts}.", column.Id);
        }

        foreach (var (name, value) in row.Look.Concat(row.Offers.SelectMany(o => o.Value.Select(v => KeyValuePair.Create(o.Key, v)))))
        {
            if (RowLook.All.FirstOrDefault(p => p.Name == name)?.Choices.Contains(value) != true)
            {
                throw new StructureException($"\"{value}\" is not a choice for {name} of a row.", row.Id);
            }
        }

        var ids = new HashSet<string>(StringComparer.Ordinal);
        foreach (var id in row.Columns.Select(c => c.Id).Concat(row.Blocks.Select(b => b.Id)).Prepend(row.Id))
        {
            if (id.Length is 0 or > 64 || id.Contains('/', StringComparison.Ordinal))
            {
                throw new StructureException($"\"{id}\" is no id: it has 1 to 64 characters and no slash.", id);
            }

            if (!ids.Add(id))
            {
                throw new StructureException($"The id \"{id}\" is used twice in this row.", id);
            }
        }

        return saved with
        {
            Row = row with
            {
                Columns = [.. row.Columns.Select(c => c with { Blocks = [.. c.Blocks.Select(b => Of(b).Complete(b))] })],
            },
        };
    }

    private static ImmutableArray<PlacedRow> Complete(ImmutableArray<PlacedRow> rows) => [.. rows.Select(Complete)];

    /// <summary>The same of a row of its own; others are their masters'.</summary>
    public static PlacedRow Complete(PlacedRow placed) => placed.Own is { } own ? placed with { Own = Complete(own) } : placed;
}
