using System.Globalization;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Checking.Checks;

public sealed class LineHeightCheck : Check
{
    public override string Name => "line-height";

    public override string Label => "Lines close together";

    public override CheckGroup Group => CheckGroup.Reading;

    public override Severity Usual => Severity.Advise;

    public override string Why =>
        "Lines closer than 1.4 times their size are hard to follow (common practice, no source; WCAG 2.2, "
        + "1.4.12 wants 1.5 to be possible).";

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        foreach (var style in (string[])["body", "small", "footer", "table"])
        {
            var height = inspection.Email.Style.Number(style, "lineHeight");
            if (height < 1.4)
            {
                yield return Found(
                    Place.Whole,
                    $"{GlobalStyles.Label(style)}: the lines are close together.",
                    string.Create(CultureInfo.InvariantCulture, $"{height} of its size, at least 1.4")
                );
            }
        }
    }
}
