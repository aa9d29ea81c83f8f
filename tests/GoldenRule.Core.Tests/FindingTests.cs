using System.Collections.Immutable;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Tests;

/// <summary>Each check on an email, a house style or circumstances that it must find fault with, and on the same put right.</summary>
public sealed class FindingTests
{
    private static readonly Email Sound = (Email)
        new SetFill("viaduct", "picture", "alt", new FieldValue.Words("The viaduct.")).Apply(Larkfell.Gazette);

    private static FieldValue Words(string text) => new FieldValue.Words(text);

    private static FieldValue Prose(string text, string? href = null) =>
        new FieldValue.Prose(new RichText { Paragraphs = [new Paragraph { Runs = [new Run { Text = text, Href = href }] }] });

    // Every email of one row whose only block is the one given.
    private static Email With(Block block) =>
        Sound with
        {
            Zones = Sound.Zones.SetItem(
                "stories",
                [
                    new PlacedRow
                    {
                        Id = "own",
                        Own = BlockKinds.Complete(
                            new SavedRow
                            {
                                Name = "Own",
                                RowKind = RowKind.Main,
                                Row = new Row
                                {
                                    Id = "own",
                                    Locks = Locks.Open,
                                    Columns = [new Column { Id = "c", Blocks = [block] }],
                                },
                            }
                        ),
                    },
                    .. Sound.Zones["stories"],
                ]
            ),
        };

    private static Block Html(string html) =>
        new()
        {
            Id = "html",
            Kind = "html",
            Content = ImmutableSortedDictionary<string, FieldValue>.Empty.Add("html", new FieldValue.Code(html)),
        };

    public static TheoryData<string, Severity, string, Edit> Words_and_links =>
        new()
        {
            { "doubled-word", Severity.Warn, "text", new SetFill("viaduct", "text", "text", Prose("Come and see the the crane.")) },
            { "doubled-word", Severity.Warn, "text", new SetFill("hero", "headline", "text", Words("Steam Steam returns")) },
            { "past-date", Severity.Warn, "text", new SetFill("viaduct", "text", "text", Prose("We met on 3 March 2026 at noon.")) },
            { "past-date", Severity.Warn, "text", new SetFill("viaduct", "text", "text", Prose("Open from March 3, 2026.")) },
            { "past-date", Severity.Warn, "text", new SetFill("viaduct", "text", "text", Prose("Since 2026-03-03.")) },
            { "link-words", Severity.Advise, "text", new SetFill("viaduct", "button", "text", Words("Read more")) },
            {
                "link-words",
                Severity.Advise,
                "text",
                new SetFill("viaduct", "text", "text", Prose("click here", "https://larkfell.example.org/"))
            },
            {
                "link-host",
                Severity.Warn,
                "link",
                new SetFill("viaduct", "button", "link", new FieldValue.Link("https://larkfell.example.net/"))
            },
            { "shouting", Severity.Warn, "subject", new SetDetail("subject", "STEAM RETURNS to us") },
            { "shouting", Severity.Warn, "subject", new SetDetail("subject", "Steam returns!!") },
            { "sender", Severity.Stop, "senderName", new SetDetail("senderName", "") },
            { "sender", Severity.Stop, "senderName", new SetDetail("senderName", "director@larkfell.example.org") },
            { "sender", Severity.Stop, "senderName", new SetDetail("senderName", "Larkfell \u202Ekcots\u202C") },
            { "sender", Severity.Stop, "senderAddress", new SetDetail("senderAddress", "post") },
            { "plain-text-behind", Severity.Warn, "plainText", new SetPlainText(new WrittenText("By hand.", "of something else")) },
            {
                "attachment-weight",
                Severity.Warn,
                "attachments",
                new SetAttachments([
                    new Attachment(new string('a', 64), "a.pdf", "application/pdf", 4_000_000),
                    new Attachment(new string('b', 64), "b.pdf", "application/pdf", 4_000_000),
                ])
            },
        };

    private static readonly CheckContext Context = CheckContext.Usual with
    {
        CampaignType = "members-gazette",
        Today = new DateOnly(2026, 11, 25),
        Policy = CheckPolicy.Usual with { Hosts = ["larkfell.example.org"] },
    };

