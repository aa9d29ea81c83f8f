using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

/// <summary>Default wording that only says what belongs there and was left standing.</summary>
public sealed class PlaceholderCheck : RowCheck
{
    public override string Name => "placeholder-wording";

    public override string Label => "Placeholder text left in";

    public override CheckGroup Group => CheckGroup.Copy;

    public override Severity Usual => Severity.Stop;

    public override string Why => "The template's wording says what belongs here; readers must not get it.";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override bool Fixed => true;

    public override void Run(InspectedRow row, Inspection inspection, List<Finding> found)
    {
        foreach (var entry in row.Blocks)
        {
            if (!entry.Block.Master.Placeholder)
            {
                continue;
            }

            foreach (var (field, value) in entry.Content)
            {
                if (value.HasWords() && field != "alt" && !IsFilled(row.Row, entry.Block, field))
                {
                    found.Add(ToFill(entry.At(field), $"\"{NameOf(entry.Block)}\" still holds placeholder text."));
                }
            }
        }
    }
}
