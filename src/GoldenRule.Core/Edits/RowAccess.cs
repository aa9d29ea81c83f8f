using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Edits;

/// <summary>
/// Finds and changes rows in any document, so that one edit serves emails, templates and saved rows alike. A saved row
/// is a document with one own row in it, by the id of its <see cref="Row"/>.
/// </summary>
internal static class RowAccess
{
    /// <summary>
    /// The row of that id. Of an email's template only what the email fills in is there. Null: an email says nothing about it.
    /// </summary>
    public static PlacedRow? Find(Document document, string? row) =>
        document switch
        {
            SavedRow saved when row is null || row == saved.Row.Id => new PlacedRow { Id = saved.Row.Id, Own = saved },
            Email email when row is not null => email.FindInZones(row)?.Row
                ?? (email.Fills.TryGetValue(row, out var fills) ? new PlacedRow { Id = row, Fills = fills } : null),
            Template template => ItemAccess.Items(template).FirstOrDefault(i => i.Item.Id == row).Item as PlacedRow ?? throw Missing(row),
            _ => throw Missing(row),
        };

    public static Document Change(Document document, string? row, Func<PlacedRow, PlacedRow> change)
    {
        switch (document)
        {
            case SavedRow saved:
                return change(Find(saved, row)!).Own!;
            case Template template:
                return ItemAccess.Replace(template, change(Find(template, row)!));
            case Email email when row is not null:
                if (email.FindInZones(row) is { } found)
                {
                    return ItemAccess.Replace(email, found.Zone, change(found.Row));
                }

                var fills = change(
                    new PlacedRow
                    {
                        Id = row,
                        Fills = email.Fills.GetValueOrDefault(row, ImmutableSortedDictionary<string, PieceFill>.Empty),
                    }
                ).Fills;
                return email with { Fills = fills.IsEmpty ? email.Fills.Remove(row) : email.Fills.SetItem(row, fills) };
            default:
                throw Missing(row);
        }
    }

    /// <summary>Changes the row of its own that stands there: the pieces themselves, not what is filled into them.</summary>
    public static Document ChangeOwn(Document document, string? row, Func<Row, Row> change) =>
        Change(document, row, placed => placed with { Own = Own(placed) with { Row = change(Own(placed).Row) } });

    public static Row FindOwn(Document document, string? row) => Own(Find(document, row) ?? throw Missing(row)).Row;

    /// <summary>A block of an own row with its column and place.</summary>
    public static (Column Column, int Index, Block Block) FindBlock(Row row, string piece)
    {
        foreach (var column in row.Columns)
        {
            for (var i = 0; i < column.Blocks.Length; i++)
            {
                if (column.Blocks[i].Id == piece)
                {
                    return (column, i, column.Blocks[i]);
                }
            }
        }

        throw new StructureException($"There is no block {piece} in row {row.Id}; it may have been removed.", piece);
    }

    /// <summary>What stands around the blocks of a column of an own row.</summary>
    public static TravellingLocks.Around Around(Document document, string row, string column) =>
        TravellingLocks.Around.Find(Find(document, row) ?? throw Missing(row), FindOwn(document, row), column);

    public static Row Replace(Row row, Block block) =>
        row with
        {
            Columns =
            [
                .. row.Columns.Select(c =>
                    c.Blocks.Any(b => b.Id == block.Id) ? c with { Blocks = [.. c.Blocks.Select(b => b.Id == block.Id ? block : b)] } : c
                ),
            ],
        };

    private static SavedRow Own(PlacedRow placed) =>
        placed.Own
        ?? throw new StructureException(
            "The blocks of a saved row are arranged in the saved row itself. Unlink it from the library to arrange them here.",
            placed.Id
        );

    private static StructureException Missing(string? row) => new($"Row {row} is not here; it may have been removed.", row);
}
