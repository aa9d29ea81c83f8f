using System.Collections.Immutable;

namespace GoldenRule.Core.HouseStyles;

/// <summary>A property of a global style, with what holds where no house style speaks.</summary>
/// <param name="Choices">What it may be, where it is a choice; empty: anything of its type.</param>
/// <param name="SameAs">Style and property whose value holds where no house style speaks; null: the fallback does.</param>
public sealed record StyleProperty(
    string Name,
    string Label,
    VariableType Type,
    string Fallback,
    ImmutableArray<string> Choices,
    (string Style, string Property)? SameAs
)
{
    public StyleProperty(string name, string label, VariableType type, string fallback)
        : this(name, label, type, fallback, [], null) { }

    public static StyleProperty Choice(string name, string label, params ImmutableArray<string> choices) =>
        new(name, label, VariableType.Text, choices[0], choices, null);

    /// <summary>A property that follows another until it is set.</summary>
    public static StyleProperty Like(string name, string label, VariableType type, string style, string property) =>
        new(name, label, type, "", [], (style, property));
}

/// <summary>How one kind of element looks.</summary>
public sealed record GlobalStyle(string Name, string Label, ImmutableArray<StyleProperty> Properties);

/// <summary>
/// Every global style there is. Fallbacks are the trade's usual figures (common practice, no source): 640 px wide,
/// body text 16 px at 1.5, headings 20 to 28 px, 10 px between blocks. What usually goes together, such as the font of
/// all text or a size on the phone, follows one property until it is set by itself.
/// </summary>
public static class GlobalStyles
{
    private const string Sans = "Arial, Helvetica, sans-serif";

    public static ImmutableArray<GlobalStyle> All { get; } =
    [
        new(
            "page",
            "Page",
            [
                new("background", "Background", VariableType.Colour, "#ffffff"),
                new("width", "Content width", VariableType.Size, "640"),
                new("padding", "Space at the sides", VariableType.Size, "28"),
                StyleProperty.Like("phonePadding", "Space at the sides, phone", VariableType.Size, "page", "padding"),
                new("rowSpace", "Space above and below a row", VariableType.Size, "16"),
                new("blockSpace", "Space between blocks", VariableType.Size, "10"),
            ]
        ),
        Surface(
            "content",
            "Content area",
            "#ffffff",
            "#222222",
            new("border", "Border", VariableType.Colour, "#cccccc"),
            new("borderWidth", "Border weight", VariableType.Size, "0"),
            new("radius", "Corner radius", VariableType.Size, "0"),
            new("outerSpace", "Space above and below it", VariableType.Size, "0"),
            StyleProperty.Like("phoneOuterSpace", "Space above and below it, phone", VariableType.Size, "content", "outerSpace")
        ),
        Surface("tint", "Tinted area", "#f2f2f2", "#222222"),
        Surface("strong", "Strong area", "#222222", "#ffffff"),
        new(
            "body",
            "Body text",
            [
                new("font", "Font", VariableType.Font, Sans),
                .. Type("body", 16, 1.5, "400"),
                new("space", "Space between paragraphs", VariableType.Size, "12"),
            ]
        ),
        Text("heading1", "Heading 1", 28, 1.2, "700"),
        Text("heading2", "Heading 2", 22, 1.25, "700"),
        Text("heading3", "Heading 3", 18, 1.3, "700"),
        Text("heading4", "Heading 4", 16, 1.4, "700"),
        Text("small", "Small print", 14, 1.5, "400"),
        LikeSmallPrint("caption", "Caption"),
        LikeSmallPrint("preheader", "Preheader line"),
        LikeSmallPrint("footer", "Footer text"),
        new(
            "link",
            "Links",
            [
                StyleProperty.Choice("underline", "Underline", "always", "never"),
                StyleProperty.Choice("weight", "Weight", "as the text", "bold"),
            ]
        ),
        new(
            "list",
            "Lists",
            [
                StyleProperty.Choice("marker", "Marker", "disc", "circle", "square"),
                new("indent", "Indent", VariableType.Size, "24"),
                new("space", "Space between items", VariableType.Size, "4"),
            ]
        ),
        Button("primary", "Primary button", "#222222", "#ffffff", "#222222"),
        Button("secondary", "Secondary button", "#ffffff", "#222222", "#222222"),
        Button("quiet", "Quiet button", "#ffffff", "#222222", "#ffffff"),
        new(
            "divider",
            "Divider",
            [
                new("colour", "Colour", VariableType.Colour, "#cccccc"),
                new("thickness", "Weight", VariableType.Size, "1"),
                StyleProperty.Choice("style", "Line", "solid", "dashed", "dotted"),
                new("space", "Space above and below", VariableType.Size, "0"),
            ]
        ),
        new(
            "picture",
            "Picture",
            [new("radius", "Corner radius", VariableType.Size, "0"), new("space", "Space above and below", VariableType.Size, "0")]
        ),
        new(
            "social",
            "Social links",
            [
                StyleProperty.Like("font", "Font", VariableType.Font, "body", "font"),
                StyleProperty.Like("size", "Size", VariableType.Size, "small", "size"),
                new("weight", "Weight", VariableType.Weight, "400"),
                new("gap", "Space between", VariableType.Size, "8"),
                StyleProperty.Choice("mark", "Mark between", "dot", "bar", "none"),
            ]
        ),
        new(
            "table",
            "Table",
            [
                StyleProperty.Like("font", "Font", VariableType.Font, "body", "font"),
                .. Type("table", 16, 1.4, "400"),
                new("headFill", "Header, fill", VariableType.Colour, "#eeeeee"),
                new("headText", "Header, text", VariableType.Colour, "#222222"),
                new("rule", "Ruled lines", VariableType.Colour, "#cccccc"),
                new("thickness", "Weight of the lines", VariableType.Size, "1"),
                new("padding", "Space inside a cell", VariableType.Size, "8"),
            ]
        ),
    ];

