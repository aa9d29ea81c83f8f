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
        ImmutableArray<(string, string)>.Builder? texts = null;
        foreach (var (field, value) in content)
        {
            if (field == "alt")
            {
                continue;
            }

            switch (value)
            {
                case FieldValue.Words { Text.Length: > 0 } words:
                    Add(words.Text);
                    break;
                case FieldValue.Prose { Text.Paragraphs.IsEmpty: false } prose:
                    Add(prose.Text.PlainText);
                    break;
                case FieldValue.Code { Html.Length: > 0 } code:
                    Add(SafeHtml.Sanitise(code).Text);
                    break;
                case FieldValue.Cells cells:
                    foreach (var cell in cells.Rows.SelectMany(r => r).Where(c => c.Length > 0))
                    {
                        Add(cell);
                    }

                    break;
                case FieldValue.Entries entries:
                    foreach (var text in entries.Items.SelectMany(Collect))
                    {
                        Add(text);
                    }

                    break;
            }

            void Add(string text) => (texts ??= ImmutableArray.CreateBuilder<(string, string)>()).Add((field, text));
        }

        return texts?.DrainToImmutable() ?? [];
    }

    /// <summary>The words of links: in prose, and in fields of that name.</summary>
    public static IEnumerable<(string Field, string Words)> OfLinks(ResolvedBlock block)
    {
        foreach (var (field, value) in block.Content)
        {
            if (value is FieldValue.Prose prose)
            {
                foreach (var words in InProse(prose.Text))
                {
                    yield return (field, words);
                }
            }
            else if (field == "linkText" && value is FieldValue.Words { Text.Length: > 0 } words)
            {
                yield return (field, words.Text);
            }
            else if (value is FieldValue.Entries entries)
            {
                foreach (var item in entries.Items)
                {
                    if (item.TryGetValue("linkText", out var said) && said is FieldValue.Words { Text.Length: > 0 } link)
                    {
                        yield return (field, link.Text);
                    }
                }
            }
        }
    }

    /// <summary>Whether a word may stand twice in a row; a quick look that never says no where one does.</summary>
    public static bool MayRepeat(string text)
    {
        var (start, length) = (0, 0);
        for (var i = 0; i <= text.Length; i++)
        {
            if (i < text.Length && char.IsLetter(text[i]))
            {
                continue;
            }

            if (i - start is var own && own > 0)
            {
                if (
                    own == length
                    && text.AsSpan(start, own).Equals(text.AsSpan(start - length - 1, length), StringComparison.OrdinalIgnoreCase)
                )
                {
                    return true;
                }

                length = own;
            }

            // Only blanks may stand between the two.
            length = i < text.Length && text[i] is ' ' or '\t' or '\n' ? length : 0;
            start = i + 1;
        }

        return false;
    }

    private static IEnumerable<string> Collect(ImmutableSortedDictionary<string, FieldValue> item) =>
        item.Where(f => f.Key != "alt")
            .Select(f =>
                f.Value switch
                {
                    FieldValue.Words words => words.Text,
                    FieldValue.Prose prose => prose.Text.PlainText,
                    _ => "",
                }
            )
            .Where(t => t.Length > 0);

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
