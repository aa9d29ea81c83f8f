using System.Collections.Immutable;
using System.Globalization;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Languages;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>
/// How many days are left, written as text on the day the email goes out: it stays true with pictures off and for
/// those who listen. Without that day, only the date is said.
/// </summary>
public sealed class CountdownBlock : WritableKind
{
    public override string Name => "countdown";

    public override string Label => "Countdown";

    public override string About => "Days left until a date, counted from the day the email goes out.";

    public override KindGroup Group => KindGroup.Dates;

    public override ImmutableArray<Field> Fields { get; } =
    [
        new("text", "What happens then", new FieldValue.Words("")) { Sample = "Booking opens" },
        new("until", "When", new FieldValue.Moment("", "", CalendarFile.UsualZone)),
        new("days", "Days left, wording", new FieldValue.Words(Number + " days left")),
        new("lastDay", "One day left, wording", new FieldValue.Words("1 day left")),
        new("today", "On the day, wording", new FieldValue.Words("Today")),
    ];

    // Stands for the number in the wording of days left.
    private const string Number = "{days}";

    public override ImmutableArray<LookProperty> Look { get; } = [Align, new("size", "Days", ["large", "body"])];

    public override void WriteHtml(HtmlWriter html, in BlockView view)
    {
        Parts.Line(html, view, view.Look("size") == "large" ? "heading2" : "body", Left(view), view.Theme.BlockSpace / 4, bold: true);
        Parts.Line(html, view, "body", Then(view));
    }

    public override void WriteText(PlainTextWriter text, in BlockView view) =>
        text.Lines(new[] { Left(view), Then(view) }.Where(l => l.Length > 0));

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) => [Read(view, dark, "Countdown", "body", "text")];

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) => [Size(view, "Countdown", "body")];

    /// <summary>"9 days left" in the words of the block; empty where the email's day is not settled or comes after.</summary>
    private static string Left(in BlockView view)
    {
        if (view.Context.SendDay is not { } sent || view.Block.Moment("until").Starts is not { } until)
        {
            return "";
        }

        return (DateOnly.FromDateTime(until).DayNumber - sent.DayNumber) switch
        {
            < 0 => "",
            0 => view.Block.Words("today"),
            1 => view.Block.Words("lastDay"),
            var days => view.Block.Words("days").Replace(Number, days.ToString(CultureInfo.InvariantCulture), StringComparison.Ordinal),
        };
    }

    private static string Then(in BlockView view)
    {
        var day = Dates.Words(view.Block.Moment("until"), view.Context.Language);
        return (view.Block.Words("text"), day) switch
        {
            ("", _) => day,
            (var words, "") => words,
            (var words, _) => $"{words}: {day}",
        };
    }
}
