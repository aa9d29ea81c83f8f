using GoldenRule.Core.Compiling;

namespace GoldenRule.Core.Checking.Checks;

public sealed class PictureWeightCheck : RowCheck
{
    /// <summary>Bytes (common practice, no source).</summary>
    private const int Most = 500 * 1024;

    public override string Name => "picture-weight";

    public override string Label => "Heavy pictures";

    public override CheckGroup Group => CheckGroup.Clients;

    public override Severity Usual => Severity.Advise;

    public override string Why => "A heavy picture comes late on a phone, and readers have gone by then (common practice, no source).";

    public override void Run(InspectedRow row, Inspection inspection, List<Finding> found)
    {
        foreach (var entry in row.Blocks)
        {
            foreach (var shown in entry.Pictures)
            {
                if (Weight(inspection, entry, shown) is > Most and var bytes)
                {
                    found.Add(
                        Found(
                            entry.At(shown.Field),
                            $"The picture of \"{NameOf(entry.Block)}\" is heavy.",
                            $"{bytes / 1024} KB, at most {Most / 1024} load soon enough"
                        )
                    );
                }
            }
        }
    }

    /// <summary>Bytes of the file that readers get where the block has its whole width; 0: there is none.</summary>
    internal static int Weight(Inspection inspection, InspectedBlock entry, ShownPicture shown) =>
        inspection.Email.Pictures.Find(shown.Picture)?.FileFor(entry.View.Width).Bytes ?? 0;
}
