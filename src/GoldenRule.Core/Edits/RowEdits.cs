using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Edits;

/// <summary>Puts a row into a zone of an email, or into a template.</summary>
/// <param name="Zone">Null: the running order of a template itself.</param>
/// <param name="Index">Place there, from 0 to the number of items; -1: at its end.</param>
public sealed record InsertRow(string? Zone, int Index, PlacedRow Row) : Edit
{
    public override string? Target => null;

    public override Document Apply(Document document)
    {
        Ids.RefuseKnown(document, Row.Id);
        return ItemAccess.Insert(document, Zone, Index, Row);
    }

    public override Edit Invert(Document before) => new RemoveRow(Row.Id);
}

/// <summary>Takes a row out of where it stands.</summary>
public sealed record RemoveRow(string Row) : Edit
{
    public override string? Target => null;

    private protected override string? Whole => Row;

    public override Document Apply(Document document) => ItemAccess.Without(document, Find(document));

    public override Edit Invert(Document before)
    {
        var (zone, index, item) = Find(before);
        return new InsertRow(zone, index, (PlacedRow)item);
    }

    private (string?, int, OrderItem) Find(Document document) =>
        ItemAccess.Find(document, Row) is var found && found.Item is PlacedRow
            ? found
            : throw new StructureException($"{Row} is a zone, not a row.", Row);
}

/// <summary>Moves a row, or in a template also a zone, within its list or to another.</summary>
/// <param name="Zone">Null: the running order of a template itself.</param>
/// <param name="Index">Place there once the row is taken out of where it was.</param>
public sealed record MoveRow(string Row, string? Zone, int Index) : Edit
{
    public override string? Target => null;

    public override Document Apply(Document document)
    {
        var found = ItemAccess.Find(document, Row);
        return ItemAccess.Insert(ItemAccess.Without(document, found), Zone, Index, found.Item);
    }

    public override Edit Invert(Document before)
    {
        var (zone, index, _) = ItemAccess.Find(before, Row);
        return new MoveRow(Row, zone, index);
    }
}

/// <summary>Lets two rows change places.</summary>
public sealed record SwapRows(string First, string Second) : Edit
{
    public override string? Target => null;

    public override Document Apply(Document document)
    {
        var (a, b) = (ItemAccess.Find(document, First), ItemAccess.Find(document, Second));
        if (a.Item is Zone || b.Item is Zone)
        {
            throw new StructureException("Two rows change places; a zone is moved.", a.Item is Zone ? First : Second);
        }

        return ItemAccess.Put(ItemAccess.Put(document, a, b.Item), b, a.Item);
    }

    public override Edit Invert(Document before) => this;
}

/// <summary>Puts a copy of a row right after it.</summary>
/// <param name="Copy">Id of the copy.</param>
public sealed record DuplicateRow(string Row, string Copy) : Edit
{
    public override string? Target => null;

    public override Document Apply(Document document)
    {
        Ids.RefuseKnown(document, Copy);
        var (zone, index, item) = ItemAccess.Find(document, Row);
        return item is PlacedRow row
            ? ItemAccess.Insert(document, zone, index + 1, row with { Id = Copy })
            : throw new StructureException($"{Row} is a zone, not a row.", Row);
    }

    public override Edit Invert(Document before) => new RemoveRow(Copy);
}

/// <summary>Turns a saved row that is placed here into a row of its own, as it stands with all that is filled in.</summary>
/// <param name="Own">The row with its fills laid on it.</param>
public sealed record DetachRow(string Row, SavedRow Own) : Edit
{
    public override string? Target => null;

    public override Document Apply(Document document) =>
        RowAccess.Change(document, Row, placed =>
            placed.Own is null
                ? placed with
                {
                    Own = Own,
                    Fills = placed.Fills.Clear(),
                    Rules = placed.Rules.Clear(),
                }
                : throw new StructureException("The row is detached already.", Row)
        );

    public override Edit Invert(Document before) => new ReattachRow((PlacedRow)ItemAccess.Find(before, Row).Item);
}

/// <summary>Takes a detaching back.</summary>
public sealed record ReattachRow(PlacedRow Placed) : Edit
{
    public override string? Target => null;

    private protected override string? Whole => Placed.Id;

    public override Document Apply(Document document) => ItemAccess.Put(document, ItemAccess.Find(document, Placed.Id), Placed);

    public override Edit Invert(Document before) => new ReattachRow((PlacedRow)ItemAccess.Find(before, Placed.Id).Item);
}

internal static class Ids
{
    public static void RefuseKnown(Document document, string id)
    {
        if (ItemAccess.Items(document).Any(i => i.Item.Id == id))
        {
            throw new StructureException($"{id} is here already: a row stands in one place only.", id);
        }
    }
}
