namespace GoldenRule.Core.Documents;

/// <summary>Anything in a document that can be named, locked and found again: a row, a column, a block, a zone.</summary>
public abstract record Piece
{
    /// <summary>Stable within its master: fills are keyed by it, so it never changes once released.</summary>
    public required string Id { get; init; }

    /// <summary>What people call the piece, "Headline" for example. Null: its kind's own label is shown.</summary>
    public string? Name { get; init; }

    public Locks Locks { get; init; } = Locks.Unset;
}