    [Theory]
    [MemberData(nameof(Words_and_links))]
    public void A_slip_is_found_where_it_is_and_not_before(string check, Severity severity, string field, Edit edit)
    {
        Assert.DoesNotContain(Larkfell.Check(Sound, around: Context), f =>
            f.Check == check && f.Place.Field == field && f.Place.Row is "viaduct" or "hero" or "details"
        );
        var finding = Assert.Single(Larkfell.Check((Email)edit.Apply(Sound), around: Context), f =>
            f.Check == check && f.Place.Row is "viaduct" or "hero" or "details" && f.Check == check
        );
        Assert.Equal((severity, field), (finding.Severity, finding.Place.Field));
    }

    /// <summary>What nobody has filled in yet is told apart from what is wrong; hand-off stops at both.</summary>
    [Fact]
    public void What_is_still_to_fill_is_no_mistake()
    {
        Edit[] edits =
        [
            new ClearFill("hero", "headline", "text"),
            new SetFill("viaduct", "button", "link", new FieldValue.Link("#")),
            new SetDetail("subject", " "),
            new SetDetail("senderAddress", ""),
        ];
        var empty = (Email)edits.Aggregate((Document)Sound, (document, edit) => edit.Apply(document));
        var unfilled = Larkfell.Check(empty, around: Context).Where(f => f.ToFill).ToList();
        Assert.Equal(["link", "placeholder-wording", "sender", "subject"], unfilled.Select(f => f.Check).Order(StringComparer.Ordinal));
        Assert.All(unfilled, f => Assert.Equal(Severity.Stop, f.Severity));
        var astray = new SetFill("viaduct", "button", "link", new FieldValue.Link("nowhere at all")).Apply(Sound);
        var wrong = (Email)new SetDetail("senderAddress", "post").Apply(astray);
        Assert.DoesNotContain(Larkfell.Check(wrong, around: Context), f => f.ToFill);
    }

    [Theory]
    [InlineData("We meet on 3 March 2027.")]
    [InlineData("We met on 3 March.")]
    [InlineData("Locomotive 2026-99-99")]
    [InlineData("He had had enough of that that day.")]
    [InlineData("Sit in, in the front coach.")]
    public void Nothing_is_found_where_nothing_is_wrong(string words) =>
        Assert.DoesNotContain(
            Larkfell.Check((Email)new SetFill("viaduct", "text", "text", Prose(words)).Apply(Sound), around: Context),
            f => f.Check is "past-date" or "doubled-word" && f.Place.Row == "viaduct"
        );

    [Fact]
    public void The_send_day_says_what_is_past_where_there_is_one()
    {
        var dated = (Email)new SetFill("viaduct", "text", "text", Prose("We meet on 3 March 2027.")).Apply(Sound);
        Assert.Contains(Larkfell.Check((Email)new SetDetail("sendDay", "2027-03-04").Apply(dated), around: Context), f =>
            f.Check == "past-date"
        );
        Assert.DoesNotContain(Larkfell.Check((Email)new SetDetail("sendDay", "2027-03-03").Apply(dated), around: Context), f =>
            f.Check == "past-date"
        );
    }

    [Theory]
    [InlineData("<p style=\"color:#ff00aa\">x</p>", "off-brand-colour", Severity.Warn)]
    [InlineData("<p style=\"font-family:Papyrus, fantasy\">x</p>", "off-brand-font", Severity.Warn)]
    [InlineData("<p style=\"font-size:17px\">x</p>", "off-brand-size", Severity.Advise)]
    [InlineData("<p style=\"margin-top:13px\">x</p>", "off-brand-size", Severity.Advise)]
    [InlineData("<div style=\"display:flex\">x</div><p style=\"float:left;text-shadow:1px 1px #000\">x</p>", "", Severity.Advise)]
    public void Hand_written_HTML_that_strays_is_found(string html, string check, Severity severity)
    {
        var found = Larkfell.Check(With(Html(html)), around: Context).Where(f => f.Place.Row == "own").ToList();
        if (check.Length == 0)
        {
            Assert.DoesNotContain(found, f => f.Check.StartsWith("off-brand", StringComparison.Ordinal));
            return;
        }

        Assert.Equal(severity, Assert.Single(found, f => f.Check == check).Severity);
    }

