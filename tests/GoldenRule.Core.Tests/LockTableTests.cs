using System.Collections.Immutable;
using System.Reflection;
using System.Text.Json.Serialization;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Validation;

namespace GoldenRule.Core.Tests;

/// <summary>
/// Every edit kind on every piece by every role, and long random histories, against the hand-written model of <see
/// cref="GovernedLibrary"/>.
/// </summary>
public class LockTableTests
{
    private static readonly FieldValue Words = new FieldValue.Words("x");
    private static readonly FieldValue Prose = new FieldValue.Prose(RichText.FromParagraphs("x"));

    [Fact]
    public void Every_piece_admits_whom_the_model_admits_and_nobody_else()
    {
        var asked = GovernedLibrary
            .Expectations(RunningOrder.From(GovernedLibrary.Email, GovernedLibrary.Masters), GovernedLibrary.Everyone)
            .ToList();
        // Exactly so many: none is left out unseen.
        Assert.Equal((4365, 400), (asked.Count, asked.Count(a => a.Allowed)));
        Assert.Equal(
            typeof(Edit).GetCustomAttributes<JsonDerivedTypeAttribute>().Select(a => a.DerivedType.Name).Order(StringComparer.Ordinal),
            asked.Select(a => a.Edit.GetType().Name).Distinct(StringComparer.Ordinal).Order(StringComparer.Ordinal)
        );
        foreach (var state in Enum.GetValues<EmailState>())
        {
            Assert.All(asked, a =>
            {
                var decision = Decide(a.Who, a.Edit, GovernedLibrary.Email, state);
                // What was handed off is frozen, for everyone.
                var allowed = a.Allowed && state is not (EmailState.HandedOff or EmailState.InReview);
                Assert.True(
                    decision is not Decision.Refused == allowed,
                    $"{a.Edit.GetType().Name} {a.Edit.Target} by {string.Join(", ", a.Who.Roles)} in {state}: expected "
                        + $"{(allowed ? "yes" : "no")}, got {decision}"
                );
            });
        }
    }

    /// <summary>What may be done to a row that an author built, by whoever may edit and by those who may not.</summary>
    [Fact]
    public void A_built_row_is_open_to_all_who_edit_and_takes_no_rules()
    {
        var email = (Email)
            new InsertRow("free", 0, new PlacedRow { Id = "b", Own = GovernedLibrary.Built("b") }).Apply(GovernedLibrary.Email);
        email = (Email)new InsertBlock("b", "b-column", -1, GovernedLibrary.Block("second", "text")).Apply(email);
        (Edit Edit, bool Allowed)[] table =
        [
            (new SetFill("b", "b-text", "text", Prose), true),
            (new SetLook("b", "b-row", "surface", "tint"), true),
            (new ClearLook("b", "b-row", "surface"), true),
            (new SetShown("b", "b-text", Visibility.PhoneOnly), true),
            (new InsertBlock("b", "b-column", 0, GovernedLibrary.Block("new", "divider")), true),
            (new RemoveBlock("b", "b-text"), true),
            (new MoveBlock("b", "b-text", "b", "b-column", 0), true),
            (new SwapBlocks("b", "b-text", "b", "second"), true),
            (new DuplicateBlock("b", "b-text", "copy"), true),
            (new SetLayout("b", [new ColumnShare("b-column", 2), new ColumnShare("more", 1)]), true),
            (new SetBackground("b", "viaduct"), true),
            (new SplitText("b", "b-text", "text", RichText.FromParagraphs("a"), GovernedLibrary.Block("rest", "text")), true),
            (new JoinTexts("b", "b-text", "second", "text", RichText.FromParagraphs("a")), true),
            (new MoveRow("b", "free", 1), true),
            (new DuplicateRow("b", "copy"), true),
            (new RemoveRow("b"), true),
            (new MoveRow("b", "kept", 0), false),
            (new DetachRow("b", GovernedLibrary.Built("b")), false),
            (
                new InsertBlock(
                    "b",
                    "b-column",
                    0,
                    GovernedLibrary.Block("new", "text") with
                    {
                        Locks = new Locks { Content = new Lock.Sealed() },
                    }
                ),
                false
            ),
            (new InsertBlock("b", "b-column", 0, GovernedLibrary.Block("new", "text") with { Instruction = "Mine" }), false),
            (new SetLock("b", "b-text", Aspect.Content, new Lock.Sealed()), false),
            (new SetLimit("b-text", "text", new Limit { Words = 1 }, "b"), false),
            (new SetOffer("b", "b-row", "surface", ["tint"]), false),
            (new SetInstruction("b", "b-text", "x"), false),
            (new SetPlaceholder("b", "b-text", true), false),
            (new SetPieceName("b", "b-text", "x"), false),
            (new SetRowKind(RowKind.Advert, "b"), false),
            (new RestoreColumns("b", [new Column { Id = "c" }]), false),
            (new ReattachRow(new PlacedRow { Id = "b" }), false),
        ];
        Assert.All(GovernedLibrary.Everyone, who =>
            Assert.All(table, t =>
                Assert.True(
                    Decide(who, t.Edit, email) is not Decision.Refused == (t.Allowed && who.Edits),
                    $"{t.Edit} by {string.Join(", ", who.Roles)}"
                )
            )
        );
    }

