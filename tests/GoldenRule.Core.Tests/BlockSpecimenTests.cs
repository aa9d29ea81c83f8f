using System.Collections.Immutable;
using System.Text;
using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Resolving;
using GoldenRule.Core.Specimens;

namespace GoldenRule.Core.Tests;

/// <summary>Every block kind filled in: what it writes, read back by an independent HTML parser and against published formats.</summary>
public class BlockSpecimenTests
{
    private static readonly CompiledEmail All = BlockSpecimen.Compile(
        Larkfell.Style,
        "https://larkfell.example.org/pictures/",
        Larkfell.Pictures
    );

    private static readonly IDocument Page = new HtmlParser().ParseDocument(All.HtmlText());

    public static TheoryData<string> Kinds => [.. BlockKinds.All.Select(k => k.Name)];

    [Theory]
    [MemberData(nameof(Kinds))]
    public void Whatever_a_block_says_stands_in_the_HTML_and_in_the_plain_text(string name)
    {
        var kind = BlockKinds.All.Single(k => k.Name == name);
        var block = BlockSpecimen.FillIn(kind);
        var cell = Page.QuerySelector($"[data-piece={name}]")!;
        var html = Spaced(cell.TextContent);
        var text = Spaced(All.Rows.Single(r => r.Source.Id == name).Text.Replace("\n> ", "\n", StringComparison.Ordinal));
        foreach (var (field, value) in block.Content)
        {
            // Of a countdown's wordings one at a time is said; see there.
            foreach (var words in WordsIn(value).Where(_ => field is not ("alt" or "tag" or "html" or "days" or "lastDay" or "today")))
            {
                Assert.Contains(words, html, StringComparison.Ordinal);
                Assert.Contains(words, text, StringComparison.Ordinal);
            }
        }

        Assert.All(cell.QuerySelectorAll("img"), i => Assert.True(i.HasAttribute("alt") && i.GetAttribute("width") is { Length: > 0 }));
        Assert.All(cell.QuerySelectorAll("a[href]").Select(a => a.GetAttribute("href")!), h =>
            Assert.True(h.StartsWith("https://", StringComparison.Ordinal) || h.StartsWith('#'), h)
        );
        // Every declared link and picture is written.
        var view = View(name);
        Assert.All(kind.Links(view).Select(l => l.Href).Where(h => h.Length > 0), h =>
            Assert.Contains(cell.QuerySelectorAll("a[href]").Select(a => a.GetAttribute("href")!), a =>
                a == h || a.StartsWith(h.Split('#')[0], StringComparison.Ordinal)
            )
        );
        Assert.Equal(kind.Pictures(view).Count(p => p.Picture.Length > 0), cell.QuerySelectorAll("img").Length);
        Assert.InRange(kind.LeastWidth(view), 1, 640);
        Assert.All(kind.Readings(view, false).Concat(kind.Readings(view, true)), r => Assert.True(r.Size >= 12, r.What));
    }

    [Fact]
    public void A_contents_list_names_what_is_marked_and_every_line_leads_there()
    {
        var lines = Page.QuerySelectorAll("[data-piece=contents] li a").ToList();
        Assert.Contains("The 10:40 runs again", lines.Select(l => l.TextContent));
        Assert.All(lines, l => Assert.Equal(l.TextContent, Page.GetElementById(l.GetAttribute("href")![1..])!.TextContent));
        Assert.Equal(lines.Count, lines.Select(l => l.GetAttribute("href")).Distinct().Count());
        Assert.Equal(lines.Select(l => l.TextContent), All.Context.Contents.Select(c => c.Words));
    }

