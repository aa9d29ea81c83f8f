using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Compiling;

/// <summary>
/// The email as plain text, made from the same tree as the HTML: lines of at most 72 characters, links as their text
/// followed by the address, which is never broken. A line that is broken only because it is full ends in a blank, as
/// RFC 3676 has it; see <see cref="FlowedText"/>.
/// </summary>
public sealed class PlainTextWriter
{
    public const int LineLength = 72;

    // Each one buffer, written to from the front: an email's text is a few thousand words.
    private char[] text = GC.AllocateUninitializedArray<char>(4096);
    private int length;
    private char[] joined = [];

    public override string ToString() => new(text, 0, length);

    public void Clear() => length = 0;

    /// <summary>A heading, underlined: "=" for the first level, "-" below it.</summary>
    public void Heading(string words, int level)
    {
        if (words.Length == 0)
        {
            return;
        }

        var start = Gap();
        Wrap(words, "", full: "\n");
        var longest = 0;
        for (var left = text.AsSpan(start, length - start); left.IndexOf('\n') is >= 0 and var end; left = left[(end + 1)..])
        {
            longest = Math.Max(longest, Measuring.Characters(left[..end]));
        }

        Put(level == 1 ? '=' : '-', longest);
        Put('\n');
    }

    public void Prose(RichText prose)
    {
        if (prose.IsEmpty)
        {
            return;
        }

        var number = 0;
        for (var i = 0; i < prose.Paragraphs.Length; i++)
        {
            var paragraph = prose.Paragraphs[i];
            if (i == 0 || paragraph.List == ListStyle.None || prose.Paragraphs[i - 1].List != paragraph.List)
            {
                Gap();
                number = 0;
            }

            number++;
            var words = Words(paragraph);
            switch (paragraph.List)
            {
                case ListStyle.Bullet:
                    Wrap(string.Concat("* ", words), "  ");
                    break;
                case ListStyle.Number:
                    Wrap($"{number}. {words}", "   ");
                    break;
                default:
                    Wrap(words, "");
                    break;
            }
        }
    }

    public void Line(string words)
    {
        Gap();
        Wrap(words, "");
    }

    /// <summary>Lines that belong together, one below the other.</summary>
    public void Lines(IEnumerable<string> lines)
    {
        var first = true;
        foreach (var line in lines)
        {
            if (first)
            {
                Gap();
                first = false;
            }

            Wrap(line, "");
        }
    }

    public void LinkLines(IReadOnlyCollection<NamedLink> links)
    {
        if (links.Count > 0)
        {
            Lines(links.Select(l => Link(l.Name, l.Href)));
        }
    }

    /// <summary>Each line behind "> ", and who said it below.</summary>
    public void Quote(RichText prose, string by)
    {
        if (prose.IsEmpty)
        {
            return;
        }

        Gap();
        foreach (var paragraph in prose.Paragraphs)
        {
            Wrap(string.Concat("> ", Words(paragraph)), "> ");
        }

        if (by.Length > 0)
        {
            Wrap("> " + by, "> ");
        }
    }

    /// <summary>Columns set apart by blanks, each as wide as its longest cell; cell by cell where that is too wide for a line.</summary>
    public void Table(ImmutableArray<ImmutableArray<string>> rows, bool header)
    {
        var widths = Enumerable
            .Range(0, rows.Max(r => (int?)r.Length) ?? 0)
            .Select(i => rows.Max(r => i < r.Length ? Measuring.Characters(r[i]) : 0))
            .ToList();
        if (widths.Sum(w => w + 2) - 2 > LineLength)
        {
            Lines(rows.Select(r => string.Join("; ", r.Where(c => c.Length > 0))));
            return;
        }

        Gap();
        for (var i = 0; i < rows.Length; i++)
        {
            Put(string.Concat(rows[i].Select((cell, c) => cell + new string(' ', widths[c] - Measuring.Characters(cell) + 2))).TrimEnd());
            Put('\n');
            if (i == 0 && header)
            {
                Put(string.Join("  ", widths.Select(w => new string('-', w))));
                Put('\n');
            }
        }
    }

    public void Rule()
    {
        Gap();
        Put('-', 24);
        Put('\n');
    }

    public static string Link(string words, string href)
    {
        if (words.Length == 0 || words == href)
        {
            return href;
        }

        return Links.IsPlaceholder(href) ? words : $"{words}: {href}";
    }

    private ReadOnlySpan<char> Words(Paragraph paragraph)
    {
        if (paragraph.Runs is [{ Href: null } only])
        {
            return only.Text;
        }

        var filled = 0;
        for (var i = 0; i < paragraph.Runs.Length; i++)
        {
            var run = paragraph.Runs[i];
            Join(run.Text);
            // A link may be several runs of different emphasis; its address follows the last of them.
            if (
                run.Href is { } href
                && (i + 1 == paragraph.Runs.Length || paragraph.Runs[i + 1].Href != href)
                && run.Text != href
                && !Links.IsPlaceholder(href)
            )
            {
                Join(" (");
                Join(href);
                Join(")");
            }
        }

        return joined.AsSpan(0, filled);

        void Join(string part)
        {
            if (joined.Length - filled < part.Length)
            {
                Array.Resize(ref joined, Math.Max(Math.Max(joined.Length * 2, 512), filled + part.Length));
            }

            part.CopyTo(joined.AsSpan(filled));
            filled += part.Length;
        }
    }

    private int Gap()
    {
        if (length > 0)
        {
            Put('\n');
        }

        return length;
    }

    private void Put(char c) => Put(c, 1);

    private void Put(char c, int count)
    {
        Room(count).Fill(c);
        length += count;
    }

    private void Put(ReadOnlySpan<char> words)
    {
        words.CopyTo(Room(words.Length));
        length += words.Length;
    }

    private Span<char> Room(int more)
    {
        if (text.Length - length < more)
        {
            Array.Resize(ref text, Math.Max(text.Length * 2, length + more));
        }

        return text.AsSpan(length, more);
    }

    /// <param name="indent">Stands before every line but the first.</param>
    /// <param name="full">What ends a line that is full.</param>
    private void Wrap(ReadOnlySpan<char> words, string indent, string full = " \n")
    {
        var lead = "";
        for (var left = words; ; )
        {
            // By hand: the enumerator of Split is so large that clearing it took half the time of a text.
            var end = left.IndexOf('\n');
            var line = Tidy(end < 0 ? left : left[..end]);
            while (lead.Length + line.Length > LineLength && Break(line, LineLength - lead.Length) is > 0 and var blank)
            {
                Put(lead);
                Put(line[..blank]);
                Put(full);
                line = line[(blank + 1)..];
                lead = indent;
            }

            if (!line.IsEmpty)
            {
                Put(lead);
                Put(line);
            }

            Put('\n');
            if (end < 0)
            {
                return;
            }

            lead = indent;
            left = left[(end + 1)..];
        }
    }

    // One blank between words and none around them.
    private static ReadOnlySpan<char> Tidy(ReadOnlySpan<char> line) =>
        line.Contains('\t') || line.IndexOf("  ", StringComparison.Ordinal) >= 0
            ? string.Join(' ', line.ToString().Split([' ', '\t'], StringSplitOptions.RemoveEmptyEntries))
            : line.Trim(' ');

    // The last blank with no more than the room before it; a word that is longer than a line is not broken. Negative: there is none.
    private static int Break(ReadOnlySpan<char> line, int room) =>
        line[..(room + 1)].LastIndexOf(' ') is >= 0 and var last ? last : line.IndexOf(' ');
}