    /// <summary>
    /// Three thousand histories: the email stays valid, every inverse restores it, the replay is the head, and nothing passes
    /// that the model forbids.
    /// </summary>
    [Property(MaxTest = 3_000)]
    public Property Random_histories_keep_every_promise() => Prop.ForAll(Gen.Choose(0, 1 << 20).ListOf(6).ToArbitrary(), steps =>
        {
            var start = GovernedLibrary.Email;
            Document head = start;
            var made = new List<Edit>();
            foreach (var step in steps)
            {
                var (role, edit) = Make(step, (Email)head);
                if (Decide(role, edit, (Email)head) is Decision.Refused)
                {
                    continue;
                }

                Document after;
                try
                {
                    after = edit.Apply(head);
                    Check(after, RunningOrder.From((Email)head, GovernedLibrary.Masters));
                }
                catch (StructureException)
                {
                    // Governance lets it pass, the core refuses what cannot be: nothing is stored.
                    continue;
                }

                Assert.True(ModelAllows(role, edit, (Email)head), $"{edit} by {role} passed a lock.");
                var back = Inverses.RoundTrip(edit.Invert(head)).Apply(after);
                Assert.Equal(Inverses.Json(head), Inverses.Json(back));
                made.Add(Inverses.RoundTrip(edit));
                head = after;
            }

            Assert.Equal(Inverses.Json(head), Inverses.Json(made.Aggregate((Document)start, (d, e) => e.Apply(d))));
        });

    /// <summary>The same for a template in the hands of whoever makes it.</summary>
    [Property(MaxTest = 2_000)]
    public Property Random_histories_of_a_template_are_valid_and_are_taken_back() =>
        Prop.ForAll(Gen.Choose(0, 1 << 20).ListOf(8).ToArbitrary(), steps =>
        {
            Document head = BlockKinds.Complete(GovernedLibrary.Template);
            var start = head;
            var made = new List<Edit>();
            foreach (var step in steps)
            {
                var edit = MakeForTemplate(step, (Template)head);
                var open = OpenDocument.Open(head, GovernedLibrary.Masters, EmailState.Draft);
                Assert.IsType<Decision.Refused>(Governor.Decide(Person(Role.Author), edit, open));
                try
                {
                    if (Governor.Decide(Person(Role.Designer), edit, open) is Decision.Refused)
                    {
                        continue;
                    }

                    var after = edit.Apply(head);
                    Check(after, RunningOrder.From((Template)head, GovernedLibrary.Masters));
                    Assert.Equal(Inverses.Json(head), Inverses.Json(Inverses.RoundTrip(edit.Invert(head)).Apply(after)));
                    made.Add(Inverses.RoundTrip(edit));
                    head = after;
                }
                catch (StructureException)
                {
                    // What cannot be changes nothing.
                }
            }

            Assert.Equal(Inverses.Json(head), Inverses.Json(made.Aggregate(start, (d, e) => e.Apply(d))));
        });

