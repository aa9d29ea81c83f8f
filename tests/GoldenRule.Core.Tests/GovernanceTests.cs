using FsCheck.Xunit;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Governance;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Tests;

public sealed class GovernanceTests
{
    private static readonly FieldValue Words = new FieldValue.Words("Words");
    private static readonly Email Email = Larkfell.Gazette;

    private static string? Rule(Person person, Edit edit, EmailState state = EmailState.Draft, Email? email = null) =>
        (Governor.Decide(person, edit, Larkfell.Open(email ?? Email, state)) as Decision.Refused)?.Rule;

    private static InsertRow Insert(string row, string zone, int index = 0) =>
        new(
            zone,
            index,
            new PlacedRow
            {
                Id = "new",
                Master = Larkfell.RowId(row),
                Release = 1,
            }
        );

    public static TheoryData<string, Edit, string?> ForAuthors =>
        new()
        {
            { "open content", new SetFill("hero", "headline", "text", Words), null },
            { "a zone row's content", new SetFill("viaduct", "headline", "text", Words), null },
            { "reserved footer", new SetFill("footer", "legal", "unsubscribeText", Words), Rules.LockContent },
            { "clearing in the footer", new ClearFill("footer", "legal", "unsubscribeText"), Rules.LockContent },
            { "sealed logo", new SetFill("masthead", "logo", "picture", new FieldValue.Image("x")), Rules.LockContent },
            { "sealed look", new SetLook("hero", "headline", "align", "left"), Rules.LockLook },
            { "an offered look", new SetLook("hero", "button", "style", "secondary"), null },
            { "a look that is not offered", new SetLook("hero", "button", "style", "quiet"), Rules.Offer },
            { "an unknown look", new SetLook("hero", "button", "colour", "#ff00ff"), Rules.Unknown },
            {
                "another type of value",
                new SetFill("hero", "headline", "text", new FieldValue.Link("https://example.org")),
                Rules.WrongType
            },
            { "an unknown row", new SetFill("nowhere", "headline", "text", Words), Rules.Unknown },
            { "an unknown piece", new SetFill("hero", "nothing", "text", Words), Rules.Unknown },
            { "an unknown field", new SetFill("hero", "headline", "style", Words), Rules.Unknown },
            { "a row that the zone takes", Insert("Story, words only", "stories"), null },
            { "a row that the zone does not take", Insert("Footer", "stories"), Rules.ZoneAccepts },
            { "a row outside any zone", Insert("Story, words only", "footer"), Rules.LockArrangement },
            {
                "an id that is taken",
                Insert("Story, words only", "stories") with
                {
                    Row = new PlacedRow
                    {
                        Id = "footer",
                        Master = Larkfell.RowId("Story, words only"),
                        Release = 1,
                    },
                },
                Rules.Unknown
            },
            { "removing the template's own row", new RemoveRow("hero"), Rules.LockArrangement },
            { "moving the template's own row", new MoveRow("footer", "stories", 0), Rules.LockArrangement },
            { "moving within a zone", new MoveRow("viaduct", "stories", 2), null },
            { "moving to a zone that does not take it", new MoveRow("viaduct", "beside", 0), Rules.ZoneAccepts },
            { "swapping within a zone", new SwapRows("viaduct", "meeting"), null },
            { "swapping across zones", new SwapRows("viaduct", "tearoom"), Rules.ZoneAccepts },
            { "duplicating in a zone", new DuplicateRow("viaduct", "copy"), null },
            { "duplicating the hero", new DuplicateRow("hero", "copy"), Rules.LockArrangement },
            { "a detail", new SetDetail("subject", "Hello"), null },
            { "an unknown detail", new SetDetail("bcc", "x"), Rules.Unknown },
            { "a lock", new SetLock(null, "headline", Aspect.Content, new Lock.Open()), Rules.Library },
            { "a colour of the house", new SetStyle("primary", "fill", "#ff00ff"), Rules.WrongType },
        };

    [Theory]
    [MemberData(nameof(ForAuthors))]
    public void Authors_may_do_what_the_library_leaves_open(string what, Edit edit, string? rule)
    {
        Assert.NotEmpty(what);
        Assert.Equal(rule, Rule(Larkfell.Author, edit));
    }

