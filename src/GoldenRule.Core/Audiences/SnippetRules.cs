using System.Globalization;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Audiences;

/// <summary>What a snippet can be.</summary>
public static class SnippetRules
{
    public const int MostValues = 200;

    /// <exception cref="StructureException">Says what cannot be, and where.</exception>
    public static Snippet Check(Snippet snippet)
    {
        if (TechnicalName.Fault(snippet.Key) is { } fault)
        {
            throw new StructureException(fault, "key");
        }

        if (!NodaTime.DateTimeZoneProviders.Tzdb.Ids.Contains(snippet.Zone))
        {
            throw new StructureException($"\"{snippet.Zone}\" is no time zone.", "zone");
        }

        if (snippet.Values.Length is 0 or > MostValues)
        {
            throw new StructureException($"A snippet has 1 to {MostValues} values; this one would have {snippet.Values.Length}.", "values");
        }

        if (snippet.Values.DistinctBy(v => v.Id).Count() != snippet.Values.Length)
        {
            throw new StructureException("Two values have one id.", "values");
        }

        CheckSchedule(snippet);
        foreach (var value in snippet.Values)
        {
            Check(snippet.Type, value.Value, $"values/{value.Id}");
        }

        return snippet;
    }

    private static void CheckSchedule(Snippet snippet)
    {
        DateTime? former = null;
        foreach (var (value, i) in snippet.Values.Select((v, i) => (v, i)))
        {
            var place = $"values/{value.Id}/from";
            if (i == 0 ? value.From.Length > 0 : Snippet.Moment(value.From) is null)
            {
                throw new StructureException(
                    i == 0
                        ? "The first value holds from the beginning; only those after it begin at a moment."
                        : $"\"{value.From}\" is no moment; write it like 2026-11-30T09:00.",
                    place
                );
            }

            var at = i == 0 ? (DateTime?)null : snippet.ToUtc(value.From);
            if (at is { } now && former is { } before && now <= before)
            {
                throw new StructureException("Two values would hold from the same moment on. Give each a moment of its own.", place);
            }

            former = at;
        }

        if (snippet.Expires.Length == 0)
        {
            return;
        }

        if (Snippet.Moment(snippet.Expires) is null)
        {
            throw new StructureException($"\"{snippet.Expires}\" is no moment; write it like 2026-11-30T09:00.", "expires");
        }

        if (former is { } last && snippet.ToUtc(snippet.Expires) <= last)
        {
            throw new StructureException(
                "It would expire before its last value begins. Let it expire later, or remove that value.",
                "expires"
            );
        }
    }

    /// <exception cref="StructureException">The value is none of that type.</exception>
    public static void Check(SnippetType type, FieldValue value, string place)
    {
        var fault = (type, value) switch
        {
            (SnippetType.Text, FieldValue.Prose { Text: var text }) => TextFault(text),
            (SnippetType.Link, FieldValue.Link { Href: var href }) => href.Length == 0 || Links.IsSafe(href)
                ? null
                : "A link begins with https://, http://, mailto: or tel:, and holds no blanks.",
            (SnippetType.Date, FieldValue.Moment { Start: var day } moment) => day.Length == 0 || moment.Starts is not null
                ? null
                : $"\"{day}\" is no day; write it like 2026-11-30.",
            (SnippetType.Number, FieldValue.Words { Text: var number }) => number.Length == 0 || Number(number) is not null
                ? null
                : $"\"{number}\" is no number; write it like 1234.50.",
            (SnippetType.Picture, FieldValue.Image) => null,
            _ => $"A snippet of type {type.ToString().ToLowerInvariant()} cannot hold that.",
        };
        if (fault is not null)
        {
            throw new StructureException(fault, place);
        }
    }

    /// <summary>Digits with at most one point; null: it is no number.</summary>
    public static decimal? Number(string text) =>
        decimal.TryParse(text, NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number)
        && Math.Abs(number) < 1_000_000_000_000m
            ? number
            : null;

    private static string? TextFault(RichText text)
    {
        if (text.Paragraphs is not [{ List: ListStyle.None } paragraph])
        {
            return "A snippet's text is one paragraph: it stands within the text of an email.";
        }

        foreach (var run in paragraph.Runs)
        {
            if (run.Variable is not null || InlineNode.AreIn(run.Text) || InlineNode.AreIn(run.Href ?? ""))
            {
                return "A snippet holds plain words, emphasis and links; no snippet, field or brand variable stands within it.";
            }

            if (run.Href is { Length: > 0 } href && !Links.IsSafe(href))
            {
                return $"\"{href}\" is no address that can be followed.";
            }
        }

        return null;
    }
}
