using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace GoldenRule.Core.Documents;

/// <summary>Whether a paragraph is an item of a list.</summary>
public enum ListStyle
{
    None,
    Bullet,
    Number,
}

/// <summary>A stretch of text with one dress. "\n" inside is a line break.</summary>
public sealed record Run
{
    public string Text { get; init; } = "";

    public bool Bold { get; init; }

    public bool Italic { get; init; }

    /// <summary>Where the run leads; null: it is no link.</summary>
    public string? Href { get; init; }

    /// <summary>Key of a brand variable whose text stands here; <see cref="Text"/> is then empty.</summary>
    public string? Variable { get; init; }

    /// <summary>Whether the text of both could stand in one run.</summary>
    public bool GoesOnWith(Run next) =>
        Variable is null && next.Variable is null && (Bold, Italic, Href) == (next.Bold, next.Italic, next.Href);
}

/// <summary>A paragraph, or one item of a list: neighbours of the same list style form one list.</summary>
public sealed record Paragraph
{
    public ListStyle List { get; init; }

    public ImmutableArray<Run> Runs { get; init; } = [];

    [JsonIgnore]
    public string PlainText => string.Concat(Runs.Select(r => r.Text));
}

/// <summary>Text with meaning and without dress of its own: how it looks is the house style's business.</summary>
public sealed record RichText
{
    public static RichText Empty { get; } = new();

    public ImmutableArray<Paragraph> Paragraphs { get; init; } = [];

    [JsonIgnore]
    public bool IsEmpty
    {
        get
        {
            foreach (var paragraph in Paragraphs)
            {
                foreach (var run in paragraph.Runs)
                {
                    if (run.Variable is not null || !string.IsNullOrWhiteSpace(run.Text))
                    {
                        return false;
                    }
                }
            }

            return true;
        }
    }

    /// <summary>The words alone, paragraphs parted by line feeds. This is what limits count.</summary>
    [JsonIgnore]
    public string PlainText
    {
        get
        {
            if (Paragraphs is [{ Runs: [var only] }])
            {
                return only.Text;
            }

            return string.Create(Length, Paragraphs, Join);
        }
    }

    /// <summary>UTF-16 units of <see cref="PlainText"/>.</summary>
    [JsonIgnore]
    internal int Length
    {
        get
        {
            var length = 0;
            foreach (var paragraph in Paragraphs)
            {
                length += length > 0 ? 1 : 0;
                foreach (var run in paragraph.Runs)
                {
                    length += run.Text.Length;
                }
            }

            return length;
        }
    }

    private static void Join(Span<char> text, ImmutableArray<Paragraph> paragraphs)
    {
        var at = 0;
        foreach (var paragraph in paragraphs)
        {
            if (at > 0)
            {
                text[at++] = '\n';
            }

            foreach (var run in paragraph.Runs)
            {
                run.Text.CopyTo(text[at..]);
                at += run.Text.Length;
            }
        }
    }

    public static RichText FromParagraphs(params string[] paragraphs) =>
        new() { Paragraphs = [.. paragraphs.Select(p => new Paragraph { Runs = [new Run { Text = p }] })] };
}
