using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Edits;

/// <summary>Sets who may change one aspect of a piece of a master; null inherits.</summary>
/// <param name="Row">In a template: the placed row. In a saved row: null.</param>
/// <param name="Piece">The piece; null: the whole row.</param>
public sealed record SetLock(string? Row, string? Piece, Aspect Aspect, Lock? Lock) : Edit
{
    public override string Target => $"{Row}/{Piece}/lock/{Aspect}";

    public override Document Apply(Document document) => document switch
    {
        SavedRow row => row with { Row = MasterPieces.Change(row.Row, Piece, locks => locks.With(Aspect, Lock)) },
        Template template => MasterPieces.Change(template, Row, placed => Piece is null
            ? placed with { Locks = placed.Locks.With(Aspect, Lock) }
            : placed with { PieceLocks = WithPiece(placed.PieceLocks, Piece) }),
        _ => throw new StructureException("Locks are set in saved rows and templates."),
    };

    public override Edit Invert(Document before) => this with
    {
        Lock = before switch
        {
            SavedRow row => MasterPieces.Find(row.Row, Piece).Locks[Aspect],
            Template template when Piece is null => MasterPieces.Find(template, Row).Locks[Aspect],
            Template template => MasterPieces.Find(template, Row).PieceLocks.GetValueOrDefault(Piece)?[Aspect],
            _ => null,
        },
    };

    private ImmutableSortedDictionary<string, Locks> WithPiece(ImmutableSortedDictionary<string, Locks> all, string piece)
    {
        var locks = all.GetValueOrDefault(piece, Locks.Unset).With(Aspect, Lock);
        return locks == Locks.Unset ? all.Remove(piece) : all.SetItem(piece, locks);
    }
}

/// <summary>Sets or takes away the limit of one field of a saved row's block.</summary>
public sealed record SetLimit(string Piece, string Field, Limit? Limit) : Edit
{
    public override string Target => $"{Piece}/{Field}/limit";

    public override Document Apply(Document document)
    {
        var row = Expect<SavedRow>(document);
        var block = Block(row);
        if (!block.Content.ContainsKey(Field))
        {
            throw new StructureException($"Piece {Piece} has no field \"{Field}\".", Piece);
        }

        var limits = Limit is null ? block.Limits.Remove(Field) : block.Limits.SetItem(Field, Limit);
        return row with { Row = MasterPieces.Replace(row.Row, block with { Limits = limits }) };
    }

    public override Edit Invert(Document before) => this with { Limit = Block(Expect<SavedRow>(before)).Limits.GetValueOrDefault(Field) };

    private Block Block(SavedRow row) => MasterPieces.Find(row.Row, Piece) as Block
        ?? throw new StructureException($"Piece {Piece} is not a block.", Piece);
}

internal static class MasterPieces
{
    public static Piece Find(Row row, string? piece) =>
        piece is null || piece == row.Id ? row
        : (Piece?)row.Columns.FirstOrDefault(c => c.Id == piece) ?? row.Blocks.FirstOrDefault(b => b.Id == piece)
        ?? throw new StructureException($"There is no piece {piece} in row {row.Id}.", piece);

    public static Row Change(Row row, string? piece, Func<Locks, Locks> change) => Find(row, piece) switch
    {
        Row own => own with { Locks = change(own.Locks) },
        Column column => row with { Columns = row.Columns.Replace(column, column with { Locks = change(column.Locks) }) },
        Block block => Replace(row, block with { Locks = change(block.Locks) }),
        _ => throw new StructureException("Only rows, columns and blocks are locked here.", piece),
    };

    public static Row Replace(Row row, Block block) => row with
    {
        Columns = [.. row.Columns.Select(c => c with { Blocks = [.. c.Blocks.Select(b => b.Id == block.Id ? block : b)] })],
    };

    public static PlacedRow Find(Template template, string? row) => template.Order.OfType<PlacedRow>().FirstOrDefault(r => r.Id == row)
        ?? throw new StructureException($"There is no row {row} in the template.", row);

    public static Template Change(Template template, string? row, Func<PlacedRow, PlacedRow> change)
    {
        var placed = Find(template, row);
        return template with { Order = template.Order.Replace(placed, change(placed)) };
    }
}
