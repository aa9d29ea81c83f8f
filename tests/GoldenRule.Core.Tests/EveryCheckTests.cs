using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Checking.Checks;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Tests;

/// <summary>Every check there is, on a case just over its threshold and on one just under it; a check without both fails.</summary>
public sealed class EveryCheckTests
{
    private static readonly Email Sound = (Email)
        new SetFill("viaduct", "picture", "alt", new FieldValue.Words("The viaduct.")).Apply(Larkfell.Gazette);

    private static readonly CheckContext Context = CheckContext.Usual with
    {
        CampaignType = "members-gazette",
        Today = new DateOnly(2026, 11, 25),
        Policy = CheckPolicy.Usual with
        {
            Hosts = ["example.org"],
            Senders = CheckPolicy
                .Usual.Senders.Add("members-gazette", ["larkfell.example.org"])
                .Add(CheckPolicy.Everywhere, ["elsewhere.example.org"]),
            Clients = CheckPolicy.Usual.Clients.Clear().Add("apple-mail.ios", 99).Add("outlook.windows", 1),
        },
    };

    /// <summary>What is inspected, as far as it is not the sound email in its own house style.</summary>
    private sealed record Case(
        Email? Email = null,
        StyleLayers? Style = null,
        CheckContext? Context = null,
        PictureCatalog? Pictures = null,
        Func<ResolvedEmail, ResolvedEmail>? Change = null,
        SnippetCatalog? Snippets = null,
        AudiencePlan? Audiences = null
    );

    private static Case Shown(Condition condition) => Edited(new SetCondition("viaduct", "text", condition));

    private static string ViaductRow => RunningOrder.From(Larkfell.Gazette, Larkfell.Masters).Find("viaduct")!.Row.Id;

    private static Condition Test(string field, Comparison comparison, params string[] values) =>
        new Condition.Test(field, comparison, [.. values]);

    // As many questions that have nothing to do with each other, each on a row or block of its own.
    private static Case Independent(int count)
    {
        var (plan, conditions) = ConditionTests.Independent(count);
        var left = new Queue<Condition>(conditions);
        return new(Audiences: plan, Change: email =>
            email with
            {
                Rows =
                [
                    .. email.Rows.Select(row =>
                        row with
                        {
                            Condition = left.TryDequeue(out var own) ? own : null,
                            Columns =
                            [
                                .. row.Columns.Select(c =>
                                    c with
                                    {
                                        Blocks =
                                        [
                                            .. c.Blocks.Select(b => b with { Condition = left.TryDequeue(out var some) ? some : null }),
                                        ],
                                    }
                                ),
                            ],
                        }
                    ),
                ],
            }
        );
    }

    private static Case Edited(params Edit[] edits) => new((Email)edits.Aggregate((Document)Sound, (d, e) => e.Apply(d)));

    private static Case Styled(params (string Style, string Property, string Value)[] said) =>
        new(Style: new StyleLayers(said.Aggregate(Larkfell.HouseStyle, (s, v) => s.WithStyle(v.Style, v.Property, v.Value))));

    private static Case Variable(string key, string value, string? dark = null) =>
        new(
            Style: new StyleLayers(
                Larkfell.HouseStyle.WithVariable(Larkfell.HouseStyle.FindVariable(key)! with { Value = value, Dark = dark })
            )
        );

    private static FieldValue Words(string text) => new FieldValue.Words(text);

    private static FieldValue Prose(string text) => new FieldValue.Prose(RichText.FromParagraphs(text));

    private static Edit Text(string text) => new SetFill("viaduct", "text", "text", Prose(text));

    private static Edit Link(string href) => new SetFill("viaduct", "button", "link", new FieldValue.Link(href));

    private static Case Node(InlineKind kind, string key) => Edited(Text($"Now {new InlineNode(kind, key)}."));

