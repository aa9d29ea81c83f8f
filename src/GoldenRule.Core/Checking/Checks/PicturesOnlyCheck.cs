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

    public override string Why => "An email of pictures says nothing where pictures are off, and filters take it for advertising (common practice, no source).";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        var body = inspection.Rows.Where(r => r.Row.Source.Master.RowKind is not (RowKind.Header or RowKind.Footer or RowKind.Legal)).ToList();
        var pictures = body.Sum(r => r.Blocks.Sum(b => b.Pictures.Count(p => p.Picture.Length > 0)));
        var words = 0;
        foreach (var text in body.SelectMany(r => r.Blocks).SelectMany(b => b.Words))
        {
            words += Measuring.Words(text.Text);
            if (words >= pictures * WordsPerPicture)
            {
                yield break;
            }
        }

        if (pictures > 0 && words < pictures * WordsPerPicture)
        {
            yield return Found(Place.Whole, "Most of the email is pictures.", $"{words} words with {pictures} picture{(pictures == 1 ? "" : "s")}");
        }
    }
}
