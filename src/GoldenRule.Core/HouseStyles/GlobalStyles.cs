using System.Collections.Immutable;

namespace GoldenRule.Core.HouseStyles;

/// <summary>A property of a global style, with what holds where no house style speaks.</summary>
public sealed record StyleProperty(string Name, string Label, VariableType Type, string Fallback);

/// <summary>How one kind of element looks.</summary>
public sealed record GlobalStyle(string Name, string Label, ImmutableArray<StyleProperty> Properties);

/// <summary>
/// Every global style there is. Fallbacks are the trade's usual figures (common practice, no source): 640 px wide,
/// body text 16 px at 1.5, headings 20 to 28 px, 10 px between blocks.
/// </summary>
public static class GlobalStyles
{
    private const string Sans = "Arial, Helvetica, sans-serif";

    public static ImmutableArray<GlobalStyle> All { get; } =
    [
        new("page", "Page",
        [
            new("background", "Background", VariableType.Colour, "#ffffff"),
            new("width", "Content width", VariableType.Number, "640"),
            new("padding", "Space at the sides", VariableType.Number, "28"),
            new("rowSpace", "Space above and below a row", VariableType.Number, "16"),
            new("blockSpace", "Space between blocks", VariableType.Number, "10"),
        ]),
        Surface("content", "Content area", "#ffffff", "#222222"),
        Surface("tint", "Tinted area", "#f2f2f2", "#222222"),
        Surface("strong", "Strong area", "#222222", "#ffffff"),
        Text("body", "Body text", 16, 1.5, "400"),
        Text("heading1", "Heading 1", 28, 1.2, "700"),
        Text("heading2", "Heading 2", 22, 1.25, "700"),
        Text("heading3", "Heading 3", 18, 1.3, "700"),
        Text("heading4", "Heading 4", 16, 1.4, "700"),
        Text("small", "Small print", 14, 1.5, "400"),
        Button("primary", "Primary button", "#222222", "#ffffff", "#222222"),
        Button("secondary", "Secondary button", "#ffffff", "#222222", "#222222"),
        Button("quiet", "Quiet button", "#ffffff", "#222222", "#ffffff"),
        new("divider", "Divider",
        [
            new("colour", "Colour", VariableType.Colour, "#cccccc"),
            new("thickness", "Weight", VariableType.Number, "1"),
        ]),
        new("picture", "Picture", [new("radius", "Corner radius", VariableType.Number, "0")]),
    ];

    private static readonly ImmutableDictionary<string, GlobalStyle> ByName = All.ToImmutableDictionary(s => s.Name, StringComparer.Ordinal);

    /// <summary>Null: there is no such style or property.</summary>
    public static StyleProperty? Find(string style, string property) =>
        ByName.GetValueOrDefault(style)?.Properties.FirstOrDefault(p => p.Name == property);

    private static GlobalStyle Surface(string name, string label, string background, string text) => new(name, label,
    [
        new("background", "Background", VariableType.Colour, background),
        new("heading", "Headings", VariableType.Colour, text),
        new("text", "Text", VariableType.Colour, text),
        new("quiet", "Small print", VariableType.Colour, text),
        new("link", "Links", VariableType.Colour, text),
    ]);

    private static GlobalStyle Text(string name, string label, int size, double lineHeight, string weight) => new(name, label,
    [
        new("font", "Font", VariableType.Font, Sans),
        new("size", "Size", VariableType.Number, size.ToString(System.Globalization.CultureInfo.InvariantCulture)),
        new("lineHeight", "Line height", VariableType.Number, lineHeight.ToString(System.Globalization.CultureInfo.InvariantCulture)),
        new("weight", "Weight", VariableType.Number, weight),
    ]);

    private static GlobalStyle Button(string name, string label, string fill, string text, string border) => new(name, label,
    [
        new("fill", "Fill", VariableType.Colour, fill),
        new("text", "Text", VariableType.Colour, text),
        new("border", "Border", VariableType.Colour, border),
        new("radius", "Corner radius", VariableType.Number, "4"),
        new("paddingBlock", "Space above and below", VariableType.Number, "12"),
        new("paddingInline", "Space at the sides", VariableType.Number, "24"),
        new("font", "Font", VariableType.Font, Sans),
        new("size", "Size", VariableType.Number, "16"),
        new("weight", "Weight", VariableType.Number, "700"),
    ]);
}
