using System.Collections.Immutable;
using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Tests;

/// <summary>Hostile content through every field of every block kind: nothing that runs, nothing that breaks out of its place.</summary>
public sealed class HostileTests
{
    private static readonly ImmutableSortedDictionary<string, PieceFill> NoFills = ImmutableSortedDictionary<string, PieceFill>.Empty;

    public static TheoryData<string> Content =>
        [
            "<script>ran=1</script>",
            "\"><img src=x onerror=ran=1>",
            "' onmouseover='ran=1",
            "javascript:ran=1",
            "data:text/html,<script>ran=1</script>",
            "vbscript:ran",
            " java\tscript:ran=1",
            "<![endif]--><script>ran=1</script><!--[if mso]>",
            "--><svg onload=ran=1>",
            "<!--",
            "]]>",
            "</td></tr></table></div></body></html><script>ran=1</script>",
            "</style><script>ran=1</script><style>",
            "</title><script>ran=1</script>",
            "&lt;script&gt;ran=1&lt;/script&gt;",
            "&#106;avascript:ran=1",
            "{{constructor.constructor('ran=1')()}}",
            "\u202egnp.exe",
            "👩‍🚒👨‍👩‍👧‍👦🏴󠁧󠁢󠁷󠁬󠁳󠁿",
            "e\u0301\u0301\u0301\u0301\u0301",
            "\ud800 lone",
            "\u0000\u0008\u001b",
            new string('w', 100_000),
            "url('javascript:ran=1')",
            "expression(ran=1)",
            "</textarea></noscript></template><script>ran=1</script>",
        ];

    [Theory]
    [MemberData(nameof(Content))]
    public void Nothing_runs_and_nothing_breaks_out(string hostile)
    {
        var (page, html) = Compile(hostile);
        Assert.Empty(page.QuerySelectorAll("script,svg,iframe,object,embed,form,input,base,link,meta[http-equiv]"));
        Assert.All(page.All, e => Assert.DoesNotContain(e.Attributes, a => a.Name.StartsWith("on", StringComparison.OrdinalIgnoreCase)));
        Assert.All(page.QuerySelectorAll("a"), a =>
            Assert.True(Links.IsSafe(a.GetAttribute("href")!) || a.GetAttribute("href")!.StartsWith('#'), a.GetAttribute("href"))
        );
        Assert.All(page.QuerySelectorAll("img"), i =>
            Assert.True(i.GetAttribute("src")?.StartsWith("https://larkfell.example.org/pictures/", StringComparison.Ordinal) != false)
        );
        // Every row stands where it would with harmless words, made of the same parts; hand-written HTML keeps to its cell.
        var (tame, _) = Compile("words");
        Assert.Equal(Rows(tame).Select(r => r.Id), Rows(page).Select(r => r.Id));
        Assert.All(Rows(tame).Zip(Rows(page)).Where(r => r.First.Id != "html"), r => Assert.Equal(r.First.Parts, r.Second.Parts));
        // The Word-based client reads conditional comments: they open and close in turn.
        Assert.Equal(html.Split("<!--[if").Length, html.Split("<![endif]-->").Length);
        Assert.DoesNotContain('\0', html);
    }