    private static Person Person(Role role) => new(Guid.Empty, "Someone", [role]);

    private static Decision Decide(GovernedLibrary.Who who, Edit edit, Email email, EmailState state = EmailState.Draft) =>
        Governor.Decide(
            new Person(who.IsNamed ? GovernedLibrary.Named : Guid.Empty, "Someone", who.Roles),
            edit,
            new OpenDocument.OfEmail(email, RunningOrder.From(email, GovernedLibrary.Masters), GovernedLibrary.Masters, state)
        );

    private static Decision Decide(Role role, Edit edit, Email email) =>
        Governor.Decide(
            Person(role),
            edit,
            new OpenDocument.OfEmail(email, RunningOrder.From(email, GovernedLibrary.Masters), GovernedLibrary.Masters, EmailState.Draft)
        );

    // The model looks at what is changed, not at how the program decides.
    private static bool ModelAllows(Role asks, Edit edit, Email email)
    {
        var role = new GovernedLibrary.Who(asks);
        var order = RunningOrder.From(email, GovernedLibrary.Masters);
        string Master(string row) => order.Find(row)!.Master.Name;
        string? Zone(string row) => order.Find(row)!.Zone?.Id;
        bool Own(string row) => order.Find(row)!.Placed.Own is not null && Zone(row) == "free";
        return edit switch
        {
            SetFill e => GovernedLibrary.MayWrite(role, Master(e.Row), e.Row, e.Piece),
            ClearFill e => GovernedLibrary.MayWrite(role, Master(e.Row), e.Row, e.Piece),
            SetShown e => GovernedLibrary.MayWrite(role, Master(e.Row), e.Row, e.Piece),
            SetCondition e => GovernedLibrary.MayWrite(role, Master(e.Row), e.Row, e.Piece)
                || (
                    e.Condition is Condition.Audience
                    && order.Find(e.Row)!.Row.Id == e.Piece
                    && order.Find(e.Row)!.Master.Row.Condition is null
                    && GovernedLibrary.MayArrange(role, Zone(e.Row))
                ),
            SetLook e => GovernedLibrary.MayChoose(role, Master(e.Row), e.Piece, e.Property, e.Value),
            ClearLook e => GovernedLibrary.MayChoose(role, Master(e.Row), e.Piece, e.Property, null),
            InsertRow e => GovernedLibrary.MayArrange(role, e.Zone),
            RemoveRow e => GovernedLibrary.MayArrange(role, Zone(e.Row)),
            DuplicateRow e => GovernedLibrary.MayArrange(role, Zone(e.Row)),
            DetachRow e => GovernedLibrary.MayArrange(role, Zone(e.Row)) && Zone(e.Row) == "free",
            MoveRow e => GovernedLibrary.MayArrange(role, Zone(e.Row)) && GovernedLibrary.MayArrange(role, e.Zone),
            SwapRows e => GovernedLibrary.MayArrange(role, Zone(e.First)) && GovernedLibrary.MayArrange(role, Zone(e.Second)),
            InsertBlock e => role.Edits && Own(e.Row) && e.Block.Locks == Locks.Unset,
            RemoveBlock e => role.Edits && Own(e.Row),
            DuplicateBlock e => role.Edits && Own(e.Row),
            SetLayout e => role.Edits && Own(e.Row),
            SetBackground e => role.Edits && Own(e.Row),
            SplitText e => role.Edits && Own(e.Row),
            JoinTexts e => role.Edits && Own(e.Row),
            SetDetail or ConfirmUnchanged or SetLanguage => role.Edits,
            _ => false,
        };
    }

