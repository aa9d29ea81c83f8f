using System.Globalization;
using System.Text.RegularExpressions;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Languages;

namespace GoldenRule.Core.History;

/// <summary>What the next of a series is called: "Gazette, December 2027" is followed by "Gazette, January 2028".</summary>
public static partial class NextName
{
    private const string English = "en-GB";

    // "Sep", where Britain writes "Sept".
    private static readonly IReadOnlyList<string> American = DateWords.ForLanguage("en-US").Short;

    private static readonly string[] Seasons = ["Spring", "Summer", "Autumn", "Winter"];
    private static readonly string[] Quarters = ["Q1", "Q2", "Q3", "Q4"];

    /// <summary>
    /// The text with the first month, date, season, quarter or number of a series in it rolled on; as it is, where there is none.
    /// </summary>
    /// <param name="language">BCP 47 tag; months are looked for by its names, then by the English ones.</param>
    public static string After(string text, string language = English)
    {
        var (own, english) = (DateWords.ForLanguage(language), DateWords.ForLanguage(English));
        foreach (
            var series in (ReadOnlySpan<IReadOnlyList<string>>)
                [own.Alone, own.Months, own.Short, english.Alone, english.Short, American, Seasons, Quarters]
        )
        {
            if (Next(text, series) is { } next)
            {
                return next;
            }
        }

        if (
            YearMonth().Match(text) is { Success: true } dated
            && int.Parse(dated.Groups["month"].ValueSpan, CultureInfo.InvariantCulture) is >= 1 and <= 12 and var month
        )
        {
            var year = int.Parse(dated.Groups["year"].ValueSpan, CultureInfo.InvariantCulture);
            return Put(
                text,
                dated,
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{(month == 12 ? year + 1 : year):0000}{dated.Groups["mark"].Value}{(month % 12) + 1:00}"
                )
            );
        }

        // A bare number may be anything; one that is called a number is a series.
        if (
            Numbered().Match(text) is { Success: true } numbered
            && long.TryParse(numbered.Groups["number"].ValueSpan, CultureInfo.InvariantCulture, out var number)
        )
        {
            return Put(
                text,
                numbered.Groups["number"],
                (number + 1).ToString(new string('0', numbered.Groups["number"].Length), CultureInfo.InvariantCulture)
            );
        }

        return Year().Match(text) is { Success: true } alone
            ? Put(text, alone, (int.Parse(alone.ValueSpan, CultureInfo.InvariantCulture) + 1).ToString(CultureInfo.InvariantCulture))
            : text;
    }

    // "May" may be a verb and "Mar" a name: only a whole word, written with a capital.
    private static string? Next(string text, IReadOnlyList<string> series)
    {
        (int At, int Word)? first = null;
        for (var i = 0; i < series.Count; i++)
        {
            // Numbers are no series of names.
            foreach (
                var name in DateWords.IsName(series[i])
                    ? (ReadOnlySpan<string>)[series[i], Capital(series[i]), series[i].ToUpperInvariant()]
                    : []
            )
            {
                if (Whole(text, name) is >= 0 and var at && (first is null || at < first.Value.At))
                {
                    first = (at, i);
                }
            }
        }

        if (first is not { } found)
        {
            return null;
        }

        var former = text.Substring(found.At, series[found.Word].Length);
        var next = series[(found.Word + 1) % series.Count];
        next = former switch
        {
            { Length: > 2 } when former == former.ToUpperInvariant() => next.ToUpperInvariant(),
            _ when former == series[found.Word] => next,
            _ => Capital(next),
        };
        var rolled = string.Concat(text.AsSpan(0, found.At), next, text.AsSpan(found.At + former.Length));
        return found.Word < series.Count - 1 || Year().Match(rolled) is not { Success: true } year
            ? rolled
            : Put(rolled, year, (int.Parse(year.ValueSpan, CultureInfo.InvariantCulture) + 1).ToString(CultureInfo.InvariantCulture));
    }

    private static string Capital(string word) => char.ToUpperInvariant(word[0]) + word[1..];

    private static int Whole(string text, string word)
    {
        for (var at = text.IndexOf(word, StringComparison.Ordinal); at >= 0; at = text.IndexOf(word, at + 1, StringComparison.Ordinal))
        {
            var end = at + word.Length;
            if ((at == 0 || !char.IsLetterOrDigit(text[at - 1])) && (end == text.Length || !char.IsLetterOrDigit(text[end])))
            {
                return at;
            }
        }

        return -1;
    }

    private static string Put(string text, Capture at, string with) =>
        string.Concat(text.AsSpan(0, at.Index), with, text.AsSpan(at.Index + at.Length));

    [GeneratedRegex(
        @"(?<![\d])(?<year>20\d\d)(?<mark>[-/.])(?<month>\d\d)(?![\d])",
        RegexOptions.ExplicitCapture | RegexOptions.CultureInvariant
    )]
    private static partial Regex YearMonth();

    [GeneratedRegex(
        @"\b(no\.?|nr\.?|number|issue|edition|week|part|vol\.?|volume|#)\s?(?<number>\d{1,6})\b",
        RegexOptions.ExplicitCapture | RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Numbered();

    [GeneratedRegex(@"(?<![\d.,/-])20\d\d(?![\d])", RegexOptions.CultureInvariant)]
    private static partial Regex Year();
}
