using System.Globalization;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Checking.Checks;

public sealed class OffBrandSizeCheck : RowCheck
{
    public override string Name => "off-brand-size";

    public override string Label => "Sizes and spacing that are not the brand's";

    public override CheckGroup Group => CheckGroup.Brand;

    public override Severity Usual => Severity.Advise;

    public override string Why => "HTML written by hand brings its own sizes and spacing; the house style's keep rows alike.";

    public override void Run(InspectedRow row, Inspection inspection, List<Finding> found)
    {
        foreach (var (entry, field, property, value) in HandWritten.In(row))
        {
            if (
                property != "font-size"
                && !property.StartsWith("margin", StringComparison.Ordinal)
                && !property.StartsWith("padding", StringComparison.Ordinal)
            )
            {
                continue;
            }

            if (
                value.EndsWith("px", StringComparison.Ordinal)
                && double.TryParse(value.AsSpan(0, value.Length - 2), NumberStyles.Float, CultureInfo.InvariantCulture, out var size)
                && size != 0
                && row.Row.Style.Derive(SizesOf).All is var own
                && !own.Contains(size)
            )
            {
                var nearest = own.MinBy(s => Math.Abs(s - size));
                found.Add(
                    Found(
                        entry.At(field),
                        $"{property}: {value} is not a size of the house style.",
                        string.Create(CultureInfo.InvariantCulture, $"nearest: {nearest} px"),
                        HandWritten.Replace(
                            entry,
                            field,
                            $"{property}: {value}",
                            string.Create(CultureInfo.InvariantCulture, $"{property}: {nearest}px"),
                            string.Create(CultureInfo.InvariantCulture, $"Use {nearest} px")
                        )
                    )
                );
            }
        }
    }

    public override IEnumerable<Finding> Gather(IReadOnlyList<Finding> found) => found.DistinctBy(f => (f.Place, f.Message));

    // Every size that the house style speaks of, by variable or by global style.
    private static BrandSizes SizesOf(StyleLayers style) =>
        new([
            .. style
                .Variables.Where(v => v.Type == VariableType.Size)
                .Select(v => double.Parse(style.Explain(v.Key).Value, CultureInfo.InvariantCulture)),
            .. GlobalStyles.All.SelectMany(s =>
                s.Properties.Where(p => p.Type == VariableType.Size).Select(p => style.Number(s.Name, p.Name))
            ),
        ]);

    private sealed record BrandSizes(HashSet<double> All);
}