    [Fact]
    public void A_stray_colour_is_named_with_the_nearest_of_the_brand_and_mended_in_one_step()
    {
        // Engine green is #1f3a34; this is a green near it, but not it.
        var email = With(Html("<p style=\"color:#2f6a54\">Green</p>"));
        var finding = Assert.Single(Larkfell.Check(email), f => f.Check == "off-brand-colour");
        Assert.StartsWith("nearest: ", finding.Evidence, StringComparison.Ordinal);
        var nearest = Larkfell
            .Style.Variables.Where(v => v.Type == VariableType.Colour)
            .Select(v => Colour.Parse(Larkfell.Style.Explain(v.Key).Value))
            .MinBy(c => CieLab.Difference(c, Colour.Parse("#2f6a54")));
        Assert.Contains(nearest.ToString(), finding.Evidence, StringComparison.Ordinal);
        var mended = (Email)finding.Remedy!.Edits.Aggregate((Document)email, (d, e) => e.Apply(d));
        Assert.DoesNotContain(Larkfell.Check(mended), f => f.Check == "off-brand-colour");
    }

    [Fact]
    public void A_doubled_word_is_mended_in_one_step()
    {
        var email = (Email)new SetFill("viaduct", "text", "text", Prose("Come and see the the crane.")).Apply(Sound);
        var finding = Assert.Single(Larkfell.Check(email), f => f.Check == "doubled-word");
        var mended = (Email)finding.Remedy!.Edits.Aggregate((Document)email, (d, e) => e.Apply(d));
        Assert.Contains("Come and see the crane.", Larkfell.Compile(mended).HtmlText(), StringComparison.Ordinal);
    }

    [Fact]
    public void What_the_house_style_does_to_reading_is_found()
    {
        ImmutableArray<Finding> Check(params (string Style, string Property, string Value)[] said) =>
            Larkfell.Check(
                Sound,
                new StyleLayers(said.Aggregate(Larkfell.HouseStyle, (s, v) => s.WithStyle(v.Style, v.Property, v.Value)))
            );
        Assert.Contains(Check(("body", "lineHeight", "1.3")), f =>
            f.Check == "line-height" && f.Evidence!.StartsWith("1.3 ", StringComparison.Ordinal)
        );
        Assert.Contains(Check(("primary", "size", "10"), ("primary", "paddingBlock", "2")), f =>
            f.Check == "target-size-least" && f.Severity == Severity.Warn
        );
        Assert.Contains(Check(("primary", "size", "16"), ("primary", "paddingBlock", "6")), f =>
            f.Check == "target-size" && f.Severity == Severity.Advise
        );
        Assert.Contains(Check(("link", "underline", "never"), ("content", "link", "#222222"), ("content", "text", "#222222")), f =>
            f.Check == "link-distinct" && f.Evidence!.StartsWith("1.00 : 1", StringComparison.Ordinal)
        );
        Assert.DoesNotContain(Larkfell.Check(Sound), f =>
            f.Check is "line-height" or "target-size" or "target-size-least" or "link-distinct"
        );
    }

    [Fact]
    public void Rows_that_are_needed_and_missing_are_named()
    {
        var around = Context with { Needed = [RowKind.Hero, RowKind.Legal] };
        Assert.Equal(
            "There is no legal row, and this campaign type needs one.",
            Assert.Single(Larkfell.Check(Sound, around: around), f => f.Check == "required-row").Message
        );
    }

