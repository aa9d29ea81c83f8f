using GoldenRule.Core.Edits;

namespace GoldenRule.Core.Checking.Checks;

public sealed class PlainTextFieldsCheck : Check
{
    public override string Name => "plain-text-fields";

    public override string Label => "Fields, conditions and plain text by hand";

    public override CheckGroup Group => CheckGroup.Copy;

    public override Severity Usual => Severity.Stop;

    public override string Why => "Plain text that is written by hand says the same to everyone, be it another reader's name.";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        if (inspection.Email.Email.PlainText is not null && (inspection.HasFields || inspection.HasConditions))
        {
            yield return Found(
                Place.Detail("plainText"),
                "The email differs from reader to reader, and its plain text is written by hand, the same for all.",
                null,
                new Remedy("Make it from the email again", [new SetPlainText(null)])
            );
        }
    }
}
