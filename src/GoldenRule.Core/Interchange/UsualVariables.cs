using System.Collections.Immutable;
using GoldenRule.Core.Edits;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Interchange;

/// <summary>
/// The brand variables that nearly every house style needs, and the global styles written in them, so that a lead who
/// begins sets a dozen values and has a whole look. Values are plain ones to be written over; every pair can be read.
/// </summary>
public static class UsualVariables
{
    private static readonly (string Key, string Label, VariableType Type, string Value, string? Dark, string Group, string Styles)[] All =
    [
        ("page", "Page", VariableType.Colour, "#f4f4f2", "#16181a", "Colours", "page/background"),
        ("sheet", "Sheet", VariableType.Colour, "#ffffff", "#1f2225", "Colours", "content/background secondary/fill"),
        ("ink", "Ink", VariableType.Colour, "#222222", "#ececec", "Colours", "content/text tint/text"),
        ("quiet-ink", "Quiet ink", VariableType.Colour, "#5c5c5c", "#b4b4b4", "Colours", "content/quiet tint/quiet"),
        (
            "heading-ink",
            "Heading ink",
            VariableType.Colour,
            "{ink}",
            null,
            "Colours",
            "content/heading tint/heading secondary/text secondary/border quiet/text"
        ),
        ("accent", "Accent", VariableType.Colour, "#2a5a8a", "#8cbcec", "Colours", "primary/fill primary/border"),
        ("on-accent", "Text on the accent", VariableType.Colour, "#ffffff", "#10202f", "Colours", "primary/text"),
        ("link-ink", "Link ink", VariableType.Colour, "{accent}", null, "Colours", "content/link tint/link"),
        ("tint", "Tint", VariableType.Colour, "#eeeeea", "#2a2e32", "Colours", "tint/background quiet/fill quiet/border table/headFill"),
        ("strong", "Strong colour", VariableType.Colour, "#222222", "#0e0f10", "Colours", "strong/background"),
        (
            "on-strong",
            "Text on the strong colour",
            VariableType.Colour,
            "#ffffff",
            null,
            "Colours",
            "strong/heading strong/text strong/quiet strong/link"
        ),
        ("rule", "Ruled line", VariableType.Colour, "#cccccc", "#4a4a4a", "Colours", "divider/colour table/rule content/border"),
        ("table-ink", "Table header ink", VariableType.Colour, "{ink}", null, "Colours", "table/headText"),
        ("reading-face", "Reading face", VariableType.Font, "Arial, Helvetica, sans-serif", null, "Letters", "body/font"),
        (
            "heading-face",
            "Heading face",
            VariableType.Font,
            "{reading-face}",
            null,
            "Letters",
            "heading1/font heading2/font heading3/font heading4/font"
        ),
        (
            "heading-weight",
            "Heading weight",
            VariableType.Weight,
            "700",
            null,
            "Letters",
            "heading1/weight heading2/weight heading3/weight heading4/weight"
        ),
        ("body-size", "Body size", VariableType.Size, "16", null, "Sizes", "body/size primary/size secondary/size quiet/size"),
        ("line-height", "Line height", VariableType.Number, "1.5", null, "Sizes", "body/lineHeight small/lineHeight"),
        ("heading-1", "Heading 1", VariableType.Size, "28", null, "Sizes", "heading1/size"),
        ("heading-2", "Heading 2", VariableType.Size, "22", null, "Sizes", "heading2/size"),
        ("heading-3", "Heading 3", VariableType.Size, "18", null, "Sizes", "heading3/size"),
        ("small-size", "Small print size", VariableType.Size, "14", null, "Sizes", "small/size"),
        ("content-width", "Content width", VariableType.Size, "640", null, "Sizes", "page/width"),
        ("corner", "Corner radius", VariableType.Size, "4", null, "Sizes", "primary/radius secondary/radius quiet/radius"),
    ];

    /// <summary>The edits that lay them out in a house style that has no variable of its own yet.</summary>
    public static ImmutableArray<Edit> Edits { get; } =
    [
        .. All.Select(v => new SetVariable(
            new BrandVariable
            {
                Key = v.Key,
                Label = v.Label,
                Type = v.Type,
                Value = v.Value,
                Dark = v.Dark,
                Group = v.Group,
            }
        )),
        .. All.SelectMany(v => v.Styles.Split(' ').Select(s => new SetStyle(s.Split('/')[0], s.Split('/')[1], "{" + v.Key + "}"))),
    ];
}
