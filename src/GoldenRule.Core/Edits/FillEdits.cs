using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Edits;

/// <summary>
/// Gives a field of a piece a value. In a row of its own that is the piece's content itself, elsewhere a fill over what the saved
/// row says.
/// </summary>
/// <param name="Row">Id of the row where it stands in the document.</param>
public sealed record SetFill(string Row, string Piece, string Field, FieldValue Value) : Edit
{
    public override string Target => $"{Row}/{Piece}/{Field}";

    public override Document Apply(Document document) =>
        Fills.Change(
            document,
            Row,
            Piece,
            f => f with { Content = f.Content.SetItem(Field, Value) },
            b => b with { Content = b.Content.SetItem(Field, Value) }
        );

    public override Edit Invert(Document before) =>
        Fills.FindContent(before, Row, Piece, Field) is { } value
            ? new SetFill(Row, Piece, Field, value)
            : new ClearFill(Row, Piece, Field);
}

/// <summary>Takes a fill out, so that what the layer beneath says shows again.</summary>
public sealed record ClearFill(string Row, string Piece, string Field) : Edit
{
    public override string Target => $"{Row}/{Piece}/{Field}";

    public override Document Apply(Document document) =>
        Fills.Change(document, Row, Piece, f => f with { Content = f.Content.Remove(Field) }, _ => throw Fills.NothingBeneath(Piece));

    public override Edit Invert(Document before) =>
        Fills.FindContent(before, Row, Piece, Field) is { } value ? new SetFill(Row, Piece, Field, value) : this;
}

/// <summary>Chooses among the looks offered for a piece.</summary>
public sealed record SetLook(string Row, string Piece, string Property, string Value) : Edit
{
    public override string Target => $"{Row}/{Piece}/look/{Property}";

    public override Document Apply(Document document) =>
        Fills.Change(
            document,
            Row,
            Piece,
            f => f with { Look = f.Look.SetItem(Property, Value) },
            b => b with { Look = b.Look.SetItem(Property, Value) },
            r => r with { Look = r.Look.SetItem(Property, Value) }
        );

    public override Edit Invert(Document before) =>
        Fills.FindLook(before, Row, Piece, Property) is { } value
            ? new SetLook(Row, Piece, Property, value)
            : new ClearLook(Row, Piece, Property);
}

/// <summary>Takes a chosen look back to what the layer beneath says.</summary>
public sealed record ClearLook(string Row, string Piece, string Property) : Edit
{
    public override string Target => $"{Row}/{Piece}/look/{Property}";

    public override Document Apply(Document document) =>
        Fills.Change(
            document,
            Row,
            Piece,
            f => f with { Look = f.Look.Remove(Property) },
            b => b with { Look = b.Look.Remove(Property) },
            r => r with { Look = r.Look.Remove(Property) }
        );

    public override Edit Invert(Document before) =>
        Fills.FindLook(before, Row, Piece, Property) is { } value ? new SetLook(Row, Piece, Property, value) : this;
}

/// <summary>Shows a block, or a whole row, on phones only, on desktops only or everywhere.</summary>
/// <param name="Piece">A block, or the row's own piece.</param>
/// <param name="Shown">Null: as the layer beneath says.</param>
public sealed record SetShown(string Row, string Piece, Visibility? Shown) : Edit
{
    public override string Target => $"{Row}/{Piece}/shown";

    public override Document Apply(Document document) =>
        Fills.Change(
            document,
            Row,
            Piece,
            f => f with { Shown = Shown },
            b => b with { Shown = Shown ?? Visibility.Everywhere },
            r => r with { Shown = Shown ?? Visibility.Everywhere }
        );

    public override Edit Invert(Document before) => this with { Shown = Fills.FindShown(before, Row, Piece) };
}

/// <summary>Says which readers see a block, or a whole row.</summary>
/// <param name="Piece">A block, or the row's own piece.</param>
/// <param name="Condition">Null: as the layer beneath says, of a row of its own everyone.</param>
public sealed record SetCondition(string Row, string Piece, Condition? Condition) : Edit
{
    public override string Target => $"{Row}/{Piece}/condition";

