using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class PicturesOnlyCheck : SeenRowsCheck
{
    /// <summary>Words that a picture wants beside it before the email counts as made of pictures (common practice, no source).</summary>
    private const int WordsPerPicture = 20;

    public override string Name => "pictures-only";

    public override string Label => "Pictures without text";

    public override CheckGroup Group => CheckGroup.LawAndDelivery;

    public override Severity Usual => Severity.Warn;

    public override string Why =>
        "An email of pictures says nothing where pictures are off, and filters take it for advertising (common practice, no source).";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override bool Concerns(InspectedRow row) => IsBody(row);

    internal override IEnumerable<Finding> RunOn(List<InspectedRow> seen, Inspection whole)
    {
        var (pictures, words) = (0, 0);
        foreach (var row in seen)
        {
            pictures += IsBody(row) ? row.PictureCount : 0;
        }

        foreach (var row in seen)
        {
            // Most emails have enough in their first rows.
            if (words >= pictures * WordsPerPicture)
            {
                yield break;
            }

            words += IsBody(row) ? row.WordCount : 0;
        }

        if (pictures > 0 && words < pictures * WordsPerPicture)
        {
            yield return Found(
                Place.Whole,
                "Most of the email is pictures.",
                $"{words} words with {pictures} picture{(pictures == 1 ? "" : "s")}"
            );
        }
    }

    private static bool IsBody(InspectedRow row) =>
        row.Row.Source.Master.RowKind is not (RowKind.Header or RowKind.Footer or RowKind.Legal);
}
