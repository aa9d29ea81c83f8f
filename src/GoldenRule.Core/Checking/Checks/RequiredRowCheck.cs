using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class RequiredRowCheck : Check
{
    public override string Name => "required-row";

    public override string Label => "Row kinds that are needed and missing";

    public override CheckGroup Group => CheckGroup.Brand;

    public override Severity Usual => Severity.Warn;

    public override string Why => "The lead marked rows of this kind as needed in emails of this campaign type, on the coverage grid.";

    public override Inspection.Subject From => Inspection.Subject.Template;

    public override Asked Asked => Asked.OfEachReader;

    public override bool Necessary => true;

    // Where every reader sees one of its kind, another makes no difference.
    public override bool Concerns(InspectedRow row, Inspection whole) =>
        row.Row.Condition is not null
        && KindOf(row, whole) is var kind
        && whole.Context.Needed.Contains(kind)
        && !whole.Rows.Any(r => r.Row.Condition is null && KindOf(r, whole) == kind);

    private static string KindOf(InspectedRow row, Inspection whole) =>
        whole.Context.RowKinds.Merged.Current(row.Row.Source.Master.RowKind);

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        if (inspection.Context.Needed.IsEmpty)
        {
            return [];
        }

        var here = inspection.Email.Rows.Select(r => inspection.Context.RowKinds.Merged.Current(r.Source.Master.RowKind)).ToHashSet();
        return inspection
            .Context.Needed.Where(kind => !here.Contains(kind))
            .Select(kind =>
                Found(Place.Whole, $"There is no {inspection.Context.RowKinds.Words(kind)} row, and this campaign type needs one.")
            );
    }
}