    [Fact]
    public void A_row_cannot_bring_fills_of_sealed_pieces_or_locks_of_its_own()
    {
        var tearoom = new PlacedRow
        {
            Id = "new",
            Master = Larkfell.RowId("Tearoom"),
            Release = 1,
        };
        var sealedFill = tearoom with
        {
            Fills = tearoom.Fills.Add(
                "picture",
                new PieceFill { Content = new PieceFill().Content.Add("picture", new FieldValue.Image("x")) }
            ),
        };
        Assert.Equal(Rules.LockContent, Rule(Larkfell.Author, new InsertRow("beside", 0, sealedFill)));
        Assert.Equal(Rules.LockArrangement, Rule(Larkfell.Author, new InsertRow("beside", 0, tearoom with { Locks = Locks.Root })));
        Assert.Equal(
            Rules.LockArrangement,
            Rule(
                Larkfell.Author,
                new InsertRow(
                    "beside",
                    0,
                    tearoom with
                    {
                        Rules = tearoom.Rules.Add("headline", new PieceRules { Locks = new Locks { Look = new Lock.Open() } }),
                    }
                )
            )
        );
    }

    [Fact]
    public void A_reservation_admits_whom_it_names_and_says_so_to_others()
    {
        var edit = new SetFill("footer", "legal", "unsubscribeText", Words);
        Assert.Null(Rule(Larkfell.Designer, edit));
        var refused = Assert.IsType<Decision.Refused>(Governor.Decide(Larkfell.Author, edit, Larkfell.Open(Email)));
        Assert.Equal("footer/legal", refused.Piece);
        Assert.Contains("Reserved for designers", refused.Reason, StringComparison.Ordinal);
    }

    [Fact]
    public void A_zone_holds_its_least_and_its_most()
    {
        var two = (Email)new RemoveRow("meeting").Apply(Email);
        Assert.Equal(Rules.ZoneLeast, Rule(Larkfell.Author, new RemoveRow("boiler"), email: two));
        var full = Enumerable.Range(0, 3).Aggregate(Email, (e, i) => (Email)new DuplicateRow("viaduct", $"copy{i}").Apply(e));
        Assert.Equal(Rules.ZoneMost, Rule(Larkfell.Author, new DuplicateRow("viaduct", "one-more"), email: full));
        Assert.Equal(Rules.ZoneMost, Rule(Larkfell.Author, Insert("Story, words only", "stories"), email: full));
    }

    [Fact]
    public void Reviewers_change_nothing_and_nobody_changes_what_is_handed_off()
    {
        Assert.Equal(Rules.Role, Rule(Larkfell.Reviewer, new SetDetail("subject", "x")));
        Assert.All([Larkfell.Lead, Larkfell.Designer, Larkfell.Author], p =>
            Assert.Equal(Rules.State, Rule(p, new SetDetail("subject", "x"), EmailState.HandedOff))
        );
    }

    [Fact]
    public void Only_leads_change_the_house_style()
    {
        Decision Ask(Person p) =>
            Governor.Decide(p, new SetStyle("primary", "fill", "#000000"), new OpenDocument.OfHouseStyle(Larkfell.HouseStyle));
        Assert.Same(Decision.Yes, Ask(Larkfell.Lead));
        Assert.All([Larkfell.Designer, Larkfell.Author, Larkfell.Reviewer], p => Assert.IsType<Decision.Refused>(Ask(p)));
    }

    [Fact]
    public void A_template_can_tighten_a_lock_of_its_row_and_never_loosen_it()
    {
        // The shop's template seals the hero's look, which the saved row leaves open.
        var shop = Larkfell.Emails.Single(e => e.Name.StartsWith("Spring", StringComparison.Ordinal)).Email;
        Assert.Equal(Rules.LockLook, Rule(Larkfell.Author, new SetLook("hero", "button", "style", "secondary"), email: shop));

        var order = RunningOrder.From(Email, Larkfell.Masters);
        var footer = order.Find("footer")!;
        var loosened = footer with
        {
            Placed = footer.Placed with
            {
                Rules = footer.Placed.Rules.Add("legal", new PieceRules { Locks = new Locks { Content = new Lock.Open() } }),
            },
        };
        Assert.IsType<Lock.Reserved>(EffectiveLocks.ForPiece(loosened, "legal", Aspect.Content));
    }

