using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Validation;

namespace GoldenRule.Core.Checking.Checks;

public sealed class EmptyRowCheck : RowCheck
{
    public override string Name => "empty-row";

    public override string Label => "Rows with nothing in them";

    public override CheckGroup Group => CheckGroup.Structure;

    public override Severity Usual => Severity.Warn;

    public override string Why => "A row with nothing in it leaves a gap that readers take for a fault.";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override void Run(InspectedRow row, Inspection inspection, List<Finding> found)
    {
        if (row.Compiled.Text.Length == 0 && row.Row.Shown != Visibility.PhoneOnly && row.Blocks.All(IsBare))
        {
            found.Add(
                Found(
                    new Place(row.Row.Id),
                    $"\"{row.Row.Name}\" has nothing in it.",
                    null,
                    row.Row.Source.Zone is null ? null : new Remedy("Take the row out", [new RemoveRow(row.Row.Id)])
                )
            );
        }
    }

    private static bool IsBare(InspectedBlock entry) =>
        entry.Block.Shown != Visibility.PhoneOnly && entry.Kind.Group != KindGroup.Space && entry.Pictures.All(p => p.Picture.Length == 0);
}
