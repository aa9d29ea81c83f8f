using System.Text.RegularExpressions;

namespace GoldenRule.Core.Checking.Checks;

public sealed partial class LanguageCheck : Check
{
    public override string Name => "language";

    public override string Label => "No language";

    public override CheckGroup Group => CheckGroup.Reading;

    public override Severity Usual => Severity.Warn;

    public override string Why =>
        "Readers who listen get the email read in the language it says it is in (WCAG 2.2, 3.1.1; tags by BCP 47).";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override IEnumerable<Finding> Run(Inspection inspection) =>
        Tag().IsMatch(inspection.Email.Email.Language)
            ? []
            :
            [
                Found(
                    Place.Detail("language"),
                    "The email does not say which language it is in.",
                    inspection.Email.Email.Language.Length == 0 ? null : inspection.Email.Email.Language
                ),
            ];

    [GeneratedRegex(
        "^[a-z]{2,3}(-[a-z]{4})?(-([a-z]{2}|[0-9]{3}))?(-[a-z0-9]{4,8})*$",
        RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture | RegexOptions.CultureInvariant
    )]
    private static partial Regex Tag();
}
