using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Edits;

/// <summary>
/// Points an email at other releases of what it is made from. What finds no place there is set aside, not lost; the
/// inverse puts it back where it was.
/// </summary>
/// <param name="Template">Number of the template's release.</param>
/// <param name="Rows">Release by the id of each saved row in a zone that is taken anew.</param>
/// <param name="Aside">What is set aside, by the key it is kept under.</param>
/// <param name="Back">Keys of what is put back to where it was.</param>
public sealed record TakeUpdate(
    int Template,
    ImmutableSortedDictionary<string, int> Rows,
    ImmutableSortedDictionary<string, UnplacedContent> Aside,
    ImmutableArray<string> Back
) : Edit
{
    public override string Target => "update";

    public override Document Apply(Document document)
    {
        var email = Expect<Email>(document) with { TemplateRelease = Template };
        foreach (var (row, release) in Rows)
        {
            email = (Email)RowAccess.Change(email, row, placed => placed with { Release = release });
        }

        foreach (var key in Back)
        {
            email = PutBack(email, email.Unplaced.GetValueOrDefault(key) ?? throw AsideEdits.Missing(key)) with
            {
                Unplaced = email.Unplaced.Remove(key),
            };
        }

        foreach (var (key, aside) in Aside)
        {
            email = Take(email, aside) with { Unplaced = email.Unplaced.Add(key, aside) };
        }

        return email;
    }

    public override Edit Invert(Document before)
    {
        var email = Expect<Email>(before);
        return new TakeUpdate(
            email.TemplateRelease,
            Rows.Keys.ToImmutableSortedDictionary(
                r => r,
                r =>
                    email.FindInZones(r)?.Row.Release
                    ?? throw new StructureException($"Row {r} is not in any zone of the email; it may have been removed.", r)
            ),
            Back.ToImmutableSortedDictionary(k => k, k => email.Unplaced[k]),
            [.. Aside.Keys]
        );
    }

    private static Email Take(Email email, UnplacedContent aside) =>
        aside switch
        {
            { Field: { } field } => Change(email, aside, f => f with { Content = f.Content.Remove(field) }),
            { Property: { } property } => Change(email, aside, f => f with { Look = f.Look.Remove(property) }),
            { Shown: not null } => Change(email, aside, f => f with { Shown = null }),
            { Condition: not null } => Change(email, aside, f => f with { Condition = null }),
            _ => email with { Zones = email.Zones.Remove(aside.Row) },
        };

    private static Email PutBack(Email email, UnplacedContent aside) =>
        aside switch
        {
            { Field: { } field, Value: { } value } => Change(email, aside, f => f with { Content = f.Content.SetItem(field, value) }),
            { Property: { } property, Choice: { } choice } => Change(email, aside, f => f with { Look = f.Look.SetItem(property, choice) }),
            { Shown: { } shown } => Change(email, aside, f => f with { Shown = shown }),
            { Condition: { } condition } => Change(email, aside, f => f with { Condition = condition }),
            _ => email with { Zones = email.Zones.SetItem(aside.Row, aside.Rows) },
        };

    private static Email Change(Email email, UnplacedContent aside, Func<PieceFill, PieceFill> change) =>
        (Email)
            Fills.Change(email, aside.Row, aside.Piece, change, _ =>
                throw new StructureException("A row of its own follows no release.", aside.Row)
            );
}

/// <summary>Puts away what was set aside: it is wanted no more, or used elsewhere.</summary>
public sealed record DiscardUnplaced(string Key) : Edit
{
    public override string Target => $"aside/{Key}";

    public override Document Apply(Document document) =>
        Expect<Email>(document) is var email && email.Unplaced.ContainsKey(Key)
            ? email with
            {
                Unplaced = email.Unplaced.Remove(Key),
            }
            : throw AsideEdits.Missing(Key);

    public override Edit Invert(Document before) =>
        new RestoreUnplaced(Key, Expect<Email>(before).Unplaced.GetValueOrDefault(Key) ?? throw AsideEdits.Missing(Key));
}

/// <summary>Takes a putting away back.</summary>
public sealed record RestoreUnplaced(string Key, UnplacedContent Aside) : Edit
{
    public override string Target => $"aside/{Key}";

    public override Document Apply(Document document) =>
        Expect<Email>(document) is var email ? email with { Unplaced = email.Unplaced.SetItem(Key, Aside) } : document;

    public override Edit Invert(Document before) => new DiscardUnplaced(Key);
}

internal static class AsideEdits
{
    public static StructureException Missing(string key) => new("That text is not there any more; someone has discarded it.", key);
}
