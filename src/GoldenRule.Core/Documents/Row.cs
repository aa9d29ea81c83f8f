using System.Collections.Immutable;

namespace GoldenRule.Core.Documents;

/// <summary>What a row is for in an email.</summary>
public enum RowKind
{
    Header,
    Hero,
    Main,
    Secondary,
    Supporting,
    Advert,
    SignOff,
    Footer,
    Legal,
}

/// <summary>The band of the house style a row lies on.</summary>
public enum Surface
{
    Content,
    Tint,
    Strong,
}

/// <summary>A horizontal band of one to four columns.</summary>
public sealed record Row : Piece
{
    public Surface Surface { get; init; }

    /// <summary>True: blocks reach the edges of the content area, as a hero picture does.</summary>
    public bool FullWidth { get; init; }

    public ImmutableArray<Column> Columns { get; init; } = [];

    [System.Text.Json.Serialization.JsonIgnore]
    public IEnumerable<Block> Blocks => Columns.SelectMany(c => c.Blocks);
}

/// <summary>A column of a row, as wide as its share of the row's parts: 1 and 2 are a third and two thirds.</summary>
public sealed record Column : Piece
{
    public int Parts { get; init; } = 1;

    public ImmutableArray<Block> Blocks { get; init; } = [];
}
