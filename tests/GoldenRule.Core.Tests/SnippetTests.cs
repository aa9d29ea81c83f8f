using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Interchange;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Tests;

/// <summary>What is said once and shown in many emails: what it says when, and what it comes to where it stands.</summary>
public sealed class SnippetTests
{
    private static readonly Snippet Days = new()
    {
        Name = "Running days",
        Key = "running-days",
        Type = SnippetType.Text,
        Values =
        [
            Value("now", "", "Saturday"),
            Value("winter", "2026-11-30T00:00", "Sunday"),
            Value("summer", "2027-03-28T02:00", "every day"),
        ],
        Expires = "2027-10-31T02:00",
    };

    private static ScheduledValue Value(string id, string from, string words) =>
        new(id, from, new FieldValue.Prose(RichText.FromParagraphs(words)));

    private static string At(string utc, Snippet? snippet = null) =>
        new SnippetCatalog([new CataloguedSnippet(Guid.Empty, snippet ?? Days, false)])
            .At(
                DateTime.Parse(
                    utc,
                    System.Globalization.CultureInfo.InvariantCulture,
                    System.Globalization.DateTimeStyles.AdjustToUniversal
                )
            )
            .Find(Days.Key)
            is { } shown
            ? $"{shown.Value.AsText()}{(shown.Expired ? ", expired" : "")}"
            : "nothing";

    /// <summary>
    /// Moments of the clock in London against UTC: an hour apart from 28 March 2027, 01:00 UTC, to 31 October, 01:00 UTC, when
    /// the clock passes 02:00 twice or not at all (IANA time zone database; Directive 2000/84/EC, articles 2 and 3, for the days).
    /// </summary>
    [Theory]
    [InlineData("2026-11-29T23:59:59Z", "Saturday")]
    [InlineData("2026-11-30T00:00:00Z", "Sunday")]
    [InlineData("2027-03-28T00:59:59Z", "Sunday")]
    // 01:00 to 02:00 does not exist on that day: 02:00 follows at once, at 01:00 UTC.
    [InlineData("2027-03-28T01:00:00Z", "every day")]
    [InlineData("2027-10-31T01:59:59Z", "every day")]
    [InlineData("2027-10-31T02:00:00Z", "every day, expired")]
    public void It_says_what_it_says_at_each_moment(string utc, string said) => Assert.Equal(said, At(utc));

    [Fact]
    public void As_long_as_nothing_changes_the_same_object_is_told()
    {
        var catalog = new SnippetCatalog([new CataloguedSnippet(Guid.Empty, Days, false)]);
        var first = catalog.At(new DateTime(2026, 11, 29, 8, 0, 0, DateTimeKind.Utc));
        Assert.Same(first, catalog.At(new DateTime(2026, 11, 29, 23, 59, 59, DateTimeKind.Utc)));
        Assert.NotSame(first, catalog.At(new DateTime(2026, 11, 30, 0, 0, 0, DateTimeKind.Utc)));
        Assert.Same(first.For(AudiencePlan.Empty, "en-GB"), first.For(AudiencePlan.Empty, "en-GB"));
        // However many tags are asked for, only as many are kept as there is data of.
        Assert.Same(first.For(AudiencePlan.Empty, "de-AT-1901"), first.For(AudiencePlan.Empty, "de-AT-x-vienna"));
        Assert.Same(first.For(AudiencePlan.Empty, "xx-1"), first.For(AudiencePlan.Empty, "yy"));
    }

    /// <summary>Whatever is planned, at each moment exactly one value holds, the one that began last. (Seeds: FuzzSettings.)</summary>
    [Fact]
    public void At_any_moment_the_last_that_began_holds()
    {
        var random = new Random(20261129);
        for (var round = 0; round < 300; round++)
        {
            var begin = new DateTime(2026, 1, 1, 0, 0, 0, DateTimeKind.Utc);
            var moments = Enumerable
                .Range(0, random.Next(1, 8))
                .Select(_ => begin.AddMinutes(random.Next(600_000)))
                .Distinct()
                .Order()
                .ToList();
            var snippet = Days with { Expires = "", Zone = "Etc/UTC", Values = [Value("v0", "", "v0")] };
            foreach (var (at, i) in moments.Select((m, i) => (m, i + 1)).OrderBy(_ => random.Next()))
            {
                snippet = (Snippet)
                    new AddSnippetValue(
                        Value($"v{i}", at.ToString(Snippet.MomentForm, System.Globalization.CultureInfo.InvariantCulture), $"v{i}")
                    ).Apply(snippet);
            }

            snippet = SnippetRules.Check(snippet);
            for (var probe = 0; probe < 20; probe++)
            {
                var now = begin.AddMinutes(random.Next(620_000));
                Assert.Equal($"v{moments.Count(m => m <= now)}", snippet.Values[snippet.IndexAt(now)].Id);
            }
        }
    }

