namespace GoldenRule.Core.Checking.Checks;

/// <param name="required">True: the lead says that the release must be taken; false: it may wait.</param>
public sealed class UpdateCheck(bool required) : Check
{
    public override string Name => required ? "update-required" : "update-waiting";

    public override string Label => required ? "Updates that must be taken" : "Updates that wait";

    public override CheckGroup Group => CheckGroup.Brand;

    public override Severity Usual => required ? Severity.Stop : Severity.Advise;

    public override string Why =>
        required
            ? "The lead marked this release as required: nothing goes out without it."
            : "There is a newer release of what this email is made from; saved rows and templates wait until the update is taken.";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override bool Fixed => required;

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        var email = inspection.Email.Email;
        if (email.Template != Guid.Empty && Waits(inspection.Context, email.Template, email.TemplateRelease) is { } number)
        {
            yield return Found(
                Place.Whole,
                $"The template \"{inspection.Email.Template.Name}\" has a newer release.",
                $"release {email.TemplateRelease} of {number}"
            );
        }

        foreach (var row in inspection.Email.Rows)
        {
            if (
                row.Source is { IsOwn: false, Placed: { Master: { } master, Release: { } release } }
                && Waits(inspection.Context, master, release) is { } newer
            )
            {
                yield return Found(
                    new Place(row.Id),
                    $"\"{row.Source.Master.Name}\" has a newer release.",
                    $"release {release} of {newer}"
                );
            }
        }
    }

    // A release that must be taken counts until one as new is; what only waits is told where nothing must be taken.
    private int? Waits(CheckContext around, Guid id, int release)
    {
        var must = around.Required.TryGetValue(id, out var least) && release < least;
        return around.Newest.TryGetValue(id, out var newest) && release < newest && must == required ? newest : null;
    }
}
