using System.Globalization;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Checking.Checks;

public sealed class LinkDistinctCheck : Check
{
    public override string Name => "link-distinct";

    public override string Label => "Links told apart by colour alone";

    public override CheckGroup Group => CheckGroup.Reading;

    public override Severity Usual => Severity.Warn;

    public override string Why =>
        "Who does not see the colour does not see the link: underline it, make it bold, or keep 3 to 1 from "
        + "the text around it (WCAG 2.2, 1.4.1; technique G183).";

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        var style = inspection.Email.Style;
        if (style.Value("link", "underline") == "always" || style.Value("link", "weight") == "bold")
        {
            yield break;
        }

        foreach (var surface in inspection.Email.Rows.Select(r => r.Surface).Distinct().Order())
        {
            var name = Theme.StyleName(surface);
            var ratio = Colour.Contrast(style.Colour(name, "link", false), style.Colour(name, "text", false));
            if (ratio < 3)
            {
                yield return Found(
                    Place.Whole,
                    $"{GlobalStyles.Label(name)}: links differ from the text by colour alone.",
                    string.Create(CultureInfo.InvariantCulture, $"{Math.Floor(ratio * 100) / 100:0.00} : 1, needs 3")
                );
            }
        }
    }
}
