using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Edits;

/// <summary>Puts a saved row into a zone.</summary>
/// <param name="Index">Place in the zone, from 0 to the number of rows there.</param>
public sealed record InsertRow(string Zone, int Index, PlacedRow Row) : Edit
{
    public override string? Target => null;

    public override Document Apply(Document document)
    {
        var email = Expect<Email>(document);
        if (email.FindInZones(Row.Id) is not null)
        {
            throw new StructureException($"Row {Row.Id} is in the email already.", Row.Id);
        }

        return ZoneRows.Insert(email, Zone, Index, Row);
    }

    public override Edit Invert(Document before) => new RemoveRow(Row.Id);
}

/// <summary>Takes a row out of its zone.</summary>
public sealed record RemoveRow(string Row) : Edit
{
    public override string? Target => null;

    public override Document Apply(Document document)
    {
        var email = Expect<Email>(document);
        return ZoneRows.Take(email, ZoneRows.Find(email, Row));
    }

    public override Edit Invert(Document before)
    {
        var (zone, index, row) = ZoneRows.Find(Expect<Email>(before), Row);
        return new InsertRow(zone, index, row);
    }
}

/// <summary>Moves a row within its zone or to another.</summary>
/// <param name="Index">Place in the zone once the row is taken out of where it was.</param>
public sealed record MoveRow(string Row, string Zone, int Index) : Edit
{
    public override string? Target => null;

    public override Document Apply(Document document)
    {
        var email = Expect<Email>(document);
        var found = ZoneRows.Find(email, Row);
        return ZoneRows.Insert(ZoneRows.Take(email, found), Zone, Index, found.Row);
    }

    public override Edit Invert(Document before)
    {
        var (zone, index, _) = ZoneRows.Find(Expect<Email>(before), Row);
        return new MoveRow(Row, zone, index);
    }
}

/// <summary>Lets two rows change places.</summary>
public sealed record SwapRows(string First, string Second) : Edit
{
    public override string? Target => null;

    public override Document Apply(Document document)
    {
        var email = Expect<Email>(document);
        var (a, b) = (ZoneRows.Find(email, First), ZoneRows.Find(email, Second));
        var zones = email.Zones.SetItem(a.Zone, email.Zones[a.Zone].SetItem(a.Index, b.Row));
        return email with { Zones = zones.SetItem(b.Zone, zones[b.Zone].SetItem(b.Index, a.Row)) };
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
        var email = Expect<Email>(document);
        if (email.FindInZones(Copy) is not null)
        {
            throw new StructureException($"Row {Copy} is in the email already.", Copy);
        }

        var (zone, index, row) = ZoneRows.Find(email, Row);
        return ZoneRows.Insert(email, zone, index + 1, row with { Id = Copy });
    }

    public override Edit Invert(Document before) => new RemoveRow(Copy);
}

internal static class ZoneRows
{
    public static (string Zone, int Index, PlacedRow Row) Find(Email email, string row) => email.FindInZones(row)
        ?? throw new StructureException($"Row {row} is not in any zone of the email; it may have been removed.", row);

    public static Email Insert(Email email, string zone, int index, PlacedRow row)
    {
        var rows = email.Zones.GetValueOrDefault(zone, []);
        return index >= 0 && index <= rows.Length
            ? email with { Zones = email.Zones.SetItem(zone, rows.Insert(index, row)) }
            : throw new StructureException($"Place {index} is outside zone {zone}, which holds {rows.Length} rows.", zone);
    }

    // An emptied zone stays in the email: it is then empty on purpose, and an inverse finds it as it was.
    public static Email Take(Email email, (string Zone, int Index, PlacedRow Row) found) =>
        email with { Zones = email.Zones.SetItem(found.Zone, email.Zones[found.Zone].RemoveAt(found.Index)) };
}
