using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Compiling;

/// <summary>A stretch of a row's HTML that some of its readers see.</summary>
/// <param name="Start">In bytes.</param>
public readonly record struct ConditionalHtml(int Start, int Length, Condition Condition);

/// <summary>Plain text of a block, ended by a line feed.</summary>
/// <param name="Condition">Which of the row's readers get it. Null: all of them.</param>
public readonly record struct BlockText(string Text, Condition? Condition);

/// <summary>Where the blocks stand in a compiled row that some of its readers see. Most rows have none.</summary>
public sealed record PartedRow(ImmutableArray<ConditionalHtml> Html, ImmutableArray<BlockText> Text)
{
    // Noncharacters: no text holds them. They are taken out before anyone gets the HTML.
    private static ReadOnlySpan<byte> Opens => "\uFDD5"u8;

    private static ReadOnlySpan<byte> Closes => "\uFDD6"u8;

    internal static void Open(HtmlWriter html, Condition? condition)
    {
        if (condition is not null)
        {
            html.Write(Opens);
        }
    }

    internal static void Close(HtmlWriter html, Condition? condition)
    {
        if (condition is not null)
        {
            html.Write(Closes);
        }
    }

    /// <summary>The HTML without its marks, and what stood between them.</summary>
    /// <param name="conditions">In the order they stand.</param>
    internal static (byte[] Html, ImmutableArray<ConditionalHtml> Parts) Unmark(
        ReadOnlySpan<byte> marked,
        IEnumerable<Condition> conditions
    )
    {
        var plain = new HtmlWriter(marked.Length);
        var parts = ImmutableArray.CreateBuilder<ConditionalHtml>();
        foreach (var condition in conditions)
        {
            var (open, close) = (marked.IndexOf(Opens), marked.IndexOf(Closes));
            plain.Write(marked[..open]);
            var start = plain.Written.Length;
            plain.Write(marked[(open + Opens.Length)..close]);
            parts.Add(new(start, plain.Written.Length - start, condition));
            marked = marked[(close + Closes.Length)..];
        }

        return (plain.Write(marked).ToArray(), parts.DrainToImmutable());
    }

    /// <summary>The row as those get it of whom some conditions hold.</summary>
    internal static CompiledRow Seen(CompiledRow row, Func<Condition, bool> holds)
    {
        if (row.Parted is not { } parted || parted.Html.All(p => holds(p.Condition)))
        {
            return row;
        }

        var (html, at) = (new HtmlWriter(row.Html.Length), 0);
        foreach (var part in parted.Html.Where(p => !holds(p.Condition)))
        {
            html.Write(row.Html.Span[at..part.Start]);
            at = part.Start + part.Length;
        }

        var text = parted.Text.RemoveAll(t => t.Condition is { } only && !holds(only));
        var source = row.Source.Seen(holds);
        return new CompiledRow(
            source,
            row.Theme,
            row.Place,
            row.Named,
            row.Contents,
            html.Write(row.Html.Span[at..]).ToArray(),
            string.Join('\n', text.Select(t => t.Text))
        )
        {
            // What is left of the HTML is settled; of the text it still counts who gets it.
            Parted = new PartedRow([], text),
        };
    }
}
