using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Edits;

/// <summary>Sets who may change one aspect of a piece of a master; null inherits.</summary>
/// <param name="Row">In a template: a row or a zone. In a saved row: null, or the row's own id.</param>
/// <param name="Piece">The piece; null: the whole row or zone as it stands in the template.</param>
public sealed record SetLock(string? Row, string? Piece, Aspect Aspect, Lock? Lock) : Edit
{
    public override string Target => $"{Row}/{Piece}/lock/{Aspect}";

    public override Document Apply(Document document) =>
        document is Template template && Piece is null
            ? ItemAccess.Replace(
                template,
                ItemAccess.Find(template, Row!).Item is var item ? item with { Locks = item.Locks.With(Aspect, Lock) } : null!
            )
            : MasterPieces.Change(
                document,
                Row,
                Piece,
                rules => rules with { Locks = rules.Locks.With(Aspect, Lock) },
                piece => piece with { Locks = piece.Locks.With(Aspect, Lock) }
            );

    public override Edit Invert(Document before) =>
        this with
        {
            Lock =
                before is Template template && Piece is null
                    ? ItemAccess.Find(template, Row!).Item.Locks[Aspect]
                    : MasterPieces.Read(before, Row, Piece, rules => rules.Locks[Aspect], piece => piece.Locks[Aspect]),
        };
}

/// <summary>Sets or takes away the limit of one field of a block.</summary>
/// <param name="Field">A field's name, or "field/name" for a field of its items.</param>
public sealed record SetLimit(string Piece, string Field, Limit? Limit, string? Row = null) : Edit
{
    public override string Target => $"{Row}/{Piece}/{Field}/limit";

    public override Document Apply(Document document) =>
        MasterPieces.ChangeBlock(
            document,
            Row,
            Piece,
            rules => rules with { Limits = With(rules.Limits) },
            block => block with { Limits = With(Known(block).Limits) }
        );

    public override Edit Invert(Document before) =>
        this with
        {
            Limit = MasterPieces.Read(
                before,
                Row,
                Piece,
                rules => rules.Limits.GetValueOrDefault(Field),
                piece => (piece as Block)?.Limits.GetValueOrDefault(Field)
            ),
        };

    private Block Known(Block block) =>
        block.Content.ContainsKey(Field.Split('/')[0])
            ? block
            : throw new StructureException($"Piece {Piece} has no field \"{Field}\".", Piece);

    private ImmutableSortedDictionary<string, Limit> With(ImmutableSortedDictionary<string, Limit> all) =>
        Limit is null ? all.Remove(Field) : all.SetItem(Field, Limit);
}

/// <summary>Says what may be chosen where the look of a piece is open. No choices: it is taken away.</summary>
/// <param name="Piece">A block, or the row's own piece.</param>
public sealed record SetOffer(string? Row, string Piece, string Property, ImmutableArray<string> Choices) : Edit
{
    public override string Target => $"{Row}/{Piece}/offer/{Property}";

    public override Document Apply(Document document) =>
        MasterPieces.Change(
            document,
            Row,
            Piece,
            rules => rules with { Offers = With(rules.Offers) },
            piece =>
                piece switch
                {
                    Row row => row with { Offers = With(row.Offers) },
                    Block block => block with { Offers = With(block.Offers) },
                    _ => throw new StructureException("Columns have no look.", Piece),
                }
        );

    public override Edit Invert(Document before) =>
        this with
        {
            Choices = MasterPieces
                .Read(
                    before,
                    Row,
                    Piece,
                    rules => rules.Offers,
                    piece =>
                        piece switch
                        {
                            Row row => row.Offers,
                            Block block => block.Offers,
                            _ => null,
                        }
                )
                ?.GetValueOrDefault(Property, [])
                ?? [],
        };

    private ImmutableSortedDictionary<string, ImmutableArray<string>> With(ImmutableSortedDictionary<string, ImmutableArray<string>> all) =>
        Choices.IsDefaultOrEmpty ? all.Remove(Property) : all.SetItem(Property, Choices);
}

/// <summary>The lead's word to those who fill a piece in; in a saved row without a piece, to those who use the row.</summary>
public sealed record SetInstruction(string? Row, string? Piece, string? Text) : Edit
{
    public override string Target => $"{Row}/{Piece}/instruction";

    public override Document Apply(Document document) =>
        Piece is null
            ? RowAccess.Change(document, Row, placed =>
                placed.Own is { } own
                    ? placed with
                    {
                        Own = own with { Instruction = Text },
                    }
                    : throw new StructureException("The instruction of a saved row is given in the saved row itself.", Row)
            )
            : MasterPieces.ChangeBlock(
                document,
                Row,
                Piece,
                rules => rules with { Instruction = Text },
                block => block with { Instruction = Text }
            );

