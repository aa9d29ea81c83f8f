using System.Globalization;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class LimitCheck : RowCheck
{
    public override string Name => "limit";

    public override string Label => "Limits that are passed";

    public override CheckGroup Group => CheckGroup.Copy;

    public override Severity Usual => Severity.Stop;

    public override string Why =>
        "The lead set this limit so that the row keeps its shape on every screen. Characters are counted as "
        + "readers count them (Unicode UAX #29).";

    public override bool Fixed => true;

    public override void Run(InspectedRow row, Inspection inspection, List<Finding> found)
    {
        foreach (var entry in row.Blocks)
        {
            if (Holds(entry, inspection.Email.Pictures))
            {
                continue;
            }

            foreach (var (field, limit) in entry.Block.Master.Limits)
            {
                foreach (var measured in Measuring.Measure(entry.Block.Content, field, limit, inspection.Email.Pictures))
                {
                    if (measured.Broken)
                    {
                        found.Add(Found(entry.At(field.Split('/')[0]), Message(NameOf(entry.Block), measured), Evidence(measured)));
                    }
                }
            }
        }
    }

    // Nearly all do: each field is asked for its limit, which costs less than going along a sorted tree of them.
    private static bool Holds(InspectedBlock entry, PictureCatalog pictures)
    {
        var left = entry.Block.Master.Limits.Count;
        foreach (var (field, value) in left > 0 ? entry.Content : [])
        {
            if (entry.Block.Master.Limits.TryGetValue(field, out var limit))
            {
                left--;
                if (!Measuring.Holds(value, limit, pictures))
                {
                    return false;
                }
            }
        }

        // The others are of fields of items.
        return left == 0;
    }

    private static string Message(string label, Measurement measured)
    {
        var what = measured.Item > 0 ? $"Item {measured.Item} of \"{label}\"" : $"\"{label}\"";
        return measured.Of switch
        {
            "width" or "height" => $"The picture in {what} is too small.",
            "ratio" => $"The picture in {what} has the wrong shape.",
            "kilobytes" => $"The picture in {what} is too heavy.",
            "host" => $"{what} leads to a site that is not on the lead's list.",
            "items" => $"{what} has too many items.",
            "items-least" => $"{what} has too few items.",
            _ => $"{what} is too long.",
        };
    }

    private static string? Evidence(Measurement measured) =>
        measured.Of switch
        {
            "width" or "height" => $"{measured.Value} px {measured.Of}, at least {measured.Bound}",
            "ratio" => string.Create(
                CultureInfo.InvariantCulture,
                $"{measured.Value / 100.0:0.00} wide for 1 high, wanted {measured.Bound / 100.0:0.00}"
            ),
            "kilobytes" => $"{measured.Value} KB, at most {measured.Bound}",
            "host" => null,
            "items-least" => $"{measured.Value}, at least {measured.Bound}",
            _ => $"{measured.Value} {measured.Of}, at most {measured.Bound}",
        };
}
