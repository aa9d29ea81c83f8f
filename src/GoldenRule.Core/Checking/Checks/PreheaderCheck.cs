using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class PreheaderCheck : Check
{
    public override string Name => "preheader";

    public override string Why => "Inboxes show the preheader beside the subject, and the first words of the body where there is none; 40 to 130 characters fill the line (common practice, no source).";

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        var preheader = inspection.Email.Email.Details.Preheader;
        var length = Measuring.Characters(preheader);
        if (string.IsNullOrWhiteSpace(preheader))
        {
            yield return Found(Severity.Warn, Place.Detail("preheader"), "The email has no preheader.");
        }
        else if (length is < 40 or > 130)
        {
            yield return Found(Severity.Advise, Place.Detail("preheader"), length < 40 ? "The preheader leaves part of the inbox line empty." : "Inboxes will cut the preheader.", $"{length} characters, 40 to 130 fit");
        }
    }
}
