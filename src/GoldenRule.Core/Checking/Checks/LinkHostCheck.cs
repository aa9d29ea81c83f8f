using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class LinkHostCheck : RowCheck
{
    public override string Name => "link-host";

    public override string Label => "Links to hosts that are not on the list";

    public override CheckGroup Group => CheckGroup.LawAndDelivery;

    public override Severity Usual => Severity.Warn;

    public override string Why =>
        "The lead lists the hosts that emails may lead to; a link elsewhere may be a slip, or not ours to send readers to.";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override void Run(InspectedRow row, Inspection inspection, List<Finding> found)
    {
        var hosts = inspection.Context.Policy.Hosts;
        if (hosts.IsEmpty)
        {
            return;
        }

        foreach (var entry in row.Blocks)
        {
            foreach (var link in entry.Links)
            {
                if (
                    link.Href.StartsWith("http", StringComparison.OrdinalIgnoreCase)
                    && Links.HostOf(link.Href) is { Length: > 0 } host
                    && !Measuring.IsWithin(host, hosts)
                )
                {
                    found.Add(
                        Found(
                            entry.At(link.Field),
                            $"\"{NameOf(entry.Block)}\" leads to {host}, which is not on the lead's list.",
                            link.Href
                        )
                    );
                }
            }
        }
    }
}
