using GoldenRule.Core.Edits;

namespace GoldenRule.Core.Checking.Checks;

public sealed class PlainTextBehindCheck : Check
{
    public override string Name => "plain-text-behind";

    public override string Label => "Plain text written before the email changed";

    public override CheckGroup Group => CheckGroup.Copy;

    public override Severity Usual => Severity.Warn;

    public override string Why => "The plain text was written by hand; whoever reads it gets what the email said then.";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override IEnumerable<Finding> Run(Inspection inspection) =>
        inspection.Email.Email.PlainText is { } written && !written.IsOf(inspection.Compiled.MadeText())
            ?
            [
                Found(
                    Place.Detail("plainText"),
                    "The email has changed since its plain text was written by hand.",
                    null,
                    new Remedy("Make it anew", [new SetPlainText(null)])
                ),
            ]
            : [];
}
