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
        new ShareLinksBlock(),
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
        new UnsubscribeBlock(),
        new LegalFooterBlock(),
        new HtmlBlock(),
    ];

    private static readonly FrozenDictionary<string, WritableKind> ByName = All.ToFrozenDictionary(k => k.Name, StringComparer.Ordinal);

    public static WritableKind For(Block block) =>
        block.Completed is WritableKind known && known.Name == block.Kind
            ? known
            : ByName.GetValueOrDefault(block.Kind) ?? throw new StructureException($"There is no block kind \"{block.Kind}\".", block.Id);

    /// <summary>
    /// Gives every block of every own row all its fields, and checks their structure. What is complete stays the same object.
    /// </summary>
    /// <param name="held">The document before its last edit, which was complete: rows that stood in it are not looked at again.</param>
    /// <exception cref="StructureException">Not 1 to 4 columns, an id used twice, an unknown kind or field.</exception>
    public static Document Complete(Document document, Document? held = null) =>
        document switch
        {
            SavedRow row => Complete(row),
            Template template => Complete(template.Order, (held as Template)?.Order ?? default, Complete) is var order
            && order != template.Order
                ? template with
                {
                    Order = order,
                }
                : template,
            Email email => Complete(email, held as Email),
            _ => document,
        };

    private static Email Complete(Email email, Email? held)
    {
        var zones = email.Zones;
        foreach (var (zone, rows) in email.Zones)
        {
            var complete = Complete(rows, held?.Zones.GetValueOrDefault(zone) ?? default, Complete);
            zones = complete == rows ? zones : zones.SetItem(zone, complete);
        }

        return ReferenceEquals(zones, email.Zones) ? email : email with { Zones = zones };
    }

    private static ImmutableArray<T> Complete<T>(ImmutableArray<T> items, ImmutableArray<T> held, Func<T, T> complete)
        where T : class
    {
        if (items == held)
        {
            return items;
        }

        var all = IncrementalMap.Rows(items, held.IsDefault ? default : (held, held), (item, _) => complete(item));
        return all.AsSpan().SequenceEqual(items.AsSpan(), ReferenceEqualityComparer.Instance) ? items : all;
    }

    private static OrderItem Complete(OrderItem item) =>
        item switch
        {
            PlacedRow placed => Complete(placed),
            Zone zone => Complete(zone.Default, default, Complete) is var rows && rows != zone.Default
                ? zone with
                {
                    Default = rows,
                }
                : zone,
            _ => item,
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

        Condition.Check(row.Condition, row.Id);
        foreach (var block in row.Blocks)
        {
            Condition.Check(block.Condition, block.Id);
        }

        foreach (var (name, value) in row.Look.Concat(row.Offers.SelectMany(o => o.Value.Select(v => KeyValuePair.Create(o.Key, v)))))
        {
            RowLook.Check(name, value, row.Id);
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

        var columns = Complete(row.Columns, default, Complete);
        return columns == row.Columns ? saved : saved with { Row = row with { Columns = columns } };
    }

    private static Column Complete(Column column) =>
        Complete(column.Blocks, default, block => For(block).Complete(block)) is var blocks && blocks != column.Blocks
            ? column with
            {
                Blocks = blocks,
            }
            : column;

    /// <summary>The same of a row of its own; others are their masters'.</summary>
    public static PlacedRow Complete(PlacedRow placed) =>
        placed.Own is { } own && Complete(own) is var complete && !ReferenceEquals(complete, own) ? placed with { Own = complete } : placed;
}
