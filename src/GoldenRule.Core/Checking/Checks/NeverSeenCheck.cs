using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;

namespace GoldenRule.Core.Checking.Checks;

public sealed class NeverSeenCheck : Check
{
    public override string Name => "never-seen";

    public override string Label => "What no reader can see";

    public override CheckGroup Group => CheckGroup.Structure;

    public override Severity Usual => Severity.Warn;

    public override string Why => "There can be no reader of whom its conditions hold, by the types of the fields they ask.";

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        var (solver, plan) = (inspection.Email.Inline.Conditions, inspection.Email.Inline.Plan);
        foreach (var found in ConditionUse.Find(inspection))
        {
            // What cannot be asked is told of by itself.
            var parts = found.Within is { } around ? ImmutableArray.Create(around, found.Condition) : [found.Condition];
            if (
                parts.SelectMany(p => p.Leaves()).All(l => Conditions.Fault(l, plan) is null)
                && solver.Together(parts) is { IsComplete: true } solved
                && !solved.All.Contains(1UL)
            )
            {
                yield return Found(
                    found.Place,
                    $"No reader can see \"{found.Name}\".",
                    ConditionWords.Both(parts.Select(p => (p, true)), plan),
                    new Remedy("Show it to everyone", [new SetCondition(found.Place.Row!, found.Piece, Condition.Everyone)])
                );
            }
        }
    }
}
