using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class SenderCheck : Check
{
    public override string Name => "sender";

    public override string Label => "No sender";

    public override CheckGroup Group => CheckGroup.LawAndDelivery;

    public override Severity Usual => Severity.Stop;

    public override string Why =>
        "Readers look first at who writes, and an email without a sending address cannot go out (RFC 5322, 3.6.2).";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override bool Fixed => true;

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        var details = inspection.Email.Email.Details;
        if (string.IsNullOrWhiteSpace(details.SenderName))
        {
            yield return ToFill(Place.Detail("senderName"), "The email has no sender's name.");
        }
        else if (MailAddresses.NameFault(details.SenderName) is { } fault)
        {
            yield return Found(Place.Detail("senderName"), fault, details.SenderName);
        }

        if (details.SenderAddress.Length == 0)
        {
            yield return ToFill(Place.Detail("senderAddress"), "The email has no sending address.");
        }
        else if (!MailAddresses.IsOne(details.SenderAddress))
        {
            const string message = "The sending address is not one. Write it like post@larkfell.example.org.";
            yield return Found(Place.Detail("senderAddress"), message, details.SenderAddress);
        }
    }
}
