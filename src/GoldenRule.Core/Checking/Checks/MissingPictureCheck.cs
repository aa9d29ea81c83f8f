using GoldenRule.Core.Validation;

namespace GoldenRule.Core.Checking.Checks;

public sealed class MissingPictureCheck : RowCheck
{
    public override string Name => "missing-picture";

    public override string Label => "Pictures that are missing";

    public override CheckGroup Group => CheckGroup.Structure;

    public override Severity Usual => Severity.Stop;

    public override string Why => "The row was made for a picture; without one it falls apart.";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override bool Fixed => true;

    public override void Run(InspectedRow row, Inspection inspection, List<Finding> found)
    {
        foreach (var entry in row.Blocks)
        {
            foreach (var shown in entry.Pictures)
            {
                if ((shown.Needed || shown.Picture.Length > 0) && inspection.Email.Pictures.Find(shown.Picture) is null)
                {
                    found.Add(
                        Found(
                            entry.At(shown.Field),
                            shown.Picture.Length == 0
                                ? $"\"{NameOf(entry.Block)}\" has no picture yet."
                                : $"The picture of \"{NameOf(entry.Block)}\" is not in the library any more."
                        )
                    );
                }
            }
        }
    }
}
