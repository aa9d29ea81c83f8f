using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class PostalAddressCheck : Check
{
    /// <summary>Key of the brand variable that holds the sender's postal address.</summary>
    public const string Variable = "postal-address";

    public override string Name => "postal-address";

    public override string Label => "No postal address";

    public override CheckGroup Group => CheckGroup.LawAndDelivery;

    public override Severity Usual => Severity.Stop;

    public override string Why => "Marketing email must carry the sender's postal address (for example 15 U.S.C. 7704(a)(5), named from memory).";

    public override Inspection.Subject From => Inspection.Subject.Template;

    public override bool Fixed => true;

    public override IEnumerable<Finding> Run(Inspection inspection) =>
        inspection.Around.Transactional || Stands(inspection)
            ? []
            : [Found(Place.Whole, "The sender's postal address is missing. It is the brand variable \"postal-address\"; the footer row carries it.")];

    // From the end: that is where it stands.
    private static bool Stands(Inspection inspection)
    {
        for (var i = inspection.Rows.Length - 1; i >= 0; i--)
        {
            foreach (var entry in inspection.Rows[i].Blocks)
            {
                foreach (var (_, value) in entry.Content)
                {
                    if (value is FieldValue.Prose prose && prose.Text.Paragraphs.Any(p => p.Runs.Any(r => r.Variable == Variable && r.Text.Length > 0)))
                    {
                        return true;
                    }
                }
            }
        }

        return false;
    }
}