    /// <summary>A row that shows contents is written again when a heading elsewhere changes, and no other.</summary>
    [Fact]
    public void The_contents_list_follows_a_heading_and_other_rows_are_kept()
    {
        var (before, after) = (Email("One"), Email("Two"));
        var first = Compiler.Compile(before, "", Purpose.Sending);
        var second = Compiler.Compile(after with { Rows = [after.Rows[0], before.Rows[1], before.Rows[2]] }, "", Purpose.Sending, first);
        Assert.Contains(">Two</a>", Encoding.UTF8.GetString(second.Rows[1].Html.Span), StringComparison.Ordinal);
        Assert.Same(first.Rows[2], second.Rows[2]);

        ResolvedEmail Email(string heading)
        {
            OrderedRow Row(string id, Block block)
            {
                var saved = new SavedRow
                {
                    Name = id,
                    RowKind = RowKind.Main,
                    Row = new Row { Id = id, Columns = [new Column { Id = "c", Blocks = [block] }] },
                };
                return new OrderedRow(
                    new PlacedRow { Id = id, Own = saved },
                    saved,
                    null,
                    ImmutableSortedDictionary<string, PieceFill>.Empty,
                    ImmutableSortedDictionary<string, PieceFill>.Empty
                );
            }

            Block New(string kind) => BlockKinds.All.Single(k => k.Name == kind).New("b");
            var named = New("heading") is var h
                ? h with
                {
                    Content = h.Content.SetItem("text", new FieldValue.Words(heading)),
                    Look = h.Look.SetItem("named", "yes"),
                }
                : h;
            return Resolver.Resolve(
                new Email
                {
                    Name = "x",
                    Template = Guid.Empty,
                    TemplateRelease = 0,
                },
                new RunningOrder(
                    new Template
                    {
                        Name = "x",
                        CampaignType = "",
                        HouseStyle = Guid.Empty,
                    },
                    [Row("a", named), Row("b", New("contents")), Row("c", New("divider"))]
                ),
                Larkfell.Style,
                PictureCatalog.Empty
            );
        }
    }

    /// <summary>
    /// RFC 5545: 3.1 lines of at most 75 octets ended by CRLF, 3.4 and 3.6.1 required parts, 3.3.5 form 2 for UTC. London keeps
    /// UTC in March and UTC+1 in July.
    /// </summary>
    [Theory]
    [InlineData("2027-03-06T10:40", "2027-03-06T15:30", "DTSTART:20270306T104000Z", "DTEND:20270306T153000Z")]
    [InlineData("2027-07-06T10:40", "", "DTSTART:20270706T094000Z", null)]
    [InlineData("2027-07-06", "", "DTSTART;VALUE=DATE:20270706", null)]
    public void An_event_brings_a_calendar_file(string start, string end, string starts, string? ends)
    {
        var kind = BlockKinds.All.Single(k => k.Name == "event");
        var view = View("event");
        view = With(
            view,
            ("when", new FieldValue.Moment(start, end, "Europe/London")),
            (
                "title",
                new FieldValue.Words("Steam; on, the\\viaduct — with a title that is far longer than one line of a calendar file may be")
            )
        );
        var (name, bytes) = Assert.Single(kind.Files(view));
        Assert.EndsWith(".ics", name, StringComparison.Ordinal);
        Assert.Equal(name, Assert.Single(kind.Files(view)).Name);
        var text = Encoding.UTF8.GetString(bytes);
        Assert.DoesNotContain(text.Replace("\r\n", "", StringComparison.Ordinal), c => c is '\r' or '\n');
        var lines = text.Split("\r\n");
        Assert.All(lines, l => Assert.InRange(Encoding.UTF8.GetByteCount(l), 0, 75));
        var unfolded = text.Replace("\r\n ", "", StringComparison.Ordinal).Split("\r\n");
        Assert.Equal(("BEGIN:VCALENDAR", "END:VCALENDAR"), (unfolded[0], unfolded.Last(l => l.Length > 0)));
        Assert.Contains("VERSION:2.0", unfolded);
        Assert.Contains(unfolded, l => l.StartsWith("PRODID:", StringComparison.Ordinal));
        Assert.Contains(unfolded, l => l.StartsWith("UID:", StringComparison.Ordinal));
        Assert.Contains(unfolded, l => l.StartsWith("DTSTAMP:", StringComparison.Ordinal));
        Assert.Contains(starts, unfolded);
        Assert.Equal(ends, unfolded.FirstOrDefault(l => l.StartsWith("DTEND", StringComparison.Ordinal)));
        // 3.3.11: commas, semicolons and backslashes of text are escaped.
        Assert.Contains(
            @"SUMMARY:Steam\; on\, the\\viaduct — with a title that is far longer than one line of a calendar file may be",
            unfolded
        );
    }