    public static TheoryData<string, Snippet, string> Wrong =>
        new()
        {
            {
                "two from one moment",
                Days with
                {
                    Values = [Days.Values[0], Days.Values[1], Value("same", "2026-11-30T00:00", "x")],
                },
                "same moment"
            },
            { "expired before its last", Days with { Expires = "2027-03-01T00:00" }, "expire before" },
            { "nothing from the beginning", Days with { Values = [Value("late", "2026-11-30T00:00", "x")] }, "from the beginning" },
            { "no moment", Days with { Values = [Days.Values[0], Value("odd", "tomorrow", "x")] }, "is no moment" },
            { "no value", Days with { Values = [] }, "1 to 200 values" },
            { "no time zone", Days with { Zone = "Larkfell/Station" }, "no time zone" },
            { "no technical name", Days with { Key = "Running days" }, "no technical name" },
            {
                "a link in place of text",
                Days with
                {
                    Values = [new ScheduledValue("a", "", new FieldValue.Link("https://larkfell.example.org"))],
                },
                "cannot hold"
            },
            {
                "itself within it",
                Days with
                {
                    Values = [Value("a", "", $"as {new InlineNode(InlineKind.Snippet, "running-days")}")],
                },
                "no snippet, field or brand variable"
            },
            {
                "two paragraphs",
                Days with
                {
                    Values = [new ScheduledValue("a", "", new FieldValue.Prose(RichText.FromParagraphs("One", "Two")))],
                },
                "one paragraph"
            },
            {
                "a script for a link",
                Days with
                {
                    Type = SnippetType.Link,
                    Expires = "",
                    Values = [new ScheduledValue("a", "", new FieldValue.Link("javascript:alert(1)"))],
                },
                "A link begins with"
            },
            {
                "no number",
                Days with
                {
                    Type = SnippetType.Number,
                    Expires = "",
                    Values = [new ScheduledValue("a", "", new FieldValue.Words("twelve"))],
                },
                "is no number"
            },
        };

    [Theory]
    [MemberData(nameof(Wrong))]
    public void What_cannot_be_is_refused_with_the_reason(string what, Snippet snippet, string reason)
    {
        var fault = Assert.Throws<StructureException>(() => SnippetRules.Check(snippet));
        Assert.True(fault.Message.Contains(reason, StringComparison.Ordinal), $"{what}: {fault.Message}");
        Assert.NotNull(fault.Piece);
    }

    private static readonly SnippetValues Values = Larkfell.Snippets.At(Larkfell.Today);

    private static ResolvedEmail Resolve(
        string text,
        string language = "en-GB",
        string href = "https://larkfell.example.org/viaduct",
        string? subject = null
    )
    {
        Document email = new SetFill("viaduct", "text", "text", new FieldValue.Prose(RichText.FromParagraphs(text))).Apply(
            Larkfell.Gazette
        );
        email = new SetFill("viaduct", "headline", "text", new FieldValue.Words(text)).Apply(email);
        email = new SetFill("viaduct", "button", "link", new FieldValue.Link(href)).Apply(email);
        email = new SetDetail("subject", subject ?? "Steam").Apply(email);
        return Resolver.Resolve(
            (Email)email,
            RunningOrder.From((Email)email, Larkfell.Masters),
            Larkfell.Style,
            Larkfell.Pictures,
            inline: Values.For(Larkfell.Audiences, language)
        );
    }

    private static ResolvedBlock Block(ResolvedEmail email, string id) =>
        email.Rows.Single(r => r.Id == "viaduct").Blocks.Single(b => b.Id == id);

    private static string Node(InlineKind kind, string key) => new InlineNode(kind, key).ToString();