    [Fact]
    public void An_update_waits_or_must_be_taken()
    {
        var hero = Larkfell.Resolve(Sound).Rows.Single(r => r.Id == "hero").Source.Placed.Master!.Value;
        var newer = Context with { Newest = Context.Newest.Add(hero, 3) };
        Assert.Equal(("hero", "release 1 of 3", Severity.Advise), Update(Larkfell.Check(Sound, around: newer), "update-waiting"));
        Assert.Equal(
            ("hero", "release 1 of 3", Severity.Stop),
            Update(Larkfell.Check(Sound, around: newer with { Required = Context.Required.Add(hero, 2) }), "update-required")
        );
        Assert.DoesNotContain(Larkfell.Check(Sound, around: newer with { Required = Context.Required.Add(hero, 1) }), f =>
            f.Check == "update-required"
        );

        static (string?, string?, Severity) Update(ImmutableArray<Finding> found, string check) =>
            Assert.Single(found, f => f.Check.StartsWith("update", StringComparison.Ordinal)) is var one && one.Check == check
                ? (one.Place.Row, one.Evidence, one.Severity)
                : default;
    }

    [Fact]
    public void A_detached_row_an_empty_row_and_too_many_pictures_are_found()
    {
        var detached = (Email)new DetachRow("viaduct", Detached.FromRow(Larkfell.Open(Sound).Order.Find("viaduct")!)).Apply(Sound);
        Assert.Equal("viaduct", Assert.Single(Larkfell.Check(detached), f => f.Check == "detached-row").Place.Row);
        var empty = With(new Block { Id = "text", Kind = "text" });
        var finding = Assert.Single(Larkfell.Check(empty), f => f.Check == "empty-row");
        Assert.DoesNotContain(Larkfell.Check((Email)finding.Remedy!.Edits[0].Apply(empty)), f => f.Check == "empty-row");
        Assert.DoesNotContain(Larkfell.Check(Sound), f => f.Check == "pictures-only");
        var curt = (Email)new SetFill("hero", "text", "text", Prose("Come.")).Apply(Sound);
        var rows = Larkfell.Resolve(curt) is var r
            ? r with
            {
                Rows = [.. r.Rows.Where(x => x.Id is "masthead" or "hero" or "footer")],
            }
            : null!;
        Assert.Contains(CheckList.Run(new Inspection(rows, Compiler.Compile(rows, "", Purpose.Sending), CheckContext.Usual)).Findings, f =>
            f.Check == "pictures-only"
        );
    }

    [Fact]
    public void A_severity_set_for_a_campaign_type_goes_before_one_for_all_and_neither_moves_the_law()
    {
        var many = "many-links";
        CheckPolicy Policy(params (string Type, string Check, Setting Set)[] said) =>
            CheckPolicy.Usual with
            {
                Severities = said.GroupBy(s => s.Type)
                    .ToImmutableSortedDictionary(g => g.Key, g => g.ToImmutableSortedDictionary(s => s.Check, s => s.Set)),
            };
        Severity? Of(CheckPolicy policy) =>
            Larkfell.Check(Sound, around: Context with { Policy = policy }).FirstOrDefault(f => f.Check == many)?.Severity;
        Assert.Equal(Severity.Advise, Of(CheckPolicy.Usual));
        Assert.Equal(Severity.Stop, Of(Policy(("*", many, Setting.Stop))));
        Assert.Null(Of(Policy(("*", many, Setting.Stop), ("members-gazette", many, Setting.Off))));
        Assert.Equal(Severity.Advise, Of(Policy(("shop-offer", many, Setting.Off))));
        var lawless = Policy(("*", "unsubscribe", Setting.Off));
        Assert.Equal("severities/*/unsubscribe", Assert.Single(lawless.Faults()).Place);
        Assert.Equal(Severity.Stop, lawless.SeverityOf(CheckList.Find("unsubscribe")!, "members-gazette"));
    }

    [Theory]
    [InlineData("outlook.typewriter", 5, "clients/outlook.typewriter")]
    [InlineData("gmail.ios", -1, "clients/gmail.ios")]
    [InlineData("gmail.ios", 101, "clients/gmail.ios")]
    public void A_policy_that_makes_no_sense_is_refused_with_its_place(string client, double share, string place) =>
        Assert.Contains(
            place,
            (CheckPolicy.Usual with { Clients = CheckPolicy.Usual.Clients.Add(client, share) }).Faults().Select(f => f.Place)
        );

