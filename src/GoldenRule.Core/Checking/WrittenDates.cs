using System.Collections.Concurrent;
using System.Globalization;
using System.Text.RegularExpressions;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Languages;

namespace GoldenRule.Core.Checking;

/// <summary>
/// Days that stand in a text, with their year: "2 March 2027", "March 2, 2027", "2027-03-02". Without a year nobody knows which
/// one is meant.
/// </summary>
public static class WrittenDates
{
    private static readonly ConcurrentDictionary<string, (Regex Form, string[] Months)> Forms = new(StringComparer.OrdinalIgnoreCase);

    /// <param name="language">BCP 47 tag; the months' names are its own.</param>
    public static IEnumerable<(DateOnly Day, string Words)> In(string text, string language)
    {
        // Every form has a year in it.
        if (!HasYear(text))
        {
            yield break;
        }

        var (form, months) = Forms.GetOrAdd(language, Make);
        foreach (Match match in form.Matches(text))
        {
            var month = match.Groups["number"] is { Success: true } number
                ? int.Parse(number.ValueSpan, CultureInfo.InvariantCulture)
                : (
                    Array.FindIndex(months, m => m.Equals(match.Groups["month"].Value.TrimEnd('.'), StringComparison.OrdinalIgnoreCase))
                    % 12
                ) + 1;
            var written = string.Create(CultureInfo.InvariantCulture, $"{match.Groups["year"].Value}-{month}-{match.Groups["day"].Value}");
            if (DateOnly.TryParseExact(written, "yyyy-M-d", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day))
            {
                yield return (day, match.Value);
            }
        }
    }

    private static bool HasYear(ReadOnlySpan<char> text)
    {
        var digits = 0;
        foreach (var c in text)
        {
            digits = char.IsAsciiDigit(c) ? digits + 1 : 0;
            if (digits == 4)
            {
                return true;
            }
        }

        return false;
    }

    // The months' whole names, then their short ones, each twelve.
    private static (Regex Form, string[] Months) Make(string language)
    {
        var words = DateWords.ForLanguage(language);
        string[] months = [.. words.Months, .. words.Alone, .. words.Short.Select(m => m.TrimEnd('.'))];
        var names = months.Distinct(StringComparer.OrdinalIgnoreCase).OrderByDescending(m => m.Length).ToList();
        // Some languages write months as numbers: only their own form says that they are months.
        var month = AnyOf(names.Where(DateWords.IsName).DefaultIfEmpty("\n"));
        return (
            new Regex(
                $@"\b(?<day>\d{{1,2}})(?:st|nd|rd|th|\.)?\s+(?:of\s+)?{month},?\s+(?<year>\d{{4}})\b|"
                    + $@"\b{month}\s+(?<day>\d{{1,2}})(?:st|nd|rd|th)?,?\s+(?<year>\d{{4}})\b|"
                    + @"\b(?<year>\d{4})-(?<number>\d{2})-(?<day>\d{2})\b|"
                    + OwnForm(words, AnyOf(names)),
                RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture | RegexOptions.CultureInvariant
            ),
            months
        );
    }

    private static string AnyOf(IEnumerable<string> names) => $"(?<month>{string.Join('|', names.Select(Regex.Escape))})\\.?";

    // As the language writes a day in full; the day of the week is looked for only where it stands within.
    private static string OwnForm(DateWords words, string month)
    {
        const string weekday = "{weekday}";
        var form = words.Form;
        form = (
            form.StartsWith(weekday, StringComparison.Ordinal) || form.EndsWith(weekday, StringComparison.Ordinal)
                ? form.Replace(weekday, "", StringComparison.Ordinal)
                : form
        )
            .Trim()
            .Trim(',', '،', '፣');
        return @"(?<!\d)"
            + string.Join(@"\s+", form.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Select(Regex.Escape))
                .Replace(@"\{weekday}", $"(?:{string.Join('|', words.Weekdays.Select(Regex.Escape))})", StringComparison.Ordinal)
                .Replace(@"\{day}", @"(?<day>\d{1,2})", StringComparison.Ordinal)
                .Replace(@"\{month}", month, StringComparison.Ordinal)
                .Replace(@"\{year}", @"(?<year>\d{4})", StringComparison.Ordinal);
    }
}
