using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class FieldFallbackCheck : NodeCheck
{
    public override string Name => "field-fallback";

    public override string Label => "Fields without a fallback";

    public override CheckGroup Group => CheckGroup.Copy;

    public override Severity Usual => Severity.Warn;

    public override string Why => "Of some readers it is not known. They would read a sentence with a gap in it.";

    private protected override Finding? Judge(NodeUse use)
    {
        if (use.MergeField is not { Always: false, Fallback: null } field)
        {
            return null;
        }

        var found = Found(
            use.Place,
            $"Readers of whom \"{field.Label}\" is not known get nothing here. A lead can give the field a fallback.",
            null,
            use.Remove("Remove it here")
        );
        if (use.Conditions is not { IsEmpty: false } conditions)
        {
            return found;
        }

        // Whoever sees it may be just those of whom the field is known.
        var (solver, lacks) = (use.Inspection.Email.Inline.Conditions, new Condition.Test(field.Key, Comparison.Empty, []));
        var solved = solver.Together(conditions.Prepend(lacks));
        return (solved.IsComplete, solved.All.Contains(1UL)) switch
        {
            (true, false) => null,
            (true, true) => found with { Readers = new FoundFor(Who(), solved.ReaderOf(1UL)) },
            _ => found,
        };

        string Who() => ConditionWords.Both([.. conditions.Append(lacks).Select(c => (c, true))], solver.Plan);
    }
}