    [Fact]
    public void Shares_over_a_hundred_and_hosts_that_are_none_are_refused()
    {
        Assert.Equal(
            "clients",
            Assert
                .Single(
                    (CheckPolicy.Usual with { Clients = CheckPolicy.Usual.Clients.Add("gmail.ios", 60).Add("gmail.android", 60) }).Faults()
                )
                .Place
        );
        Assert.Equal(2, (CheckPolicy.Usual with { Hosts = ["not a host", "https://larkfell.example.org"] }).Faults().Count());
    }

    /// <summary>Only rows that changed are judged again, and what is found is what judging all anew finds.</summary>
    [Fact]
    public void Judging_only_what_changed_finds_the_same()
    {
        var former = Larkfell.Resolve(Sound);
        var compiled = Compiler.Compile(former, "", Purpose.Sending);
        var inspected = CheckList.Run(new Inspection(former, compiled, Context));
        Edit[] edits =
        [
            new SetFill("viaduct", "text", "text", Prose("the the")),
            new SetFill("hero", "headline", "text", Words("March 3, 2020")),
            new RemoveRow("boiler"),
            new SetDetail("sendDay", "2030-01-01"),
            new SetFill("viaduct", "button", "link", new FieldValue.Link("http://example.net")),
            new SetDetail("subject", ""),
        ];
        var (email, order) = (Sound, RunningOrder.From(Sound, Larkfell.Masters));
        foreach (var edit in edits)
        {
            email = (Email)edit.Apply(email);
            order = RunningOrder.From(email, Larkfell.Masters, order);
            var now = Resolving.Resolver.Resolve(email, order, Larkfell.Style, Larkfell.Pictures, former);
            compiled = Compiler.Compile(now, "", Purpose.Sending, compiled);
            inspected = CheckList.Run(new Inspection(now, compiled, Context), inspected);
            former = now;
            Assert.Equal(
                Larkfell.Check(email, around: Context).Select(f => (f.Check, f.Place, f.Message, f.Evidence)),
                inspected.Findings.Select(f => (f.Check, f.Place, f.Message, f.Evidence))
            );
        }
    }

    [Fact]
    public void Plain_text_written_by_hand_stands_until_the_email_changes_under_it()
    {
        var made = Larkfell.Compile(Sound).MadeText();
        var written = (Email)new SetPlainText(WrittenText.Over(made, "By hand.")).Apply(Sound);
        Assert.Equal("By hand.", Larkfell.Compile(written).PlainText());
        Assert.DoesNotContain(Larkfell.Check(written), f => f.Check == "plain-text-behind");
        var changed = (Email)new SetFill("hero", "headline", "text", Words("Changed")).Apply(written);
        var finding = Assert.Single(Larkfell.Check(changed), f => f.Check == "plain-text-behind");
        Assert.Contains("Changed", Larkfell.Compile((Email)finding.Remedy!.Edits[0].Apply(changed)).PlainText(), StringComparison.Ordinal);
        var again = (Email)new SetPlainText(null).Apply(written);
        Assert.Equal(made, Larkfell.Compile(again).PlainText());
        Assert.Equal("By hand.", Larkfell.Compile((Email)new SetPlainText(null).Invert(written).Apply(again)).PlainText());
    }

    [Fact]
    public void Authors_write_the_plain_text_where_the_template_lets_them()
    {
        var open = Larkfell.Open(Sound);
        Assert.IsType<Governance.Decision.Refused>(Governance.Governor.Decide(Larkfell.Author, new SetPlainText(null), open));
        Assert.IsType<Governance.Decision.Allowed>(Governance.Governor.Decide(Larkfell.Lead, new SetPlainText(null), open));
        var order = open.Order with { Template = open.Order.Template with { PlainTextOpen = true } };
        Assert.IsType<Governance.Decision.Allowed>(
            Governance.Governor.Decide(Larkfell.Author, new SetPlainText(null), open with { Order = order })
        );
        Assert.IsType<Governance.Decision.Refused>(Governance.Governor.Decide(Larkfell.Author, new SetPlainTextOpen(true), open));
    }
}
