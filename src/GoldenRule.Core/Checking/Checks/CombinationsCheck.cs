using GoldenRule.Core.Audiences;

namespace GoldenRule.Core.Checking.Checks;

public sealed class CombinationsCheck : Check
{
    public override string Name => "combinations";

    public override string Label => "More combinations than are looked at";

    public override CheckGroup Group => CheckGroup.Structure;

    public override Severity Usual => Severity.Advise;

    public override string Why =>
        "What every email must have is proven for every reader; anything else is checked with all rows shown at once. Fewer "
        + "conditions, or audiences that several rows share, let all of it be checked.";

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        if (inspection.HasConditions && inspection.Email.Inline.Conditions.Solve(inspection.Conditions) is { IsComplete: false } reachable)
        {
            yield return Found(
                Place.Whole,
                "There are more combinations of what readers see than can be checked one by one.",
                reachable.Count > Reachable.Most
                    ? $"{reachable.Count:N0} or more, at most {Reachable.Most:N0} are looked at"
                    : "what they ask hangs together in too many ways"
            );
        }
    }
}
