using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Compiling;

/// <summary>
/// The email as plain text, made from the same tree as the HTML: lines of at most 72 characters, links as their text
/// followed by the address, which is never broken.
/// </summary>
public sealed class PlainTextWriter
{
    public const int LineLength = 72;

    private readonly StringBuilder text = new();

    public override string ToString() => text.ToString();

    public void Clear() => text.Clear();

    /// <summary>A heading, underlined: "=" for the first level, "-" below it.</summary>
    public void Heading(string words, int level)
    {
        var start = Gap();
        Wrap(words, "");
        var longest = text.ToString(start, text.Length - start).Split('\n').Max(Measuring.Characters);
        text.Append(level == 1 ? '=' : '-', longest).Append('\n');
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
                    Wrap("* " + words, "  ");
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
        Gap();
        foreach (var line in lines)
        {
            Wrap(line, "");
        }
    }

    /// <summary>Columns set apart by blanks, each as wide as its longest cell; cell by cell where that is too wide for a line.</summary>
    public void Table(ImmutableArray<ImmutableArray<string>> rows, bool header)
    {
        var widths = Enumerable.Range(0, rows.Max(r => (int?)r.Length) ?? 0).Select(i => rows.Max(r => i < r.Length ? Measuring.Characters(r[i]) : 0)).ToList();
        if (widths.Sum(w => w + 2) - 2 > LineLength)
        {
            Lines(rows.Select(r => string.Join("; ", r.Where(c => c.Length > 0))));
            return;
        }

        Gap();
        for (var i = 0; i < rows.Length; i++)
        {
            text.Append(string.Concat(rows[i].Select((cell, c) => cell + new string(' ', widths[c] - Measuring.Characters(cell) + 2))).TrimEnd()).Append('\n');
            if (i == 0 && header)
            {
                text.AppendJoin("  ", widths.Select(w => new string('-', w))).Append('\n');
            }
        }
    }

    public void Rule()
    {
        Gap();
        text.Append('-', 24).Append('\n');
    }

    public static string Link(string words, string href) =>
        words.Length == 0 || words == href ? href : Links.IsPlaceholder(href) ? words : $"{words}: {href}";

    private static string Words(Paragraph paragraph)
    {
        var words = new StringBuilder();
        for (var i = 0; i < paragraph.Runs.Length; i++)
        {
            var run = paragraph.Runs[i];
            words.Append(run.Text);
            // A link may be several runs of different emphasis; its address follows the last of them.
            if (run.Href is { } href && (i + 1 == paragraph.Runs.Length || paragraph.Runs[i + 1].Href != href) && run.Text != href && !Links.IsPlaceholder(href))
            {
                words.Append(" (").Append(href).Append(')');
            }
        }

        return words.ToString();
    }

    private int Gap()
    {
        if (text.Length > 0)
        {
            text.Append('\n');
        }

        return text.Length;
    }

    private void Wrap(string words, string indent)
    {
        var first = true;
        foreach (var line in words.Split('\n'))
        {
            var column = 0;
            foreach (var word in line.Split([' ', '\t'], StringSplitOptions.RemoveEmptyEntries))
            {
                if (column > 0 && column + 1 + word.Length > LineLength)
                {
                    text.Append('\n');
                    column = 0;
                    first = false;
                }

                if (column > 0)
                {
                    text.Append(' ');
                    column++;
                }
                else if (!first)
                {
                    text.Append(indent);
                    column = indent.Length;
                }

                text.Append(word);
                column += word.Length;
            }

            text.Append('\n');
            first = false;
        }
    }
}
