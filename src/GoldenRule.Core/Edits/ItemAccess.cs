using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Edits;

/// <summary>
/// The lists that hold rows and zones: a template's running order, what its zones begin with, and the zones of an email.
/// A list is named by its zone; null is the running order of a template itself.
/// </summary>
internal static class ItemAccess
{
    public static IEnumerable<(string? Zone, int Index, OrderItem Item)> Items(Document document) =>
        document switch
        {
            Email email => email.Zones.SelectMany(z => z.Value.Select((row, i) => ((string?)z.Key, i, (OrderItem)row))),
            Template template => template.Order.SelectMany(
                (item, i) =>
                    (item is Zone zone ? zone.Default.Select((row, n) => ((string?)zone.Id, n, (OrderItem)row)) : []).Prepend(
                        (null, i, item)
                    )
            ),
            _ => [],
        };

    public static (string? Zone, int Index, OrderItem Item) Find(Document document, string id)
    {
        var found = Items(document).FirstOrDefault(i => i.Item.Id == id);
        return found.Item is null
            ? throw new StructureException(
                document is Email
                    ? $"Row {id} is not in any zone of the email; it may have been removed."
                    : $"{id} is not in the running order; it may have been removed.",
                id
            )
            : found;
    }

    public static Document Insert(Document document, string? zone, int index, OrderItem item) => Change(document, zone, items =>
        {
            var at = index is Edit.AtEnd ? items.Length : index;
            return at >= 0 && at <= items.Length
                ? items.Insert(at, item)
                : throw new StructureException(
                    $"Place {index} is outside {(zone is null ? "the running order" : $"zone {zone}")}, which holds {items.Length}.",
                    zone
                );
        });

    // An emptied zone stays in the email: it is then empty on purpose, and an inverse finds it as it was.
    public static Document Without(Document document, (string? Zone, int Index, OrderItem Item) found) =>
        Change(document, found.Zone, items => items.RemoveAt(found.Index));

    public static Document Put(Document document, (string? Zone, int Index, OrderItem Item) at, OrderItem item) =>
        Change(document, at.Zone, items => items.SetItem(at.Index, item));

    public static Template Replace(Template template, OrderItem item) => (Template)Put(template, Find(template, item.Id), item);

    public static Email Replace(Email email, string zone, PlacedRow row) =>
        email with
        {
            Zones = email.Zones.SetItem(zone, [.. email.Zones[zone].Select(r => r.Id == row.Id ? row : r)]),
        };

    public static Zone FindZone(Document document, string id) =>
        Find(document, id).Item as Zone ?? throw new StructureException($"{id} is a row, not a zone.", id);

    private static Document Change(Document document, string? zone, Func<ImmutableArray<OrderItem>, ImmutableArray<OrderItem>> change) =>
        document switch
        {
            Email email when zone is not null => email with
            {
                Zones = email.Zones.SetItem(zone, Rows(change(Items(email.Zones.GetValueOrDefault(zone, []))), zone)),
            },
            Template template when zone is null => template with { Order = change(template.Order) },
            Template template => Replace(
                template,
                FindZone(template, zone) is var found ? found with { Default = Rows(change(Items(found.Default)), zone) } : found
            ),
            _ => throw new StructureException("Rows are arranged in emails and templates.", zone),
        };

    private static ImmutableArray<OrderItem> Items(ImmutableArray<PlacedRow> rows) => ImmutableArray<OrderItem>.CastUp(rows);

    private static ImmutableArray<PlacedRow> Rows(ImmutableArray<OrderItem> items, string zone) =>
        [.. items.Select(i => i as PlacedRow ?? throw new StructureException("A zone cannot stand in a zone.", zone))];
}