    private static readonly ImmutableDictionary<string, GlobalStyle> ByName = All.ToImmutableDictionary(
        s => s.Name,
        StringComparer.Ordinal
    );

    /// <summary>Null: there is no such style or property.</summary>
    public static StyleProperty? Find(string style, string property) =>
        ByName.GetValueOrDefault(style)?.Properties.FirstOrDefault(p => p.Name == property);

    /// <summary>"Heading 2, size": how a property is called where it stands alone.</summary>
    public static string Label(string style, string property) =>
        ByName.GetValueOrDefault(style) is { } found && Find(style, property) is { } p
            ? $"{found.Label}, {char.ToLowerInvariant(p.Label[0])}{p.Label[1..]}"
            : $"{style}, {property}";

    public static string Label(string style) => ByName[style].Label;

    private static GlobalStyle Surface(
        string name,
        string label,
        string background,
        string text,
        params ImmutableArray<StyleProperty> more
    ) =>
        new(
            name,
            label,
            [
                new("background", "Background", VariableType.Colour, background),
                new("heading", "Headings", VariableType.Colour, text),
                new("text", "Text", VariableType.Colour, text),
                new("quiet", "Small print", VariableType.Colour, text),
                new("link", "Links", VariableType.Colour, text),
                .. more,
            ]
        );

    private static GlobalStyle Text(string name, string label, int size, double lineHeight, string weight) =>
        new(name, label, [StyleProperty.Like("font", "Font", VariableType.Font, "body", "font"), .. Type(name, size, lineHeight, weight)]);

    private static GlobalStyle LikeSmallPrint(string name, string label) =>
        new(
            name,
            label,
            [
                StyleProperty.Like("font", "Font", VariableType.Font, "small", "font"),
                StyleProperty.Like("size", "Size", VariableType.Size, "small", "size"),
                StyleProperty.Like("phoneSize", "Size, phone", VariableType.Size, name, "size"),
                StyleProperty.Like("lineHeight", "Line height", VariableType.Number, "small", "lineHeight"),
                StyleProperty.Like("weight", "Weight", VariableType.Weight, "small", "weight"),
            ]
        );

    private static ImmutableArray<StyleProperty> Type(string name, int size, double lineHeight, string weight) =>
        [
            new("size", "Size", VariableType.Size, size.ToString(System.Globalization.CultureInfo.InvariantCulture)),
            StyleProperty.Like("phoneSize", "Size, phone", VariableType.Size, name, "size"),
            new("lineHeight", "Line height", VariableType.Number, lineHeight.ToString(System.Globalization.CultureInfo.InvariantCulture)),
            new("weight", "Weight", VariableType.Weight, weight),
        ];

    private static GlobalStyle Button(string name, string label, string fill, string text, string border) =>
        new(
            name,
            label,
            [
                new("fill", "Fill", VariableType.Colour, fill),
                new("text", "Text", VariableType.Colour, text),
                new("border", "Border", VariableType.Colour, border),
                new("borderWidth", "Border weight", VariableType.Size, "1"),
                new("radius", "Corner radius", VariableType.Size, "4"),
                new("paddingBlock", "Space above and below", VariableType.Size, "12"),
                new("paddingInline", "Space at the sides", VariableType.Size, "24"),
                StyleProperty.Choice("width", "Width", "fit", "full"),
                StyleProperty.Choice("phoneWidth", "Width, phone", "fit", "full"),
                StyleProperty.Like("font", "Font", VariableType.Font, "body", "font"),
                new("size", "Size", VariableType.Size, "16"),
                new("weight", "Weight", VariableType.Weight, "700"),
            ]
        );
}
