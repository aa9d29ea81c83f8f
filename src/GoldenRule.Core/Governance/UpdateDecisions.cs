using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Updates;

namespace GoldenRule.Core.Governance;

/// <summary>Who may take an update, and what it may set aside.</summary>
internal static class UpdateDecisions
{
    public static Decision TakeUpdate(Person person, OpenDocument.OfEmail document, TakeUpdate edit)
    {
        var email = document.Email;
        if (edit.Template < email.TemplateRelease || !edit.Back.IsEmpty)
        {
            return Refusals.Refuse(Rules.Update, null, "An update leads to a newer release. To go back, take it back.");
        }

        if (document.Masters.FindTemplate(email.Template, edit.Template) is null)
        {
            return Refusals.Refuse(Rules.Unknown, null, $"The template has no release {edit.Template}.");
        }

        foreach (var (row, release) in edit.Rows)
        {
            if (document.Order.Find(row) is not { Zone: not null, Placed: { Master: { } master, Own: null } placed })
            {
                return Refusals.Refuse(Rules.Unknown, row, "That row is no saved row in a zone of the email; it may have been removed.");
            }

            if (release < placed.Release || document.Masters.FindRow(master, release) is null)
            {
                return Refusals.Refuse(Rules.Update, row, $"\"{document.Order.Find(row)!.Name}\" has no newer release {release}.");
            }
        }

        // What finds no place has to be set aside; more than that only by whoever may clear it.
        var needed = Rebase
            .Plan(email, edit.Template, edit.Rows, document.Masters, PictureCatalog.Empty)
            .Aside.Values.Select(Place)
            .ToHashSet();
        foreach (var aside in edit.Aside.Values)
        {
            if (!Stands(email, aside))
            {
                return Refusals.Refuse(Rules.Update, aside.Row, "The email has changed since. Look at the update again.");
            }

            if (!needed.Remove(Place(aside)) && MayClear(person, document, aside) is Decision.Refused refused)
            {
                return refused;
            }
        }

        return needed.Count == 0
            ? Decision.Yes
            : Refusals.Refuse(Rules.Update, needed.First().Row, "The email has changed since. Look at the update again.");
    }

    /// <summary>What was taken is taken back: to where the email came from, with what was set aside in its place again.</summary>
    public static Decision TakeBack(OpenDocument.OfEmail document, TakeUpdate edit) =>
        document.Masters.FindTemplate(document.Email.Template, edit.Template) is null
            ? Refusals.Refuse(Rules.Unknown, null, $"The template has no release {edit.Template}.")
            : Decision.Yes;

    private static (string Row, string Piece, string? Field, string? Property) Place(UnplacedContent aside) =>
        (aside.Row, aside.Piece, aside.Field, aside.Property);

    private static bool Stands(Email email, UnplacedContent aside)
    {
        if (aside.Piece.Length == 0)
        {
            return email.Zones.TryGetValue(aside.Row, out var rows) && DocumentJson.Same(rows, aside.Rows);
        }

        var fills = email.FindInZones(aside.Row) is { Row: var placed }
            ? placed.Fills
            : email.Fills.GetValueOrDefault(aside.Row, ImmutableSortedDictionary<string, PieceFill>.Empty);
        return fills.GetValueOrDefault(aside.Piece) is { } fill
            && aside switch
            {
                { Field: { } field, Value: { } value } => fill.Content.GetValueOrDefault(field) is { } standing
                    && DocumentJson.Same(standing, value),
                { Property: { } property, Choice: { } choice } => fill.Look.GetValueOrDefault(property) == choice,
                { Condition: { } condition } => DocumentJson.Same(fill.Condition, condition),
                _ => aside.Shown is not null && fill.Shown == aside.Shown,
            };
    }

    private static Decision MayClear(Person person, OpenDocument.OfEmail document, UnplacedContent aside) =>
        aside switch
        {
            { Field: { } field } => PieceDecisions.Content(person, document, aside.Row, aside.Piece, field, null),
            { Property: { } property } => PieceDecisions.Look(person, document, aside.Row, aside.Piece, property, null),
            { Shown: not null } => PieceDecisions.Shown(person, document, aside.Row, aside.Piece),
            { Condition: not null } => PieceDecisions.Condition(person, document, aside.Row, aside.Piece, null),
            _ => Refusals.Refuse(Rules.LockArrangement, aside.Row, "The template still has the place these rows stand in."),
        };
}
