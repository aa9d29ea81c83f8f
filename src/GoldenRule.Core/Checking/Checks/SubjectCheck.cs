using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class SubjectCheck : Check
{
    /// <summary>About what phone inboxes show (common practice, no source).</summary>
    private const int Readable = 50;

    public override string Name => "subject";

    public override string Why => "The subject decides whether the email is opened; inboxes cut it after about 50 characters (common practice, no source).";

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        var subject = inspection.Email.Email.Details.Subject;
        var length = Measuring.Characters(subject);
        if (string.IsNullOrWhiteSpace(subject))
        {
            yield return Found(Severity.Stop, Place.Detail("subject"), "The email has no subject.");
        }
        else if (length > Readable)
        {
            yield return Found(Severity.Advise, Place.Detail("subject"), "A phone's inbox will cut the subject.", $"{length} characters, {Readable} are shown");
        }
    }
}
