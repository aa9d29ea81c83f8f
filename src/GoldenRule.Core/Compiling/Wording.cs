using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Compiling;

/// <summary>The words of a block as people read them, whatever its kind.</summary>
public static class Wording
{
    /// <summary>Every text with the field it stands in; alt text is not read with the rest and is left out.</summary>
    public static ImmutableArray<(string Field, string Text)> Collect(ImmutableArray<KeyValuePair<string, FieldValue>> content)
    {
        var read = new ReadWords();
        foreach (var (field, value) in content)
        {
            read.Field = field;
            value.Visit(read);
        }

        return read.Found?.DrainToImmutable() ?? [];
    }

    /// <summary>The words of links: in prose, and in fields of that name.</summary>
    public static ImmutableArray<(string Field, string Words)> OfLinks(ResolvedBlock block)
    {
        var read = new ReadLinkWords();
        foreach (var (field, value) in block.Content)
        {
            read.Field = field;
            value.Visit(read);
        }

        return read.Found?.DrainToImmutable() ?? [];
    }

    private abstract class FoundWords : FieldVisitor
    {
        public string Field { get; set; } = "";

        public ImmutableArray<(string, string)>.Builder? Found { get; private set; }

        protected void Add(string text)
        {
            if (text.Length > 0)
            {
                // Most blocks have one text: with room for one, it need not be copied.
                (Found ??= ImmutableArray.CreateBuilder<(string, string)>(1)).Add((Field, text));
            }
        }

        protected string Name(FieldPart part) => part.Name ?? Field;
    }

    private sealed class ReadWords : FoundWords
    {
        public override void Words(string text, FieldPart part)
        {
            if (Name(part) != "alt")
            {
                Add(text);
            }
        }

        public override void Prose(RichText text, FieldPart part) => Add(text.PlainText);

        public override void Code(FieldValue.Code code, FieldPart part) => Add(code.Html.Length > 0 ? code.Sanitised().Text : "");
    }

    private sealed class ReadLinkWords : FoundWords
    {
        public override void Words(string text, FieldPart part)
        {
            if (Name(part) == "linkText")
            {
                Add(text);
            }
        }

        public override void Prose(RichText text, FieldPart part)
        {
            foreach (var words in InProse(text))
            {
                Add(words);
            }
        }
    }

    /// <summary>Whether a word may stand twice in a row; a quick look that never says no where one does.</summary>
    public static bool MayRepeat(ReadOnlySpan<char> text)
    {
        // The word before, and where the one that is gone along begins.
        var (before, length, start) = (0, 0, 0);
        for (var i = 0; i <= text.Length; i++)
        {
            if (i < text.Length && IsLetter(text[i]))
            {
                continue;
            }

            if (i - start is var own && own > 0)
            {
                if (own == length && text.Slice(start, own).Equals(text.Slice(before, own), StringComparison.OrdinalIgnoreCase))
                {
                    return true;
                }

                (before, length) = (start, own);
            }

            // Only blanks may stand between the two.
            length = i < text.Length && text[i] is ' ' or '\t' or '\n' ? length : 0;
            start = i + 1;
        }

        return false;
    }

    private static bool IsLetter(char c) => c < 0x80 ? (uint)((c | 0x20) - 'a') <= 'z' - 'a' : char.IsLetter(c);

    // A link may be several runs of different emphasis.
    private static IEnumerable<string> InProse(RichText text)
    {
        foreach (var paragraph in text.Paragraphs)
        {
            string? href = null;
            var words = "";
            foreach (var run in paragraph.Runs)
            {
                if (href is not null && run.Href != href)
                {
                    yield return words;
                    words = "";
                }

                href = run.Href;
                words = href is null ? "" : words + run.Text;
            }

            if (href is not null)
            {
                yield return words;
            }
        }
    }
}
