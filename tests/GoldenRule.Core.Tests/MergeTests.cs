using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Interchange;
using GoldenRule.Core.Merging;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Tests;

/// <summary>An email filled in for a reader is the one that is compiled for that reader.</summary>
public sealed class MergeTests
{
    private const string Page = "https://larkfell.example.org/view/AAAAAAAAAAAAAAAAAAAAAA";

    private static readonly Condition Members = new Condition.Audience("members");

    private static CompiledEmail Compile(Email email, InlineValues inline) =>
        Compiler.Compile(
            Resolver.Resolve(email, RunningOrder.From(email, Larkfell.Masters), Larkfell.Style, Larkfell.Pictures, inline: inline),
            "https://larkfell.example.org/pictures/",
            Purpose.Sending,
            pageAt: Page
        );

    private static MergeEmail Merge(Email email) =>
        MergeEmail.From(Compile(email, Larkfell.Inline(email).WithFieldsKept()), Larkfell.Audiences);

    /// <summary>The gazette with fields in words, an address and the subject, and a row and a block that some readers see.</summary>
    private static Email Personal()
    {
        var name = new InlineNode(InlineKind.Field, "first-name").ToString();
        Document email = new SetFill(
            "viaduct",
            "text",
            "text",
            new FieldValue.Prose(RichText.FromParagraphs($"Dear {name}, welcome."))
        ).Apply(Larkfell.Gazette);
        email = new SetFill("viaduct", "button", "link", new FieldValue.Link($"https://larkfell.example.org/?n={name}&b=2")).Apply(email);
        email = new SetDetail("subject", $"For {name}").Apply(email);
        email = new SetCondition("viaduct", "button", Members).Apply(email);
        var other = RunningOrder.From((Email)email, Larkfell.Masters).Rows.First(r => r.Id != "viaduct" && r.Placed.Master is not null);
        return (Email)new SetCondition(other.Id, other.Row.Id, new Condition.Group(Matching.None, [Members])).Apply(email);
    }

    public static TheoryData<string> Names => [.. Larkfell.Emails.Select(e => e.Name)];

    private static IEnumerable<SampleReader> Readers =>
        Larkfell
            .Readers.Append(MergeReader.Unknown)
            .Append(
                new SampleReader(
                    Guid.NewGuid(),
                    "Hostile",
                    ImmutableSortedDictionary<string, string>.Empty.Add("first-name", "<b>&\"' \u202e{{x}} Zoë 🚂")
                )
            );

    private static void Same(Email email)
    {
        var merge = Merge(email);
        foreach (var reader in Readers)
        {
            var one = reader.Fitting(Larkfell.Audiences);
            var compiled = Compile(email, Larkfell.Inline(email).As(one)).Seen(c => Conditions.Holds(c, Larkfell.Audiences, one.Values));
            var filled = merge.For(reader);
            Assert.Equal(compiled.HtmlText(), filled.Html);
            Assert.Equal(compiled.Source.Email.Details.Subject, filled.Subject);
            // Wrapped before anyone's values stand in it, as what a platform gets: joined again it is the same (RFC 3676, 4.2).
            Assert.Equal(Joined(compiled.FlowingText()), Joined(filled.FlowingText));
            Assert.Equal(ListUnsubscribe.Find(compiled.Source, compiled.Context) ?? "", filled.Unsubscribe);
            Assert.Equal(
                compiled.PictureNames().Order(),
                filled.Pictures.Where(n => filled.Html.Contains(n, StringComparison.Ordinal)).Order()
            );
        }
    }

    private static string Joined(string flowing) => flowing.Replace(" \n", " ", StringComparison.Ordinal).Trim();

    [Theory]
    [MemberData(nameof(Names))]
    public void Each_email_of_the_demo_is_filled_in_as_it_is_compiled(string name) =>
        Same(Larkfell.Emails.Single(e => e.Name == name).Email);

    [Fact]
    public void Fields_and_conditions_are_filled_in_as_they_are_compiled()
    {
        var email = Personal();
        Same(email);
        var merge = Merge(email);
        Assert.Contains(merge.Fields, f => f.Key == "first-name");
        // Two readers see two emails.
        Assert.True(Readers.Select(r => merge.For(r).Html).Distinct().Count() > 2);
    }

    [Fact]
    public void The_page_for_browsers_is_everybodys_or_the_readers_own()
    {
        var merge = Merge(Larkfell.Gazette);
        Assert.Contains($"href=\"{Page}\"", merge.For(MergeReader.Unknown).Html, StringComparison.Ordinal);
        var own = merge.For(Larkfell.Readers[0], Page + "?reader=abc");
        Assert.Contains($"href=\"{Page}?reader=abc\"", own.Html, StringComparison.Ordinal);
        Assert.Contains(Page + "?reader=abc", own.FlowingText, StringComparison.Ordinal);
        Assert.DoesNotContain($"{Page}\"", own.Html, StringComparison.Ordinal);
    }

    [Fact]
    public void It_is_filled_in_alike_whatever_becomes_of_the_library()
    {
        var merge = Merge(Personal());
        var stored = DocumentJson.Read<MergeEmail>(DocumentJson.Write(merge));
        Assert.All(Readers, reader => Assert.Equal(merge.For(reader), stored.For(reader) with { Pictures = merge.Pictures }));
        // What an audience asks stands in it, not its name.
        Assert.DoesNotContain("\"kind\":\"audience\"", DocumentJson.Write(merge), StringComparison.Ordinal);
    }

