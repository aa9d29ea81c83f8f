using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Edits;

/// <summary>Gives a field of a piece a value.</summary>
/// <param name="Row">Id of the row where it stands in the email.</param>
public sealed record SetFill(string Row, string Piece, string Field, FieldValue Value) : Edit
{
    public override string Target => $"{Row}/{Piece}/{Field}";

    public override Document Apply(Document document) =>
        Fills.Change(Expect<Email>(document), Row, Piece, f => f with { Content = f.Content.SetItem(Field, Value) });

    public override Edit Invert(Document before) => Fills.FindContent(Expect<Email>(before), Row, Piece, Field) is { } value
        ? new SetFill(Row, Piece, Field, value)
        : new ClearFill(Row, Piece, Field);
}

/// <summary>Takes a fill out, so that the master's default shows again.</summary>
public sealed record ClearFill(string Row, string Piece, string Field) : Edit
{
    public override string Target => $"{Row}/{Piece}/{Field}";

    public override Document Apply(Document document) =>
        Fills.Change(Expect<Email>(document), Row, Piece, f => f with { Content = f.Content.Remove(Field) });

    public override Edit Invert(Document before) => Fills.FindContent(Expect<Email>(before), Row, Piece, Field) is { } value
        ? new SetFill(Row, Piece, Field, value)
        : this;
}

/// <summary>Chooses among the looks offered for a piece.</summary>
public sealed record SetLook(string Row, string Piece, string Property, string Value) : Edit
{
    public override string Target => $"{Row}/{Piece}/look/{Property}";

    public override Document Apply(Document document) =>
        Fills.Change(Expect<Email>(document), Row, Piece, f => f with { Look = f.Look.SetItem(Property, Value) });

    public override Edit Invert(Document before) => Fills.FindLook(Expect<Email>(before), Row, Piece, Property) is { } value
        ? new SetLook(Row, Piece, Property, value)
        : new ClearLook(Row, Piece, Property);
}

/// <summary>Takes a chosen look back to the master's.</summary>
public sealed record ClearLook(string Row, string Piece, string Property) : Edit
{
    public override string Target => $"{Row}/{Piece}/look/{Property}";

    public override Document Apply(Document document) =>
        Fills.Change(Expect<Email>(document), Row, Piece, f => f with { Look = f.Look.Remove(Property) });

    public override Edit Invert(Document before) => Fills.FindLook(Expect<Email>(before), Row, Piece, Property) is { } value
        ? new SetLook(Row, Piece, Property, value)
        : this;
}

/// <summary>Sets what the inbox shows: subject, preheader, senderName or senderAddress.</summary>
public sealed record SetDetail(string Field, string Value) : Edit
{
    public override string Target => $"details/{Field}";

    public override Document Apply(Document document)
    {
        var email = Expect<Email>(document);
        return email with { Details = email.Details.With(Field, Value) };
    }

    public override Edit Invert(Document before) => new SetDetail(
        Field,
        Expect<Email>(before).Details.Get(Field) ?? throw new StructureException($"An email has no detail \"{Field}\"."));
}

/// <summary>Reading and changing the fills of an email, wherever the row stands.</summary>
internal static class Fills
{
    public static Email Change(Email email, string row, string piece, Func<PieceFill, PieceFill> change)
    {
        if (email.FindInZones(row) is { } found)
        {
            var placed = found.Row with { Fills = Change(found.Row.Fills, piece, change) };
            return email with { Zones = email.Zones.SetItem(found.Zone, email.Zones[found.Zone].SetItem(found.Index, placed)) };
        }

        var fills = Change(Of(email, row), piece, change);
        return email with { Fills = fills.IsEmpty ? email.Fills.Remove(row) : email.Fills.SetItem(row, fills) };
    }

    public static FieldValue? FindContent(Email email, string row, string piece, string field) =>
        Of(email, row).GetValueOrDefault(piece)?.Content.GetValueOrDefault(field);

    public static string? FindLook(Email email, string row, string piece, string property) =>
        Of(email, row).GetValueOrDefault(piece)?.Look.GetValueOrDefault(property);

    private static ImmutableSortedDictionary<string, PieceFill> Of(Email email, string row) =>
        email.FindInZones(row)?.Row.Fills ?? email.Fills.GetValueOrDefault(row, ImmutableSortedDictionary<string, PieceFill>.Empty);

    // A piece with nothing left to say is taken out, so that an inverse restores the very same tree.
    private static ImmutableSortedDictionary<string, PieceFill> Change(
        ImmutableSortedDictionary<string, PieceFill> fills, string piece, Func<PieceFill, PieceFill> change)
    {
        var fill = change(fills.GetValueOrDefault(piece, new PieceFill()));
        return fill.IsEmpty ? fills.Remove(piece) : fills.SetItem(piece, fill);
    }
}
