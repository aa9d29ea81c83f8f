using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Library;

/// <summary>Every text colour of a house style on every background it can land on.</summary>
public static class Legibility
{
    private static readonly (string Property, string Label, string TextStyle)[] OnSurfaces =
        [("heading", "Headings", "heading2"), ("text", "Text", "body"), ("quiet", "Small print", "small"), ("link", "Links", "body")];

    /// <summary>Light pairs first, then dark ones.</summary>
    public static IEnumerable<(string Background, Reading Reading)> Of(StyleLayers style) =>
        from dark in (bool[])[false, true]
        from pair in OnSurface(style, dark).Concat(OnButtons(style, dark))
        select pair;

    private static IEnumerable<(string Background, Reading Reading)> OnSurface(StyleLayers style, bool dark) =>
        from surface in (string[])["content", "tint", "strong"]
        from text in OnSurfaces
        select (Label(surface), new Reading(
            text.Label,
            style.Colour(surface, text.Property, dark),
            style.Colour(surface, "background", dark),
            style.Number(text.TextStyle, "size"),
            style.Number(text.TextStyle, "weight") >= 700,
            dark));

    private static IEnumerable<(string Background, Reading Reading)> OnButtons(StyleLayers style, bool dark) =>
        from button in (string[])["primary", "secondary", "quiet"]
        select (Label(button), new Reading(
            "Button text",
            style.Colour(button, "text", dark),
            style.Colour(button, "fill", dark),
            style.Number(button, "size"),
            style.Number(button, "weight") >= 700,
            dark));

    private static string Label(string style) => GlobalStyles.All.First(s => s.Name == style).Label;
}
