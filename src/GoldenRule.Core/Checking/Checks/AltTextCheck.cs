using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;

namespace GoldenRule.Core.Checking.Checks;

public sealed class AltTextCheck : RowCheck
{
    public override string Name => "alt-text";

    public override string Label => "Pictures without alt text";

    public override CheckGroup Group => CheckGroup.Reading;

    public override Severity Usual => Severity.Stop;

    public override string Why =>
        "Pictures are often blocked at first, and some readers never see them: alt text carries the message (WCAG 2.2, 1.1.1).";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override void Run(InspectedRow row, Inspection inspection, List<Finding> found)
    {
        foreach (var entry in row.Blocks)
        {
            foreach (var shown in entry.Pictures)
            {
                if (shown.Picture.Length > 0 && shown.Alt is not null && string.IsNullOrWhiteSpace(shown.Alt))
                {
                    found.Add(
                        Found(
                            entry.At(entry.Kind.FieldAt("alt") is null ? shown.Field : "alt"),
                            "Readers with pictures off get nothing here.",
                            null,
                            shown.DecorativeField is { } flag
                                ? new Remedy(
                                    "Mark as decorative",
                                    [new SetFill(entry.Row.Id, entry.Block.Id, flag, new FieldValue.Flag(true))]
                                )
                                : null
                        )
                    );
                }
            }
        }
    }
}
