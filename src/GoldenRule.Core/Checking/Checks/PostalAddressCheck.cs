using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Checking.Checks;

public sealed class PostalAddressCheck : Check
{
    /// <summary>Key of the brand variable that holds the sender's postal address.</summary>
    public const string Variable = "postal-address";

    public override string Name => "postal-address";

    public override string Label => "No postal address";

    public override CheckGroup Group => CheckGroup.LawAndDelivery;

    public override Severity Usual => Severity.Stop;

    public override string Why =>
        "Marketing email must carry the sender's postal address (for example 15 U.S.C. 7704(a)(5), named from memory).";

    public override Inspection.Subject From => Inspection.Subject.Template;

    public override bool Fixed => true;

    public override Asked Asked => Asked.OfEachReader;

    public override bool Concerns(InspectedRow row, Inspection whole) => row.Blocks.Any(b => Written(b.Block) is not null);

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        if (inspection.Context.Transactional)
        {
            yield break;
        }

        if (inspection.Email.SeenByAll((_, block) => Written(block))?.OnDesktops is not { } address)
        {
            yield return Found(
                Place.Whole,
                "The sender's postal address is missing where every reader sees it, on phones and on desktops. It is "
                    + "the brand variable \"postal-address\"; the footer row carries it."
            );
        }
        else if (
            inspection.Email.Email.PlainText is { } written
            && !OnOneLine(written.Text).Contains(OnOneLine(address), StringComparison.OrdinalIgnoreCase)
        )
        {
            yield return Found(Place.Detail("plainText"), "The plain text written by hand lacks the sender's postal address.", address);
        }
    }

    private static string? Written(ResolvedBlock block)
    {
        foreach (var (_, value) in block.Content.All)
        {
            if (value is FieldValue.Prose prose && Written(prose.Text) is { } address)
            {
                return address;
            }
        }

        return null;
    }

    private static string? Written(RichText text)
    {
        foreach (var paragraph in text.Paragraphs)
        {
            foreach (var run in paragraph.Runs)
            {
                if (run.Variable == Variable && !string.IsNullOrWhiteSpace(run.Text))
                {
                    return run.Text;
                }
            }
        }

        return null;
    }

    private static string OnOneLine(string text) => string.Join(' ', text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
}