    [Theory]
    [InlineData("2027-02-25", "9 days left")]
    [InlineData("2027-03-05", "1 day left")]
    [InlineData("2027-03-06", "Today")]
    [InlineData("2027-03-07", null)]
    [InlineData("", null)]
    public void A_countdown_counts_whole_days_from_the_day_the_email_goes_out(string day, string? left)
    {
        var row = Resolver.Resolve(OrderedSpecimen("countdown"), Larkfell.Style);
        var email = All.Source with { Email = All.Source.Email with { Details = new EmailDetails { SendDay = day } }, Rows = [row] };
        var text = Compiler.Compile(email, "", Purpose.Sending).PlainText();
        Assert.Equal((left is null ? "" : left + "\n") + "Booking opens: Saturday 6 March 2027, 10:40\n", text);
    }

    /// <summary>
    /// Names of days and months are those of the Unicode CLDR for the email's language; the block's own words are the lead's.
    /// </summary>
    [Theory]
    [InlineData("de-DE", "2027-03-06T10:40", "", "Samstag, 6. März 2027, 10:40")]
    [InlineData("cy-GB", "2027-03-06T10:40", "", "Dydd Sadwrn, 6 Mawrth 2027, 10:40")]
    [InlineData("en-GB", "2027-03-06T10:40", "2027-03-06T15:30", "Saturday 6 March 2027, 10:40 to 15:30")]
    [InlineData("en-US", "2027-03-06", "2027-03-08", "Saturday, March 6, 2027 to Monday, March 8, 2027")]
    [InlineData("fr-FR", "2027-03-06T10:40", "2027-03-06T15:30", "samedi 6 mars 2027, 10:40 – 15:30")]
    public void Days_and_countdowns_speak_the_language_of_the_email(string language, string start, string end, string when)
    {
        var row = Resolver.Resolve(OrderedSpecimen("countdown"), Larkfell.Style);
        var view = With(
            View("countdown"),
            ("days", new FieldValue.Words("Noch {days} Tage")),
            ("until", new FieldValue.Moment(start, end, "Europe/London"))
        );
        row = row with { Columns = [row.Columns[0] with { Blocks = [view.Block] }] };
        var email = All.Source with
        {
            Email = All.Source.Email with
            {
                Language = language,
                Details = new EmailDetails { SendDay = "2027-02-25" },
            },
            Rows = [row],
        };
        Assert.Equal($"Noch 9 Tage\nBooking opens: {when}\n", Compiler.Compile(email, "", Purpose.Sending).PlainText());
    }

    /// <summary>RFC 3986, section 3: the example address of the syntax overview, and forms of its query and fragment.</summary>
    [Theory]
    [InlineData(
        "https://example.com:8042/over/there?name=ferret#nose",
        "https://example.com:8042/over/there?name=ferret&answer=Yes%2C%20more%20than%20once#nose"
    )]
    [InlineData("https://example.org/", "https://example.org/?answer=Yes%2C%20more%20than%20once")]
    [InlineData("https://example.org/a#b?c", "https://example.org/a?answer=Yes%2C%20more%20than%20once#b?c")]
    [InlineData("https://example.org/?", "https://example.org/?answer=Yes%2C%20more%20than%20once")]
    public void Answers_are_links_with_the_answer_in_their_query(string page, string expected)
    {
        var view = View("question");
        view = With(view, ("link", new FieldValue.Link(page)), ("tag", new FieldValue.Words("answer")));
        var html = new HtmlWriter();
        BlockKinds.All.Single(k => k.Name == "question").WriteHtml(html, view);
        var first = new HtmlParser().ParseDocument(Encoding.UTF8.GetString(html.Written)).QuerySelector("a")!.GetAttribute("href");
        Assert.Equal(expected, first);
    }

