namespace GoldenRule.Core.Checking.Checks;

public sealed class PreheaderCheck : Check
{
    public override string Name => "preheader";

    public override string Label => "No preheader";

    public override CheckGroup Group => CheckGroup.LawAndDelivery;

    public override Severity Usual => Severity.Warn;

    public override string Why =>
        "Inboxes show the preheader beside the subject, and the first words of the body where there is none (common practice, no source).";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override IEnumerable<Finding> Run(Inspection inspection) =>
        string.IsNullOrWhiteSpace(inspection.Email.Email.Details.Preheader)
            ? [Found(Place.Detail("preheader"), "The email has no preheader.")]
            : [];
}
