using System.Text.Json;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Interchange;

namespace GoldenRule.Core.Tests;

/// <summary>Words taken out of an email as a table and brought back, found and replaced, and laid out from a document.</summary>
public sealed class CopyDeckTests
{
    private static CopyPlaces Places(Email? email = null, Person? person = null) =>
        new(Larkfell.Open(email ?? Larkfell.Gazette), person ?? Larkfell.Author);

    private static Email Applied(CopyPlan plan, Email? email = null) =>
        (Email)plan.Edits.Aggregate((Document)(email ?? Larkfell.Gazette), (d, e) =>
            {
                Assert.IsNotType<Decision.Refused>(Governor.Decide(Larkfell.Author, e, Larkfell.Open((Email)d)));
                return e.Apply(d);
            });

    private static CopyPlan Read(string deck) => CopyDeck.Read(deck, Places(), key => Larkfell.Style.Find(key) is not null);

    private sealed record Table(string Name, string Csv, Dictionary<string, string>[] Rows);

    /// <summary>
    /// Tables that other programs wrote, with what they say (npm "csv-spectrum" 2.0.0): any two of their columns named as a
    /// deck's are read as such.
    /// </summary>
    [Fact]
    public void Tables_of_other_programs_are_read_as_they_are_meant()
    {
        var tables = JsonSerializer.Deserialize<Table[]>(
            File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "Vectors", "csv-spectrum.json")),
            JsonSerializerOptions.Web
        )!;
        Assert.Equal(12, tables.Length);
        // RFC 4180, 2.5: a field that is not quoted has no quotation marks; these coordinates have, and are refused.
        var refused = Assert.Single(tables, t => t.Name == "location_coordinates");
        Assert.StartsWith(
            "Line 2 ",
            Assert.Throws<StructureException>(() => Read(Named(refused, "Cities", "Location Coordinates"))).Message,
            StringComparison.Ordinal
        );
        foreach (var table in tables.Except([refused]))
        {
            var columns = table.Rows[0].Keys.ToList();
            foreach (var (key, text) in columns.SelectMany(k => columns.Where(t => t != k).Select(t => (k, t))))
            {
                static string Plain(string value) => value.ReplaceLineEndings("\n").Trim();
                Assert.Equal(
                    table.Rows.Where(r => r[key].Length > 0).Select(r => (Plain(r[key]), Plain(r[text]))),
                    Read(Named(table, key, text)).Changes.Select(c => (Plain(c.Key), Plain(c.New)))
                );
            }
        }

        static string Named(Table table, string key, string text)
        {
            var end = table.Csv.IndexOfAny(['\r', '\n']);
            return string.Join(',', table.Csv[..end].Split(',').Select(c => c == key ? "Key" : c).Select(c => c == text ? "Text" : c))
                + table.Csv[end..];
        }
    }

    /// <summary>
    /// RFC 4180, 2: records end with CRLF; a quoted field holds commas, line breaks and doubled quotes. Written apart from the
    /// program.
    /// </summary>
    private static List<List<string>> Records(string csv)
    {
        List<List<string>> records =
        [
            [],
        ];
        var (field, quoted) = ("", false);
        for (var i = 0; i < csv.Length; i++)
        {
            switch (csv[i])
            {
                case '"' when quoted && i + 1 < csv.Length && csv[i + 1] == '"':
                    field += '"';
                    i++;
                    break;
                case '"':
                    quoted = !quoted;
                    break;
                case ',' when !quoted:
                    records[^1].Add(field);
                    field = "";
                    break;
                case '\r' when !quoted && csv[i + 1] == '\n':
                    records[^1].Add(field);
                    records.Add([]);
                    field = "";
                    i++;
                    break;
                case '\r' or '\n' or ' ' when !quoted && (csv[i] != ' ' || field.Length == 0):
                    throw new FormatException($"Character {i}: a line end or a leading blank stands outside quotation marks.");
                default:
                    field += csv[i];
                    break;
            }
        }

        Assert.Equal(("", 0), (field, records[^1].Count));
        records.RemoveAt(records.Count - 1);
        return records;
    }

    [Fact]
    public void The_table_is_read_by_any_reader_of_rfc_4180()
    {
        var hard = (Email)
            new SetFill("hero", "headline", "text", new FieldValue.Words("\"Steam\", he said;\tit's =1+1")).Apply(Larkfell.Gazette);
        var records = Records(CopyDeck.Csv(Places(hard)));
        Assert.Equal(["Key", "Place", "Instruction", "Limit", "Text"], records[0]);
        Assert.All(records, r => Assert.Equal(5, r.Count));
        Assert.Equal("\"Steam\", he said;\tit's =1+1", records.Single(r => r[0] == "hero/headline/text")[4]);
        // Only what the author may write at, each place once.
        Assert.Equal(Places(hard).All.Where(p => p.Allowed is Decision.Allowed).Select(p => p.Key), records.Skip(1).Select(r => r[0]));
        Assert.DoesNotContain(records, r => r[0].StartsWith("footer/", StringComparison.Ordinal));
    }

    [Theory]
    [InlineData("=HYPERLINK(\"https://example.net\")")]
    [InlineData("+1 member")]
    [InlineData("-12 °C")]
    [InlineData("@larkfell")]
    public void No_cell_is_a_formula_to_a_spreadsheet(string words)
    {
        var email = (Email)new SetFill("hero", "headline", "text", new FieldValue.Words(words)).Apply(Larkfell.Gazette);
        var deck = CopyDeck.Csv(Places(email));
        Assert.DoesNotContain(Records(deck).SelectMany(r => r), c => c.Length > 0 && "=+-@\t".Contains(c[0], StringComparison.Ordinal));
        Assert.Equal(words, ((SetFill)Read(deck).Edits.Single()).Value is FieldValue.Words w ? w.Text : "");
    }

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void What_comes_back_unchanged_changes_nothing(bool markdown)
    {
        foreach (var (name, email) in Larkfell.Emails)
        {
            var places = Places(email);
            var deck = markdown ? CopyDeck.Markdown(places, name) : "\ufeff" + CopyDeck.Csv(places);
            var plan = CopyDeck.Read(deck, Places(email), _ => true);
            Assert.All(plan.Changes, c => Assert.Equal(CopyFate.Same, c.Fate));
            Assert.Empty(plan.Edits);
        }
    }

    [Fact]
    public void A_translation_comes_back_place_by_place()
    {
        var markdown = CopyDeck.Markdown(Places(), "Gazette");
        var plan = Read(markdown.Replace("Steam returns to the viaduct on Saturday", "Mae stêm yn dychwelyd", StringComparison.Ordinal));
        Assert.Equal(new SetFill("hero", "headline", "text", new FieldValue.Words("Mae stêm yn dychwelyd")), Assert.Single(plan.Edits));
        Assert.Equal("Mae stêm yn dychwelyd", ((FieldValue.Words)Applied(plan).Fills["hero"]["headline"].Content["text"]).Text);
    }

    [Fact]
    public void What_breaks_a_lock_or_a_limit_is_refused_and_the_rest_is_taken()
    {
        var limit = Places().Find("hero/headline/text")!.Limits.Single().Characters!.Value;
        var sealedPlace = Places().All.First(p => p.Allowed is Decision.Refused);
        var plan = Read(
            $"Key,Text\r\nhero/headline/text,{new string('x', limit + 1)}\r\n{sealedPlace.Key},Mine\r\n"
                + "nowhere/at/all,Lost\r\ndetails/subject,Kept\r\ndetails/subject,Twice\r\n"
        );
        Assert.Equal(
            [CopyFate.Refused, CopyFate.Refused, CopyFate.Refused, CopyFate.Changed, CopyFate.Refused],
            plan.Changes.Select(c => c.Fate)
        );
        Assert.Contains($"{limit + 1} characters", plan.Changes[0].Why, StringComparison.Ordinal);
        Assert.Equal(new SetDetail("subject", "Kept"), Assert.Single(plan.Edits));
    }

    [Theory]
    [InlineData("")]
    [InlineData("Just words")]
    [InlineData("Place,Words\r\na,b\r\n")]
    [InlineData("# A deck without keys\n\n## Hero\n\nText")]
    public void What_is_no_deck_says_so(string deck) => Assert.Throws<StructureException>(() => Read(deck));

    private static readonly string[] Texts =
    [
        "plain",
        "two words ",
        "1. no list",
        "# none",
        "a*b*c",
        "[x](y)",
        "<b>",
        "back\\slash",
        "&amp;",
        "- dash",
        "line\nbreak",
        "ümlaut – “quotes”",
        "{key}",
        "under_score_",
        "`code`",
        "~~~",
        "===",
    ];

    private static RichText Make(IList<int> seeds) =>
        new()
        {
            Paragraphs =
            [
                .. seeds
                    .Chunk(3)
                    .Select(s => new Paragraph
                    {
                        List = (ListStyle)(s[0] % 3),
                        Runs =
                        [
                            new Run { Text = Texts[s[0] % Texts.Length].Trim() },
                            new Run
                            {
                                Text = " " + Texts[s[^1] % Texts.Length].Trim(),
                                Bold = s[^1] % 2 == 0,
                                Italic = s[^1] % 3 == 0,
                                Href = s[^1] % 5 == 0 ? "https://larkfell.example.org/a_b?c=(d)&e=*" : null,
                            },
                            new Run { Text = " end" },
                        ],
                    }),
            ],
        };

    // Neighbours of one dress are one run, and a blank has no dress.
    private static string Plainly(RichText text) =>
        string.Join(
            '¶',
            text.Paragraphs.Select(p => $"{p.List}:{string.Concat(p.Runs.SelectMany(r => r.Text.Select(c => Dressed(c, r))))}")
        );

    private static string Dressed(char c, Run run) =>
        char.IsWhiteSpace(c) ? c.ToString() : $"{c}{(run.Bold ? 1 : 0)}{(run.Italic ? 1 : 0)}{run.Href}";

    /// <summary>Any text comes back from its Markdown as it was: the reader is a general-purpose CommonMark library.</summary>
    [Property(MaxTest = 500)]
    public Property Markdown_loses_nothing() => Prop.ForAll(Gen.Choose(0, 300).ListOf(9).ToArbitrary(), seeds =>
        {
            var text = Make(seeds);
            var back = ProseMarkdown.Read(ProseMarkdown.Write(text), _ => false);
            Assert.Equal(Plainly(text), Plainly(back));
        });

    /// <summary>What is found and replaced reads as .NET's own replacement of the plain text, whatever the runs.</summary>
    [Property(MaxTest = 500)]
    public Property Replacing_reads_as_replacing_plain_text() =>
        Prop.ForAll(Gen.Choose(0, 300).ListOf(6).ToArbitrary(), Gen.Elements("e", "d b", " ", "plain", "##").ToArbitrary(), (seeds, find) =>
        {
            var text = Make(seeds);
            var email = (Email)new SetFill("hero", "text", "text", new FieldValue.Prose(text)).Apply(Larkfell.Gazette);
            var plan = new Replacing(find, "…", MatchCase: true).Plan(Places(email));
            var after = (FieldValue.Prose)Applied(plan, email).Fills["hero"]["text"].Content["text"];
            Assert.Equal(text.PlainText.Replace(find, "…", StringComparison.Ordinal), after.Text.PlainText);
        });

    [Fact]
    public void Only_whole_words_and_only_where_one_may()
    {
        Assert.NotEmpty(new Replacing("viaduct", "bridge").Plan(Places()).Edits);
        Assert.Empty(new Replacing("viaduc", "bridge", WholeWords: true).Plan(Places()).Changes);
        var footer = new Replacing("Larkfell", "Harrow").Plan(Places()).Changes.Where(c => c.Fate == CopyFate.Refused).ToList();
        Assert.NotEmpty(footer);
        Assert.All(footer, c => Assert.NotNull(c.Why));
    }

    [Fact]
    public void A_copy_document_is_laid_out_in_order_and_rows_are_placed_again_for_it()
    {
        var copy = PastedHtml.Read(
            """
            <p>Subject: Spring by steam</p><p>Preheader: Nine days, nine trains</p>
            <h1>Spring by steam</h1><p>The line opens on Saturday.</p><p><a href="https://larkfell.example.org/spring">Choose a day</a></p>
            <h2>One</h2><p>First <b>story</b>.</p><h2>Two</h2><p>Second story.</p>
            <h2>Three</h2><p>Third.</p><h2>Four</h2><p>Fourth.</p><h2>Five</h2><p>Fifth.</p>
            """
        );
        var next = 0;
        var plan = CopyLayout.Plan(copy, Larkfell.Open(Larkfell.Gazette), Larkfell.Author, () => $"new{next++}");
        var email = Applied(plan);
        Assert.Equal(("Spring by steam", "Nine days, nine trains"), (email.Details.Subject, email.Details.Preheader));
        Assert.Equal("Spring by steam", ((FieldValue.Words)email.Fills["hero"]["headline"].Content["text"]).Text);
        Assert.Contains(plan.Edits, e =>
            e is SetFill { Row: "hero", Value: FieldValue.Link { Href: "https://larkfell.example.org/spring" } }
        );
        var before = Larkfell.Gazette.Zones["stories"].Length;
        Assert.Equal(before + plan.Edits.Count(e => e is InsertRow), email.Zones["stories"].Length);
        Assert.Contains(plan.Changes, c => c.New == "Fifth.");
        Assert.DoesNotContain(plan.Changes, c => c.Fate == CopyFate.Refused);
    }

    [Fact]
    public void Copy_that_finds_no_place_is_told_of()
    {
        var many = string.Join("\n\n", Enumerable.Range(1, 30).Select(i => $"Heading {i}\n\nWords of number {i}."));
        var next = 0;
        var plan = CopyLayout.Plan(PastedText.Read(many), Larkfell.Open(Larkfell.Gazette), Larkfell.Author, () => $"new{next++}");
        Assert.NotEmpty(plan.Left);
        var placed = string.Join('\n', plan.Changes.Select(c => c.New).Concat(plan.Left));
        Assert.All(Enumerable.Range(1, 30), i => Assert.Contains($"Words of number {i}.", placed, StringComparison.Ordinal));
        _ = Applied(plan);
    }

    /// <summary>
    /// Forms of CommonMark 0.31.2 (2.5 entities, 4.4 and 5.1 to 5.3 blocks, 6.1 to 6.7 inlines), from memory of the
    /// specification.
    /// </summary>
    [Theory]
    [InlineData("&copy; &Ouml; &#35;", "© Ö #")]
    [InlineData("`foo`", "foo")]
    [InlineData("*foo bar* and __foo bar__", "_foo bar_ and *foo bar*")]
    [InlineData("***strong and emphasised***", "*_strong and emphasised_*")]
    [InlineData("<https://foo.bar.baz>", "[https://foo.bar.baz](https://foo.bar.baz)")]
    [InlineData("<foo@bar.example.com>", "[foo@bar.example.com](mailto:foo@bar.example.com)")]
    [InlineData("[link](/uri \"title\")", "[link](/uri)")]
    [InlineData("[a *b*](</my uri>)", "[a ](/my uri)[_b_](/my uri)")]
    [InlineData("foo  \nbar\\\nbaz", "foo⏎bar⏎baz")]
    [InlineData("\\*not emphasised\\*", "*not emphasised*")]
    [InlineData("one\n\ntwo", "one¶two")]
    [InlineData("- one\n- two\n  more\n\nafter", "• one¶• two⏎more¶after")]
    [InlineData("3. three\n4. four", "# three¶# four")]
    [InlineData("> quoted\n> on", "quoted⏎on")]
    [InlineData("    far in", "far in")]
    [InlineData("# no heading", "# no heading")]
    [InlineData("<b>no markup</b>", "<b>no markup</b>")]
    [InlineData("![a picture](x.png)", "a picture")]
    [InlineData("Call {telephone}, not {nobody} or {telephone", "Call {=telephone}, not {nobody} or {telephone")]
    [InlineData("**{telephone}**", "*{=telephone}*")]
    public void Markdown_is_read_as_its_specification_says_and_what_has_no_meaning_here_stays_words(string markdown, string read)
    {
        Assert.Equal(
            read,
            string.Join(
                '¶',
                ProseMarkdown
                    .Read(markdown, key => key == "telephone")
                    .Paragraphs.Select(p =>
                        (
                            p.List switch
                            {
                                ListStyle.Bullet => "• ",
                                ListStyle.Number => "# ",
                                _ => "",
                            }
                        ) + string.Concat(p.Runs.Select(Shown))
                    )
            )
        );

        static string Shown(Run run)
        {
            var words = run.Variable is { } key ? $"{{={key}}}" : run.Text.Replace('\n', '⏎');
            words = run.Italic ? $"_{words}_" : words;
            words = run.Bold ? $"*{words}*" : words;
            return run.Href is { } href ? $"[{words}]({href})" : words;
        }
    }

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void Cells_of_tables_and_items_of_lists_come_back_each_to_its_own_place(bool markdown)
    {
        var cards = GovernedLibrary.Block("cards", "cards");
        var items = ((FieldValue.Entries)cards.Content["cards"]).Items;
        var item = Compiling.BlockKinds.For(cards).Fields.Single(f => f.Name == "cards").NewEntry();
        var built = GovernedLibrary.Built("b") is var row
            ? row with
            {
                Row = row.Row with
                {
                    Columns =
                    [
                        row.Row.Columns[0] with
                        {
                            Blocks =
                            [
                                GovernedLibrary.Block("table", "table") is var table
                                    ? table with
                                    {
                                        Content = table.Content.SetItem(
                                            "cells",
                                            new FieldValue.Cells([
                                                ["Train", "Leaves"],
                                                ["The Lamplighter", "18:20"],
                                            ])
                                        ),
                                    }
                                    : null!,
                                cards with
                                {
                                    Content = cards.Content.SetItem(
                                        "cards",
                                        new FieldValue.Entries([
                                            .. items,
                                            item.SetItem("heading", new FieldValue.Words("First card")),
                                            item.SetItem("heading", new FieldValue.Words("Second card")),
                                        ])
                                    ),
                                },
                            ],
                        },
                    ],
                },
            }
            : null!;
        var email = GovernedLibrary.Email with
        {
            Zones = GovernedLibrary.Email.Zones.SetItem("free", [new PlacedRow { Id = "built", Own = built }]),
        };
        var open = new OpenDocument.OfEmail(
            email,
            RunningOrder.From(email, GovernedLibrary.Masters),
            GovernedLibrary.Masters,
            EmailState.Draft
        );
        var deck = markdown
            ? CopyDeck.Markdown(new CopyPlaces(open, Larkfell.Author), "Test")
            : CopyDeck.Csv(new CopyPlaces(open, Larkfell.Author));

        var plan = CopyDeck.Read(
            deck.Replace("18:20", "19:05", StringComparison.Ordinal).Replace("Second card", "Ail gerdyn", StringComparison.Ordinal),
            new CopyPlaces(open, Larkfell.Author),
            _ => false
        );
        Assert.Equal(
            ["18:20 → 19:05", "Second card → Ail gerdyn"],
            plan.Changes.Where(c => c.Fate == CopyFate.Changed).Select(c => $"{c.Now} → {c.New}")
        );
        var after = (Email)plan.Edits.Aggregate((Document)email, (d, e) => e.Apply(d));
        var own = after.Zones["free"][0].Own!.Row.Blocks.ToDictionary(b => b.Id, StringComparer.Ordinal);
        Assert.Equal(
            "Train, Leaves; The Lamplighter, 19:05",
            string.Join("; ", ((FieldValue.Cells)own["table"].Content["cells"]).Rows.Select(r => string.Join(", ", r)))
        );
        Assert.Equal(
            ["First card", "Ail gerdyn"],
            ((FieldValue.Entries)own["cards"].Content["cards"]).Items.TakeLast(2).Select(i => ((FieldValue.Words)i["heading"]).Text)
        );
    }
}