    [Theory]
    [InlineData("<script>alert(1)</script><b>kept</b>")]
    [InlineData("<b onclick=alert(1) onmouseover='x'>kept</b>")]
    [InlineData("<a href='javascript:alert(1)'>kept</a><a href='data:text/html,x'>kept</a>")]
    [InlineData("kept</td></tr></table><table><tr><td>")]
    [InlineData("<!--[if mso]>kept<![endif]--><!-- --><p>kept")]
    [InlineData("<style>*{display:none}</style><p style='position:fixed;color:#111111;background:url(javascript:x)'>kept</p>")]
    [InlineData("<form action=x><input name=y><button>kept</button></form><iframe src=x></iframe><svg onload=x></svg>")]
    [InlineData("<p id=stolen class=pg>kept</p><base href=//x><meta http-equiv=refresh content=0><link rel=stylesheet href=x>")]
    [InlineData(
        "<img src=x onerror=alert(1)><img src=https://example.org/a.png alt=a>kept<noscript><p "
            + "title=\"</noscript><img src=x onerror=alert(1)>\">"
    )]
    [InlineData("kept<math><mtext><table><mglyph><style><!--</style><img title=\"--&gt;&lt;img src=1 onerror=alert(1)&gt;\">")]
    public void Hand_written_HTML_is_made_safe_and_stays_in_its_cell(string written)
    {
        var view = View("html");
        view = With(view, ("html", new FieldValue.Code(written)));
        var html = new HtmlWriter();
        BlockKinds.All.Single(k => k.Name == "html").WriteHtml(html, view);
        var text = Encoding.UTF8.GetString(html.Written);
        Assert.DoesNotContain("<!--", text, StringComparison.Ordinal);
        var page = new HtmlParser().ParseDocument($"<table><tr><td id=cell>{text}</td><td id=after>after</td></tr></table>");
        var cell = page.GetElementById("cell")!;
        Assert.Equal("after", page.GetElementById("after")!.TextContent);
        Assert.Contains("kept", cell.TextContent, StringComparison.Ordinal);
        Assert.Empty(page.QuerySelectorAll("script,style,iframe,form,input,button,svg,math,base,meta[http-equiv],link,object,embed"));
        foreach (var element in cell.QuerySelectorAll("*").Skip(1))
        {
            Assert.All(element.Attributes, a =>
                Assert.False(a.Name.StartsWith("on", StringComparison.OrdinalIgnoreCase) || a.Name is "id" or "class", a.Name)
            );
            Assert.DoesNotContain("javascript:", element.OuterHtml, StringComparison.OrdinalIgnoreCase);
            Assert.DoesNotContain("position", element.GetAttribute("style") ?? "", StringComparison.Ordinal);
        }
    }

    [Fact]
    public void Pieces_for_one_screen_only_are_marked_for_it_and_the_plain_text_says_them_once()
    {
        var row = All.Rows.Single(r => r.Source.Id == "phone-only");
        var html = Encoding.UTF8.GetString(row.Html.Span);
        Assert.Contains("<!--[if !mso]><!--><tr class=\"pr\" style=\";display:none", html, StringComparison.Ordinal);
        Assert.Contains("<tr class=\"do\"", html, StringComparison.Ordinal);
        Assert.Equal("Only desktops show this.\n", row.Text);
        Assert.Contains(".do{display:none!important}", All.HtmlText(), StringComparison.Ordinal);
    }

    [Fact]
    public void A_picture_behind_a_row_always_lies_on_a_colour()
    {
        var html = Encoding.UTF8.GetString(All.Rows.Single(r => r.Source.Id == "background").Html.Span);
        var at = html.IndexOf("background-image:url(", StringComparison.Ordinal);
        Assert.Matches("background-color:#[0-9a-f]{6};$", html[..at]);
        Assert.Matches("<v:fill type=\"frame\" src=\"[^\"]+\" color=\"#[0-9a-f]{6}\"/>", html);
    }

    private static BlockView View(string kind)
    {
        var row = All.Source.Rows.Single(r => r.Id == kind);
        return All.Context.View(row, row.Blocks.Single(), 560);
    }

    private static OrderedRow OrderedSpecimen(string kind) => All.Source.Rows.Single(r => r.Id == kind).Source;

    private static IEnumerable<string> WordsIn(FieldValue value) =>
        value switch
        {
            FieldValue.Words { Text: var text } => [text],
            FieldValue.Prose { Text: var text } => text.Paragraphs.SelectMany(p => p.Runs.Select(r => Spaced(r.Text))),
            FieldValue.LinkList list => list.Links.Select(l => l.Name),
            FieldValue.Cells cells => cells.Rows.SelectMany(r => r),
            FieldValue.Entries entries => entries.Items.SelectMany(i => i.Where(f => f.Key is not "alt").SelectMany(f => WordsIn(f.Value))),
            _ => [],
        };

    private static string Spaced(string text) => string.Join(' ', text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));

    private static BlockView With(BlockView view, params (string Field, FieldValue Value)[] said) =>
        view with
        {
            Block = view.Block with
            {
                Content = new([
                    .. view.Block.Content.All.Select(f =>
                        said.FirstOrDefault(s => s.Field == f.Key) is { Value: { } value } ? KeyValuePair.Create(f.Key, value) : f
                    ),
                ]),
            },
        };
}
