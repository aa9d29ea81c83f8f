using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using Document = GoldenRule.Core.Documents.Document;

namespace GoldenRule.Core.Tests;

/// <summary>The compiled HTML as an independent parser (AngleSharp, which follows the WHATWG HTML standard) reads it.</summary>
public sealed class CompilingTests
{
    public static TheoryData<string> EmailNames => [.. Larkfell.Emails.Select(e => e.Name)];

    private static Email Named(string name) => Larkfell.Emails.Single(e => e.Name == name).Email;

    private static IDocument Parse(string html) => new HtmlParser().ParseDocument(html);

    [Theory]
    [MemberData(nameof(EmailNames))]
    public void The_same_input_gives_the_same_bytes(string name) =>
        Assert.Equal(
            Larkfell.Compile(Named(name)).Html(),
            Larkfell.Compile(DocumentJson.Read<Email>(DocumentJson.Write(Named(name)))).Html()
        );

    [Theory]
    [MemberData(nameof(EmailNames))]
    public void Every_word_of_the_email_stands_in_the_HTML_and_in_the_text(string name)
    {
        var compiled = Larkfell.Compile(Named(name));
        var (html, text) = (Squeeze(Parse(compiled.HtmlText()).Body!.TextContent), Squeeze(compiled.PlainText()));
        foreach (
            var words in compiled
                .Source.Rows.SelectMany(r => r.Blocks)
                .SelectMany(b => b.Content.Where(c => c.Key != "alt").Select(c => c.Value))
        )
        {
            foreach (
                var line in words switch
                {
                    FieldValue.Words w => [w.Text],
                    FieldValue.Prose p => p.Text.Paragraphs.SelectMany(q => q.Runs).SelectMany(r => r.Text.Split('\n')),
                    _ => Enumerable.Empty<string>(),
                }
            )
            {
                // A footer's way that leads nowhere is not offered.
                if (line is not ("Unsubscribe" or "Preferences"))
                {
                    Assert.Contains(Squeeze(line), html, StringComparison.Ordinal);
                    Assert.Contains(Squeeze(line), text, StringComparison.Ordinal);
                }
            }
        }
    }

    [Fact]
    public void The_head_holds_what_mail_clients_need()
    {
        var page = Parse(Larkfell.Compile(Larkfell.Gazette).HtmlText());
        Assert.Equal("en-GB", page.DocumentElement.GetAttribute("lang"));
        Assert.Equal("Steam returns to the viaduct", page.Title);
        Assert.NotNull(page.QuerySelector("meta[name=viewport]"));
        Assert.NotNull(page.QuerySelector("meta[name=color-scheme]"));
        // Common practice, no source: one large webmail drops a style block over 8,192 characters.
        Assert.All(page.QuerySelectorAll("style"), s => Assert.InRange(s.TextContent.Length, 1, 8192));
        Assert.All(page.QuerySelectorAll("table"), t => Assert.Equal("presentation", t.GetAttribute("role")));
        Assert.StartsWith("After two winters", page.Body!.FirstElementChild!.TextContent, StringComparison.Ordinal);
    }

    [Fact]
    public void Only_proofs_carry_the_ids_of_rows_and_pieces()
    {
        Assert.DoesNotContain(" data-", Parse(Larkfell.Compile(Larkfell.Gazette).HtmlText()).Body!.OuterHtml, StringComparison.Ordinal);
        var proof = Parse(Larkfell.Compile(Larkfell.Gazette, Purpose.Proof).HtmlText());
        Assert.Equal(
            RunningOrder.From(Larkfell.Gazette, Larkfell.Masters).Rows.Select(r => r.Id),
            proof.QuerySelectorAll("[data-row]").Select(e => e.GetAttribute("data-row"))
        );
    }

