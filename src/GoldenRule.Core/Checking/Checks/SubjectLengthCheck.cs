using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class SubjectLengthCheck : Check
{
    /// <summary>About what phone inboxes show (common practice, no source).</summary>
    private const int Readable = 50;

    public override string Name => "subject-length";

    public override string Label => "A long subject";

    public override CheckGroup Group => CheckGroup.LawAndDelivery;

    public override Severity Usual => Severity.Advise;

    public override string Why => "Inboxes cut the subject after about 50 characters (common practice, no source).";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override IEnumerable<Finding> Run(Inspection inspection) =>
        Measuring.Characters(inspection.Email.Email.Details.Subject) is > Readable and var length
            ? [Found(Place.Detail("subject"), "A phone's inbox will cut the subject.", $"{length} characters, {Readable} are shown")]
            : [];
}
