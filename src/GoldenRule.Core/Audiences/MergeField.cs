using System.Collections.Immutable;
using System.Globalization;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Languages;

namespace GoldenRule.Core.Audiences;

public enum MergeFieldType
{
    Text,
    Number,
    Date,
    YesNo,

    /// <summary>One of a list.</summary>
    Choice,

    /// <summary>Any of a list.</summary>
    Tags,
}

/// <summary>How a field's value is written.</summary>
public enum FieldFormat
{
    AsItIs,

    /// <summary>The first letter of a text large.</summary>
    Capital,

    /// <summary>All letters large.</summary>
    Capitals,

    /// <summary>Of a date: with the day of the week, in the email's language.</summary>
    LongDate,

    /// <summary>Of a date: "2026-11-30" (ISO 8601).</summary>
    IsoDate,

    /// <summary>Of a number: no digits after the decimal sign.</summary>
    Whole,

    /// <summary>Of a number: two digits after the decimal sign, as of a price.</summary>
    TwoDecimals,
}

/// <summary>Something that is known of each reader, as whoever sends the emails has it.</summary>
public sealed record MergeField
{
    /// <summary>Technical name.</summary>
    public required string Key { get; init; }

    public required string Label { get; init; }

    public required MergeFieldType Type { get; init; }

    public string Description { get; init; } = "";

    /// <summary>Of a choice or tags: what there is.</summary>
    public ImmutableArray<string> Choices { get; init; } = [];

    /// <summary>What proofs show, written as <see cref="Read"/> takes it; empty: the fallback.</summary>
    public string Sample { get; init; } = "";

    /// <summary>What a reader sees of whom it is not known. Null: nothing is said, which is a finding where it stands.</summary>
    public string? Fallback { get; init; }

    /// <summary>True: it is known of every reader.</summary>
    public bool Always { get; init; }

    public FieldFormat Format { get; init; }

    /// <summary>It is not offered any more; where it stands it goes on.</summary>
    public bool Retired { get; init; }

    /// <summary>How each type may be written; the first is the usual one.</summary>
    public static ImmutableArray<FieldFormat> FormatsOf(MergeFieldType type) =>
        type switch
        {
            MergeFieldType.Number => [FieldFormat.AsItIs, FieldFormat.Whole, FieldFormat.TwoDecimals],
            MergeFieldType.Date => [FieldFormat.LongDate, FieldFormat.IsoDate],
            MergeFieldType.Text or MergeFieldType.Choice => [FieldFormat.AsItIs, FieldFormat.Capital, FieldFormat.Capitals],
            _ => [FieldFormat.AsItIs],
        };

    /// <summary>A value in the form that it is kept in: dates ISO 8601, numbers with a point, "yes" or "no", tags parted by ";".</summary>
    /// <exception cref="FormatException">It is none of this type; says why.</exception>
    public string Read(string text)
    {
        var value = text.Trim();
        if (value.Length == 0)
        {
            return "";
        }

        return Type switch
        {
            MergeFieldType.Number => SnippetRules.Number(value)?.ToString(CultureInfo.InvariantCulture)
                ?? throw new FormatException($"\"{value}\" is no number; write it like 1234.50."),
            MergeFieldType.Date => DateOnly.TryParseExact(value, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out _)
                ? value
                : throw new FormatException($"\"{value}\" is no day; write it like 2026-11-30."),
            MergeFieldType.YesNo => value.ToLowerInvariant() switch
            {
                "yes" or "true" or "1" => "yes",
                "no" or "false" or "0" => "no",
                _ => throw new FormatException($"\"{value}\" is neither yes nor no."),
            },
            MergeFieldType.Choice => Known(value),
            MergeFieldType.Tags => string.Join(
                ';',
                value.Split(';', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries).Select(Known).Distinct()
            ),
            _ => InlineNode.Without(value),
        };
    }

    /// <summary>Whether a value is one of this type in the form that it is kept in.</summary>
    public bool Holds(string value)
    {
        try
        {
            return Read(value) == value;
        }
        catch (FormatException)
        {
            return false;
        }
    }

    /// <summary>A value as readers see it.</summary>
    /// <param name="value">As it is kept.</param>
    /// <param name="language">BCP 47 tag of the email.</param>
    public string Write(string value, string language) =>
        (Type, Format) switch
        {
            (MergeFieldType.Number, FieldFormat.Whole) => Writing.ForLanguage(language).Number(Math.Round(Decimal(value)), 0),
            (MergeFieldType.Number, FieldFormat.TwoDecimals) => Writing.ForLanguage(language).Number(Decimal(value), 2),
            (MergeFieldType.Number, _) => Writing.ForLanguage(language).Number(Decimal(value)),
            (MergeFieldType.Date, FieldFormat.IsoDate) => value,
            (MergeFieldType.Date, _) => DateWords
                .ForLanguage(language)
                .Day(DateTime.ParseExact(value, "yyyy-MM-dd", CultureInfo.InvariantCulture)),
            (MergeFieldType.Tags, _) => string.Join(", ", value.Split(';')),
            (_, FieldFormat.Capital) => Capital(value),
            (_, FieldFormat.Capitals) => value.ToUpperInvariant(),
            _ => value,
        };

    /// <summary>A number as it is kept.</summary>
    internal static decimal Decimal(string value) => decimal.Parse(value, CultureInfo.InvariantCulture);

    private string Known(string value) =>
        Choices.FirstOrDefault(c => string.Equals(c, value, StringComparison.OrdinalIgnoreCase))
        ?? throw new FormatException($"\"{value}\" is none of {string.Join(", ", Choices)}.");

    private static string Capital(string value)
    {
        var first = StringInfo.GetNextTextElementLength(value);
        return value[..first].ToUpperInvariant() + value[first..];
    }
}
