using System.Globalization;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Languages;

/// <summary>Dates and times as readers see them, in the email's language.</summary>
internal static class Dates
{
    /// <summary>"Saturday 6 March 2027, 10:40 to 15:30", as much of it as there is. Empty: no start is set.</summary>
    public static string Words(FieldValue.Moment moment, string language)
    {
        if (moment.Starts is not { } start)
        {
            return "";
        }

        var first = Day(start, language) + (HasTime(moment.Start) ? Time(start) : "");
        if (moment.Ends is not { } end)
        {
            return first;
        }

        // English says "to"; where we have no word for it a dash says so in any language.
        var to = language.StartsWith("en", StringComparison.OrdinalIgnoreCase) ? " to " : " – ";
        if (end.Date != start.Date)
        {
            return $"{first}{to}{Day(end, language)}{(HasTime(moment.End) ? Time(end) : "")}";
        }

        return HasTime(moment.End) ? $"{first}{to}{end.ToString("HH:mm", CultureInfo.InvariantCulture)}" : first;
    }

    public static bool HasTime(string moment) => moment.Contains('T', StringComparison.Ordinal);

    private static string Day(DateTime at, string language) => DateWords.ForLanguage(language).Day(at);

    private static string Time(DateTime at) => at.ToString(", HH:mm", CultureInfo.InvariantCulture);
}
