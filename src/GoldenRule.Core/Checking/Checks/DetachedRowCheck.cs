namespace GoldenRule.Core.Checking.Checks;

public sealed class DetachedRowCheck : Check
{
    public override string Name => "detached-row";

    public override string Label => "Rows unlinked from the library";

    public override CheckGroup Group => CheckGroup.Brand;

    public override Severity Usual => Severity.Advise;

    public override string Why => "An unlinked row does not follow its saved row any more: nothing the lead mends there reaches it.";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override IEnumerable<Finding> Run(Inspection inspection) =>
        from row in inspection.Email.Rows
        where row.Source is { IsOwn: true, Placed.Master: not null }
        select Found(new Place(row.Id), $"\"{row.Name}\" is detached from its saved row.");
}
