using System.Collections.Frozen;
using System.Globalization;
using System.Text;
using System.Text.Json;

namespace GoldenRule.Core.Languages;

/// <summary>Which way the lines of a language run.</summary>
public enum Direction
{
    Ltr,
    Rtl,
}

/// <summary>How a language writes numbers, and which way it runs (see writing.json for source and licence).</summary>
/// <param name="From">Digits before the decimal sign from which on they are grouped.</param>
/// <param name="Before">Digits in each group before the last three.</param>
/// <param name="Name">What it is called in English.</param>
public sealed record Writing(string Decimal, string Group, string Minus, int From, int Before, Direction Direction, string Name)
{
    private static readonly FrozenDictionary<string, Writing> All = Load();

    /// <summary>Of every language there is data of, by its BCP 47 tag.</summary>
    public static IReadOnlyDictionary<string, Writing> Languages => All;

    /// <param name="tag">BCP 47 tag. One without data of its own has its language's; an unknown language is written as English.</param>
    public static Writing ForLanguage(string tag) => LanguageTags.Find(All, tag) ?? All["en"];

    /// <summary>"1,234.50" as this language writes it.</summary>
    /// <param name="decimals">Digits after the decimal sign; null: as many as the number has.</param>
    public string Number(decimal value, int? decimals = null)
    {
        var plain = Math.Abs(value)
            .ToString(
                decimals is { } exact ? "F" + exact.ToString(CultureInfo.InvariantCulture) : "0.############",
                CultureInfo.InvariantCulture
            );
        var point = plain.IndexOf('.', StringComparison.Ordinal);
        var whole = point < 0 ? plain : plain[..point];
        var written = new StringBuilder(value < 0 && plain.AsSpan().ContainsAnyInRange('1', '9') ? Minus : "");
        for (var i = 0; i < whole.Length; i++)
        {
            var left = whole.Length - i;
            if (i > 0 && whole.Length >= From && left >= 3 && (left - 3) % Before == 0)
            {
                written.Append(Group);
            }

            written.Append(whole[i]);
        }

        return point < 0 ? written.ToString() : written.Append(Decimal).Append(plain, point + 1, plain.Length - point - 1).ToString();
    }

    private static FrozenDictionary<string, Writing> Load()
    {
        using var stream = typeof(Writing).Assembly.GetManifestResourceStream("writing.json")!;
        return JsonSerializer
            .Deserialize<DataSet>(
                stream,
                new JsonSerializerOptions(JsonSerializerDefaults.Web)
                {
                    Converters = { new System.Text.Json.Serialization.JsonStringEnumConverter() },
                }
            )!
            .Languages.ToFrozenDictionary(StringComparer.OrdinalIgnoreCase);
    }

    private sealed record DataSet(string Source, Dictionary<string, Writing> Languages);
}
