using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;

namespace GoldenRule.Core.Governance;

/// <summary>Whether a person may do one thing, and if not, why and who may.</summary>
public sealed record Allowance(bool Allowed, string? Rule, string? Reason)
{
    public static Allowance From(Decision decision) => decision is Decision.Refused refused
        ? new Allowance(false, refused.Rule, refused.Reason)
        : new Allowance(true, null, null);
}

/// <summary>What a person may do to one block.</summary>
public sealed record BlockAllowances(string Block, Allowance Content, Allowance Look);

/// <summary>What a person may do to one row of an email and to its blocks.</summary>
public sealed record RowAllowances(Allowance Move, Allowance Remove, Allowance Duplicate, ImmutableArray<BlockAllowances> Blocks);

/// <summary>
/// The answers of <see cref="Governor.Decide"/> in advance. Each is made by asking about the edit itself, so a
/// screen can never show what the server would not do.
/// </summary>
public static class Allowances
{
    private const string Probe = "\u0000";

    public static RowAllowances Of(Person person, OpenDocument.OfEmail document, OrderedRow row)
    {
        Allowance Ask(Edit edit) => Allowance.From(Governor.Decide(person, edit, document));

        return new RowAllowances(
            Ask(new MoveRow(row.Id, row.Zone?.Id ?? "", 0)),
            Ask(new RemoveRow(row.Id)),
            Ask(new DuplicateRow(row.Id, Probe)),
            [
                .. row.Master.Row.Blocks.Select(block => new BlockAllowances(
                    block.Id,
                    block.Content.IsEmpty ? new Allowance(true, null, null) : Ask(new ClearFill(row.Id, block.Id, block.Content.Keys.First())),
                    block.Look.IsEmpty ? new Allowance(true, null, null) : Ask(new ClearLook(row.Id, block.Id, block.Look.Keys.First())))),
            ]);
    }

    /// <summary>Whether anything may be added to a zone.</summary>
    public static Allowance OfZone(Person person, OpenDocument.OfEmail document, Zone zone) =>
        Allowance.From(Governor.DecideAdding(person, document, zone));
}
