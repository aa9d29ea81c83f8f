namespace GoldenRule.Core.Checking.Checks;

public sealed class HeadingOrderCheck : SeenRowsCheck
{
    public override string Name => "heading-order";

    public override string Label => "Heading levels that are skipped";

    public override CheckGroup Group => CheckGroup.Reading;

    public override Severity Usual => Severity.Warn;

    public override string Why =>
        "People who listen find their way by headings: a level must not be skipped on the way down (WCAG 2.2, 1.3.1 and 2.4.6).";

    public override Inspection.Subject From => Inspection.Subject.Template;

    public override bool Concerns(InspectedRow row) => !row.Headings.IsEmpty;

    internal override IEnumerable<Finding> RunOn(List<InspectedRow> seen, Inspection whole)
    {
        var above = 0;
        foreach (var row in seen)
        {
            foreach (var (entry, level) in row.Headings)
            {
                if (level > above + 1)
                {
                    yield return Found(
                        entry.At(),
                        above == 0
                            ? $"The first heading is of level {level}; start with level 1."
                            : $"\"{NameOf(entry.Block)}\" skips a level.",
                        above == 0 ? null : $"level {level} after level {above}"
                    );
                }

                above = level;
            }
        }
    }
}
