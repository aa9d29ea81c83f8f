using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Validation;

/// <summary>How much one document may hold.</summary>
public static class DocumentBounds
{
    /// <summary>Refuses what has become too much; what was so before may stay, and become less.</summary>
    /// <param name="before">Null: the document is new.</param>
    /// <exception cref="StructureException">Says what is too much and where.</exception>
    public static void Check(Document document, Document? before)
    {
        if (
            document is HouseStyle { Variables.Length: > Bounds.Variables and var count }
            && !(before is HouseStyle former && former.Variables.Length >= count)
        )
        {
            throw new StructureException($"A house style holds at most {Bounds.Variables:N0} variables.");
        }

        var rows = 0;
        foreach (var (id, row) in Rows(document))
        {
            rows++;
            if (
                Blocks(row) is var blocks and > Bounds.BlocksInRow
                && !Rows(before).Any(former => former.Id == id && Blocks(former.Row) >= blocks)
            )
            {
                throw new StructureException(
                    $"A row holds at most {Bounds.BlocksInRow} blocks; this one would have {blocks:N0}. Part it into several rows.",
                    id
                );
            }
        }

        if (rows > Bounds.RowsInDocument && Rows(before).Count() < rows)
        {
            throw new StructureException($"There are at most {Bounds.RowsInDocument} rows; this would make {rows:N0}.");
        }
    }

    private static int Blocks(Row? row) => row?.Columns.Sum(c => c.Blocks.Length) ?? 0;

    // Rows that stand in it, with what is built of those of its own.
    private static IEnumerable<(string Id, Row? Row)> Rows(Document? document) =>
        document switch
        {
            SavedRow saved => [(saved.Row.Id, saved.Row)],
            Template template => template.PlacedRows.Select(Of),
            Email email => email.Zones.Values.SelectMany(rows => rows).Select(Of),
            _ => [],
        };

    private static (string Id, Row? Row) Of(PlacedRow placed) => (placed.Id, placed.Own?.Row);
}
