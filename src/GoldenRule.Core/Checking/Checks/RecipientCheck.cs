using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class RecipientCheck : Check
{
    public override string Name => "recipient";

    public override string Label => "Nobody it is written to";

    public override CheckGroup Group => CheckGroup.LawAndDelivery;

    public override Severity Usual => Severity.Stop;

    public override string Why => "A template for one person is made into emails to one: without them its fields say only samples.";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override bool Fixed => true;

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        if (inspection.Email.Template.ForOnePerson && inspection.Email.Email.Recipient is null)
        {
            yield return ToFill(Place.Detail("recipient"), "Nobody is named to whom it is written.");
        }
    }
}
