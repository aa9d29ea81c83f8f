using System.Collections.Frozen;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Interchange;

/// <summary>
/// Which global style a rule of a web page speaks of. The selectors are those most pages use (common practice, no source).
/// </summary>
internal static class CssDressing
{
    /// <param name="Css">Names to ask for, the first that is set speaks.</param>
    internal sealed record Way(string[] Css, string Style, string Property);

    private static readonly FrozenDictionary<string, Way[]> Ways = Build().ToFrozenDictionary(StringComparer.Ordinal);

    // Words of a custom property's name, the most telling first.
    private static readonly (VariableType Type, string[] Words, (string, string)[] Dresses)[] Names =
    [
        (VariableType.Colour, ["button-text", "on-accent", "on-primary"], [("primary", "text")]),
        (VariableType.Colour, ["heading", "title"], [("content", "heading"), ("tint", "heading")]),
        (VariableType.Colour, ["link"], [("content", "link"), ("tint", "link")]),
        (VariableType.Colour, ["quiet", "muted", "subtle", "soft-ink", "soft-text"], [("content", "quiet"), ("tint", "quiet")]),
        (VariableType.Colour, ["accent", "primary", "button"], [("primary", "fill"), ("primary", "border")]),
        (VariableType.Colour, ["tint", "panel", "band"], [("tint", "background")]),
        (VariableType.Colour, ["page", "background", "bg", "paper"], [("page", "background")]),
        (VariableType.Colour, ["rule", "border", "line", "divider"], [("divider", "colour")]),
        (VariableType.Colour, ["text", "ink", "foreground"], [("content", "text"), ("tint", "text")]),
        (
            VariableType.Font,
            ["heading", "display", "title"],
            [("heading1", "font"), ("heading2", "font"), ("heading3", "font"), ("heading4", "font")]
        ),
        (VariableType.Font, ["body", "text", "base", "reading"], [("body", "font")]),
        (VariableType.Size, ["radius", "corner"], [("primary", "radius"), ("secondary", "radius"), ("quiet", "radius")]),
        (VariableType.Size, ["width", "measure"], [("page", "width")]),
        (VariableType.Size, ["h1"], [("heading1", "size")]),
        (VariableType.Size, ["h2"], [("heading2", "size")]),
        (VariableType.Size, ["h3"], [("heading3", "size")]),
        (VariableType.Size, ["h4"], [("heading4", "size")]),
        (VariableType.Size, ["small"], [("small", "size")]),
        (VariableType.Size, ["body", "base-size", "text-size", "font-size"], [("body", "size")]),
        (VariableType.Number, ["line-height", "leading"], [("body", "lineHeight")]),
    ];

    public static Way[] WaysFor(string selector) => Ways.GetValueOrDefault(selector, []);

    public static IEnumerable<(string Style, string Property)> ByName(string key, VariableType type) =>
        Names.FirstOrDefault(n => n.Type == type && n.Words.Any(w => $"-{key}-".Contains($"-{w}-", StringComparison.Ordinal))).Dresses
        ?? [];

    /// <summary>What a keyword of CSS is called among a property's choices. Null: it is none of them.</summary>
    public static string? Choice(StyleProperty property, string css) =>
        property.Choices.Contains(css)
            ? css
            : (property.Name, css) switch
            {
                ("underline", "none") => "never",
                ("underline", var line) when line.StartsWith("underline", StringComparison.Ordinal) => "always",
                ("weight", "bold" or "600" or "700" or "800" or "900") => "bold",
                ("weight", "normal" or "400" or "inherit") => "as the text",
                ("width" or "phoneWidth", "100%") => "full",
                _ => null,
            };

