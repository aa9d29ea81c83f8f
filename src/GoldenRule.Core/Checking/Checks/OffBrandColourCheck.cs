using System.Globalization;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Checking.Checks;

public sealed class OffBrandColourCheck : RowCheck
{
    /// <summary>Under this difference most people call two colours the same (common practice, no source).</summary>
    private const double Same = 2.3;

    public override string Name => "off-brand-colour";

    public override string Label => "Colours that are not the brand's";

    public override CheckGroup Group => CheckGroup.Brand;

    public override Severity Usual => Severity.Warn;

    public override string Why =>
        "HTML written by hand brings its own colours; the nearest of the house style is found by CIEDE2000 (Sharma, Wu, Dalal 2005).";

    public override void Run(InspectedRow row, Inspection inspection, List<Finding> found)
    {
        foreach (var (entry, field, _, value) in HandWritten.In(row))
        {
            foreach (var colour in HandWritten.Colours(value))
            {
                if (Nearest(row.Row.Style, colour) is not { } nearest || nearest.Distance < Same)
                {
                    continue;
                }

                found.Add(
                    Found(
                        entry.At(field),
                        $"{colour} is not a colour of the house style.",
                        string.Create(
                            CultureInfo.InvariantCulture,
                            $"nearest: {nearest.Label}, {nearest.Colour}, {nearest.Distance:0.0} apart"
                        ),
                        HandWritten.Replace(entry, field, colour.ToString(), nearest.Colour.ToString(), $"Use {nearest.Label}")
                    )
                );
            }
        }
    }

    public override IEnumerable<Finding> Gather(IReadOnlyList<Finding> found) => found.DistinctBy(f => (f.Place, f.Message));

    private static (string Label, Colour Colour, double Distance)? Nearest(StyleLayers style, Colour colour) =>
        style
            .Variables.Where(v => v.Type == VariableType.Colour)
            .Select(v => (v.Label, Colour: Colour.Parse(style.Explain(v.Key).Value)))
            .Select(v => ((string, Colour, double Distance)?)(v.Label, v.Colour, CieLab.Difference(colour, v.Colour)))
            .MinBy(v => v!.Value.Distance);
}
