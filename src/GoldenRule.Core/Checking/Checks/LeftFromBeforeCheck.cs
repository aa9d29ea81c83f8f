using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;

namespace GoldenRule.Core.Checking.Checks;

/// <summary>What still says what the email before said, in one that was made from it to say something new.</summary>
public sealed class LeftFromBeforeCheck : Check
{
    private static readonly string[] Details = ["subject", "preheader"];

    public override string Name => "left-from-before";

    public override string Label => "Words and pictures left from the email before";

    public override CheckGroup Group => CheckGroup.Copy;

    public override Severity Usual => Severity.Warn;

    public override string Why => "This email goes on from an earlier one; readers have had this already (common practice, no source).";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        var email = inspection.Email.Email;
        if (email.PreviousContent.IsEmpty)
        {
            yield break;
        }

        foreach (var field in Details)
        {
            if (email.IsToRenew($"details/{field}", new FieldValue.Words(email.Details.Get(field)!)))
            {
                yield return Left($"details/{field}", Place.Detail(field), $"The {field}");
            }
        }

        foreach (var entry in inspection.Blocks)
        {
            foreach (var (field, value) in FilledHere(entry))
            {
                var place = $"{entry.Row.Id}/{entry.Block.Id}/{field}";
                if (email.IsToRenew(place, value))
                {
                    yield return Left(place, entry.At(field), $"\"{NameOf(entry.Block)}\"");
                }
            }
        }
    }

    // As it was written: brand variables are not filled in.
    private static IEnumerable<KeyValuePair<string, FieldValue>> FilledHere(InspectedBlock entry) =>
        entry.Row.Source switch
        {
            // A row of the template's own may be filled too.
            var row when row.Fills.TryGetValue(entry.Block.Id, out var fill) => fill.Content,
            { IsOwn: true } => entry.Block.Master.Content,
            _ => [],
        };

    private Finding Left(string place, Place at, string what) =>
        Found(
            at,
            $"{what} still says what the email before said.",
            remedy: new Remedy("It still holds", [new ConfirmUnchanged(place, true)])
        );
}
