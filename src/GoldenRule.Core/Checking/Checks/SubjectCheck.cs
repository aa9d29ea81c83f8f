namespace GoldenRule.Core.Checking.Checks;

public sealed class SubjectCheck : Check
{
    public override string Name => "subject";

    public override string Label => "No subject";

    public override CheckGroup Group => CheckGroup.LawAndDelivery;

    public override Severity Usual => Severity.Stop;

    public override string Why => "The subject decides whether the email is opened.";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override bool Fixed => true;

    public override IEnumerable<Finding> Run(Inspection inspection) =>
        string.IsNullOrWhiteSpace(inspection.Email.Email.Details.Subject)
            ? [ToFill(Place.Detail("subject"), "The email has no subject.")]
            : [];
}
