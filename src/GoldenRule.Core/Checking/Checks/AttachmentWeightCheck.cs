using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class AttachmentWeightCheck : Check
{
    public override string Name => "attachment-weight";

    public override string Label => "Heavy attachments";

    public override CheckGroup Group => CheckGroup.LawAndDelivery;

    public override Severity Usual => Severity.Warn;

    public override string Why =>
        "Many mailboxes refuse messages over 10 MB, and files grow by a third on the way (common practice, "
        + "no source; Base64, RFC 2045, 6.8).";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        var bytes = inspection.Email.Email.Attachments.Sum(a => (long)a.Bytes);
        return bytes > AttachmentTypes.MostTogether
            ?
            [
                Found(
                    Place.Detail("attachments"),
                    "The attachments are heavy.",
                    $"{bytes / 1024:N0} KB, at most {AttachmentTypes.MostTogether / 1024:N0}"
                ),
            ]
            : [];
    }
}