    [Fact]
    public void A_message_of_a_reader_is_marked_and_still_to_be_sent()
    {
        var content = Merge(Personal()).For(Larkfell.Readers[0]);
        var message = Encoding.ASCII.GetString(
            MessageFile.Write(
                content,
                new MessageTerms(
                    DateTimeOffset.UnixEpoch,
                    "1@larkfell.example.org",
                    "reader@example.org",
                    [],
                    ImmutableDictionary<string, byte[]>.Empty
                )
                {
                    // A sample reader's name stands in it.
                    SubjectMark = "[Test,\r\nBcc: all@example.org]",
                    IsUnsent = true,
                }
            )
        );
        Assert.Contains("\r\nX-Unsent: 1\r\n", message, StringComparison.Ordinal);
        Assert.Contains("\r\nSubject: [Test,  Bcc: all@example.org] For ", message, StringComparison.Ordinal);
    }

    [Fact]
    public void What_is_passed_on_is_everybodys_page_and_never_a_readers_own()
    {
        var block = BlockKinds.Complete(
            new SavedRow
            {
                Name = "Share",
                RowKind = RowKind.Footer,
                Row = new Row
                {
                    Id = "share",
                    Columns =
                    [
                        new Column
                        {
                            Id = "column",
                            Blocks =
                            [
                                new Block
                                {
                                    Id = "heading",
                                    Kind = "heading",
                                    Content = ImmutableSortedDictionary<string, FieldValue>.Empty.Add("text", new FieldValue.Words("News")),
                                    Look = ImmutableSortedDictionary<string, string>.Empty.Add("named", "yes"),
                                },
                                new Block
                                {
                                    Id = "links",
                                    Kind = "share-links",
                                    Content = ImmutableSortedDictionary<string, FieldValue>
                                        .Empty.Add("copyText", new FieldValue.Words("Copy this link:"))
                                        .Add(
                                            "networks",
                                            new FieldValue.LinkList([new NamedLink("Parish board", "https://board.example.org/?u=PAGE")])
                                        ),
                                    Look = ImmutableSortedDictionary<string, string>.Empty.Add("shares", "article"),
                                },
                            ],
                        },
                    ],
                },
            }
        );
        var resolved = Larkfell.Resolve(Larkfell.Gazette);
        var first = resolved.Rows[0].Source;
        var row = Resolver.Resolve(
            new OrderedRow(first.Placed, block, null, first.TemplateFills.Clear(), first.Fills.Clear()),
            Larkfell.Style
        );
        var merge = MergeEmail.From(
            Compiler.Compile(resolved with { Rows = [row, .. resolved.Rows] }, "/pictures/", Purpose.Sending, pageAt: Page),
            Larkfell.Audiences
        );
        var html = merge.For(MergeReader.Unknown, Page + "?reader=secret").Html;
        var anchor = new AngleSharp.Html.Parser.HtmlParser().ParseDocument(html).QuerySelector("[id^=to-]")!.Id;
        Assert.Contains($"href=\"{Page}#{anchor}\"", html, StringComparison.Ordinal);
        Assert.Contains(Uri.EscapeDataString($"{Page}#{anchor}"), html, StringComparison.Ordinal);
        Assert.Contains("href=\"https://board.example.org/?u=https%3A%2F%2F", html, StringComparison.Ordinal);
        // The footer's own link is the reader's.
        Assert.Equal(html.Split("secret").Length - 1, html.Split(Page + "?reader=secret\"").Length - 1);
        Assert.True(html.Split("secret").Length > 1);
    }

    [Fact]
    public void What_is_written_to_one_person_is_theirs_and_asks_for_nothing_any_more()
    {
        var reader = Larkfell.Readers.First(r => r.Values.ContainsKey("first-name"));
        var person = new Recipient(reader.Name, "reader@example.org", reader.Values);
        var email = (Email)new SetRecipient(person).Apply(Personal());
        var inline = Larkfell.Inline(email).As(person);
        // As long as it is the same person it is the same object: what is resolved of it is taken over.
        var everybody = Larkfell.Inline(email);
        Assert.Same(everybody.As(person), everybody.As(person));
        var settled = Compile(email, inline)
            .Settled(c => Conditions.Holds(c, Larkfell.Audiences, reader.Fitting(Larkfell.Audiences).Values));
        var merge = MergeEmail.From(settled, Larkfell.Audiences);
        Assert.Empty(merge.Fields);
        Assert.Equal(Merge(Personal()).For(reader).Html, merge.For(MergeReader.Unknown).Html);
        var export = FieldExport.Write(settled, Larkfell.Audiences, ExportProfile.Mustache);
        Assert.True(export.Fields.IsEmpty && export.Conditions.IsEmpty);
        Assert.Contains($"For {reader.Values["first-name"]}", export.Email.Source.Email.Details.Subject, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("", "reader@example.org", "name")]
    [InlineData("Ada", "reader", "no address")]
    [InlineData("Ada\r\nBcc: all@example.org", "reader@example.org", "name")]
    [InlineData("Ada", "reader@example.org, other@example.org", "no address")]
    public void Whoever_it_is_written_to_has_a_name_and_one_address(string name, string address, string why)
    {
        var person = new Recipient(name, address, ImmutableSortedDictionary<string, string>.Empty);
        var refused = Assert.Throws<StructureException>(() => new SetRecipient(person).Apply(Larkfell.Gazette));
        Assert.Contains(why, refused.Message, StringComparison.Ordinal);
    }
}
