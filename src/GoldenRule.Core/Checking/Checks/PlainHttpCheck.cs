using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;

namespace GoldenRule.Core.Checking.Checks;

public sealed class PlainHttpCheck : RowCheck
{
    public override string Name => "plain-http";

    public override string Label => "Links that are not encrypted";

    public override CheckGroup Group => CheckGroup.LawAndDelivery;

    public override Severity Usual => Severity.Warn;

    public override string Why =>
        "Mail clients and browsers warn of addresses that are not encrypted, and filters trust them less (common practice, no source).";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override void Run(InspectedRow row, Inspection inspection, List<Finding> found)
    {
        foreach (var entry in row.Blocks)
        {
            foreach (var link in entry.Links)
            {
                if (link.Href.StartsWith("http://", StringComparison.OrdinalIgnoreCase))
                {
                    found.Add(
                        Found(
                            entry.At(link.Field),
                            $"The link of \"{NameOf(entry.Block)}\" is not encrypted. Use https://.",
                            link.Href,
                            Mend(entry, link.Field, link.Href)
                        )
                    );
                }
            }
        }
    }

    private static Remedy? Mend(InspectedBlock entry, string field, string href) =>
        entry.Block.Content.GetValueOrDefault(field) is FieldValue.Link
            ? new Remedy(
                "Use https://",
                [new SetFill(entry.Row.Id, entry.Block.Id, field, new FieldValue.Link("https://" + href["http://".Length..]))]
            )
            : null;
}
