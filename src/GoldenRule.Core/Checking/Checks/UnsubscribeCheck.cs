using GoldenRule.Core.Compiling;

namespace GoldenRule.Core.Checking.Checks;

public sealed class UnsubscribeCheck : Check
{
    public override string Name => "unsubscribe";

    public override string Label => "No way to unsubscribe";

    public override CheckGroup Group => CheckGroup.LawAndDelivery;

    public override Severity Usual => Severity.Stop;

    public override string Why =>
        "Marketing email must offer a way out, by law in most countries (for example 15 U.S.C. 7704(a)(3); "
        + "regulation 22 of the UK's PECR, both named from memory).";

    public override Inspection.Subject From => Inspection.Subject.Template;

    public override bool Fixed => true;

    public override Asked Asked => Asked.OfEachReader;

    public override bool Concerns(InspectedRow row, Inspection whole) => row.Blocks.Any(b => b.Kind.Unsubscribe(b.View) is not null);

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        if (inspection.Context.Transactional)
        {
            yield break;
        }

        if (ListUnsubscribe.Find(inspection.Email, inspection.Compiled.Context) is not { } way)
        {
            yield return Found(
                Place.Whole,
                "There is no way to unsubscribe that every reader sees, on phones and on desktops. The footer row carries it."
            );
        }
        else if (inspection.Email.Email.PlainText is { } written && !written.Text.Contains(way, StringComparison.OrdinalIgnoreCase))
        {
            yield return Found(Place.Detail("plainText"), "The plain text written by hand has no way to unsubscribe.", way);
        }
    }
}
