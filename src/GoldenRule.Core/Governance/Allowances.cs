using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;

namespace GoldenRule.Core.Governance;

/// <summary>Whether a person may do one thing, and if not, why and who may.</summary>
public sealed record Allowance(bool Allowed, string? Rule, string? Reason)
{
    public static Allowance From(Decision decision) =>
        decision is Decision.Refused refused ? new Allowance(false, refused.Rule, refused.Reason) : new Allowance(true, null, null);
}

/// <summary>What a person may do to one block.</summary>
/// <param name="Content">Say what it says, on which screens it is shown and to whom.</param>
/// <param name="Arrange">Move, swap, duplicate or take it out.</param>
public sealed record BlockAllowances(string Block, Allowance Content, Allowance Look, Allowance Arrange);

/// <summary>What a person may do to one row and to its blocks.</summary>
/// <param name="Shape">Add pieces to it and lay out its columns.</param>
/// <param name="Look">Choose among the row's own looks.</param>
/// <param name="Shown">Say on which screens it is shown, and by any condition to whom.</param>
/// <param name="Audience">Show it to one of the audiences that a lead has named.</param>
public sealed record RowAllowances(
    Allowance Move,
    Allowance Remove,
    Allowance Duplicate,
    Allowance Detach,
    Allowance Shape,
    Allowance Look,
    Allowance Shown,
    Allowance Audience,
    ImmutableArray<BlockAllowances> Blocks
);

/// <summary>
/// The answers of <see cref="Governor.Decide"/> in advance. Each is made by asking about the edit itself, so a
/// screen can never show what the server would not do.
/// </summary>
public static class Allowances
{
    private const string Probe = "\u0000";

    public static RowAllowances ForRow(Person person, OpenDocument.OfRows document, OrderedRow row)
    {
        Allowance Ask(Edit edit) => Allowance.From(Governor.Decide(person, edit, document));
        var here = document.As(person);

        return new RowAllowances(
            Ask(new MoveRow(row.Id, row.Zone?.Id ?? (document is OpenDocument.OfEmail ? "" : null), 0)),
            Ask(new RemoveRow(row.Id)),
            Ask(new DuplicateRow(row.Id, Probe)),
            Allowance.From(
                (Governor.MayEdit(here, document), document) switch
                {
                    (Decision.Refused refused, _) => refused,
                    (_, OpenDocument.OfSavedRow) => new Decision.Refused(Rules.WrongType, row.Id, "This is the saved row itself."),
                    _ => RowDecisions.Detaching(here, document, row),
                }
            ),
            Ask(new SetLayout(row.Id, [.. row.Row.Columns.Select(c => new ColumnShare(c.Id, c.Parts))])),
            Ask(new ClearLook(row.Id, row.Row.Id, RowLook.Surface.Name)),
            Ask(new SetShown(row.Id, row.Row.Id, null)),
            Ask(new SetCondition(row.Id, row.Row.Id, Condition.Everyone)),
            [
                .. row.Row.Blocks.Select(block => new BlockAllowances(
                    block.Id,
                    Ask(new SetShown(row.Id, block.Id, null)),
                    block.Look.IsEmpty ? new Allowance(true, null, null) : Ask(new ClearLook(row.Id, block.Id, block.Look.Keys.First())),
                    Ask(new RemoveBlock(row.Id, block.Id))
                )),
            ]
        );
    }

    /// <summary>Whether anything may be added to a zone, or in a template to the running order itself.</summary>
    public static Allowance OfZone(Person person, OpenDocument.OfRows document, Zone? zone) =>
        Allowance.From(RowDecisions.Adding(document.As(person), document, zone));
}
