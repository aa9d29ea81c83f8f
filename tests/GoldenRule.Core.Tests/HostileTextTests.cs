using System.Text;
using System.Text.Json;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Interchange;
using GoldenRule.Core.Validation;

namespace GoldenRule.Core.Tests;

/// <summary>Texts that were made to hold whoever reads them: too deep, too many, one leading to the next without end.</summary>
public sealed class HostileTextTests
{
    private static string Many(string text, int count) => new StringBuilder().Insert(0, text, count).ToString();

    public static TheoryData<string, string> TooMuch() =>
        new()
        {
            { "deep", Many("<div>", 40_000) },
            { "deep in links", Many("<a href='x'><b>", 20_000) },
            { "each with its own attribute", string.Concat(Enumerable.Range(0, 20_000).Select(i => $"<b a{i}>")) },
            { "ended by what was never begun", Many("<div></x>", 40_000) },
            { "tables in tables", Many("<table><tr><td>", 20_000) },
            { "many", Many("<br>", 40_000) },
        };

    [Theory]
    [MemberData(nameof(TooMuch))]
    public void Markup_beyond_all_measure_is_not_built(string name, string html)
    {
        Assert.NotNull(MarkupBounds.Fault(html));
        // Pasted, its words are kept.
        Assert.Contains(PastedHtml.Read(html + "the words"), part =>
            part.Paragraph.PlainText.Contains("the words", StringComparison.Ordinal)
        );
        var sent = $$$"""
            {"kind":"set-fill","row":"r","piece":"p","field":"html","value":{"kind":"code",
            "html":{{{JsonSerializer.Serialize(html[..Math.Min(html.Length, 99_000)])}}} } }
            """;
        Assert.True(
            Assert.Throws<JsonException>(() => JsonSerializer.Deserialize<Edit>(sent, DocumentJson.Sent)).Message.Length > 20,
            name
        );
    }

    [Theory]
    [InlineData("<p>One", 5_000)]
    [InlineData("<ul><li>One<li>Two</ul>", 2_000)]
    [InlineData("<div><div><div><p>Deep enough</p></div></div></div>", 2_000)]
    public void Markup_that_people_write_is_within_bounds(string html, int times) => Assert.Null(MarkupBounds.Fault(Many(html, times)));

