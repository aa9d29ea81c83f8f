using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class ZoneCheck : Check
{
    public override string Name => "zone";

    public override string Why => "The template says how many rows belong in each zone.";

    public override IEnumerable<Finding> Run(Inspection inspection) =>
        from zone in inspection.Email.Template.Order.OfType<Zone>()
        let count = inspection.Email.Email.Zones.GetValueOrDefault(zone.Id, []).Length
        where count < zone.Least || count > zone.Most
        select Found(
            Severity.Stop,
            new Place(zone.Id),
            count < zone.Least ? $"\"{zone.Name}\" needs more rows." : $"\"{zone.Name}\" has too many rows.",
            $"{count}, takes {zone.Least} to {zone.Most}");
}
