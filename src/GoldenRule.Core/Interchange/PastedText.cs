using System.Collections.Immutable;
using System.Text.RegularExpressions;
using System.Threading;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Interchange;

/// <summary>Plain text that was pasted, read for its paragraphs, headings, lists and addresses.</summary>
public static partial class PastedText
{
    /// <summary>Paragraphs parted by empty lines, or where there are none by line ends; lines marked as items are lists.</summary>
    public static ImmutableArray<PastedPart> Read(string text, CancellationToken cancel = default)
    {
        // Rich text that was taken for plain says nothing to anyone.
        if (text.StartsWith(@"{\rtf", StringComparison.Ordinal))
        {
            return [];
        }

        var lines = text.ReplaceLineEndings("\n").Split('\n').Select(l => l.Trim()).ToList();
        while (lines.Count > 0 && lines[^1].Length == 0)
        {
            lines.RemoveAt(lines.Count - 1);
        }

        var parted = lines.Contains("");
        var parts = ImmutableArray.CreateBuilder<PastedPart>();
        // Lines of a paragraph that goes on.
        var open = new List<string>();
        void Close()
        {
            if (open.Count > 0)
            {
                parts.Add(new PastedPart(0, new Paragraph { Runs = [.. Plain(string.Join('\n', open))] }));
                open.Clear();
            }
        }

        foreach (var line in lines)
        {
            cancel.ThrowIfCancellationRequested();
            if (line.Length == 0)
            {
                Close();
                continue;
            }

            var (heading, list, words) = Mark().Match(line) is { Success: true } mark
                ? (mark.Groups["heading"].Length, ListOf(mark), mark.Groups["words"].Value)
                : (0, ListStyle.None, line);
            if (heading == 0 && list == ListStyle.None && parted)
            {
                open.Add(words);
                continue;
            }

            Close();
            parts.Add(new PastedPart(heading, new Paragraph { List = list, Runs = [.. Plain(words)] }));
        }

        Close();
        return parts.ToImmutable();
    }

    private static ListStyle ListOf(Match mark)
    {
        if (mark.Groups["bullet"].Success)
        {
            return ListStyle.Bullet;
        }

        return mark.Groups["number"].Success ? ListStyle.Number : ListStyle.None;
    }

    // An address written out is a link.
    private static IEnumerable<Run> Plain(string text)
    {
        var at = 0;
        foreach (Match match in Address().Matches(text))
        {
            if (!Links.IsSafe(match.Value))
            {
                continue;
            }

            if (match.Index > at)
            {
                yield return new Run { Text = text[at..match.Index] };
            }

            yield return new Run { Text = match.Value, Href = match.Value };
            at = match.Index + match.Length;
        }

        if (at < text.Length)
        {
            yield return new Run { Text = text[at..] };
        }
    }

    [GeneratedRegex(
        @"^(?:(?<heading>#{1,6})\s+|(?<bullet>[•·▪◦‣*–-])\s+|(?<number>\d{1,3}[.)])\s+)(?<words>.+)$",
        RegexOptions.CultureInvariant
    )]
    private static partial Regex Mark();

    [GeneratedRegex(@"https?://[^\s<>""']*[^\s<>""'.,;:!?)\]]", RegexOptions.CultureInvariant)]
    private static partial Regex Address();
}