    [Fact]
    public void It_is_shown_in_text_words_links_and_the_subject()
    {
        var node = Node(InlineKind.Snippet, "next-running-days");
        var email = Resolve(
            $"Trains: {node}!",
            href: Node(InlineKind.Snippet, "booking-page"),
            subject: $"Hello {Node(InlineKind.Field, "first-name")}"
        );
        Assert.Equal("Trains: Saturday and Sunday, first train 09:10!", Block(email, "headline").Words("text"));
        // Emphasis of its own stays its own.
        Assert.Equal(
            [("Trains: ", false), ("Saturday and Sunday, first train ", false), ("09:10", true), ("!", false)],
            Block(email, "text").Prose("text").Paragraphs.Single().Runs.Select(r => (r.Text, r.Bold))
        );
        Assert.Equal("https://larkfell.example.org/book", Block(email, "button").Href("link"));
        Assert.Equal("Hello Ada", email.Email.Details.Subject);
        var compiled = Compiler.Compile(email, "", Purpose.Sending);
        var html = System.Text.Encoding.UTF8.GetString(compiled.Html());
        Assert.Contains("first train <strong>09:10</strong>!", html, StringComparison.Ordinal);
        Assert.DoesNotContain("\uFDD0", html + compiled.MadeText(), StringComparison.Ordinal);
    }

    /// <summary>Numbers and days in the email's language (Unicode CLDR 48; the front end's test holds the data against Intl).</summary>
    [Theory]
    [InlineData("en-GB", "148.00", "Wednesday 14 April 2027, 11:00")]
    [InlineData("de", "148,00", "Mittwoch, 14. April 2027, 11:00")]
    [InlineData("fr", "148,00", "mercredi 14 avril 2027, 11:00")]
    public void Numbers_and_days_are_written_in_the_language_of_the_email(string language, string price, string day)
    {
        var inline = Values.For(Larkfell.Audiences, language);
        Assert.Equal(price, inline.Words(new InlineNode(InlineKind.Snippet, "season-ticket-price")));
        Assert.Equal(day, inline.Words(new InlineNode(InlineKind.Snippet, "annual-meeting")));
    }

    [Fact]
    public void Only_rows_that_a_snippet_stands_in_are_made_anew_when_it_changes()
    {
        var email = (Email)
            new SetFill(
                "viaduct",
                "text",
                "text",
                new FieldValue.Prose(RichText.FromParagraphs(Node(InlineKind.Snippet, "tearoom-hours")))
            ).Apply(Larkfell.Gazette);
        var order = RunningOrder.From(email, Larkfell.Masters);
        var before = Resolver.Resolve(email, order, Larkfell.Style, Larkfell.Pictures, inline: Values.For(Larkfell.Audiences, "en-GB"));
        var changed = new SnippetCatalog(
            Larkfell.Snippets.All.Select(s =>
                s.Snippet.Key == "tearoom-hours" ? s with { Snippet = s.Snippet with { Values = [Value("a", "", "by appointment")] } } : s
            )
        );
        var after = Resolver.Resolve(
            email,
            order,
            Larkfell.Style,
            Larkfell.Pictures,
            before,
            changed.At(Larkfell.Today).For(Larkfell.Audiences, "en-GB")
        );
        Assert.Equal("by appointment", Block(after, "text").Prose("text").PlainText);
        Assert.Equal(
            after.Rows.Where(r => r.HasNodes).Select(r => r.Id),
            after.Rows.Where((r, i) => !ReferenceEquals(r, before.Rows[i])).Select(r => r.Id)
        );
        Assert.Contains(after.Rows, r => !r.HasNodes);
    }

    [Fact]
    public void Another_is_used_in_its_place_and_a_circle_ends()
    {
        var catalog = new SnippetCatalog(
            Larkfell.Snippets.All.Select(s =>
                s.Snippet.Key switch
                {
                    "lost-property" => s with { Snippet = s.Snippet with { ReplacedBy = "tearoom-hours" } },
                    "charity-statement" => s with { Snippet = s.Snippet with { ReplacedBy = "charity-statement" } },
                    _ => s,
                }
            )
        );
        var values = catalog.At(Larkfell.Today);
        Assert.Equal("tearoom-hours", values.Find("lost-property")!.Of.Snippet.Key);
        Assert.NotNull(values.Find("charity-statement"));
        Assert.Null(values.Find("nothing-of-the-sort"));
    }

