using GoldenRule.Core.Compiling;

namespace GoldenRule.Core.Checking.Checks;

public sealed class ListUnsubscribeCheck : Check
{
    public override string Name => "list-unsubscribe";

    public override string Label => "The mail client's own unsubscribe";

    public override CheckGroup Group => CheckGroup.LawAndDelivery;

    public override Severity Usual => Severity.Warn;

    public override string Why =>
        "Large mailboxes ask senders of many for an unsubscribe that takes one press: the headers of RFC "
        + "2369 and RFC 8058, which need an https address.";

    public override Inspection.Subject From => Inspection.Subject.Template;

    public override Asked Asked => Asked.OfEachReader;

    public override bool Concerns(InspectedRow row, Inspection whole) => row.Blocks.Any(b => b.Kind.Unsubscribe(b.View) is not null);

    public override IEnumerable<Finding> Run(Inspection inspection) =>
        inspection.Context.Transactional
        || ListUnsubscribe.Find(inspection.Email, inspection.Compiled.Context) is not { } address
        || address.StartsWith("https://", StringComparison.OrdinalIgnoreCase)
            ? []
            : [Found(Place.Whole, "Mail clients cannot offer their own unsubscribe.", $"{address}; one press needs https://")];
}
