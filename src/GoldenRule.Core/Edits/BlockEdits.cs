using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Edits;

/// <summary>Puts a block into a column of an own row.</summary>
/// <param name="Row">Id of the row where it stands in the document.</param>
/// <param name="Index">Place in the column, from 0 to the number of blocks there; -1: at its end.</param>
public sealed record InsertBlock(string Row, string Column, int Index, Block Block) : Edit
{
    public override string? Target => null;

    public override Document Apply(Document document) =>
        RowAccess.ChangeOwn(document, Row, row => Columns.Insert(row, Column, Index, Block));

    public override Edit Invert(Document before) => new RemoveBlock(Row, Block.Id);
}

/// <summary>Takes a block out.</summary>
public sealed record RemoveBlock(string Row, string Piece) : Edit
{
    public override string? Target => null;

    private protected override string? Whole => $"{Row}/{Piece}";

    public override Document Apply(Document document) => RowAccess.ChangeOwn(document, Row, row => Columns.Take(row, Piece));

    public override Edit Invert(Document before)
    {
        var (column, index, block) = RowAccess.FindBlock(RowAccess.FindOwn(before, Row), Piece);
        return new InsertBlock(Row, column.Id, index, block);
    }
}

/// <summary>Moves a block within its column, to another, or to another own row. Its locks travel with it.</summary>
/// <param name="Index">Place in the column once the block is taken out of where it was.</param>
public sealed record MoveBlock(string Row, string Piece, string ToRow, string Column, int Index) : Edit
{
    /// <summary>What the block says of its locks where it arrives, when a move is taken back. Null: what travels with it.</summary>
    public Locks? Locks { get; init; }

    public override string? Target => null;

    public override Document Apply(Document document)
    {
        var (column, _, block) = RowAccess.FindBlock(RowAccess.FindOwn(document, Row), Piece);
        var carried = Locks switch
        {
            { } back => block with { Locks = back },
            _ when Row == ToRow && Column == column.Id => block,
            _ => TravellingLocks.Carry(block, RowAccess.Around(document, Row, column.Id), RowAccess.Around(document, ToRow, Column)),
        };
        return RowAccess.ChangeOwn(RowAccess.ChangeOwn(document, Row, row => Columns.Take(row, Piece)), ToRow, row =>
            Columns.Insert(row, Column, Index, carried)
        );
    }

    public override Edit Invert(Document before)
    {
        var (column, index, block) = RowAccess.FindBlock(RowAccess.FindOwn(before, Row), Piece);
        return new MoveBlock(ToRow, Piece, Row, column.Id, index) { Locks = block.Locks };
    }
}

/// <summary>Lets two blocks change places, in one row or in two. Their locks travel with them.</summary>
public sealed record SwapBlocks(string Row, string First, string OtherRow, string Second) : Edit
{
    /// <summary>What the first says of its locks where it arrives, when a swap is taken back. Null: what travels with it.</summary>
    public Locks? FirstLocks { get; init; }

    /// <summary>The same of the second.</summary>
    public Locks? SecondLocks { get; init; }

    public override string? Target => null;

    public override Document Apply(Document document)
    {
        if (Row == OtherRow && First == Second)
        {
            return document;
        }

        var (at, _, first) = RowAccess.FindBlock(RowAccess.FindOwn(document, Row), First);
        var (otherAt, _, second) = RowAccess.FindBlock(RowAccess.FindOwn(document, OtherRow), Second);
        var (here, there) = (RowAccess.Around(document, Row, at.Id), RowAccess.Around(document, OtherRow, otherAt.Id));
        first = FirstLocks is { } firstBack ? first with { Locks = firstBack } : TravellingLocks.Carry(first, here, there);
        second = SecondLocks is { } secondBack ? second with { Locks = secondBack } : TravellingLocks.Carry(second, there, here);
        // Under an id that no piece has while the other still stands.
        var held = second with { Id = "\u0000" + second.Id };
        document = RowAccess.ChangeOwn(document, Row, row => Columns.Put(row, First, held));
        document = RowAccess.ChangeOwn(document, OtherRow, row => Columns.Put(row, Second, first));
        document = RowAccess.ChangeOwn(document, Row, row => Columns.Put(row, held.Id, second));
        Columns.RefuseDoubles(RowAccess.FindOwn(document, Row));
        Columns.RefuseDoubles(RowAccess.FindOwn(document, OtherRow));
        return document;
    }

    public override Edit Invert(Document before) =>
        new SwapBlocks(Row, Second, OtherRow, First)
        {
            FirstLocks = RowAccess.FindBlock(RowAccess.FindOwn(before, OtherRow), Second).Block.Locks,
            SecondLocks = RowAccess.FindBlock(RowAccess.FindOwn(before, Row), First).Block.Locks,
        };
}

/// <summary>Puts a copy of a block right after it.</summary>
/// <param name="Copy">Id of the copy.</param>
public sealed record DuplicateBlock(string Row, string Piece, string Copy) : Edit
{
    public override string? Target => null;

    public override Document Apply(Document document) => RowAccess.ChangeOwn(document, Row, row =>
        {
            var (column, index, block) = RowAccess.FindBlock(row, Piece);
            return Columns.Insert(row, column.Id, index + 1, block with { Id = Copy });
        });

    public override Edit Invert(Document before) => new RemoveBlock(Row, Copy);
}

/// <summary>A column's id and width in parts.</summary>
public sealed record ColumnShare(string Id, int Parts);

