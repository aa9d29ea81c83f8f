using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;

namespace GoldenRule.Core.Checking.Checks;

public sealed class ConditionCheck : Check
{
    public override string Name => "condition";

    public override string Label => "Conditions that cannot be asked";

    public override CheckGroup Group => CheckGroup.Structure;

    public override Severity Usual => Severity.Stop;

    public override bool Fixed => true;

    public override string Why => "Nobody can say which readers are meant; until it is mended nobody sees it.";

    public override IEnumerable<Finding> Run(Inspection inspection) =>
        from found in ConditionUse.Find(inspection)
        from leaf in found.Condition.Leaves()
        let fault = Conditions.Fault(leaf, inspection.Email.Inline.Plan)
        where fault is not null
        select Found(
            found.Place,
            $"Who sees \"{found.Name}\": {fault}",
            null,
            new Remedy("Show it to everyone", [new SetCondition(found.Place.Row!, found.Piece, Condition.Everyone)])
        );
}
