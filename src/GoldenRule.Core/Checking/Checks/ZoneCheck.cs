using GoldenRule.Core.Documents;
using GoldenRule.Core.Validation;

namespace GoldenRule.Core.Checking.Checks;

public sealed class ZoneCheck : Check
{
    public override string Name => "zone";

    public override string Label => "Zones with too few or too many rows";

    public override CheckGroup Group => CheckGroup.Structure;

    public override Severity Usual => Severity.Stop;

    public override string Why => "The template says how many rows belong in each zone.";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override bool Fixed => true;

    public override IEnumerable<Finding> Run(Inspection inspection) =>
        from zone in inspection.Email.Template.Order.OfType<Zone>()
        let count = inspection.Email.Email.Zones.GetValueOrDefault(zone.Id, []).Length
        where count < zone.Least || count > zone.Most
        select Found(
            new Place(zone.Id),
            count < zone.Least ? $"\"{zone.Name}\" needs more rows." : $"\"{zone.Name}\" has too many rows.",
            $"{count}, takes {zone.Least} to {zone.Most}"
        );
}
