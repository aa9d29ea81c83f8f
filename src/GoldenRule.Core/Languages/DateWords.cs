using System.Collections.Frozen;
using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;

namespace GoldenRule.Core.Languages;

/// <summary>How a language writes days (see date-words.json for source and licence).</summary>
/// <param name="Form">"{weekday} {day} {month} {year}", in the language's order and with what stands between.</param>
/// <param name="Weekdays">From Sunday.</param>
/// <param name="Months">As they stand in a date.</param>
/// <param name="Alone">As they are called by themselves.</param>
/// <param name="Short">As they are shortened in a date; a number where the language does not.</param>
public sealed record DateWords(
    string Form,
    ImmutableArray<string> Weekdays,
    ImmutableArray<string> Months,
    ImmutableArray<string> Alone,
    ImmutableArray<string> Short
)
{
    private const string Unknown = "en-GB";

    private static readonly FrozenDictionary<string, DateWords> All = Load();

    /// <summary>Of every language there is data of, by its BCP 47 tag.</summary>
    public static IEnumerable<string> Languages => All.Keys;

    public static bool Has(string tag) => All.ContainsKey(tag);

    /// <param name="tag">BCP 47 tag. A region without words of its own has its language's; an unknown language has British English.</param>
    public static DateWords ForLanguage(string tag) => LanguageTags.Find(All, tag) ?? All[Unknown];

    /// <summary>False: the language writes that month as a number.</summary>
    public static bool IsName(string month) => !char.IsAsciiDigit(month[0]);

    /// <summary>"Saturday 6 March 2027".</summary>
    public string Day(DateTime at) =>
        Form.Replace("{weekday}", Weekdays[(int)at.DayOfWeek], StringComparison.Ordinal)
            .Replace("{day}", at.Day.ToString(CultureInfo.InvariantCulture), StringComparison.Ordinal)
            .Replace("{month}", Months[at.Month - 1], StringComparison.Ordinal)
            .Replace("{year}", at.Year.ToString(CultureInfo.InvariantCulture), StringComparison.Ordinal);

    private static FrozenDictionary<string, DateWords> Load()
    {
        using var stream = typeof(DateWords).Assembly.GetManifestResourceStream("date-words.json")!;
        return JsonSerializer
            .Deserialize<DataSet>(stream, JsonSerializerOptions.Web)!
            .Languages.ToFrozenDictionary(StringComparer.OrdinalIgnoreCase);
    }

    private sealed record DataSet(string Source, Dictionary<string, DateWords> Languages);
}
