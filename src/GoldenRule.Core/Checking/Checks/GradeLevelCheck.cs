using System.Collections.Immutable;
using System.Globalization;

namespace GoldenRule.Core.Checking.Checks;

public sealed class GradeLevelCheck : SeenRowsCheck<Readability>
{
    /// <summary>Years of school (common practice, no source).</summary>
    private const double Easy = 9;

    /// <summary>Words below which the figure says little.</summary>
    private const int Least = 100;

    public override string Name => "grade-level";

    public override string Label => "Hard to read";

    public override CheckGroup Group => CheckGroup.Reading;

    public override Severity Usual => Severity.Advise;

    public override string Why =>
        "Readers skim: text that needs more than nine years of school loses them (Flesch–Kincaid grade "
        + "level, Kincaid et al. 1975; for English only).";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override bool Concerns(InspectedRow row, Inspection whole) => row.Readability.Words > 0;

    private protected override Readability None => Readability.None;

    private protected override Readability Count(InspectedRow row, CheckContext context) => row.Readability;

    private protected override Readability Together(Readability first, Readability then) => first + then;

    private protected override ImmutableArray<Finding> Found(Readability counted, Inspection whole) =>
        counted.Words >= Least && counted.Grade > Easy && whole.Email.Email.Language.StartsWith("en", StringComparison.OrdinalIgnoreCase)
            ?
            [
                Found(
                    Place.Whole,
                    "The text is hard to read. Shorter sentences help most.",
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"grade {counted.Grade:0.0}, {Easy:0} reads easily; {(double)counted.Words / counted.Sentences:0} words a sentence"
                    )
                ),
            ]
            : [];
}
