using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class PreheaderLengthCheck : Check
{
    public override string Name => "preheader-length";

    public override string Label => "A preheader too short or too long";

    public override CheckGroup Group => CheckGroup.LawAndDelivery;

    public override Severity Usual => Severity.Advise;

    public override string Why => "40 to 130 characters fill the line of the inbox (common practice, no source).";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        var preheader = inspection.Email.Email.Details.Preheader;
        if (!string.IsNullOrWhiteSpace(preheader) && Measuring.Characters(preheader) is var length and (< 40 or > 130))
        {
            yield return Found(
                Place.Detail("preheader"),
                length < 40 ? "The preheader leaves part of the line in the inbox empty." : "Inboxes will cut the preheader.",
                $"{length} characters, 40 to 130 fit"
            );
        }
    }
}