    // A piece with words and looks; one that is not there where the row has none.
    private static Block Some(OrderedRow? row, int n)
    {
        // What was copied or split off bears the locks of where it came from, which the model's table does not list.
        var blocks = row?.Row.Blocks.Where(b =>
                !b.Content.IsEmpty && !b.Look.IsEmpty && (b.Id[0] != 'n' || b.Id.Contains('-', StringComparison.Ordinal))
            )
            .ToList()
            ?? [];
        return blocks.Count > 0 ? blocks[n % blocks.Count] : GovernedLibrary.Block("none", "text");
    }

    private static (Role, Edit) Make(int n, Email email)
    {
        var order = RunningOrder.From(email, GovernedLibrary.Masters);
        int Take(int below)
        {
            var taken = n % below;
            n /= below;
            return taken;
        }

        var role = (Role)Take(4);
        var kind = Take(25);
        var row = order.Rows[Take(order.Rows.Length)];
        var block = Some(row, Take(4));
        var zone = Take(2) == 0 ? "free" : "kept";
        var id = $"n{n}";
        return (
            role,
            kind switch
            {
                0 => new SetFill(row.Id, block.Id, block.Content.First().Key, block.Kind == "text" ? Prose : Words),
                1 => new ClearFill(row.Id, block.Id, block.Content.First().Key),
                2 => new SetLook(row.Id, block.Id, block.Look.First().Key, n % 2 == 0 ? "secondary" : block.Look.First().Value),
                3 => new ClearLook(row.Id, block.Id, block.Look.First().Key),
                24 => new SetCondition(
                    row.Id,
                    n % 3 == 0 ? block.Id : row.Row.Id,
                    n % 2 == 0 ? new Condition.Audience("members") : new Condition.Test("member", Comparison.Is, ["yes"])
                ),
                4 => new SetShown(row.Id, n % 3 == 0 ? row.Row.Id : block.Id, (Visibility)(n % 3)),
                5 => new InsertRow(zone, 0, new PlacedRow { Id = id, Own = GovernedLibrary.Built(id) }),
                6 => new InsertRow(
                    zone,
                    0,
                    new PlacedRow
                    {
                        Id = id,
                        Master = n % 2 == 0 ? GovernedLibrary.MainId : GovernedLibrary.AdvertId,
                        Release = 1,
                    }
                ),
                7 => new RemoveRow(row.Id),
                8 => new MoveRow(row.Id, zone, n % 3),
                9 => new SwapRows(row.Id, order.Rows[n % order.Rows.Length].Id),
                10 => new DuplicateRow(row.Id, id),
                11 => new DetachRow(row.Id, Detached.FromRow(row)),
                12 => new InsertBlock(row.Id, row.Row.Columns[0].Id, 0, GovernedLibrary.Block(id, "divider")),
                13 => new RemoveBlock(row.Id, block.Id),
                14 => new DuplicateBlock(row.Id, block.Id, id),
                15 => new SetLayout(row.Id, [.. row.Row.Columns.Select(c => new ColumnShare(c.Id, 1)), new ColumnShare(id, 2)]),
                16 => new SetBackground(row.Id, n % 2 == 0 ? "picture" : null),
                17 => new SetLock(row.Id, block.Id, (Aspect)(n % 3), new Lock.Open()),
                18 => new InsertBlock(
                    row.Id,
                    row.Row.Columns[0].Id,
                    0,
                    GovernedLibrary.Block(id, "text") with
                    {
                        Locks = new Locks { Content = new Lock.Sealed() },
                    }
                ),
                19 => new SplitText(row.Id, block.Id, "text", RichText.FromParagraphs("a"), GovernedLibrary.Block(id, "text")),
                20 => new JoinTexts(
                    row.Id,
                    row.Row.Blocks.FirstOrDefault()?.Id ?? "none",
                    row.Row.Blocks.ElementAtOrDefault(1)?.Id ?? "none",
                    "text",
                    RichText.FromParagraphs("joined")
                ),
                21 => new ConfirmUnchanged(id, n % 2 == 0),
                22 => new SetLanguage(n % 2 == 0 ? "cy" : "not a tag"),
                _ => new SetDetail("subject", id),
            }
        );
    }

