namespace GoldenRule.Core.Checking.Checks;

public sealed class ShoutingCheck : Check
{
    public override string Name => "shouting";

    public override string Label => "A subject that shouts";

    public override CheckGroup Group => CheckGroup.LawAndDelivery;

    public override Severity Usual => Severity.Warn;

    public override string Why =>
        "Capitals and rows of exclamation marks read as advertising, to people and to filters (common practice, no source).";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        var subject = inspection.Email.Email.Details.Subject;
        var letters = subject.Count(char.IsLetter);
        var capitals = subject.Count(char.IsUpper);
        var marks = subject.Count(c => c == '!');
        if (letters >= 8 && capitals * 10 > letters * 6)
        {
            yield return Found(Place.Detail("subject"), "The subject shouts: most of it is capitals.", $"{capitals} of {letters} letters");
        }
        else if (marks > 1)
        {
            yield return Found(Place.Detail("subject"), "The subject shouts.", $"{marks} exclamation marks");
        }
    }
}
