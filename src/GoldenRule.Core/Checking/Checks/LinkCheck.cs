using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class LinkCheck : Check
{
    public override string Name => "link";

    public override string Why => "A link that leads nowhere cannot be mended once the email is out. Only https, http, mailto and tel are followed in mail clients.";

    public override IEnumerable<Finding> Run(Inspection inspection) =>
        from entry in inspection.Blocks
        let block = entry.View.Block
        from link in entry.Kind.Links(entry.View)
        let place = new Place(entry.Row.Id, block.Id, link.Field)
        let finding = Links.IsPlaceholder(link.Href) ? Found(Severity.Stop, place, $"The link of \"{Label(block)}\" leads nowhere yet.")
            : !Links.IsSafe(link.Href) ? Found(Severity.Stop, place, $"The link of \"{Label(block)}\" is not an address. Write it with https://, mailto: or tel:.", link.Href)
            : link.Href.StartsWith("http://", StringComparison.OrdinalIgnoreCase) ? Found(Severity.Warn, place, $"The link of \"{Label(block)}\" is not encrypted. Use https://.", link.Href)
            : null
        where finding is not null
        select finding;
}