    [Property]
    public bool The_tightest_of_two_locks_admits_nobody_whom_either_keeps_out(int a, int b, int who)
    {
        Lock Make(int n) =>
            Math.Abs(n % 4) switch
            {
                0 => new Lock.Open(),
                1 => new Lock.Sealed(),
                2 => new Lock.Reserved { Roles = [Role.Designer] },
                _ => new Lock.Reserved { Roles = [Role.Designer, Role.Author] },
            };
        var person = new Person(Guid.Empty, "", [(Role)Math.Abs(who % 4)]);
        var (x, y) = (Make(a), Make(b));
        return EffectiveLocks.Admits(Lock.Tightest(x, y), person) == (EffectiveLocks.Admits(x, person) && EffectiveLocks.Admits(y, person));
    }

    /// <summary>What the screens are told beforehand is what the hand-written model says of every row and piece.</summary>
    [Fact]
    public void Allowances_say_beforehand_what_the_model_says()
    {
        var order = RunningOrder.From(GovernedLibrary.Email, GovernedLibrary.Masters);
        foreach (var who in GovernedLibrary.Everyone)
        {
            var person = new Person(who.IsNamed ? GovernedLibrary.Named : Guid.Empty, "Someone", who.Roles);
            foreach (var row in order.Rows)
            {
                var allowances = Allowances.ForRow(
                    person,
                    new OpenDocument.OfEmail(GovernedLibrary.Email, order, GovernedLibrary.Masters, EmailState.Draft),
                    row
                );
                var arranges = GovernedLibrary.MayArrange(who, row.Zone?.Id);
                Assert.Equal((arranges, arranges), (allowances.Move.Allowed, allowances.Duplicate.Allowed));
                // The free zone holds its least.
                Assert.Equal(arranges && row.Zone?.Id == "kept", allowances.Remove.Allowed);
                Assert.Equal(arranges && row.Zone?.Id == "free", allowances.Detach.Allowed);
                Assert.False(allowances.Shape.Allowed);
                Assert.Equal(GovernedLibrary.MayWrite(who, row.Master.Name, row.Id, row.Row.Id), allowances.Shown.Allowed);
                foreach (var block in row.Row.Blocks)
                {
                    var told = allowances.Blocks.Single(b => b.Block == block.Id);
                    Assert.Equal(GovernedLibrary.MayWrite(who, row.Master.Name, row.Id, block.Id), told.Content.Allowed);
                    Assert.False(told.Arrange.Allowed);
                    Assert.All([told.Content, told.Arrange], a => Assert.Equal(a.Allowed, a.Reason is null));
                }
            }
        }
    }

    /// <summary>
    /// Every edit that is no email's, on every sort of master, by every role: house styles are the lead's, templates and rows the
    /// lead's and the designer's, and no edit fits what it is not for.
    /// </summary>
    [Fact]
    public void Masters_are_changed_by_whom_they_belong_to_and_by_their_own_edits()
    {
        var variable = new BrandVariable
        {
            Key = "k",
            Label = "K",
            Type = VariableType.Text,
            Value = "",
        };
        Edit[] ofStyles =
        [
            new SetVariable(variable),
            new RemoveVariable("k"),
            new RenameVariable("k", "l"),
            new MoveVariable("k", 0),
            new ReplaceVariable("k", "l"),
            new ReinstateVariable(variable, 0, "l"),
            new SetStyle("body", "size", "16"),
            new RestoreHouseStyle(Larkfell.HouseStyle),
        ];
        Edit[] ofMasters = [new NarrowVariable("k", null)];
        (Document Master, Edit[] Own, Role[] May)[] table =
        [
            (Larkfell.HouseStyle, [.. ofStyles, new SetName("x")], [Role.Lead]),
            (Larkfell.Rows[0].Row, [.. ofMasters, new SetName("x")], [Role.Lead, Role.Designer]),
            (RunningOrder.From(Larkfell.Gazette, Larkfell.Masters).Template, [.. ofMasters, new SetName("x")], [Role.Lead, Role.Designer]),
        ];
        foreach (var (master, own, may) in table)
        {
            foreach (var edit in ofStyles.Concat(ofMasters).Append(new SetName("x")))
            {
                foreach (var role in Enum.GetValues<Role>())
                {
                    var allowed =
                        Governor.Decide(
                            new Person(Guid.NewGuid(), "Someone", [role]),
                            edit,
                            OpenDocument.Open(master, Larkfell.Masters, EmailState.Draft)
                        )
                        is not Decision.Refused;
                    Assert.True(
                        allowed == (own.Any(o => o.GetType() == edit.GetType()) && may.Contains(role)),
                        $"{edit.GetType().Name} on {master.GetType().Name} by {role}: {allowed}"
                    );
                }
            }
        }
    }
}
