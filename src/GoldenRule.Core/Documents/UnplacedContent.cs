using System.Collections.Immutable;

namespace GoldenRule.Core.Documents;

/// <summary>
/// What an author filled in and what has no place any more since an update was taken: kept, with where it was, until
/// someone uses it elsewhere or puts it away.
/// </summary>
/// <param name="Row">Id of the row it stood in; of rows that stood in a zone, the zone's.</param>
/// <param name="Piece">The block, or the row's own piece; empty for rows.</param>
/// <param name="Where">The place in words: "Story, Headline".</param>
/// <param name="Why">Why it has no place there, as a sentence.</param>
public sealed record UnplacedContent(string Row, string Piece, string Where, string Why)
{
    /// <summary>The field that <see cref="Value"/> was in.</summary>
    public string? Field { get; init; }

    public FieldValue? Value { get; init; }

    /// <summary>The look property that <see cref="Choice"/> was made of.</summary>
    public string? Property { get; init; }

    public string? Choice { get; init; }

    public Visibility? Shown { get; init; }

    public Condition? Condition { get; init; }

    /// <summary>All that stood in a zone that is no more.</summary>
    public ImmutableArray<PlacedRow> Rows { get; init; } = [];
}
