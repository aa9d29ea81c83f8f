using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Checking.Checks;

public sealed class OffBrandFontCheck : RowCheck
{
    public override string Name => "off-brand-font";

    public override string Label => "Fonts that are not the brand's";

    public override CheckGroup Group => CheckGroup.Brand;

    public override Severity Usual => Severity.Warn;

    public override string Why => "HTML written by hand brings its own fonts; the rest of the email is set in the house style's.";

    public override void Run(InspectedRow row, Inspection inspection, List<Finding> found)
    {
        foreach (var (entry, field, property, value) in HandWritten.In(row))
        {
            if (
                property == "font-family"
                && First(value) is var font
                && !row.Row.Style.Variables.Any(v =>
                    v.Type == VariableType.Font
                    && First(row.Row.Style.Explain(v.Key).Value).Equals(font, StringComparison.OrdinalIgnoreCase)
                )
            )
            {
                found.Add(
                    Found(
                        entry.At(field),
                        $"{font} is not a font of the house style.",
                        $"the text is set in {First(row.Row.Style.Value("body", "font"))}"
                    )
                );
            }
        }
    }

    private static string First(string stack) => stack.Split(',')[0].Trim().Trim('"', '\'');
}
