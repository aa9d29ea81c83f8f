using System.Collections.Immutable;
using System.Text;
using System.Text.Json.Serialization;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Merging;

/// <summary>A stretch of an email's HTML or text: the same for every reader, or one that is filled in for each.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(Words), "words")]
[JsonDerivedType(typeof(Field), "field")]
[JsonDerivedType(typeof(Page), "page")]
[JsonDerivedType(typeof(Conditional), "conditional")]
public abstract record MergePart
{
    private MergePart() { }

    public abstract void Write(StringBuilder text, MergeReader reader);

    /// <summary>What every reader gets, as it is written.</summary>
    public sealed record Words(string Text) : MergePart
    {
        public override void Write(StringBuilder text, MergeReader reader) => text.Append(Text);
    }

    /// <summary>A reader's field.</summary>
    /// <param name="InAddress">True: percent-encoded (RFC 3986, 2.1).</param>
    /// <param name="InHtml">True: escaped for HTML.</param>
    public sealed record Field(string Key, bool InAddress, bool InHtml) : MergePart
    {
        public override void Write(StringBuilder text, MergeReader reader)
        {
            var words = reader.Words(Key);
            text.Append(
                (InAddress, InHtml) switch
                {
                    (true, _) => Uri.EscapeDataString(words),
                    (_, true) => HtmlWriter.Escape(words),
                    _ => words,
                }
            );
        }
    }

    /// <summary>The address of the page for browsers, which may be one of the reader's own.</summary>
    public sealed record Page : MergePart
    {
        public override void Write(StringBuilder text, MergeReader reader) => text.Append(reader.PageAddress);
    }

    /// <summary>What some readers get.</summary>
    public sealed record Conditional(Condition Condition, ImmutableArray<MergePart> Parts) : MergePart
    {
        public override void Write(StringBuilder text, MergeReader reader)
        {
            if (reader.Meets(Condition))
            {
                foreach (var part in Parts)
                {
                    part.Write(text, reader);
                }
            }
        }
    }

    /// <summary>Parts text at its open fields, see <see cref="KeptField"/>, and at the address of its page.</summary>
    /// <param name="page">Empty: there is none.</param>
    internal static IEnumerable<MergePart> Read(string text, bool html, string page)
    {
        var parts = new List<MergePart>();
        KeptField.Replace(
            text,
            field =>
            {
                parts.Add(new Field(field.Key, field.InAddress, html));
                return "";
            },
            words =>
            {
                AddWords(parts, words, page);
                return "";
            }
        );
        return parts;
    }

    private static void AddWords(List<MergePart> parts, string words, string page)
    {
        var at = 0;
        for (var found = Next(0); found >= 0; found = Next(found + page.Length))
        {
            // With a fragment it is passed on to others: that is everybody's page.
            if (words.AsSpan(found + page.Length) is not ['#', ..])
            {
                Add(words[at..found]);
                parts.Add(new Page());
                at = found + page.Length;
            }
        }

        Add(words[at..]);

        int Next(int from) => page.Length == 0 ? -1 : words.IndexOf(page, from, StringComparison.Ordinal);

        void Add(string text)
        {
            if (text.Length > 0)
            {
                parts.Add(new Words(text));
            }
        }
    }
}