    private static Edit MakeForTemplate(int n, Template template)
    {
        int Take(int below)
        {
            var taken = n % below;
            n /= below;
            return taken;
        }

        var kind = Take(22);
        var order = RunningOrder.From(template, GovernedLibrary.Masters);
        var row = order.Rows.Length == 0 ? null : order.Rows[Take(order.Rows.Length)];
        var block = Some(row, Take(4));
        var zone = template.Order.OfType<Zone>().ElementAtOrDefault(Take(2))?.Id;
        var id = $"n{n}";
        var at = row?.Id ?? "none";
        return kind switch
        {
            0 => new SetFill(at, block.Id, block.Content.First().Key, block.Kind == "text" ? Prose : Words),
            1 => new SetLook(at, block.Id, block.Look.First().Key, block.Look.First().Value),
            2 => new InsertRow(null, n % 3, new PlacedRow { Id = id, Own = GovernedLibrary.Built(id) }),
            3 => new InsertRow(
                zone,
                0,
                new PlacedRow
                {
                    Id = id,
                    Master = GovernedLibrary.MainId,
                    Release = 1,
                }
            ),
            4 => new RemoveRow(at),
            5 => new MoveRow(at, n % 2 == 0 ? null : zone, n % 3),
            6 => new MoveRow(zone ?? at, null, n % 3),
            7 => new DuplicateRow(at, id),
            8 => new InsertZone(
                n % 3,
                new Zone
                {
                    Id = id,
                    Least = n % 4,
                    Most = 1 + (n % 3),
                }
            ),
            9 => new RemoveZone(zone ?? "none"),
            10 => new SetZone(
                new Zone
                {
                    Id = zone ?? "none",
                    Accepts = [RowKindPlan.Usual.Kinds[n % 9].Key],
                    Least = n % 3,
                    Most = 4,
                }
            ),
            11 => new SetLock(at, n % 3 == 0 ? null : block.Id, (Aspect)(n % 3), n % 2 == 0 ? new Lock.Sealed() : new Lock.Open()),
            12 => new SetLimit(
                block.Id,
                block.Content.First().Key,
                n % 3 == 0
                    ? null
                    : new Limit
                    {
                        Characters = n % 50,
                        ItemsLeast = n % 5,
                        ItemsMost = 3,
                    },
                at
            ),
            13 => new SetInstruction(at, block.Id, n % 2 == 0 ? id : null),
            14 => new SetPlaceholder(at, block.Id, n % 2 == 0),
            15 => new InsertBlock(
                at,
                row?.Row.Columns[0].Id ?? "none",
                0,
                GovernedLibrary.Block(id, BlockKinds.All[n % BlockKinds.All.Length].Name)
            ),
            16 => new SwapBlocks(at, block.Id, at, row?.Row.Blocks.FirstOrDefault()?.Id ?? "none"),
            17 => new SetLayout(at, [new ColumnShare(id, 1 + (n % 13))]),
            18 => new SetOffer(at, block.Id, block.Look.First().Key, [block.Look.First().Value]),
            19 => new DetachRow(at, row is null ? GovernedLibrary.Built(id) : Detached.FromRow(row)),
            20 => new SetPieceName(at, null, id),
            _ => new MoveBlock(at, block.Id, at, row?.Row.Columns[0].Id ?? "none", 0),
        };
    }

    // Looking only at what an edit touched finds what looking at all of it finds.
    private static void Check(Document after, RunningOrder held)
    {
        var fault = Record.Exception(() => Structure.Complete(after, GovernedLibrary.Masters));
        var touched = Record.Exception(() => Structure.Complete(after, GovernedLibrary.Masters, held));
        Assert.Equal((fault?.GetType(), fault?.Message), (touched?.GetType(), touched?.Message));
        if (fault is not null)
        {
            throw fault;
        }
    }
}
