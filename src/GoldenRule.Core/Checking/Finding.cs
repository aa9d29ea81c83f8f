using System.Collections.Immutable;
using GoldenRule.Core.Edits;

namespace GoldenRule.Core.Checking;

public enum Severity
{
    Advise,
    Warn,

    /// <summary>Blocks hand-off.</summary>
    Stop,
}

/// <summary>Where in the email a finding is; null all through: the whole email.</summary>
/// <param name="Row">Row id, or "details" for what the inbox shows.</param>
/// <param name="Field">Field of the piece, or of the details.</param>
public sealed record Place(string? Row = null, string? Piece = null, string? Field = null)
{
    public static Place Whole { get; } = new();

    public static Place Detail(string field) => new("details", null, field);
}

/// <summary>A way to mend a finding in one step.</summary>
public sealed record Remedy(string Label, ImmutableArray<Edit> Edits);

/// <summary>Some readers, and one of them.</summary>
/// <param name="Who">As it follows "readers for whom".</param>
/// <param name="Example">What is known of a made-up one: values by field, as they are kept.</param>
public sealed record FoundFor(string Who, ImmutableSortedDictionary<string, string> Example);

/// <summary>What a check reports.</summary>
/// <param name="Check">Stable name of the check.</param>
/// <param name="Message">One line for whoever is to mend it.</param>
/// <param name="Evidence">The measured figure, with its unit. Null: there is nothing to measure.</param>
public sealed record Finding(string Check, Severity Severity, Place Place, string Message, string? Evidence, Remedy? Remedy = null)
{
    /// <summary>True: nothing is wrong yet, something is still to be filled in. It blocks hand-off at its severity all the same.</summary>
    public bool ToFill { get; init; }

    /// <summary>Whose email it is found in. Null: everyone's.</summary>
    public FoundFor? Readers { get; init; }

    /// <summary>Whether both tell of the same thing in the same words.</summary>
    public bool IsSameAs(Finding other) =>
        (Check, Severity, Place, Message, Evidence, ToFill, Readers?.Who)
        == (other.Check, other.Severity, other.Place, other.Message, other.Evidence, other.ToFill, other.Readers?.Who);
}
