using System.Collections.Immutable;

namespace GoldenRule.Core.Reviews;

public enum SeenChangeKind
{
    /// <summary>Words of a field, or of what the inbox shows.</summary>
    Words,
    Picture,
    Link,

    /// <summary>Anything else that a field holds: a moment, a switch, code.</summary>
    Value,
    Look,

    /// <summary>Which readers, or which screens, see it.</summary>
    Readers,
    RowAdded,
    RowRemoved,
    RowMoved,
    BlockAdded,
    BlockRemoved,
    BlockMoved,

    /// <summary>Plain text that was written by hand.</summary>
    PlainText,
    Files,

    /// <summary>A snippet comes to something else.</summary>
    Snippet,

    /// <summary>The house style, or a row drawn by it, looks otherwise.</summary>
    HouseStyle,

    /// <summary>A newer release of the template or of a saved row was taken.</summary>
    Release,
}

/// <summary>One thing that is not as it was.</summary>
/// <param name="Row">Id; empty: the whole email, or what the inbox shows.</param>
/// <param name="Block">Id; empty: the row as a whole.</param>
/// <param name="Field">Name; empty: none in particular.</param>
/// <param name="Name">What it is about, in words: "Hero, Headline".</param>
/// <param name="Marks">Words before and after; empty: it is not about words.</param>
/// <param name="Note">In words, what became of it; empty: the marks say it.</param>
/// <param name="ByItself">Nobody changed the email: what it takes by reference did.</param>
public sealed record SeenChange(
    SeenChangeKind Kind,
    string Row,
    string Block,
    string Field,
    string Name,
    ImmutableArray<MarkedWords> Marks,
    string Note,
    bool ByItself
);