    [Fact]
    public void A_text_or_a_list_beyond_its_bound_is_refused_with_its_place()
    {
        var longest = JsonSerializer.Serialize(new string('a', Bounds.Text + 1));
        var text = Assert.Throws<JsonException>(() =>
            JsonSerializer.Deserialize<Edit>($$"""{"kind":"set-name","name":{{longest}}}""", DocumentJson.Sent)
        );
        Assert.Contains("\"name\"", text.Message, StringComparison.Ordinal);
        var tags = string.Join(',', Enumerable.Repeat("\"a\"", Bounds.Items + 1));
        Assert.Contains(
            "5,000",
            Assert
                .Throws<JsonException>(() =>
                    JsonSerializer.Deserialize<Edit>($$"""{"kind":"set-tags","tags":[{{tags}}]}""", DocumentJson.Sent)
                )
                .Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_row_takes_a_hundred_blocks_and_what_stood_before_may_stay()
    {
        var full = WithSpacers(Bounds.BlocksInRow);
        DocumentBounds.Check(full, null);
        var over = WithSpacers(Bounds.BlocksInRow + 1);
        Assert.Contains(
            "100 blocks",
            Assert.Throws<StructureException>(() => DocumentBounds.Check(over, full)).Message,
            StringComparison.Ordinal
        );
        // Stored by a release that had no bounds: it is opened, and may become less.
        DocumentBounds.Check(over, over);
        DocumentBounds.Check(over, WithSpacers(Bounds.BlocksInRow + 5));

        static SavedRow WithSpacers(int count) =>
            new()
            {
                Name = "Spacers",
                RowKind = RowKind.Main,
                Row = new Row
                {
                    Id = "r",
                    Columns =
                    [
                        new Column
                        {
                            Id = "c",
                            Parts = 12,
                            Blocks = [.. Enumerable.Range(0, count).Select(i => new Block { Id = $"b{i}", Kind = "spacer" })],
                        },
                    ],
                },
            };
    }

    /// <summary>
    /// Of twice as much twice as much is made, and not four times: counted in bytes allocated, which no busy machine changes.
    /// </summary>
    [Theory]
    [InlineData("css")]
    [InlineData("tokens")]
    [InlineData("markup")]
    [InlineData("paragraphs")]
    [InlineData("replacing")]
    public void Twice_as_much_costs_twice_as_much(string what)
    {
        var (once, twice) = (Allocated(Prepared(what, 1)), Allocated(Prepared(what, 2)));
        Assert.True(twice < once * 2.7, $"{what}: {once:N0} bytes, then {twice:N0}");

        static long Allocated(Action act)
        {
            act();
            var before = GC.GetAllocatedBytesForCurrentThread();
            act();
            return GC.GetAllocatedBytesForCurrentThread() - before;
        }
    }

    private static Action Prepared(string what, int times)
    {
        var count = times * 400;
        switch (what)
        {
            case "css":
                var css = $":root{{{string.Concat(Enumerable.Range(0, count).Select(i => $"--v{i}:var(--v{i + 1});"))}--v{count}:#123456}}";
                return () => CssReader.Read(css);
            case "tokens":
                var tokens =
                    $"{{{string.Concat(Enumerable.Range(0, count).Select(i => $"\"v{i}\":{{\"$value\":\"{{v{i + 1}}}\"}},"))}\""
                    + $"v{count}\":{{\"$type\":\"color\",\"$value\":\"#123456\"}}}}";
                return () => DesignTokensReader.Read(tokens);
            case "markup":
                var html = Many("<p>Some <b>words</b> and <a href='https://larkfell.example.org'>a link</a>.</p>", count * 4);
                return () => PastedHtml.Read(html);
            case "paragraphs":
                var text = Many("A line of words\n\n", count * 20);
                return () => PastedText.Read(text);
            default:
                var paragraph = new Paragraph
                {
                    Runs = [.. Enumerable.Range(0, count * 4).Select(i => new Run { Text = "steam ", Bold = i % 2 == 0 })],
                };
                var email = Larkfell.Gazette;
                var place = new CopyPlaces(Larkfell.Open(email), Larkfell.Author).All.First(p =>
                    p.Words is FieldValue.Prose && p.Allowed is Governance.Decision.Allowed
                );
                var (row, piece, field) = place.Key.Split('/') switch
                {
                    [var r, var b, var f, ..] => (r, b, f),
                    _ => throw new InvalidOperationException(place.Key),
                };
                var full = (Email)
                    new SetFill(row, piece, field, new FieldValue.Prose(new RichText { Paragraphs = [paragraph] })).Apply(email);
                return () => new Replacing("steam", "smoke").Plan(new CopyPlaces(Larkfell.Open(full), Larkfell.Author));
        }
    }

    /// <summary>
    /// Whatever is done to a text that can be read, it is read or refused with a reason: nothing else is thrown, and nothing
    /// hangs.
    /// </summary>
    [Theory]
    [InlineData("html")]
    [InlineData("css")]
    [InlineData("tokens")]
    [InlineData("deck")]
    [InlineData("markdown")]
    [InlineData("template")]
    [InlineData("edit")]
    public void Whatever_is_done_to_a_file_it_is_read_or_refused(string parser)
    {
        var (seed, mutations) = (FuzzSettings.Seed, FuzzSettings.Mutations);
        var random = new Random(seed);
        var (text, read) = Parser(parser);
        for (var i = 0; i < mutations; i++)
        {
            var mutated = Mutated(text, random);
            try
            {
                read(mutated);
            }
            catch (Exception fault)
                when (fault is StructureException or JsonException or NotSupportedException { Source: "System.Text.Json" })
            {
                Assert.True(fault.Message.Length > 10);
            }
            catch (Exception fault)
            {
                throw new InvalidOperationException(
                    $"{parser}, seed {seed}, mutation {i}: {mutated[..Math.Min(mutated.Length, 400)]}",
                    fault
                );
            }
        }
    }

    private static (string Text, Action<string> Read) Parser(string name)
    {
        switch (name)
        {
            case "html":
                return (
                    "<h1>Steam</h1><p style='mso-list:l0'>One <b>two</b> <a "
                        + "href='https://larkfell.example.org/a?b=c'>three</a></p><ul><li>four<li>five</ul><table><tr><td>six</table>",
                    t => PastedHtml.Read(t)
                );
            case "css":
                return (
                    ":root{--brand-green:#1b4d3e;--space:16px;--serif:'Literata',serif;--x:var(--brand-green)}"
                        + "@media(prefers-color-scheme:dark){:root{--x:#fff}}h1,h2{font-size:2rem;color:var(--x)}",
                    t => CssReader.Read(t)
                );
            case "tokens":
                return (
                    """
                    {"colour":{"$type":"color","green":{"$value":{"colorSpace":"srgb","components":[0.1,0.3,0.2],
                    "hex":"#1b4d3e"}},"ink":{"$value":"{colour.green}"}},"space":{"$type":"dimension",
                    "$value":{"value":16,"unit":"px"}}}
                    """,
                    t => DesignTokensReader.Read(t)
                );
            case "deck":
                return (CopyDeck.Csv(Places()), t => CopyDeck.Read(t, Places(), _ => true));
            case "markdown":
                return ("# A *title*\n\n- one\n- **two** [three](https://larkfell.example.org)\n\n1. {brand}\n", t =>
                    ProseMarkdown.Read(t, _ => true)
                );
            case "template":
                return (
                    $$"""
                    {"type":"{{TemplateFile.FileTypeName}}","version":1,"template":{"name":"T","campaignType":"c",
                    "houseStyle":"00000000-0000-0000-0000-000000000001","order":[] },"rows":[],"variables":[],
                    "pictures":[{"id":"p","name":"n","alt":"a","extension":".png","data":"iVBORw0KGgo="}] }
                    """,
                    t => TemplateFile.Read(t)
                );
            default:
                return (
                    """
                    {"kind":"set-fill","row":"r","piece":"p","field":"text","value":{"kind":"prose",
                    "text":{"paragraphs":[{"list":"bullet","runs":[{"text":"a","bold":true,
                    "href":"https://larkfell.example.org"}]}]}}}
                    """,
                    t => JsonSerializer.Deserialize<Edit>(t, DocumentJson.Sent)
                );
        }
    }

    private static CopyPlaces Places() => new(Larkfell.Open(Larkfell.Gazette), Larkfell.Author);

    private static readonly string[] Odd =
    [
        "\0",
        "\ud800",
        "\u202e",
        "<",
        ">",
        "\"",
        "'",
        "{",
        "}",
        "[",
        "]",
        "\\",
        "/",
        "&",
        ";",
        "--",
        "/*",
        "*/",
        "var(",
        "url(",
        "null",
        "-1",
        "1e999",
        "{x}",
        "\n",
        ",",
        "\"\"",
        "<!--",
        "]]>",
        "%00",
        "=1+1",
    ];

    private static string Mutated(string text, Random random)
    {
        var mutated = new StringBuilder(text);
        for (var i = random.Next(1, 6); i > 0 && mutated.Length > 0; i--)
        {
            var at = random.Next(mutated.Length);
            var length = Math.Min(random.Next(1, 20), mutated.Length - at);
            switch (random.Next(5))
            {
                case 0:
                    mutated.Remove(at, length);
                    break;
                case 1:
                    mutated.Insert(at, Odd[random.Next(Odd.Length)]);
                    break;
                case 2:
                    mutated.Insert(at, mutated.ToString(at, length));
                    break;
                case 3:
                    mutated[at] = (char)random.Next(1, 0x3000);
                    break;
                default:
                    mutated.Insert(at, Many(Odd[random.Next(Odd.Length)], random.Next(2, 60)));
                    break;
            }
        }

        // As it arrives: in UTF-8, in which there is no half of a pair.
        return Encoding.UTF8.GetString(Encoding.UTF8.GetBytes(mutated.ToString()));
    }

    /// <summary>Names as they go out (the endings and signs that systems read as something else: common practice, no source).</summary>
    [Theory]
    [InlineData("days.csv", "days.csv")]
    [InlineData("../../etc/days.csv", "-..-etc-days.csv")]
    [InlineData("invoice.pdf.csv", "invoice-pdf.csv")]
    [InlineData("invoice.hta.txt", "invoice-hta.txt")]
    [InlineData("v1.2 times.pdf", "v1.2 times.pdf")]
    [InlineData("a\u202efdp.txt", "a-fdp.txt")]
    [InlineData("what?<>|.png", "what----.png")]
    public void A_file_goes_out_under_a_name_that_is_nothing_else(string name, string safe)
    {
        Assert.Equal(safe, AttachmentTypes.SafeName(name));
        Assert.Equal(safe, AttachmentTypes.SafeName(safe));
    }

    [Theory]
    [InlineData("invoice.hta", "text/plain", false)]
    [InlineData("invoice.txt", "application/pdf", false)]
    [InlineData("../invoice.txt", "text/plain", false)]
    [InlineData("invoice.TXT", "text/plain", true)]
    public void A_name_ends_as_its_content_is(string name, string type, bool fits) =>
        Assert.Equal(fits, AttachmentTypes.NameFault(name, type) is null);
}