    [Theory]
    [InlineData("<script>alert(1)</script>")]
    [InlineData("\"><img src=x onerror=alert(1)>")]
    [InlineData("--><![endif]--><script>alert(1)</script><!--")]
    [InlineData("</title></style><script>alert(1)</script>")]
    [InlineData("\u0000\u0001\ud800 & &amp; <b>")]
    public void What_people_type_stays_text(string hostile)
    {
        var prose = new RichText
        {
            Paragraphs =
            [
                new Paragraph
                {
                    Runs =
                    [
                        new Run { Text = hostile, Href = "javascript:alert(1)" },
                        new Run
                        {
                            Text = hostile,
                            Bold = true,
                            Href = hostile,
                        },
                    ],
                },
            ],
        };
        Edit[] edits =
        [
            new SetDetail("subject", hostile),
            new SetDetail("preheader", hostile),
            new SetFill("hero", "headline", "text", new FieldValue.Words(hostile)),
            new SetFill("hero", "text", "text", new FieldValue.Prose(prose)),
            new SetFill("hero", "picture", "alt", new FieldValue.Words(hostile)),
            new SetFill("hero", "button", "text", new FieldValue.Words(hostile)),
            new SetFill("hero", "button", "link", new FieldValue.Link("javascript:alert(1)//" + hostile)),
        ];
        var email = (Email)edits.Aggregate((Document)Larkfell.Gazette, (d, e) => e.Apply(d));
        var html = Larkfell.Compile(email).HtmlText();
        var page = Parse(html);
        Assert.Empty(page.QuerySelectorAll("script"));
        Assert.All(page.All, e => Assert.DoesNotContain(e.Attributes, a => a.Name.StartsWith("on", StringComparison.Ordinal)));
        Assert.All(page.QuerySelectorAll("a"), a => Assert.True(Links.IsSafe(a.GetAttribute("href")!) || a.GetAttribute("href") == "#"));
        // The tree is the same as with harmless words: nothing broke out of its place.
        Assert.Equal(
            Parse(Larkfell.Compile((Email)edits.Select(Tame).Aggregate((Document)Larkfell.Gazette, (d, e) => e.Apply(d))).HtmlText())
                .All.Select(e => e.LocalName),
            page.All.Select(e => e.LocalName)
        );
        // Nor inside the conditional comments that one client reads.
        Assert.Equal(Count(html, "<!--[if"), Count(html, "<![endif]-->"));
    }

    /// <summary>Whole pixels that add up, whatever the shares.</summary>
    [Theory]
    [InlineData(new[] { 1, 1 })]
    [InlineData(new[] { 1, 2 })]
    [InlineData(new[] { 1, 4 })]
    [InlineData(new[] { 3, 2, 2 })]
    [InlineData(new[] { 1, 1, 1, 1 })]
    public void Columns_share_the_row_exactly(int[] parts)
    {
        var row = BlockKinds.Complete(
            new SavedRow
            {
                Name = "Row",
                RowKind = RowKind.Main,
                Row = new Row
                {
                    Id = "row",
                    Columns =
                    [
                        .. parts.Select(
                            (p, i) =>
                                new Column
                                {
                                    Id = $"c{i}",
                                    Parts = p,
                                    Blocks = [new Block { Id = $"b{i}", Kind = "heading" }],
                                }
                        ),
                    ],
                },
            }
        );
        var placed = new OrderedRow(
            new PlacedRow
            {
                Id = "row",
                Master = Guid.Empty,
                Release = 1,
            },
            row,
            null,
            Larkfell.Gazette.Fills.GetValueOrDefault(
                "-",
                new PlacedRow
                {
                    Id = "",
                    Master = default,
                    Release = 0,
                }.Fills
            ),
            new PlacedRow
            {
                Id = "",
                Master = default,
                Release = 0,
            }.Fills
        );
        var resolved = Larkfell.Resolve(Larkfell.Gazette) with { Rows = [Resolving.Resolver.Resolve(placed, Larkfell.Style)] };
        var columns = Parse(Compiler.Compile(resolved, "", Purpose.Sending).HtmlText())
            .QuerySelectorAll("div.k")
            .Select(d => d.GetAttribute("style")!)
            .ToList();
        var pixels = columns
            .Select(s => int.Parse(System.Text.RegularExpressions.Regex.Match(s, "width:(\\d+)px").Groups[1].Value))
            .ToList();
        var shares = columns
            .Select(s => double.Parse(System.Text.RegularExpressions.Regex.Match(s, "min-width:([\\d.]+)%").Groups[1].Value))
            .ToList();
        // 640 wide, 28 at each side less half a gutter of 8.
        Assert.Equal(600, pixels.Sum());
        Assert.InRange(shares.Sum(), 99.999, 100);
        Assert.All(pixels.Zip(parts), p =>
            Assert.InRange(p.First, (600 * p.Second / parts.Sum()) - 1, (600 * p.Second / parts.Sum()) + parts.Length)
        );
    }