    public override Edit Invert(Document before) =>
        this with
        {
            Text = Piece is null
                ? RowAccess.Find(before, Row)?.Own?.Instruction
                : MasterPieces.Read(before, Row, Piece, rules => rules.Instruction, piece => (piece as Block)?.Instruction),
        };
}

/// <summary>Says whether what stands in a block only says what belongs there.</summary>
/// <param name="Placeholder">In a template's placed row, null: as the saved row says.</param>
public sealed record SetPlaceholder(string? Row, string Piece, bool? Placeholder) : Edit
{
    public override string Target => $"{Row}/{Piece}/placeholder";

    public override Document Apply(Document document) =>
        MasterPieces.ChangeBlock(
            document,
            Row,
            Piece,
            rules => rules with { Placeholder = Placeholder },
            block => block with { Placeholder = Placeholder == true }
        );

    public override Edit Invert(Document before) =>
        this with
        {
            Placeholder = MasterPieces.Read(before, Row, Piece, rules => rules.Placeholder, piece => (piece as Block)?.Placeholder),
        };
}

/// <summary>Calls a piece something else: a block of an own row, or with no piece a row where it stands.</summary>
/// <param name="Name">Null: its kind's or its saved row's name.</param>
public sealed record SetPieceName(string? Row, string? Piece, string? Name) : Edit
{
    public override string Target => $"{Row}/{Piece}/name";

    public override Document Apply(Document document) =>
        Piece is null
            ? RowAccess.Change(document, Row, placed =>
                document is SavedRow
                    ? throw new StructureException("A saved row itself is renamed, not its place.", Row)
                    : placed with
                    {
                        Name = Name,
                    }
            )
            : RowAccess.ChangeOwn(document, Row, row => RowAccess.Replace(row, RowAccess.FindBlock(row, Piece).Block with { Name = Name }));

    public override Edit Invert(Document before) =>
        this with
        {
            Name = Piece is null
                ? RowAccess.Find(before, Row)?.Name
                : RowAccess.FindBlock(RowAccess.FindOwn(before, Row), Piece).Block.Name,
        };
}

/// <summary>Rules of a piece of a master: on the piece itself where the row is its own, else what the template adds to it.</summary>
internal static class MasterPieces
{
    public static Document Change(
        Document document,
        string? row,
        string? piece,
        Func<PieceRules, PieceRules> ofPlaced,
        Func<Piece, Piece> ofOwn
    )
    {
        RefuseEmail(document);
        return RowAccess.Change(document, row, placed =>
            placed.Own is { } own
                ? placed with
                {
                    Own = own with { Row = Replace(own.Row, ofOwn(Find(own.Row, piece))) },
                }
                : placed with
                {
                    Rules = With(placed.Rules, piece ?? throw new StructureException("Which block?", row), ofPlaced),
                }
        );
    }

    public static Document ChangeBlock(
        Document document,
        string? row,
        string piece,
        Func<PieceRules, PieceRules> ofPlaced,
        Func<Block, Block> ofOwn
    ) =>
        Change(document, row, piece, ofPlaced, found =>
            found is Block block ? ofOwn(block) : throw new StructureException($"{piece} is not a block.", piece)
        );

    public static T? Read<T>(Document document, string? row, string? piece, Func<PieceRules, T?> ofPlaced, Func<Piece, T?> ofOwn)
    {
        RefuseEmail(document);
        return RowAccess.Find(document, row) switch
        {
            null => default,
            { Own: { } own } => ofOwn(Find(own.Row, piece)),
            var placed => ofPlaced(placed.Rules.GetValueOrDefault(piece ?? "", PieceRules.None)),
        };
    }

    public static Piece Find(Row row, string? piece) =>
        piece is null || piece == row.Id
            ? row
            : (Piece?)row.FindColumn(piece)
                ?? row.Blocks.FirstOrDefault(b => b.Id == piece)
                ?? throw new StructureException($"There is no block {piece} in row {row.Id}.", piece);

    private static void RefuseEmail(Document document)
    {
        if (document is Email)
        {
            throw new StructureException("Rules are set in saved rows and templates.");
        }
    }

    private static Row Replace(Row row, Piece piece) =>
        piece switch
        {
            Row own => own,
            Column column => row with { Columns = [.. row.Columns.Select(c => c.Id == column.Id ? column : c)] },
            Block block => RowAccess.Replace(row, block),
            _ => throw new StructureException("Only rows, columns and blocks have rules here.", piece.Id),
        };

    // A piece with no rules left is taken out, so that an inverse restores the very same tree.
    private static ImmutableSortedDictionary<string, PieceRules> With(
        ImmutableSortedDictionary<string, PieceRules> all,
        string piece,
        Func<PieceRules, PieceRules> change
    )
    {
        var rules = change(all.GetValueOrDefault(piece, PieceRules.None));
        return rules.IsEmpty ? all.Remove(piece) : all.SetItem(piece, rules);
    }
}
