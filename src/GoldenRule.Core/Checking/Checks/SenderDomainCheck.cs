using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class SenderDomainCheck : Check
{
    public override string Name => "sender-domain";

    public override string Label => "Sender of a domain that is not on the list";

    public override CheckGroup Group => CheckGroup.LawAndDelivery;

    public override Severity Usual => Severity.Stop;

    public override string Why =>
        "The lead lists the domains that each campaign type is sent from. "
        + "Mail from any other fails the receivers' checks of the sender (SPF, RFC 7208; DKIM, RFC 6376; DMARC, RFC 7489).";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        var address = inspection.Email.Email.Details.SenderAddress;
        var domains = inspection.Context.Policy.SendersFor(inspection.Context.CampaignType);
        if (!domains.IsEmpty && MailAddresses.IsOne(address) && !Measuring.IsWithin(MailAddresses.DomainOf(address), domains))
        {
            var message = $"This campaign type is sent from {string.Join(" or ", domains)}, not from {MailAddresses.DomainOf(address)}.";
            yield return Found(Place.Detail("senderAddress"), message, address);
        }
    }
}
