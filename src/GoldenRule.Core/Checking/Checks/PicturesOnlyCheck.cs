using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class PicturesOnlyCheck : Check
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

    public override Asked Asked => Asked.OfEachReader;

    public override bool Concerns(InspectedRow row) => IsBody(row);

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        var pictures = 0;
        foreach (var row in inspection.Rows.Where(IsBody))
        {
            foreach (var block in row.Blocks)
            {
                foreach (var shown in block.Pictures)
                {
                    pictures += shown.Picture.Length > 0 ? 1 : 0;
                }
            }
        }

        var words = 0;
        foreach (var row in inspection.Rows.Where(IsBody))
        {
            foreach (var block in row.Blocks)
            {
                words += block.WordCount;
                if (words >= pictures * WordsPerPicture)
                {
                    yield break;
                }
            }
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