    private static IEnumerable<KeyValuePair<string, Way[]>> Build()
    {
        Way[] Type(string style) =>
            [
                new(["font-family"], style, "font"),
                new(["font-size"], style, "size"),
                new(["line-height"], style, "lineHeight"),
                new(["font-weight"], style, "weight"),
            ];
        Way[] Heading(string style) => [.. Type(style), new(["color"], "content", "heading"), new(["color"], "tint", "heading")];
        Way[] Small(string style) => [.. Type(style), new(["color"], "content", "quiet"), new(["color"], "tint", "quiet")];
        Way[] Area(string style) => [new(["background-color", "background"], style, "background"), new(["color"], style, "text")];
        Way[] Button(string style) =>
            [
                new(["background-color", "background"], style, "fill"),
                new(["color"], style, "text"),
                new(["border-top-color", "border-color"], style, "border"),
                new(["border-top-width", "border-width"], style, "borderWidth"),
                new(["border-top-left-radius", "border-radius"], style, "radius"),
                new(["padding-top", "padding"], style, "paddingBlock"),
                new(["padding-left", "padding"], style, "paddingInline"),
                new(["width"], style, "width"),
                new(["font-family"], style, "font"),
                new(["font-size"], style, "size"),
                new(["font-weight"], style, "weight"),
            ];

        (string[] Selectors, Way[] Ways)[] all =
        [
            (
                ["body", "html"],
                [
                    .. Type("body"),
                    new(["color"], "content", "text"),
                    new(["color"], "tint", "text"),
                    new(["background-color", "background"], "page", "background"),
                ]
            ),
            (["p"], [new(["margin-bottom"], "body", "space"), new(["line-height"], "body", "lineHeight")]),
            (
                ["main", ".content", ".page", ".container", ".wrapper"],
                [
                    .. Area("content"),
                    new(["max-width", "width"], "page", "width"),
                    new(["padding-left", "padding"], "page", "padding"),
                    new(["border-top-color", "border-color"], "content", "border"),
                    new(["border-top-width", "border-width"], "content", "borderWidth"),
                    new(["border-top-left-radius", "border-radius"], "content", "radius"),
                ]
            ),
            (["aside", ".tint", ".panel", ".band", ".callout"], Area("tint")),
            (
                ["footer", ".footer", "header", ".masthead"],
                [.. Area("strong"), new(["color"], "strong", "quiet"), new(["color"], "strong", "heading")]
            ),
            (["footer a", "header a", ".footer a"], [new(["color"], "strong", "link")]),
            (["h1"], Heading("heading1")),
            (["h2"], Heading("heading2")),
            (["h3"], Heading("heading3")),
            (["h4"], Heading("heading4")),
            (["small", ".small"], Small("small")),
            (["figcaption", ".caption"], Type("caption")),
            (
                ["a", "a:link"],
                [
                    new(["color"], "content", "link"),
                    new(["color"], "tint", "link"),
                    new(["text-decoration-line", "text-decoration"], "link", "underline"),
                    new(["font-weight"], "link", "weight"),
                ]
            ),
            (["ul"], [new(["list-style-type"], "list", "marker"), new(["padding-left"], "list", "indent")]),
            (["li"], [new(["margin-bottom"], "list", "space")]),
            (
                ["hr"],
                [
                    new(["border-top-color", "border-color"], "divider", "colour"),
                    new(["border-top-width", "border-width"], "divider", "thickness"),
                    new(["border-top-style"], "divider", "style"),
                ]
            ),
            (["img"], [new(["border-top-left-radius", "border-radius"], "picture", "radius")]),
            (["button", ".button", ".btn", ".cta", ".button-primary", ".btn-primary"], Button("primary")),
            ([".button-secondary", ".btn-secondary", ".button.secondary", ".btn.secondary"], Button("secondary")),
            ([".button-quiet", ".btn-quiet", ".button.quiet", ".btn.quiet", ".button-ghost"], Button("quiet")),
            (
                ["td"],
                [
                    new(["padding-top", "padding"], "table", "padding"),
                    new(["border-bottom-color", "border-top-color"], "table", "rule"),
                    new(["border-bottom-width", "border-top-width"], "table", "thickness"),
                ]
            ),
            (["th"], [new(["background-color", "background"], "table", "headFill"), new(["color"], "table", "headText")]),
        ];
        return all.SelectMany(a => a.Selectors.Select(s => KeyValuePair.Create(s, a.Ways)));
    }
}