    [Theory]
    [InlineData("ruth", true)]
    [InlineData("dana", true)]
    [InlineData("bea", true)]
    [InlineData("imran", false)]
    [InlineData("jonas", false)]
    public void Leads_and_whom_they_name_change_what_it_says(string who, bool may)
    {
        var bea = new Person(Guid.NewGuid(), "Bea", [Role.Author]);
        var person = who switch
        {
            "ruth" => Larkfell.Lead,
            "dana" => Larkfell.Designer,
            "bea" => bea,
            "imran" => Larkfell.Author,
            _ => Larkfell.Reviewer,
        };
        var open = new OpenDocument.OfSnippet(
            Days with
            {
                Editors = new SnippetEditors { Roles = [Role.Designer], People = [bea.Id] },
            }
        );
        foreach (
            var edit in (Edit[])
                [
                    new SetSnippetValue("now", Days.Values[1].Value),
                    new AddSnippetValue(Value("x", "2026-12-01T00:00", "x")),
                    new RemoveSnippetValue("now"),
                    new SetSnippetFrom("winter", "2026-12-01T00:00"),
                    new SetSnippetExpiry(""),
                    new SetDescription("x"),
                    new SetName("x"),
                ]
        )
        {
            Assert.Equal(may, Governor.Decide(person, edit, open) is Decision.Allowed);
        }

        foreach (var edit in (Edit[])[new SetSnippetEditors(new SnippetEditors()), new SetCampaignTypes([]), new ReplaceSnippet("y")])
        {
            Assert.Equal(who == "ruth", Governor.Decide(person, edit, open) is Decision.Allowed);
        }
    }

    [Fact]
    public void A_deck_has_nodes_as_tokens_and_takes_them_back_and_a_replacement_leaves_them_alone()
    {
        var node = Node(InlineKind.Field, "first-name");
        Document email = new SetFill("viaduct", "headline", "text", new FieldValue.Words($"Hello {node}, first name")).Apply(
            Larkfell.Gazette
        );
        email = new SetFill("viaduct", "text", "text", new FieldValue.Prose(RichText.FromParagraphs($"For {node}_first"))).Apply(email);
        var places = new CopyPlaces(Larkfell.Open((Email)email), Larkfell.Author);
        var deck = CopyDeck.Csv(places);
        Assert.Contains("Hello {field:first-name}, first name", deck, StringComparison.Ordinal);
        Assert.All(CopyDeck.Read(deck, places, _ => true).Changes, c => Assert.Equal(CopyFate.Same, c.Fate));
        var back = CopyDeck.Read(deck.Replace("Hello", "Dear", StringComparison.Ordinal), places, _ => true);
        Assert.Equal(
            $"Dear {node}, first name",
            Assert.IsType<FieldValue.Words>(Assert.IsType<SetFill>(Assert.Single(back.Edits)).Value).Text
        );
        var replaced = new Replacing("first", "given").Plan(new CopyPlaces(Larkfell.Open((Email)email), Larkfell.Author));
        var headline = replaced.Edits.OfType<SetFill>().Single(e => e.Piece == "headline");
        Assert.Equal($"Hello {node}, given name", ((FieldValue.Words)headline.Value).Text);
        var text = replaced.Edits.OfType<SetFill>().Single(e => e is { Row: "viaduct", Piece: "text" });
        Assert.Equal($"For {node}_given", ((FieldValue.Prose)text.Value).Text.PlainText);
    }

    [Fact]
    public void What_is_typed_is_never_taken_for_a_node()
    {
        Assert.Null(InlineNode.Fault("{field:first-name} {{first-name}}"));
        Assert.False(InlineNode.AreIn("{field:first-name}"));
        Assert.Null(InlineNode.Fault(Node(InlineKind.Field, "first-name")));
        foreach (
            var broken in new[]
            {
                "\uFDD0",
                "\uFDD1",
                "\uFDD0field:\uFDD1",
                "\uFDD0field:First\uFDD1",
                "a\uFDD0snippet:x",
                "\uFDD0other:x\uFDD1",
            }
        )
        {
            Assert.NotNull(InlineNode.Fault(broken));
            Assert.Throws<System.Text.Json.JsonException>(() =>
                System.Text.Json.JsonSerializer.Deserialize<Edit>(
                    System.Text.Json.JsonSerializer.Serialize<Edit>(new SetDetail("subject", broken), DocumentJson.Options),
                    DocumentJson.Sent
                )
            );
        }
    }
}
