using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class LinkCheck : RowCheck
{
    public override string Name => "link";

    public override string Label => "Links that lead nowhere";

    public override CheckGroup Group => CheckGroup.LawAndDelivery;

    public override Severity Usual => Severity.Stop;

    public override string Why =>
        "A link that leads nowhere cannot be mended once the email is out. Only https, http, mailto and tel are followed in mail clients.";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override bool Fixed => true;

    public override void Run(InspectedRow row, Inspection inspection, List<Finding> found)
    {
        foreach (var entry in row.Blocks)
        {
            foreach (var link in entry.Links)
            {
                if (Links.IsPlaceholder(link.Href))
                {
                    found.Add(ToFill(entry.At(link.Field), $"The link of \"{NameOf(entry.Block)}\" leads nowhere yet."));
                }
                else if (!Links.IsSafe(link.Href))
                {
                    found.Add(
                        Found(
                            entry.At(link.Field),
                            $"The link of \"{NameOf(entry.Block)}\" is not an address. Write it with https://, mailto: or tel:.",
                            link.Href
                        )
                    );
                }
            }
        }
    }
}
