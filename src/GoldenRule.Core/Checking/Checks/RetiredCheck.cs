using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;

namespace GoldenRule.Core.Checking.Checks;

public sealed class RetiredCheck : Check
{
    public override string Name => "retired";

    public override string Label => "Retired templates and rows";

    public override CheckGroup Group => CheckGroup.Brand;

    public override Severity Usual => Severity.Advise;

    public override string Why => "It is not looked after any more: nothing that is mended in the library reaches it.";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        var (order, retired) = (inspection.Email, inspection.Context.Retired);
        if (retired.TryGetValue(order.Email.Template, out var next))
        {
            yield return Found(
                Place.Whole,
                next is null
                    ? $"The template \"{order.Template.Name}\" is retired."
                    : $"The template \"{order.Template.Name}\" is retired. Start the next email from \"{next.Name}\"."
            );
        }

        foreach (var row in order.Rows)
        {
            if (row.Source is { IsOwn: false, Placed.Master: { } master } && retired.TryGetValue(master, out var heir))
            {
                var name = row.Source.Master.Name;
                yield return heir is null
                    ? Found(new Place(row.Id), $"\"{name}\" is retired.")
                    : Found(
                        new Place(row.Id),
                        $"\"{name}\" is retired. \"{heir.Name}\" takes its place.",
                        remedy: PutIn(inspection.Email.Email, row.Id, heir)
                    );
            }
        }
    }

    // Beside it: what is written in the old one is carried over by whoever wrote it, and lost by nobody.
    private static Remedy? PutIn(Email email, string row, Heir heir)
    {
        var id = $"{row}-next";
        return email.FindInZones(row) is { } found && email.FindInZones(id) is null
            ? new Remedy(
                $"Put \"{heir.Name}\" in below it",
                [
                    new InsertRow(
                        found.Zone,
                        found.Index + 1,
                        new PlacedRow
                        {
                            Id = id,
                            Master = heir.Id,
                            Release = heir.Release,
                        }
                    ),
                ]
            )
            : null;
    }
}
