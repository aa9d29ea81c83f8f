using System.Globalization;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class PastDateCheck : RowCheck
{
    public override string Name => "past-date";

    public override string Label => "Dates in the past";

    public override CheckGroup Group => CheckGroup.Copy;

    public override Severity Usual => Severity.Warn;

    public override string Why => "A date that has gone when the email arrives is usually left over from the last one.";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override void Run(InspectedRow row, Inspection inspection, List<Finding> found)
    {
        var context = inspection.Compiled.Context;
        if ((context.SendDay ?? inspection.Context.Today) is not { } sent)
        {
            return;
        }

        foreach (var entry in row.Blocks)
        {
            foreach (var (field, text) in entry.Words)
            {
                if (WrittenDates.In(text, context.Language).Where(d => d.Day < sent).Select(d => d.Words).FirstOrDefault() is { } words)
                {
                    found.Add(Found(entry.At(field), $"{words} has gone when this is sent.", Sent(context.SendDay, sent)));
                }
            }

            foreach (var (field, value) in entry.Content)
            {
                if (value is FieldValue.Moment moment && (moment.Ends ?? moment.Starts) is { } at && DateOnly.FromDateTime(at) < sent)
                {
                    found.Add(Found(entry.At(field), $"\"{NameOf(entry.Block)}\" is over when this is sent.", Sent(context.SendDay, sent)));
                }
            }
        }
    }

    private static string Sent(DateOnly? day, DateOnly sent) =>
        string.Create(CultureInfo.InvariantCulture, $"{(day is null ? "today is" : "goes out on")} {sent:yyyy-MM-dd}");
}