/// <summary>
/// Lays a row out anew: columns in the order given, a new id for an empty one. What stood in a column that is left out
/// goes to the end of the last one that stays, with its locks.
/// </summary>
public sealed record SetLayout(string Row, ImmutableArray<ColumnShare> Shares) : Edit
{
    public override string Target => $"{Row}/layout";

    public override Document Apply(Document document) => RowAccess.ChangeOwn(document, Row, row =>
        {
            if (Shares.IsDefaultOrEmpty)
            {
                throw new StructureException("A row has 1 to 4 columns; none are given.", row.Id);
            }

            var columns = Shares.Select(s => (row.FindColumn(s.Id) ?? new Column { Id = s.Id }) with { Parts = s.Parts }).ToList();
            // A lock laid on the row where it stands holds in all its columns alike.
            var to = new TravellingLocks.Around(columns[^1], row, Locks.Unset);
            var left = row
                .Columns.Where(c => Shares.All(s => s.Id != c.Id))
                .SelectMany(c => c.Blocks.Select(b => TravellingLocks.Carry(b, new TravellingLocks.Around(c, row, Locks.Unset), to)))
                .ToList();
            columns[^1] = columns[^1] with { Blocks = columns[^1].Blocks.AddRange(left) };
            return row with { Columns = [.. columns] };
        });

    public override Edit Invert(Document before) => new RestoreColumns(Row, RowAccess.FindOwn(before, Row).Columns);
}

/// <summary>
/// Puts back the columns of a row and who stands in them: the inverse of laying it out anew. Blocks say what they say by
/// now, those that came since stay, those that went stay away.
/// </summary>
public sealed record RestoreColumns(string Row, ImmutableArray<Column> Columns) : Edit
{
    public override string Target => $"{Row}/layout";

    public override Document Apply(Document document) => RowAccess.ChangeOwn(document, Row, row =>
        {
            if (Columns.IsDefaultOrEmpty)
            {
                throw new StructureException("A row has 1 to 4 columns; none are given.", row.Id);
            }

            var now = row.Blocks.ToDictionary(b => b.Id, StringComparer.Ordinal);
            var stood = Columns.SelectMany(c => c.Blocks).Select(b => b.Id).ToHashSet(StringComparer.Ordinal);
            var columns = Columns
                .Select(c =>
                    (row.FindColumn(c.Id) ?? c) with
                    {
                        Parts = c.Parts,
                        Blocks = [.. c.Blocks.Where(b => now.ContainsKey(b.Id)).Select(b => WithLocksOf(b, now[b.Id], row, c))],
                    }
                )
                .ToList();
            foreach (var came in row.Columns)
            {
                var at = columns.FindIndex(c => c.Id == came.Id) is >= 0 and var same ? same : columns.Count - 1;
                columns[at] = columns[at] with { Blocks = [.. columns[at].Blocks, .. came.Blocks.Where(b => !stood.Contains(b.Id))] };
            }

            return row with
            {
                Columns = [.. columns],
            };
        });

    public override Edit Invert(Document before) => this with { Columns = RowAccess.FindOwn(before, Row).Columns };

    // A block that comes back to its column says of its locks what it said there; one that stayed says what it says by now.
    private static Block WithLocksOf(Block then, Block now, Row row, Column column) =>
        row.FindColumn(column.Id)?.Blocks.Any(b => b.Id == now.Id) == true ? now : now with { Locks = then.Locks };
}

/// <summary>Puts a picture behind a row, or takes it away. The colour of the row's surface stays beneath it.</summary>
/// <param name="Picture">As in a picture field; null: none.</param>
public sealed record SetBackground(string Row, string? Picture) : Edit
{
    public override string Target => $"{Row}/background";

    public override Document Apply(Document document) => RowAccess.ChangeOwn(document, Row, row => row with { Background = Picture });

    public override Edit Invert(Document before) => this with { Picture = RowAccess.FindOwn(before, Row).Background };
}

internal static class Columns
{
    public static Row Insert(Row row, string column, int index, Block block)
    {
        if (row.Id == block.Id || row.FindColumn(block.Id) is not null || row.Blocks.Any(b => b.Id == block.Id))
        {
            throw new StructureException($"The id \"{block.Id}\" is used already in this row.", block.Id);
        }

        var found = row.FindColumn(column)
            ?? throw new StructureException($"There is no column {column} in row {row.Id}; it may have been removed.", column);
        if (index is Edit.AtEnd)
        {
            return Change(row, found, found.Blocks.Add(block));
        }

        return index >= 0 && index <= found.Blocks.Length
            ? Change(row, found, found.Blocks.Insert(index, block))
            : throw new StructureException($"Place {index} is outside the column, which holds {found.Blocks.Length} blocks.", column);
    }

    public static Row Take(Row row, string piece)
    {
        var (column, index, _) = RowAccess.FindBlock(row, piece);
        return Change(row, column, column.Blocks.RemoveAt(index));
    }

    public static Row Put(Row row, string piece, Block block)
    {
        var (column, index, _) = RowAccess.FindBlock(row, piece);
        return Change(row, column, column.Blocks.SetItem(index, block));
    }

    public static void RefuseDoubles(Row row)
    {
        if (row.Blocks.GroupBy(b => b.Id, StringComparer.Ordinal).FirstOrDefault(g => g.Count() > 1) is { } twice)
        {
            throw new StructureException($"The id \"{twice.Key}\" would stand twice in row {row.Id}.", twice.Key);
        }
    }

    private static Row Change(Row row, Column column, ImmutableArray<Block> blocks) =>
        row with
        {
            Columns = row.Columns.Replace(column, column with { Blocks = blocks }),
        };
}