    private static Case Snippet(string key, Func<CataloguedSnippet, CataloguedSnippet>? change = null) =>
        Node(InlineKind.Snippet, key) with
        {
            Snippets = new SnippetCatalog(Larkfell.Snippets.All.Select(s => s.Snippet.Key == key && change is not null ? change(s) : s)),
        };

    // Other hours from three in the afternoon on the day before Christmas, in an email that goes out on a day.
    private static Case ChangesOn(string day) =>
        Snippet("tearoom-hours", s =>
            s with
            {
                Snippet = s.Snippet.InOrder(
                    s.Snippet.Values.Add(new ScheduledValue("late", "2026-12-24T15:00", s.Snippet.Values[0].Value))
                ),
            }
        )
            is var one
            ? one with
            {
                Email = (Email)new SetDetail("sendDay", day).Apply(one.Email!),
            }
            : null!;

    private static Edit Subject(string text) => new SetDetail("subject", text);

    // The sound email with a row of one's own at the top of its stories.
    private static SetDetail Sender(string address) => new("senderAddress", address);

    private static Case With(params Block[] blocks) => With(new Column { Id = "c", Blocks = [.. blocks] });

    private static Case With(params Column[] columns) =>
        new(
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
                                        Columns = [.. columns],
                                    },
                                }
                            ),
                        },
                        .. Sound.Zones["stories"],
                    ]
                ),
            }
        );

    private static Block Html(string html) =>
        new()
        {
            Id = "html",
            Kind = "html",
            Content = ImmutableSortedDictionary<string, FieldValue>.Empty.Add("html", new FieldValue.Code(html)),
        };

    private static Block Button(string look, string words = "Come along") =>
        GovernedLibrary.Block("button", "button") is var block
            ? block with
            {
                Look = block.Look.SetItem("style", look),
                Content = block
                    .Content.SetItem("text", Words(words))
                    .SetItem("link", new FieldValue.Link("https://larkfell.example.org/a")),
            }
            : null!;

    // Every picture of that weight, in bytes.
    private static Case Weighing(int bytes, params string[] ids) =>
        new(
            Pictures: new PictureCatalog(
                Larkfell.Pictures.All.Select(p =>
                    ids.Length == 0 || ids.Contains(p.Id) ? new Picture(p.Id, p.Name, p.Width, p.Height, bytes, p.Extension, p.Alt) : p
                )
            )
        );

    private static Case Change(Func<ResolvedEmail, ResolvedEmail> change) => new(Change: change);

    private static ResolvedEmail Without(ResolvedEmail email, params string[] rows) =>
        email with
        {
            Rows = [.. email.Rows.Where(r => !rows.Contains(r.Id))],
        };

    private static ResolvedEmail Shown(ResolvedEmail email, string row, Visibility on) =>
        email with
        {
            Rows = [.. email.Rows.Select(r => r.Id == row ? r with { Shown = on } : r)],
        };

    private static readonly Guid Hero = Larkfell.Resolve(Sound).Rows.Single(r => r.Id == "hero").Source.Placed.Master!.Value;

    private static string Sentences(int count, string sentence) => string.Join(' ', Enumerable.Repeat(sentence, count));

    // So that the whole HTML has very nearly that many bytes.
    private static Case Long(int bytes)
    {
        var bare = Compiler.Compile(Larkfell.Resolve((Email)Text("").Apply(Sound)), "", Purpose.Sending).HtmlBytes;
        return Edited(Text(string.Concat(Enumerable.Repeat("steam ", (bytes - bare) / 6))));
    }

    private static Email Rolled => History.NextIssue.Next(Sound, "April", new Counter().Next);

    private sealed class Counter
    {
        private int last;

        public string Next() => $"id{last++}";
    }

    private static readonly Dictionary<string, (Case Wrong, Case Right)> Cases = new(StringComparer.Ordinal)
    {
        ["off-brand-colour"] = (
            With(Html("<p style=\"color:#ff00aa\">x</p>")),
            With(Html($"<p style=\"color:{Larkfell.Style.Explain("buffer-red").Value}\">x</p>"))
        ),
        ["off-brand-font"] = (With(Html("<p style=\"font-family:Papyrus\">x</p>")), With(Html("<p>x</p>"))),
        ["off-brand-size"] = (With(Html("<p style=\"font-size:17px\">x</p>")), With(Html("<p style=\"font-size:16px\">x</p>"))),
        ["required-row"] = (
            new(Context: Context with { Needed = [RowKind.Legal] }),
            new(Context: Context with { Needed = [RowKind.Hero] })
        ),
        ["update-required"] = (
            new(Context: Context with { Newest = Context.Newest.Add(Hero, 3), Required = Context.Required.Add(Hero, 2) }),
            new(Context: Context with { Newest = Context.Newest.Add(Hero, 3), Required = Context.Required.Add(Hero, 1) })
        ),
        ["update-waiting"] = (
            new(Context: Context with { Newest = Context.Newest.Add(Hero, 2) }),
            new(Context: Context with { Newest = Context.Newest.Add(Hero, 1) })
        ),
        ["retired"] = (
            new(Context: Context with { Retired = Context.Retired.Add(Hero, null) }),
            new(Context: Context with { Retired = Context.Retired.Add(Guid.Empty, null) })
        ),
        ["detached-row"] = (Edited(new DetachRow("viaduct", Detached.FromRow(Larkfell.Open(Sound).Order.Find("viaduct")!))), new()),
        // colorjs.io 0.7, contrast with #f4e9d2: #c06b4f 3.27, #8e2a1c 6.81; buttons are larger than no bound of large text.
        ["contrast"] = (Variable("buffer-red", "#c06b4f"), Variable("buffer-red", "#8e2a1c")),
        ["contrast-dark"] = (Variable("soot", Larkfell.HouseStyle.FindVariable("soot")!.Value, "#333333"), new()),
        // #949494 on white is 3.03 to 1, #959595 2.99 (WCAG 2.2, relative luminance); text black.
        ["link-distinct"] = (
            Styled(
                ("link", "underline", "never"),
                ("content", "link", "#585858"),
                ("content", "text", "#000000"),
                ("tint", "link", "#585858"),
                ("tint", "text", "#000000"),
                ("strong", "link", "#585858"),
                ("strong", "text", "#000000")
            ),
            Styled(
                ("link", "underline", "never"),
                ("content", "link", "#5d5d5d"),
                ("content", "text", "#000000"),
                ("tint", "link", "#5d5d5d"),
                ("tint", "text", "#000000"),
                ("strong", "link", "#5d5d5d"),
                ("strong", "text", "#000000")
            )
        ),
        ["alt-text"] = (Edited(new SetFill("viaduct", "picture", "alt", Words(" "))), new()),
        ["heading-order"] = (Edited(new SetLook("viaduct", "headline", "level", "3")), new()),
        ["link-words"] = (
            Edited(new SetFill("viaduct", "button", "text", Words("Read more"))),
            Edited(new SetFill("viaduct", "button", "text", Words("Read more about the viaduct")))
        ),
        ["language"] = (new(Sound with { Language = "english, mostly" }), new(Sound with { Language = "cy-GB" })),
        ["text-size-least"] = (Styled(("body", "size", "13.9")), Styled(("body", "size", "14"))),
        ["text-size"] = (
            Styled(("body", "size", "15.9"), ("small", "size", "16"), ("footer", "size", "16"), ("table", "size", "16")),
            Styled(("body", "size", "16"), ("small", "size", "16"), ("footer", "size", "16"), ("table", "size", "16"))
        ),
        ["line-height"] = (Styled(("body", "lineHeight", "1.39")), Styled(("body", "lineHeight", "1.4"))),
        ["target-size-least"] = (
            Styled(("primary", "size", "12"), ("primary", "paddingBlock", "2")),
            Styled(("primary", "size", "16"), ("primary", "paddingBlock", "3"))
        ),
        ["target-size"] = (
            Styled(("primary", "size", "16"), ("primary", "paddingBlock", "8")),
            Styled(("primary", "size", "16"), ("primary", "paddingBlock", "14"))
        ),
        // Flesch-Kincaid by its published formula: 0.39 words a sentence + 11.8 syllables a word - 15.59 (Kincaid et al. 1975,
        // from memory).
        ["grade-level"] = (
            Edited(
                Text(
                    Sentences(
                        20,
                        "Considerable anticipation accompanies international locomotive restoration undertakings throughout "
                            + "neighbouring communities."
                    )
                )
            ),
            Edited(Text(Sentences(60, "The train is red. It goes up the hill.")))
        ),
        ["unsubscribe"] = (Change(e => Shown(e, "footer", Visibility.DesktopOnly)), Change(e => e)),
        ["postal-address"] = (Change(e => Shown(e, "footer", Visibility.PhoneOnly)), Change(e => e)),
        ["list-unsubscribe"] = (
            Edited(new SetFill("footer", "legal", "unsubscribe", new FieldValue.Link("mailto:stop@larkfell.example.org"))),
            Edited(new SetFill("footer", "legal", "unsubscribe", new FieldValue.Link("https://larkfell.example.org/stop")))
        ),
        ["subject"] = (Edited(Subject(" ")), Edited(Subject("x"))),
        ["subject-length"] = (Edited(Subject(new string('a', 51))), Edited(Subject(new string('a', 50)))),
        ["shouting"] = (Edited(Subject("STEAMED trn")), Edited(Subject("STEAME dtrn"))),
        ["preheader"] = (Edited(new SetDetail("preheader", " ")), Edited(new SetDetail("preheader", "x"))),
        ["preheader-length"] = (
            Edited(new SetDetail("preheader", new string('a', 131))),
            Edited(new SetDetail("preheader", new string('a', 130)))
        ),
        ["sender"] = (Edited(Sender("Post <post@larkfell.example.org>")), Edited(Sender("post@larkfell.example.org"))),
        ["recipient"] = (
            Change(e => e with { Order = e.Order with { Template = e.Template with { ForOnePerson = true } } }),
            Change(e =>
                e with
                {
                    Order = e.Order with { Template = e.Template with { ForOnePerson = true } },
                    Email = e.Email with { Recipient = new Recipient("Ada", "", ImmutableSortedDictionary<string, string>.Empty) },
                }
            )
        ),
        ["sender-domain"] = (Edited(Sender("post@elsewhere.example.org")), Edited(Sender("post@news.larkfell.example.org"))),
        ["many-links"] = (
            new(),
            Change(e => Without(e, [.. e.Rows.Select(r => r.Id).Where(id => id is not ("masthead" or "hero" or "footer"))]))
        ),
        ["pictures-only"] = (
            Change(e =>
                Without(Words(e, "One two."), [.. e.Rows.Select(r => r.Id).Where(id => id is not ("masthead" or "hero" or "footer"))])
            ),
            Change(e =>
                Without(
                    Words(e, Sentences(4, "One two three four five six seven.")),
                    [.. e.Rows.Select(r => r.Id).Where(id => id is not ("masthead" or "hero" or "footer"))]
                )
            )
        ),
        ["link"] = (Edited(Link("#")), Edited(Link("https://larkfell.example.org/"))),
        ["plain-http"] = (Edited(Link("http://larkfell.example.org/")), Edited(Link("https://larkfell.example.org/"))),
        ["link-host"] = (Edited(Link("https://example.net/")), Edited(Link("https://deep.example.org/"))),
        ["limit"] = (
            Edited(new SetFill("hero", "headline", "text", Words(new string('a', 61)))),
            Edited(new SetFill("hero", "headline", "text", Words(new string('a', 60))))
        ),
        ["placeholder-wording"] = (Edited(new ClearFill("hero", "headline", "text")), new()),
        ["default-wording"] = (DefaultWording(written: false), DefaultWording(written: true)),
        ["left-from-before"] = (new(Rolled), new(Renewed(Rolled))),
        ["past-date"] = (Edited(Text("Open on 24 November 2026.")), Edited(Text("Open on 25 November 2026."))),
        ["snippet-expired"] = (Snippet("autumn-offer"), Snippet("next-running-days")),
        ["snippet-scope"] = (Snippet("autumn-offer"), Snippet("next-running-days")),
        ["snippet-retired"] = (Snippet("lost-property", s => s with { Retired = true }), Snippet("lost-property")),
        ["snippet-changes"] = (ChangesOn("2026-12-24"), ChangesOn("2026-12-25")),
        ["unknown-reference"] = (Node(InlineKind.Field, "shoe-size"), Node(InlineKind.Field, "first-name")),
        ["condition"] = (Shown(Test("shoe-size", Comparison.Empty)), Shown(Test("home", Comparison.Is, "the valley"))),
        ["never-seen"] = (
            Edited(
                new SetCondition("viaduct", ViaductRow, Test("member", Comparison.Is, "yes")),
                new SetCondition("viaduct", "text", Test("member", Comparison.Is, "no"))
            ),
            Edited(
                new SetCondition("viaduct", ViaductRow, Test("member", Comparison.Is, "yes")),
                new SetCondition("viaduct", "text", Test("home", Comparison.Is, "the hills"))
            )
        ),
        ["combinations"] = (Independent(17), Independent(16)),
        ["field-fallback"] = (Node(InlineKind.Field, "last-name"), Node(InlineKind.Field, "first-name")),
        ["field-in-host"] = (
            Edited(Link($"https://{new InlineNode(InlineKind.Field, "first-name")}.example.org/")),
            Edited(Link($"https://larkfell.example.org/{new InlineNode(InlineKind.Field, "first-name")}"))
        ),
        ["plain-text-fields"] = (
            Node(InlineKind.Field, "first-name") is var named
                ? named with
                {
                    Email = named.Email! with { PlainText = WrittenText.Over("", "Hello Ada.") },
                }
                : null!,
            Node(InlineKind.Field, "first-name")
        ),
        ["doubled-word"] = (Edited(Text("Come to the the train.")), Edited(Text("Come to the train."))),
        ["plain-text-behind"] = (
            Edited(new SetPlainText(WrittenText.Over("something else", "By hand."))),
            Edited(new SetPlainText(WrittenText.Over(Larkfell.Compile(Sound).MadeText(), "By hand.")))
        ),
        // white-space is read by one of the two, and not by the other (caniemail 1.0.5); one reader in a hundred counts.
        ["client-support"] = (
            With(Html("<p style=\"white-space:pre\">x</p>")),
            new(
                (With(Html("<p style=\"white-space:pre\">x</p>"))).Email,
                Context: Context with
                {
                    Policy = Context.Policy with
                    {
                        Clients = Context.Policy.Clients.SetItem("apple-mail.ios", 100).Remove("outlook.windows"),
                    },
                }
            )
        ),
        ["clipped"] = (Long(102 * 1024 + 200), Long(102 * 1024 - 200)),
        ["nearly-clipped"] = (Long((102 * 1024 * 8 / 10) + 200), Long((102 * 1024 * 8 / 10) - 200)),
        ["head-style"] = (Change(e => Narrowing(e, 40)), Change(e => e)),
        ["picture-weight"] = (Weighing(500 * 1024 + 1), Weighing(500 * 1024)),
        ["total-weight"] = (Weighing(1_200_000), Weighing(400_000)),
        ["attachment-weight"] = (Edited(Attach(AttachmentTypes.MostTogether + 1)), Edited(Attach(AttachmentTypes.MostTogether))),
        ["missing-picture"] = (Edited(new SetFill("viaduct", "picture", "picture", new FieldValue.Image("gone"))), new()),
        ["empty-row"] = (With(GovernedLibrary.Block("t", "text")), With(GovernedLibrary.Block("t", "spacer"))),
        ["too-wide"] = (With(Narrow(1), new Column { Id = "rest", Parts = 4 }), With(Narrow(4), new Column { Id = "rest", Parts = 4 })),
        ["zone"] = (new((Email)new MoveRow("boiler", "beside", 0).Apply(new RemoveRow("meeting").Apply(Sound))), new()),
    };

    private static Edit Attach(int bytes) => new SetAttachments([new Attachment(new string('a', 64), "a.pdf", "application/pdf", bytes)]);

    private static Column Narrow(int parts) =>
        new()
        {
            Id = "c",
            Parts = parts,
            Blocks = [GovernedLibrary.Block("q", "question"), Button("primary")],
        };

    // The text of the hero and nothing else of words.
    private static ResolvedEmail Words(ResolvedEmail email, string text) =>
        email with
        {
            Rows =
            [
                .. email.Rows.Select(r =>
                    r.Id != "hero"
                        ? r
                        : r with
                        {
                            Columns =
                            [
                                .. r.Columns.Select(c =>
                                    c with
                                    {
                                        Blocks =
                                        [
                                            .. c.Blocks.Select(b =>
                                                b.Id == "text"
                                                    ? b with
                                                    {
                                                        Content = new([
                                                            .. b.Content.All.Select(v =>
                                                                v.Key == "text"
                                                                    ? KeyValuePair.Create(
                                                                        "text",
                                                                        (FieldValue)new FieldValue.Prose(RichText.FromParagraphs(text))
                                                                    )
                                                                    : v
                                                            ),
                                                        ]),
                                                    }
                                                    : b
                                            ),
                                        ],
                                    }
                                ),
                            ],
                        }
                ),
            ],
        };

    // Rows that narrow a colour for themselves, each another one: each has its own rules in the head.
    private static ResolvedEmail Narrowing(ResolvedEmail email, int rows)
    {
        var story = email.Rows.Single(r => r.Id == "viaduct");
        return email with
        {
            Rows =
            [
                .. email.Rows,
                .. Enumerable
                    .Range(0, rows)
                    .Select(i =>
                        story with
                        {
                            Source = story.Source with { Placed = story.Source.Placed with { Id = $"narrowed{i}" } },
                            Style = email.Style.ForRow(
                                "Narrowed",
                                ImmutableSortedDictionary<string, NarrowedValue>.Empty.Add(
                                    "buffer-red",
                                    new NarrowedValue($"#8e{i:x2}1c", $"#f4{i:x2}d2")
                                )
                            ),
                        }
                    ),
            ],
        };
    }

    // A saved row whose words are no placeholder and open, left as they are or written.
    private static Case DefaultWording(bool written) =>
        Change(e =>
            e with
            {
                Rows =
                [
                    .. e
                        .Rows.Where(r => r.Id is "masthead" or "viaduct" or "footer")
                        .Select(r =>
                            r.Id != "viaduct"
                                ? r
                                : r with
                                {
                                    Source = r.Source with
                                    {
                                        Master = r.Source.Master with
                                        {
                                            Row = r.Source.Master.Row with
                                            {
                                                Columns =
                                                [
                                                    .. r.Source.Master.Row.Columns.Select(c =>
                                                        c with
                                                        {
                                                            Blocks =
                                                            [
                                                                .. c.Blocks.Select(b => b with { Placeholder = false, Locks = Locks.Open }),
                                                            ],
                                                        }
                                                    ),
                                                ],
                                            },
                                        },
                                        Fills = written ? r.Source.Fills : r.Source.Fills.Clear(),
                                    },
                                    Columns =
                                    [
                                        .. r.Columns.Select(c =>
                                            c with
                                            {
                                                Blocks =
                                                [
                                                    .. c.Blocks.Select(b => b with { Master = b.Master with { Placeholder = false } }),
                                                ],
                                            }
                                        ),
                                    ],
                                }
                        ),
                ],
            }
        );

    // Every place that was written last time says something else.
    private static Email Renewed(Email email) => email with { ConfirmedUnchanged = [.. email.PreviousContent.Keys] };

    [Fact]
    public void There_is_a_case_on_each_side_for_every_check() =>
        Assert.Equal(CheckList.All.Select(c => c.Name).Order(StringComparer.Ordinal), Cases.Keys.Order(StringComparer.Ordinal));

    public static TheoryData<string> Names => [.. CheckList.All.Select(c => c.Name)];

    [Theory]
    [MemberData(nameof(Names))]
    public void It_finds_what_is_over_its_threshold_and_nothing_under_it(string check)
    {
        var (wrong, right) = Cases[check];
        Assert.Contains(Find(wrong), f => f.Check == check);
        Assert.DoesNotContain(Find(right), f => f.Check == check);
    }

    private static ImmutableArray<Finding> Find(Case one)
    {
        var email = one.Email ?? Sound;
        var resolved = Resolver.Resolve(
            email,
            RunningOrder.From(email, Larkfell.Masters),
            one.Style ?? Larkfell.Style,
            one.Pictures ?? Larkfell.Pictures,
            inline: (one.Snippets ?? Larkfell.Snippets).At(Larkfell.Today).For(one.Audiences ?? Larkfell.Audiences, email.Language)
        );
        resolved = one.Change?.Invoke(resolved) ?? resolved;
        return CheckList.Run(new Inspection(resolved, Compiler.Compile(resolved, "", Purpose.Sending), one.Context ?? Context)).Findings;
    }

    /// <summary>The lawful minimum holds for every reader, in words that can be read, and in plain text written by hand too.</summary>
    [Theory]
    [InlineData("unsubscribe", Visibility.PhoneOnly, Visibility.PhoneOnly, false)]
    [InlineData("unsubscribe", Visibility.PhoneOnly, Visibility.DesktopOnly, true)]
    [InlineData("postal-address", Visibility.DesktopOnly, Visibility.DesktopOnly, false)]
    [InlineData("postal-address", Visibility.PhoneOnly, Visibility.DesktopOnly, true)]
    public void The_law_asks_for_every_screen(string check, Visibility first, Visibility second, bool holds)
    {
        var found = Find(
            Change(e =>
            {
                var footer = e.Rows.Single(r => r.Id == "footer");
                return e with
                {
                    Rows =
                    [
                        .. e.Rows.Where(r => r.Id != "footer"),
                        footer with
                        {
                            Shown = first,
                        },
                        footer with
                        {
                            Shown = second,
                            Source = footer.Source with { Placed = footer.Source.Placed with { Id = "again" } },
                        },
                    ],
                };
            })
        );
        Assert.Equal(holds, found.All(f => f.Check != check));
    }

    [Fact]
    public void The_law_is_not_met_by_a_link_without_words_nor_by_plain_text_without_a_way_out()
    {
        Assert.Contains(Find(Edited(new SetFill("footer", "legal", "unsubscribeText", Words(" ")))), f => f.Check == "unsubscribe");
        string[] Law(string text) =>
            [
                .. Find(Edited(new SetPlainText(WrittenText.Over(Larkfell.Compile(Sound).MadeText(), text))))
                    .Where(f => f.Check is "unsubscribe" or "postal-address")
                    .Select(f => $"{f.Check} {f.Place.Field}"),
            ];
        Assert.Equal(["unsubscribe plainText", "postal-address plainText"], Law("Come along."));
        Assert.Empty(Law(Larkfell.Compile(Sound).MadeText()));
        // However its lines are broken.
        Assert.Empty(Law(Larkfell.Compile(Sound).MadeText().Replace(" ", "\n", StringComparison.Ordinal)));
    }
}
