using System.Collections.Immutable;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class PicturesOnlyCheck : SeenRowsCheck<PicturesOnlyCheck.Counted>
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

    public override bool Concerns(InspectedRow row, Inspection whole) => IsBody(row, whole.Context);

    private protected override Counted None => default;

    private protected override Counted Count(InspectedRow row, CheckContext context) =>
        IsBody(row, context) ? new(row.PictureCount, row.WordCount) : default;

    private protected override Counted Together(Counted first, Counted then) =>
        new(first.Pictures + then.Pictures, first.Words + then.Words);

    private protected override ImmutableArray<Finding> Found(Counted counted, Inspection whole)
    {
        var (pictures, words) = counted;
        return pictures > 0 && words < pictures * WordsPerPicture
            ? [Found(Place.Whole, "Most of the email is pictures.", $"{words} words with {pictures} picture{(pictures == 1 ? "" : "s")}")]
            : [];
    }

    private static bool IsBody(InspectedRow row, CheckContext context) =>
        context.RowKinds.PurposeOf(row.Row.Source.Master.RowKind) != RowPurpose.Frame;

    public readonly record struct Counted(int Pictures, int Words);
}
