using System.Globalization;

namespace GoldenRule.Core.Checking.Checks;

/// <summary>Every text on the background it lands on, in the light and the dark scheme. One finding for each pair of colours.</summary>
public sealed class ContrastCheck : Check
{
    public override string Name => "contrast";

    public override string Why => "Text must stand out from its background: 4.5 to 1, or 3 to 1 from 24 px or 18.66 px bold (WCAG 2.2, 1.4.3).";

    public override IEnumerable<Finding> Run(Inspection inspection) =>
        from entry in inspection.Blocks
        from dark in (bool[])[false, true]
        from reading in entry.Kind.Readings(entry.View, dark)
        where !reading.Passes
        group entry by (reading.What, reading.Text, reading.Background, reading.Needed, reading.Dark) into pair
        let first = pair.First()
        let reading = pair.Key
        let ratio = HouseStyles.Colour.Contrast(reading.Text, reading.Background)
        select Found(
            reading.Dark ? Severity.Warn : Severity.Stop,
            new Place(first.Row.Id, first.View.Block.Id),
            $"{reading.What} cannot be read well{(reading.Dark ? " in dark mode" : "")}: {reading.Text} on {reading.Background}.",
            string.Create(CultureInfo.InvariantCulture, $"{Math.Floor(ratio * 100) / 100:0.00} : 1, needs {reading.Needed}{(pair.Count() > 1 ? $"; {pair.Count()} places" : "")}"));
}
