using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class UnsubscribeCheck : Check
{
    public override string Name => "unsubscribe";

    public override string Why => "Marketing email must offer a way out, by law in most countries (for example 15 U.S.C. 7704(a)(3); regulation 22 of the UK's PECR, both named from memory).";

    public override IEnumerable<Finding> Run(Inspection inspection) =>
        inspection.Transactional || inspection.Blocks.Any(e =>
            e.View.Block.Master.Kind == "legal-footer" && !Links.IsPlaceholder(e.View.Block.Href("unsubscribe")))
            ? []
            : [Found(Severity.Stop, Place.Whole, "There is no way to unsubscribe. The footer row carries it.")];
}
