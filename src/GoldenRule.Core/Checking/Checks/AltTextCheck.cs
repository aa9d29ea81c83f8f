using GoldenRule.Core.Edits;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class AltTextCheck : Check
{
    public override string Name => "alt-text";

    public override string Why => "Pictures are often blocked at first, and some readers never see them: alt text carries the message (WCAG 2.2, 1.1.1).";

    public override IEnumerable<Finding> Run(Inspection inspection) =>
        from entry in inspection.Blocks
        let block = entry.View.Block
        where block.Master.Kind == "picture" && block.Picture("picture").Length > 0
            && !block.Flag("decorative") && string.IsNullOrWhiteSpace(block.Words("alt"))
        select Found(
            Severity.Stop,
            new Place(entry.Row.Id, block.Id, "alt"),
            "Readers with pictures off get nothing here.",
            null,
            new Remedy("Mark as decorative", [new SetFill(entry.Row.Id, block.Id, "decorative", new FieldValue.Flag(true))]));
}
