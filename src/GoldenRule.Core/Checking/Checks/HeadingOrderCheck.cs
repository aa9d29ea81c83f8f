using System.Collections.Immutable;

namespace GoldenRule.Core.Checking.Checks;

public sealed class HeadingOrderCheck : SeenRowsCheck<HeadingOrderCheck.Counted>
{
    public override string Name => "heading-order";

    public override string Label => "Heading levels that are skipped";

    public override CheckGroup Group => CheckGroup.Reading;

    public override Severity Usual => Severity.Warn;

    public override string Why =>
        "People who listen find their way by headings: a level must not be skipped on the way down (WCAG 2.2, 1.3.1 and 2.4.6).";

    public override Inspection.Subject From => Inspection.Subject.Template;

    public override bool Concerns(InspectedRow row, Inspection whole) => !row.Headings.IsEmpty;

    private protected override Counted None => new(null, 0, []);

    private protected override Counted Count(InspectedRow row, CheckContext context)
    {
        var counted = None;
        foreach (var heading in row.Headings)
        {
            counted = Together(counted, new(heading, heading.Level, []));
        }

        return counted;
    }

    private protected override Counted Together(Counted first, Counted then) =>
        (first.First, then.First) switch
        {
            (_, null) => first,
            (null, _) => then,
            var (_, below) => new(
                first.First,
                then.Last,
                below.Value.Level > first.Last + 1
                    ? [.. first.Skipped, Skip(below.Value, first.Last), .. then.Skipped]
                    : first.Skipped.AddRange(then.Skipped)
            ),
        };

    private protected override ImmutableArray<Finding> Found(Counted counted, Inspection whole) =>
        counted.First is { Level: > 1 } first ? counted.Skipped.Insert(0, Start(first)) : counted.Skipped;

    private Finding Skip((InspectedBlock Block, int Level) heading, int above) =>
        Found(heading.Block.At(), $"\"{NameOf(heading.Block.Block)}\" skips a level.", $"level {heading.Level} after level {above}");

    private Finding Start((InspectedBlock Block, int Level) heading) =>
        Found(heading.Block.At(), $"The first heading is of level {heading.Level}; start with level 1.");

    /// <param name="First">Null: there is no heading.</param>
    /// <param name="Last">The last heading's level.</param>
    public readonly record struct Counted((InspectedBlock Block, int Level)? First, int Last, ImmutableArray<Finding> Skipped);
}
