using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class ManyLinksCheck : MeasuredCheck
{
    /// <summary>Common practice, no source.</summary>
    private const int Most = 3;

    public override string Name => "many-links";

    public override string Label => "Many links";

    public override CheckGroup Group => CheckGroup.LawAndDelivery;

    public override Severity Usual => Severity.Advise;

    public override string Why =>
        "More than three links read as advertising to filters; newsletters have many by nature (common practice, no source).";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override double Measure(Inspection inspection) => Different(inspection);

    public override string Say(double measured) => $"{measured:0}";

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        if (inspection.Context.Transactional)
        {
            yield break;
        }

        var links = Different(inspection);
        if (links > Most)
        {
            yield return Found(Place.Whole, "There are many links.", $"{links} different ones, over {Most} read as advertising");
        }
    }

    private static int Different(Inspection inspection)
    {
        // What every email carries, its head and its foot, does not count.
        var different = new HashSet<string>(StringComparer.Ordinal);
        foreach (var row in inspection.Rows)
        {
            if (inspection.Context.RowKinds.PurposeOf(row.Row.Source.Master.RowKind) == RowPurpose.Frame)
            {
                continue;
            }

            foreach (var block in row.Blocks)
            {
                foreach (var (_, href) in block.Links)
                {
                    if (!Links.IsPlaceholder(href))
                    {
                        different.Add(href);
                    }
                }
            }
        }

        return different.Count;
    }
}