    [Theory]
    [InlineData("<p style=\"position:fixed;top:0\">over all</p>", "position")]
    [InlineData("<div style=\"background:url(https://evil.example/a.png)\">seen</div>", "url(")]
    [InlineData("<a href=\"javascript:ran=1\">go</a>", "javascript")]
    [InlineData("<a href=\"data:text/html,x\">go</a>", "data:")]
    [InlineData("<img src=x onerror=ran=1>", "onerror")]
    [InlineData("<style>*{display:none}</style>text", "display:none")]
    [InlineData("<p id=\"masthead\" class=\"pg\">x</p>", "id=")]
    [InlineData("</td></tr></table><h1>out</h1>", "</td>")]
    [InlineData("<!--[if mso]><p>hidden</p><![endif]-->", "[if mso]")]
    [InlineData("<form action=https://evil.example><input name=card></form>", "<form")]
    [InlineData("<meta http-equiv=refresh content=\"0;url=https://evil.example\">", "<meta")]
    public void Hand_written_HTML_loses_what_could_run_or_reach_out(string html, string gone)
    {
        var row = Row(
            "html",
            BlockKinds.All.Single(k => k.Name == "html").New("b") is var b
                ? b with
                {
                    Content = b.Content.SetItem("html", new FieldValue.Code(html)),
                }
                : null!
        );
        var email = Compiler.Compile(
            Larkfell.Resolve(Larkfell.Gazette) with
            {
                Rows = [Resolver.Resolve(row, Larkfell.Style)],
            },
            "",
            Purpose.Sending
        );
        var cell = System.Text.Encoding.UTF8.GetString(email.Rows[0].Html.Span);
        var inside = cell[(cell.IndexOf("overflow:hidden", StringComparison.Ordinal) is var at ? at : 0)..];
        Assert.DoesNotContain(
            gone,
            inside[..inside.LastIndexOf("</div></td></tr></table></td></tr></table></div>", StringComparison.Ordinal)],
            StringComparison.OrdinalIgnoreCase
        );
    }

    private static (IDocument Page, string Html) Compile(string words)
    {
        var rows = BlockKinds.All.Select(kind =>
        {
            var block = Specimens.BlockSpecimen.FillIn(kind);
            return Row(
                kind.Name,
                block with
                {
                    Content = block.Content.ToImmutableSortedDictionary(f => f.Key, f => With(f.Value, words)),
                }
            );
        });
        var source = Larkfell.Resolve(Larkfell.Gazette);
        var email = Compiler.Compile(
            source with
            {
                Email = source.Email with
                {
                    Details = new EmailDetails { Subject = words, Preheader = words },
                },
                Rows = [.. rows.Select(r => Resolver.Resolve(r, Larkfell.Style))],
            },
            "https://larkfell.example.org/pictures/",
            Purpose.Proof
        );
        return (new HtmlParser().ParseDocument(email.HtmlText()), email.HtmlText());
    }

    private static OrderedRow Row(string id, Block block)
    {
        var saved = BlockKinds.Complete(
            new SavedRow
            {
                Name = id,
                RowKind = RowKind.Main,
                Row = new Row { Id = "the row", Columns = [new Column { Id = "c", Blocks = [block] }] },
            }
        );
        return new OrderedRow(new PlacedRow { Id = id, Own = saved }, saved, null, NoFills, NoFills);
    }

    private static IEnumerable<(string? Id, string Parts)> Rows(IDocument page) =>
        page.QuerySelector("[role=article]")!
            .Children.Select(r => (r.GetAttribute("data-row"), string.Join(' ', r.QuerySelectorAll("*").Select(e => e.LocalName))));

    private static FieldValue With(FieldValue value, string words)
    {
        // What reads like a brand variable is refused where it is stored, and never gets here.
        var link = words == "words" || words.StartsWith('{') ? "https://example.org/" : words;
        return value switch
        {
            FieldValue.Words => new FieldValue.Words(words),
            FieldValue.Prose => new FieldValue.Prose(
                new RichText
                {
                    Paragraphs =
                    [
                        new Paragraph
                        {
                            Runs =
                            [
                                new Run { Text = words },
                                new Run
                                {
                                    Text = words,
                                    Bold = true,
                                    Href = link,
                                },
                            ],
                        },
                        new Paragraph { List = ListStyle.Bullet, Runs = [new Run { Text = words }] },
                    ],
                }
            ),
            FieldValue.Link => new FieldValue.Link(link),
            FieldValue.LinkList => new FieldValue.LinkList([new NamedLink(words, link), new NamedLink(words, link)]),
            FieldValue.Cells => new FieldValue.Cells([
                [words, words],
                [words, words],
            ]),
            FieldValue.Entries entries => new FieldValue.Entries([
                .. entries.Items.Select(i => i.ToImmutableSortedDictionary(f => f.Key, f => With(f.Value, words))),
            ]),
            FieldValue.Code => new FieldValue.Code(words),
            _ => value,
        };
    }
}