    /// <summary>
    /// Greedy wrapping, stated of its result: every word in its order, no line too long unless it is one word, and no line that
    /// would have taken the next word too.
    /// </summary>
    [Fact]
    public void Lines_of_plain_text_are_as_full_as_they_can_be()
    {
        var random = new Random(72);
        string[] gaps = [" ", " ", " ", "  ", "\t"];
        for (var i = 0; i < 2000; i++)
        {
            var list = random.Next(2) == 0 ? ListStyle.None : ListStyle.Bullet;
            var words = Enumerable
                .Range(0, random.Next(1, 60))
                .Select(_ => new string('x', random.Next(20) == 0 ? random.Next(60, 120) : random.Next(1, 12)))
                .ToList();
            var writer = new PlainTextWriter();
            writer.Prose(
                new RichText
                {
                    Paragraphs =
                    [
                        new Paragraph
                        {
                            List = list,
                            Runs = [new Run { Text = string.Concat(words.Select(w => w + gaps[random.Next(gaps.Length)])) }],
                        },
                    ],
                }
            );
            var lines = FlowedText.Fixed(writer.ToString()).TrimEnd('\n').Split('\n');
            Assert.Equal(
                list == ListStyle.Bullet ? words.Prepend("*") : words,
                lines.SelectMany(l => l.Split(' ', StringSplitOptions.RemoveEmptyEntries))
            );
            Assert.All(lines, (line, at) =>
            {
                Assert.True(line.Length <= PlainTextWriter.LineLength || line.Trim().Split(' ').Length == 1, line);
                Assert.True(
                    at + 1 == lines.Length || line.Length + 1 + lines[at + 1].TrimStart().Split(' ')[0].Length > PlainTextWriter.LineLength,
                    line
                );
                Assert.True(at == 0 || list == ListStyle.None || line.StartsWith("  x", StringComparison.Ordinal), line);
            });
        }
    }

    [Theory]
    [MemberData(nameof(EmailNames))]
    public void Plain_text_keeps_to_72_columns_but_never_breaks_an_address(string name) =>
        Assert.All(Larkfell.Compile(Named(name)).PlainText().Split('\n'), line =>
            Assert.True(line.Length <= PlainTextWriter.LineLength || line.Trim().Split(' ').Length == 1, line)
        );

    [Fact]
    public void Plain_text_reads_as_the_email_does()
    {
        var text = new PlainTextWriter();
        text.Heading("One promise", 1);
        text.Prose(
            new RichText
            {
                Paragraphs =
                [
                    new Paragraph
                    {
                        Runs =
                        [
                            new Run { Text = "Read " },
                            new Run { Text = "the ", Href = "https://example.org/" },
                            new Run
                            {
                                Text = "story",
                                Bold = true,
                                Href = "https://example.org/",
                            },
                            new Run { Text = "." },
                        ],
                    },
                    new Paragraph { List = ListStyle.Number, Runs = [new Run { Text = "first" }] },
                    new Paragraph { List = ListStyle.Number, Runs = [new Run { Text = "second" }] },
                    new Paragraph { List = ListStyle.Bullet, Runs = [new Run { Text = "a point" }] },
                ],
            }
        );
        text.Line(PlainTextWriter.Link("Book", "https://example.org/book"));
        Assert.Equal(
            "One promise\n===========\n\nRead the story (https://example.org/).\n\n1. first\n2. second\n\n* a "
                + "point\n\nBook: https://example.org/book\n",
            text.ToString()
        );
    }

    private static Edit Tame(Edit edit) =>
        edit switch
        {
            SetDetail d => d with { Value = "words" },
            SetFill { Value: FieldValue.Words } f => f with { Value = new FieldValue.Words("words") },
            SetFill { Value: FieldValue.Link } f => f with { Value = new FieldValue.Link("https://example.org/") },
            SetFill { Value: FieldValue.Prose } f => f with
            {
                Value = new FieldValue.Prose(
                    new RichText
                    {
                        Paragraphs =
                        [
                            new Paragraph
                            {
                                Runs =
                                [
                                    new Run { Text = "words", Href = "https://example.org/" },
                                    new Run
                                    {
                                        Text = "words",
                                        Bold = true,
                                        Href = "https://example.org/",
                                    },
                                ],
                            },
                        ],
                    }
                ),
            },
            _ => edit,
        };

    private static int Count(string text, string part) => text.Split(part).Length - 1;

    private static string Squeeze(string text) => string.Join(' ', text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
}
