using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class PostalAddressCheck : Check
{
    /// <summary>Key of the brand variable that holds the sender's postal address.</summary>
    public const string Variable = "postal-address";

    public override string Name => "postal-address";

    public override string Why => "Marketing email must carry the sender's postal address (for example 15 U.S.C. 7704(a)(5), named from memory).";

    public override IEnumerable<Finding> Run(Inspection inspection) =>
        inspection.Transactional || inspection.Blocks.Any(e => e.View.Block.Content.Values.OfType<FieldValue.Prose>()
            .Any(p => p.Text.Paragraphs.Any(q => q.Runs.Any(r => r.Variable == Variable && r.Text.Length > 0))))
            ? []
            : [Found(Severity.Stop, Place.Whole, "The sender's postal address is missing. It is the brand variable \"postal-address\"; the footer row carries it.")];
}
