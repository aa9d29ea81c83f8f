using System.Globalization;

namespace GoldenRule.Core.Checking.Checks;

/// <summary>Every text on the background it lands on, in one scheme. One finding for each pair of colours.</summary>
public sealed class ContrastCheck(bool dark) : RowCheck
{
    public override string Name => dark ? "contrast-dark" : "contrast";

    public override string Label => dark ? "Text that cannot be read well in dark mode" : "Text that cannot be read well";

    public override CheckGroup Group => CheckGroup.Reading;

    public override Severity Usual => dark ? Severity.Warn : Severity.Stop;

    public override string Why =>
        "Text must stand out from its background: 4.5 to 1, or 3 to 1 from 24 px or 18.66 px bold (WCAG 2.2, 1.4.3).";

    public override void Run(InspectedRow row, Inspection inspection, List<Finding> found)
    {
        // Where every pair of the house style can be read, no block can do otherwise.
        if (row.Blocks.IsEmpty || row.Blocks[0].View.Theme.ReadsWell(row.Row.Surface, dark))
        {
            return;
        }

        foreach (var entry in row.Blocks)
        {
            foreach (var reading in entry.Kind.Readings(entry.View, dark))
            {
                if (!reading.Passes)
                {
                    found.Add(
                        Found(
                            entry.At(),
                            $"{reading.What} cannot be read well{(dark ? " in dark mode" : "")}: {reading.Text} on {reading.Background}.",
                            string.Create(
                                CultureInfo.InvariantCulture,
                                $"{Math.Floor(reading.Ratio * 100) / 100:0.00} : 1, needs {reading.Needed}"
                            )
                        )
                    );
                }
            }
        }
    }

    public override IEnumerable<Finding> Gather(IReadOnlyList<Finding> found) =>
        from one in found
        group one by (one.Message, one.Evidence) into pair
        select pair.Count() == 1 ? pair.First() : pair.First() with { Evidence = $"{pair.Key.Evidence}; {pair.Count()} places" };
}
