using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

/// <summary>The usual wording of a text that is there to be written anew.</summary>
public sealed class DefaultWordingCheck : RowCheck
{
    public override string Name => "default-wording";

    public override string Label => "Wording of the saved row left as it is";

    public override CheckGroup Group => CheckGroup.Copy;

    public override Severity Usual => Severity.Advise;

    public override string Why =>
        "The row comes with these words so that it is not empty; readers who get them every time stop "
        + "reading (common practice, no source).";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override void Run(InspectedRow row, Inspection inspection, List<Finding> found)
    {
        if (row.Row.Source.IsOwn || inspection.Context.RowKinds.PurposeOf(row.Row.Source.Master.RowKind) != RowPurpose.Message)
        {
            return;
        }

        foreach (var entry in row.Blocks)
        {
            // Only what is read as the message itself: labels of links and buttons may well stay.
            if (
                entry.Block.Master.Placeholder
                || !entry.Kind.Fields.Any(f => f.IsMessage)
                || EffectiveLock(row, entry.Block.Id) is not Lock.Open
            )
            {
                continue;
            }

            foreach (var (field, value) in entry.Content)
            {
                if (entry.Kind.FieldAt(field)?.IsMessage == true && value.HasWords() && !IsFilled(row.Row, entry.Block, field))
                {
                    found.Add(Found(entry.At(field), $"\"{NameOf(entry.Block)}\" still has the wording of the saved row."));
                }
            }
        }
    }

    private static Lock EffectiveLock(InspectedRow row, string piece) => EffectiveLocks.ForPiece(row.Row.Source, piece, Aspect.Content);
}