    public override Document Apply(Document document)
    {
        Documents.Condition.Check(Condition, Target);
        return Fills.Change(
            document,
            Row,
            Piece,
            f => f with { Condition = Condition },
            b => b with { Condition = Condition },
            r => r with { Condition = Condition }
        );
    }

    public override Edit Invert(Document before) => this with { Condition = Fills.FindCondition(before, Row, Piece) };
}

/// <summary>
/// Sets what the inbox shows: subject, preheader, senderName or senderAddress; in a template, what a new email starts with.
/// </summary>
public sealed record SetDetail(string Field, string Value) : Edit
{
    public override string Target => $"details/{Field}";

    public override Document Apply(Document document) =>
        document switch
        {
            Email email => email with { Details = email.Details.With(Field, Value) },
            Template template => template with { Details = template.Details.With(Field, Value) },
            _ => throw new StructureException("Emails and templates have details."),
        };

    public override Edit Invert(Document before) =>
        new SetDetail(
            Field,
            (
                before switch
                {
                    Email email => email.Details.Get(Field),
                    Template template => template.Details.Get(Field),
                    _ => null,
                }
            ) ?? throw new StructureException($"There is no detail \"{Field}\".")
        );
}

/// <summary>Reading and changing what a document says of a piece, wherever its row stands.</summary>
internal static class Fills
{
    /// <param name="fill">For a row by reference.</param>
    /// <param name="block">For a block of an own row.</param>
    /// <param name="row">For an own row itself; null: the change is not for rows.</param>
    public static Document Change(
        Document document,
        string row,
        string piece,
        Func<PieceFill, PieceFill> fill,
        Func<Block, Block> block,
        Func<Row, Row>? ofRow = null
    ) =>
        RowAccess.Change(document, row, placed =>
            placed.Own is { } own
                ? placed with
                {
                    Own = own with
                    {
                        Row =
                            piece == own.Row.Id && ofRow is not null
                                ? ofRow(own.Row)
                                : RowAccess.Replace(own.Row, block(RowAccess.FindBlock(own.Row, piece).Block)),
                    },
                }
                : placed with
                {
                    Fills = Change(placed.Fills, piece, fill),
                }
        );

    public static FieldValue? FindContent(Document document, string row, string piece, string field) =>
        RowAccess.Find(document, row) switch
        {
            null => null,
            { Own: { } own } => RowAccess.FindBlock(own.Row, piece).Block.Content.GetValueOrDefault(field),
            var placed => placed.Fills.GetValueOrDefault(piece)?.Content.GetValueOrDefault(field),
        };

    public static string? FindLook(Document document, string row, string piece, string property) =>
        RowAccess.Find(document, row) switch
        {
            null => null,
            { Own: { } own } => (piece == own.Row.Id ? own.Row.Look : RowAccess.FindBlock(own.Row, piece).Block.Look).GetValueOrDefault(
                property
            ),
            var placed => placed.Fills.GetValueOrDefault(piece)?.Look.GetValueOrDefault(property),
        };

    public static Visibility? FindShown(Document document, string row, string piece) =>
        RowAccess.Find(document, row) switch
        {
            null => null,
            { Own: { } own } => piece == own.Row.Id ? own.Row.Shown : RowAccess.FindBlock(own.Row, piece).Block.Shown,
            var placed => placed.Fills.GetValueOrDefault(piece)?.Shown,
        };

    public static Condition? FindCondition(Document document, string row, string piece) =>
        RowAccess.Find(document, row) switch
        {
            null => null,
            { Own: { } own } => piece == own.Row.Id ? own.Row.Condition : RowAccess.FindBlock(own.Row, piece).Block.Condition,
            var placed => placed.Fills.GetValueOrDefault(piece)?.Condition,
        };

    public static StructureException NothingBeneath(string piece) =>
        new("This row is its own: there is nothing beneath it to go back to.", piece);

    // A piece with nothing left to say is taken out, so that an inverse restores the very same tree.
    private static ImmutableSortedDictionary<string, PieceFill> Change(
        ImmutableSortedDictionary<string, PieceFill> fills,
        string piece,
        Func<PieceFill, PieceFill> change
    )
    {
        var fill = change(fills.GetValueOrDefault(piece, new PieceFill()));
        return fill.IsEmpty ? fills.Remove(piece) : fills.SetItem(piece, fill);
    }
}
