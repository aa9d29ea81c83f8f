using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace GoldenRule.Core.Documents;

/// <summary>The band of the house style a row lies on.</summary>
public enum Surface
{
    Content,
    Tint,
    Strong,
}

/// <summary>On which screens a piece is shown.</summary>
public enum Visibility
{
    Everywhere,
    PhoneOnly,
    DesktopOnly,
}

/// <summary>What the columns of a row do on a phone.</summary>
public enum PhoneColumns
{
    /// <summary>One above the other, the first on top.</summary>
    Stack,

    /// <summary>One above the other, the last on top.</summary>
    StackReversed,

    /// <summary>They stay side by side.</summary>
    Keep,
}

/// <summary>Height above and below what stands in a row, in steps of the house style's own.</summary>
public enum RowSpace
{
    Usual,
    None,
    Tight,
    Roomy,
}

/// <summary>A horizontal band of one to four columns.</summary>
public sealed record Row : Piece
{
    /// <summary>See <see cref="RowLook"/>; what is left out has its default.</summary>
    public ImmutableSortedDictionary<string, string> Look { get; init; } = ImmutableSortedDictionary<string, string>.Empty;

    /// <summary>Per look property, what an author may choose among where look is open.</summary>
    public ImmutableSortedDictionary<string, ImmutableArray<string>> Offers { get; init; } =
        ImmutableSortedDictionary<string, ImmutableArray<string>>.Empty;

    /// <summary>
    /// A picture behind the row, as in a picture field; null: none. The colour of the row's surface is always there
    /// beneath it, for clients that show no background pictures.
    /// </summary>
    public string? Background { get; init; }

    public Visibility Shown { get; init; }

    /// <summary>Which readers see it. Null: everyone.</summary>
    public Condition? Condition { get; init; }

    public ImmutableArray<Column> Columns { get; init; } = [];

    [JsonIgnore]
    public Surface Surface
    {
        get => RowLook.Surface.Of<Surface>(Look);
        init => Look = RowLook.Surface.With(Look, value);
    }

    /// <summary>True: blocks reach the edges of the content area, as a hero picture does.</summary>
    [JsonIgnore]
    public bool FullWidth
    {
        get => RowLook.Edges.Value(Look) == "edge-to-edge";
        init => Look = Look.SetItem(RowLook.Edges.Name, value ? "edge-to-edge" : "inset");
    }

    [JsonIgnore]
    public IEnumerable<Block> Blocks => Columns.SelectMany(c => c.Blocks);

    public Column? FindColumn(string id) => Columns.FirstOrDefault(c => c.Id == id);
}

/// <summary>A column of a row, as wide as its share of the row's parts: 1 and 2 are a third and two thirds.</summary>
public sealed record Column : Piece
{
    public int Parts { get; init; } = 1;

    public ImmutableArray<Block> Blocks { get; init; } = [];
}

/// <summary>The look properties of a row.</summary>
public static class RowLook
{
    public static LookProperty Surface { get; } = new("surface", "Background", ["content", "tint", "strong"]);

    public static LookProperty Edges { get; } = new("edges", "Blocks", ["inset", "edge-to-edge"]);

    /// <summary>Whether the background ends with the content area or runs across the page.</summary>
    public static LookProperty Across { get; } = new("across", "Background runs", ["content", "page"]);

    public static LookProperty Space { get; } = new("space", "Space above and below", ["usual", "none", "tight", "roomy"]);

    public static LookProperty Phone { get; } = new("phone", "Columns on the phone", ["stack", "stack-reversed", "keep"]);

    public static ImmutableArray<LookProperty> All { get; } = [Surface, Edges, Across, Space, Phone];

    /// <exception cref="StructureException">A row has no such look.</exception>
    public static void Check(string name, string value, string place)
    {
        if (All.FirstOrDefault(p => p.Name == name)?.Choices.Contains(value) != true)
        {
            throw new StructureException($"\"{value}\" is not a choice for {name} of a row.", place);
        }
    }

    public static string Value(this LookProperty property, IReadOnlyDictionary<string, string> look) =>
        look.GetValueOrDefault(property.Name, property.Default);

    public static T Of<T>(this LookProperty property, ImmutableSortedDictionary<string, string> look)
        where T : struct, Enum => Enum.Parse<T>(property.Value(look).Replace("-", "", StringComparison.Ordinal), ignoreCase: true);

    internal static ImmutableSortedDictionary<string, string> With<T>(
        this LookProperty property,
        ImmutableSortedDictionary<string, string> look,
        T value
    )
        where T : struct, Enum =>
        look.SetItem(property.Name, property.Choices[Convert.ToInt32(value, System.Globalization.CultureInfo.InvariantCulture)]);
}
