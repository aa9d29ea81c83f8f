using System.Text;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Audiences;

/// <summary>
/// How a sending platform writes a field of the reader's and what depends on one. <see cref="Name"/> in capitals, "NAME", stands for
/// the field's name in each of the patterns.
/// </summary>
public sealed record ExportProfile
{
    /// <summary>What stands for a field's name in a pattern.</summary>
    public const string Place = "NAME";

    /// <summary>What stands for a mark in <see cref="Literal"/>.</summary>
    public const string Mark = "MARK";

    private const int LongestPattern = 300;

    /// <summary>Technical name. Never changes.</summary>
    public required string Key { get; init; }

    public required string Name { get; init; }

    /// <summary>The value, escaped for HTML by the platform.</summary>
    public required string Field { get; init; }

    /// <summary>The value as it is, in plain text and in the subject; empty: as <see cref="Field"/>.</summary>
    public string Plain { get; init; } = "";

    /// <summary>A date, where the platform words it; empty: like any field, worded beforehand.</summary>
    public string Date { get; init; } = "";

    /// <summary>Before what stands only where a field is known or a condition holds; empty: the platform has no conditions.</summary>
    public string Open { get; init; } = "";

    /// <summary>Between that and what stands where it is not; empty: that cannot be said.</summary>
    public string Else { get; init; } = "";

    /// <summary>After it.</summary>
    public string Close { get; init; } = "";

    /// <summary>
    /// What begins anything that the platform reads, parted by blanks; none of it must be taken for that where somebody wrote it.
    /// </summary>
    public string Marks { get; init; } = "";

    /// <summary>What says reserved characters themselves, <see cref="Mark"/> standing for it; empty: that cannot be said.</summary>
    public string Literal { get; init; } = "";

    /// <summary>
    /// The Mustache specification, mustache(5) and its parts "interpolation", "sections", "inverted" and "delimiters": a value that is
    /// not known is falsy; the mark itself stands between changed delimiters.
    /// </summary>
    public static ExportProfile Mustache { get; } =
        new()
        {
            Key = "mustache",
            Name = "Mustache",
            Field = "{{NAME}}",
            Plain = "{{&NAME}}",
            Open = "{{#NAME}}",
            Else = "{{/NAME}}{{^NAME}}",
            Close = "{{/NAME}}",
            Marks = "{{",
            Literal = "{{=<% %>=}}MARK<%={{ }}=%>",
        };

    /// <summary>What the platform calls a field: a value that is encoded for an address is another one.</summary>
    public static string NameOf(KeptField kept) => kept.InAddress ? kept.Key + "-in-link" : kept.Key;

    /// <summary>A pattern with a name in its place.</summary>
    public static string Named(string pattern, string name) => pattern.Replace(Place, name, StringComparison.Ordinal);

    /// <summary>Why it cannot be written with. Null: it can.</summary>
    public string? Fault()
    {
        if (Key == Mustache.Key)
        {
            return "Mustache is there already, as its specification has it.";
        }

        foreach (
            var (what, pattern, needed) in (ReadOnlySpan<(string, string, bool)>)
                [
                    ("A field", Field, true),
                    ("A field in plain text", Plain, false),
                    ("A date", Date, false),
                    ("Beginning of a condition", Open, false),
                    ("Otherwise", Else, false),
                    ("End of a condition", Close, false),
                    ("Reserved characters", Marks, false),
                    ("Reserved characters in a text", Literal, false),
                ]
        )
        {
            if (pattern.Length > LongestPattern || InlineNode.AreIn(pattern) || pattern.AsSpan().ContainsAny('\r', '\n'))
            {
                return $"{what}: one line of at most {LongestPattern} characters.";
            }

            if (needed && !pattern.Contains(Place, StringComparison.Ordinal))
            {
                return $"{what}: say with {Place} where the field's name goes, like \"{{{{{Place}}}}}\".";
            }
        }

        if (Open.Length > 0 != Close.Length > 0)
        {
            return "A condition begins and ends: fill in the beginning and the end, or neither.";
        }

        if (Else.Length > 0 && Open.Length == 0)
        {
            return "There is no \"otherwise\" without the beginning of a condition.";
        }

        return Literal.Length > 0 && !Literal.Contains(Mark, StringComparison.Ordinal)
            ? $"Reserved characters in a text: say with {Mark} where they go."
            : null;
    }

    /// <summary>The first mark in a text, and where. Null: there is none.</summary>
    public (int At, string Mark)? FindMark(string text)
    {
        (int At, string Mark)? first = null;
        foreach (var mark in Marks.Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            var at = text.IndexOf(mark, StringComparison.Ordinal);
            if (at >= 0 && (first is not { } known || at < known.At || (at == known.At && mark.Length > known.Mark.Length)))
            {
                first = (at, mark);
            }
        }

        return first;
    }

    /// <summary>A text with every mark in it said so that it is not read.</summary>
    public string Literally(string text)
    {
        if (FindMark(text) is null)
        {
            return text;
        }

        var said = new StringBuilder(text.Length);
        while (FindMark(text) is var (at, mark))
        {
            said.Append(text, 0, at).Append(Literal.Replace(Mark, mark, StringComparison.Ordinal));
            text = text[(at + mark.Length)..];
        }

        return said.Append(text).ToString();
    }
}
