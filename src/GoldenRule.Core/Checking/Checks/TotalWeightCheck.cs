namespace GoldenRule.Core.Checking.Checks;

public sealed class TotalWeightCheck : MeasuredCheck
{
    /// <summary>Bytes (common practice, no source).</summary>
    private const int Most = 2 * 1024 * 1024;

    public override string Name => "total-weight";

    public override string Label => "A heavy email";

    public override CheckGroup Group => CheckGroup.Clients;

    public override Severity Usual => Severity.Warn;

    public override string Why =>
        "Pictures and HTML together want to stay under 2 MB, or readers on the move pay for them (common practice, no source).";

    public override Inspection.Subject From => Inspection.Subject.Template;

    public override double Measure(Inspection inspection) => Pictures(inspection) + inspection.Compiled.HtmlBytes;

    public override string Say(double measured) => $"{measured / 1024:N0} KB";

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        var total = Pictures(inspection) + inspection.Compiled.HtmlBytes;
        if (total > Most)
        {
            yield return Found(
                Place.Whole,
                "The email is heavy to fetch.",
                $"{total / 1024:N0} KB with its pictures, at most {Most / 1024:N0}"
            );
        }
    }

    /// <summary>Bytes of all pictures that the email shows, each once.</summary>
    public static long Pictures(Inspection inspection)
    {
        Dictionary<string, int> largest = new(StringComparer.Ordinal);
        foreach (var row in inspection.Rows)
        {
            foreach (var entry in row.Blocks)
            {
                foreach (var shown in entry.Pictures)
                {
                    var bytes = PictureWeightCheck.Weight(inspection, entry, shown);
                    largest[shown.Picture] = Math.Max(bytes, largest.GetValueOrDefault(shown.Picture));
                }
            }
        }

        return largest.Values.Sum(b => (long)b);
    }
}
