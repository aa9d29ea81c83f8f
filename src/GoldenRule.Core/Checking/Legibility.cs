using GoldenRule.Core.Edits;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Checking;

/// <summary>A text colour on a background it can land on, and the two properties that say them.</summary>
public sealed record LegibilityPair(
    string Background,
    Reading Reading,
    (string Style, string Property) TextAt,
    (string Style, string Property) BackgroundAt
);

/// <summary>A value near the present one with which a pair can be read.</summary>
/// <param name="OfText">True: it is for the text; false: for the background.</param>
/// <param name="Brand">The brand variable it is; null: a shade of the same hue.</param>
/// <param name="Edit">Sets it.</param>
public sealed record LegibilityRemedy(bool OfText, string? Brand, Colour Colour, double Ratio, Edit Edit);

/// <summary>Every text colour of a house style on every background it can land on.</summary>
public static class Legibility
{
    // A colour may be used in several text styles: the smallest decides what it needs.
    private static readonly (string Property, string Label, string[] TextStyles)[] OnSurfaces =
    [
        ("heading", "Headings", ["heading1", "heading2", "heading3", "heading4"]),
        ("text", "Text", ["body", "table"]),
        ("quiet", "Small print", ["small", "caption", "preheader", "footer"]),
        ("link", "Links", ["body", "small", "social", "footer"]),
    ];

    /// <summary>Light pairs first, then dark ones.</summary>
    public static IEnumerable<LegibilityPair> ForStyle(StyleLayers style) =>
        from dark in (bool[])[false, true]
        from pair in OnSurface(style, dark).Concat(OnButtons(style, dark)).Append(OnTableHeader(style, dark))
        select pair;

    /// <summary>
    /// What would pass and looks most like what is: for text and background each the nearest brand colour (CIEDE2000)
    /// and the nearest shade of the same hue (OKLCH). The variable nearest to the property is changed, as it reaches least.
    /// </summary>
    public static IEnumerable<LegibilityRemedy> Remedies(LegibilityPair pair, StyleLayers style)
    {
        var (reading, dark) = (pair.Reading, pair.Reading.Dark);
        foreach (var ofText in (bool[])[true, false])
        {
            var (colour, against, at) = ofText
                ? (reading.Text, reading.Background, pair.TextAt)
                : (reading.Background, reading.Text, pair.BackgroundAt);
            var brand = style
                .Variables.Where(v => v.Type == VariableType.Colour)
                .Select(v => (v.Key, Colour.Parse(dark ? style.Explain(v.Key).Dark : style.Explain(v.Key).Value)));
            if (
                Passing.NearestBrandColour(colour, against, reading.Needed, brand) is var (key, nearest)
                && Set(style, at, "{" + key + "}", dark) is { } byBrand
            )
            {
                yield return new LegibilityRemedy(ofText, key, nearest, Colour.Contrast(nearest, against), byBrand);
            }

            if (Passing.NearestShade(colour, against, reading.Needed) is { } shade && Set(style, at, shade.ToString(), dark) is { } byShade)
            {
                yield return new LegibilityRemedy(ofText, null, shade, Colour.Contrast(shade, against), byShade);
            }
        }
    }

    // Null: the property is a plain value, which has no dark one to set.
    private static Edit? Set(StyleLayers style, (string Style, string Property) at, string value, bool dark)
    {
        var reference = BrandVariable.Reference(value);
        var variable = style[at.Style, at.Property].Through is [var nearest, ..] ? style.Find(nearest) : null;
        if (variable is null || (reference is not null && !dark))
        {
            return dark && reference is null ? null : new SetStyle(at.Style, at.Property, value);
        }

        if (reference == variable.Key)
        {
            return null;
        }

        // A value of its own for one scheme leaves the other as it was.
        return dark
            ? new SetVariable(variable with { Dark = value })
            : new SetVariable(
                variable with
                {
                    Value = value,
                    Dark = variable.Dark ?? (style.Explain(variable.Key) is var now && now.Dark != now.Value ? now.Dark : null),
                }
            );
    }

    private static IEnumerable<LegibilityPair> OnSurface(StyleLayers style, bool dark) =>
        from surface in (string[])["content", "tint", "strong"]
        from text in OnSurfaces
        select new LegibilityPair(
            GlobalStyles.Label(surface),
            text.TextStyles.Select(t => new Reading(
                    text.Label,
                    style.Colour(surface, text.Property, dark),
                    style.Colour(surface, "background", dark),
                    style.Number(t, "size"),
                    style.Number(t, "weight") >= 700,
                    dark
                ))
                .MaxBy(r => r.Needed)!,
            (surface, text.Property),
            (surface, "background")
        );

    private static IEnumerable<LegibilityPair> OnButtons(StyleLayers style, bool dark) =>
        from button in (string[])["primary", "secondary", "quiet"]
        select new LegibilityPair(
            GlobalStyles.Label(button),
            new Reading(
                "Button text",
                style.Colour(button, "text", dark),
                style.Colour(button, "fill", dark),
                style.Number(button, "size"),
                style.Number(button, "weight") >= 700,
                dark
            ),
            (button, "text"),
            (button, "fill")
        );

    private static LegibilityPair OnTableHeader(StyleLayers style, bool dark) =>
        new(
            "Table header",
            new Reading(
                "Header text",
                style.Colour("table", "headText", dark),
                style.Colour("table", "headFill", dark),
                style.Number("table", "size"),
                true,
                dark
            ),
            ("table", "headText"),
            ("table", "headFill")
        );
}
