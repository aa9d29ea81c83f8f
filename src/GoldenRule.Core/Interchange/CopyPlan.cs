using System.Collections.Immutable;
using GoldenRule.Core.Edits;

namespace GoldenRule.Core.Interchange;

public enum CopyFate
{
    Same,
    Changed,

    /// <summary>It changes, and is longer than its limit: it has to be cut on the desk.</summary>
    Over,

    Refused,
}

/// <summary>What becomes of one place.</summary>
/// <param name="Why">Why it is refused or over. Null: it is not.</param>
public sealed record CopyChange(string Key, string Where, string Now, string New, CopyFate Fate, string? Why = null);

/// <summary>What words from elsewhere would do to an email, to be looked at before it is done.</summary>
/// <param name="Edits">All that is not refused, as one step.</param>
/// <param name="Left">Copy that found no place.</param>
public sealed record CopyPlan(ImmutableArray<CopyChange> Changes, ImmutableArray<Edit> Edits, ImmutableArray<string> Left);
