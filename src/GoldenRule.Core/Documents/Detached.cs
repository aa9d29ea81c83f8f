using System.Collections.Immutable;

namespace GoldenRule.Core.Documents;

/// <summary>A row as it stands somewhere, with all that is filled in, as a row of its own.</summary>
public static class Detached
{
    /// <summary>
    /// Its pieces may be arranged from now on; what the saved row or the template seals or bounds stays sealed and bounded.
    /// </summary>
    public static SavedRow FromRow(OrderedRow row)
    {
        var own = Filled(row);
        own = own with { Row = own.Row with { Locks = own.Row.Locks with { Arrangement = own.Row.Locks.Arrangement ?? new Lock.Open() } } };
        return row.Placed.Rules.IsEmpty
            ? own
            : own with
            {
                Row = own.Row with
                {
                    Locks = WithAdded(own.Row, own.Row.Locks, Locks.Root),
                    Columns =
                    [
                        .. own.Row.Columns.Select(c =>
                            c with
                            {
                                Locks = WithAdded(c, c.Locks, own.Row.Locks),
                                Blocks = [.. c.Blocks.Select(b => b with { Locks = WithAdded(b, b.Locks, c.Locks, own.Row.Locks) })],
                            }
                        ),
                    ],
                },
            };

        // What the template laid on a piece has no place beside an own row: it is said by the piece itself.
        Locks WithAdded(Piece piece, Locks said, params ReadOnlySpan<Locks> around)
        {
            foreach (var aspect in Enum.GetValues<Aspect>())
            {
                if (row.AddedLock(piece.Id, aspect) is { } added)
                {
                    var holds = said[aspect];
                    foreach (var outer in around)
                    {
                        holds ??= outer[aspect];
                    }

                    said = said.With(aspect, Lock.Tightest(holds ?? Locks.Root[aspect]!, added));
                }
            }

            return said;
        }
    }

    /// <summary>The row with its fills as its own content: what a saved row made from it holds.</summary>
    public static SavedRow Filled(OrderedRow row) =>
        row.Master with
        {
            Name = row.Name,
            VariantOf = null,
            Varies = "",
            Row = row.Row with
            {
                Look = Look(row, row.Row.Id, row.Row.Look),
                Shown = Shown(row, row.Row.Id, row.Row.Shown),
                Condition = Condition(row, row.Row.Id, row.Row.Condition),
                Columns =
                [
                    .. row.Row.Columns.Select(c =>
                        c with
                        {
                            Blocks =
                            [
                                .. c.Blocks.Select(b =>
                                    b with
                                    {
                                        Content = Fills(row, b.Id).Aggregate(b.Content, (content, fill) => content.SetItems(fill.Content)),
                                        Look = Look(row, b.Id, b.Look),
                                        Shown = Shown(row, b.Id, b.Shown),
                                        Condition = Condition(row, b.Id, b.Condition),
                                    }
                                ),
                            ],
                        }
                    ),
                ],
            },
        };

    private static ImmutableSortedDictionary<string, string> Look(
        OrderedRow row,
        string piece,
        ImmutableSortedDictionary<string, string> look
    ) => Fills(row, piece).Aggregate(look, (all, fill) => all.SetItems(fill.Look));

    private static Visibility Shown(OrderedRow row, string piece, Visibility shown) =>
        Fills(row, piece).Aggregate(shown, (all, fill) => fill.Shown ?? all);

    private static Condition? Condition(OrderedRow row, string piece, Condition? condition) =>
        Fills(row, piece).Aggregate(condition, (all, fill) => fill.Condition ?? all);

    private static IEnumerable<PieceFill> Fills(OrderedRow row, string piece)
    {
        if (row.TemplateFills.TryGetValue(piece, out var beneath))
        {
            yield return beneath;
        }

        if (row.Fills.TryGetValue(piece, out var fill))
        {
            yield return fill;
        }
    }
}
