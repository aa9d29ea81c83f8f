using System.Collections.Immutable;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Validation;

namespace GoldenRule.Core.Tests;

/// <summary>Locks travel with what they lock: whatever a person does, nothing that was kept from them is theirs afterwards.</summary>
public sealed class NeverLooserTests
{
    private static readonly Guid Id = Guid.Parse("00000000-0000-0000-0000-0000000000f0");
    private static readonly Lock Sealed = new Lock.Sealed();
    private static readonly Lock Open = new Lock.Open();
    private static readonly Guid Named = Guid.Parse("00000000-0000-0000-0000-0000000000ee");
    private static readonly Lock Designers = new Lock.Reserved { Roles = [Role.Designer] };
    private static readonly Lock Someone = new Lock.Reserved { People = [Named] };

    // Locks on rows, columns and blocks, and what templates and zones add to them.
    private static readonly SavedRow Locked = new()
    {
        Name = "Locked",
        RowKind = RowKind.Main,
        Row = new Row
        {
            Id = "locked",
            Locks = new Locks { Look = Open },
            Columns =
            [
                new Column
                {
                    Id = "kept",
                    Locks = new Locks { Content = Sealed },
                    Blocks =
                    [
                        GovernedLibrary.Block("fixed", "text"),
                        GovernedLibrary.Block("but", "heading") with
                        {
                            Locks = new Locks { Content = Designers },
                        },
                    ],
                },
                new Column
                {
                    Id = "free",
                    Blocks =
                    [
                        GovernedLibrary.Block("say", "text"),
                        GovernedLibrary.Block("named", "text") with
                        {
                            Locks = new Locks { Content = Someone },
                        },
                    ],
                },
            ],
        },
    };

    private static readonly Template Template = GovernedLibrary.Template with
    {
        Order =
        [
            .. GovernedLibrary.Template.Order.Where(i => i is not Zone),
            new Zone
            {
                Id = "free",
                Name = "Free",
                Least = 0,
                Most = 20,
                OwnRows = true,
                Default =
                [
                    new PlacedRow
                    {
                        Id = "first",
                        Master = GovernedLibrary.MainId,
                        Release = 1,
                        Rules = ImmutableSortedDictionary<string, PieceRules>
                            .Empty.Add("headline", new PieceRules { Locks = new Locks { Content = Designers } })
                            .Add("story", new PieceRules { Locks = new Locks { Look = Sealed } }),
                    },
                    new PlacedRow
                    {
                        Id = "second",
                        Master = Id,
                        Release = 1,
                        Locks = new Locks { Look = Designers },
                    },
                ],
            },
            new Zone
            {
                Id = "dear",
                Name = "Dear",
                Least = 0,
                Most = 20,
                OwnRows = true,
                Locks = new Locks { Content = Designers, Look = Sealed },
                Default =
                [
                    new PlacedRow
                    {
                        Id = "third",
                        Master = Id,
                        Release = 1,
                    },
                ],
            },
        ],
    };

    private static readonly ReleaseCatalog Masters = new(
        ImmutableDictionary<(Guid, int), SavedRow>
            .Empty.Add((GovernedLibrary.MainId, 1), GovernedLibrary.Main)
            .Add((GovernedLibrary.MastId, 1), GovernedLibrary.Mast)
            .Add((Id, 1), Locked),
        ImmutableDictionary<(Guid, int), Template>.Empty.Add((GovernedLibrary.TemplateId, 1), Template)
    );

    private static readonly Person[] People =
    [
        new(Guid.Empty, "An author", [Role.Author]),
        new(Guid.Empty, "A designer", [Role.Designer]),
        new(Named, "An author by name", [Role.Author]),
        new(Guid.Empty, "A designer who reviews", [Role.Designer, Role.Reviewer]),
    ];

    private static Email Start()
    {
        var next = 0;
        return Email.StartFrom(GovernedLibrary.TemplateId, 1, Template, "Test", () => $"r{next++}");
    }

    /// <summary>A hundred histories of thirty edits that were made, each person by turns; they count how much was let through.</summary>
    [Fact]
    public void Nothing_that_was_kept_from_a_person_is_theirs_afterwards()
    {
        var made = 0;
        Check.One(
            Config.QuickThrowOnFailure.WithMaxTest(100).WithReplay(20261128, 4294967295),
            Prop.ForAll(Gen.Choose(0, 1 << 28).ArrayOf(90).ToArbitrary(), steps =>
            {
                Document head = Start();
                var done = new List<(Edit Edit, Edit Back, Document Before)>();
                foreach (var step in steps)
                {
                    if (done.Count == 30)
                    {
                        break;
                    }

                    var email = (Email)head;
                    var person = People[step % People.Length];
                    var edit = Make(step / People.Length, email);
                    if (Decide(person, edit, email) is Decision.Refused)
                    {
                        continue;
                    }

                    Email after;
                    try
                    {
                        after = (Email)Structure.Complete(EditApplication.Apply(edit, head), Masters);
                    }
                    catch (StructureException)
                    {
                        continue;
                    }

                    var (stood, stands) = (LockedAspects(person, email), LockedAspects(person, after));
                    foreach (var ((row, block), before) in stood)
                    {
                        // Where it stands, or stood nowhere before: a block of that id in another row is another block.
                        var now = stands.ContainsKey((row, block))
                            ? [(row, block)]
                            : stands.Keys.Where(k => k.Block == block && !stood.ContainsKey(k)).ToArray();
                        Assert.True(
                            now.Length == 0 || now.Any(k => stands[k].IsSupersetOf(before)),
                            $"{person.Name} made {row}/{block} looser by {edit}"
                        );
                    }

                    // Exactly back, and exactly there again.
                    var back = Inverses.RoundTrip(edit.Invert(email));
                    Assert.Equal(Inverses.Json(email), Inverses.Json(EditApplication.Apply(back, after)));
                    done.Add((Inverses.RoundTrip(edit), back, email));
                    head = after;
                    made++;
                }

                Assert.True(done.Count >= 10, $"Only {done.Count} of {steps.Length} edits were let through.");
                var end = head;
                foreach (var (_, back, before) in Enumerable.Reverse(done))
                {
                    head = EditApplication.Apply(back, head);
                    Assert.Equal(Inverses.Json(before), Inverses.Json(head));
                }

                Assert.Equal(
                    Inverses.Json(end),
                    Inverses.Json(done.Aggregate(head, (d, e) => Structure.Complete(EditApplication.Apply(e.Edit, d), Masters)))
                );
            })
        );
        Assert.True(made > 2_000, $"{made} edits were let through.");
    }

    // Which aspects of each block a person may not change.
    private static Dictionary<(string Row, string Block), ImmutableHashSet<Aspect>> LockedAspects(Person person, Email email) =>
        RunningOrder
            .From(email, Masters)
            .Rows.SelectMany(row =>
                row.Row.Blocks.Select(block =>
                    (
                        Place: (row.Id, block.Id),
                        LoadedDocument: ((Aspect[])[Aspect.Content, Aspect.Look])
                            .Where(a => !EffectiveLocks.Admits(EffectiveLocks.ForPiece(row, block.Id, a), person))
                            .ToImmutableHashSet()
                    )
                )
            )
            .ToDictionary(k => k.Place, k => k.LoadedDocument);

    private static Decision Decide(Person person, Edit edit, Email email) =>
        Governor.Decide(person, edit, new OpenDocument.OfEmail(email, RunningOrder.From(email, Masters), Masters, EmailState.Draft));

    private static Edit Make(int n, Email email)
    {
        var order = RunningOrder.From(email, Masters);
        int Take(int below)
        {
            var taken = n % below;
            n /= below;
            return taken;
        }

        var kind = Take(14);
        var row = order.Rows[Take(order.Rows.Length)];
        var other = order.Rows[Take(order.Rows.Length)];
        // Mostly rows whose pieces can be arranged.
        var own = order.Rows.Where(r => r.IsOwn && r.Zone is not null).ToList();
        (row, other) = kind < 9 && own.Count > 0 ? (own[n % own.Count], own[n / 7 % own.Count]) : (row, other);
        Block Some(OrderedRow of, int at) =>
            of.Row.Blocks.ToList() is { Count: > 0 } blocks ? blocks[at % blocks.Count] : GovernedLibrary.Block("none", "text");
        Column Place(OrderedRow of, int at) => of.Row.Columns[at % of.Row.Columns.Length];
        var block = Some(row, n);
        var id = $"n{n}";
        return kind switch
        {
            0 => new MoveBlock(row.Id, block.Id, other.Id, Place(other, n / 3).Id, 0),
            1 => new MoveBlock(row.Id, block.Id, row.Id, Place(row, n / 3).Id, -1),
            2 => new SwapBlocks(row.Id, block.Id, other.Id, Some(other, n / 5).Id),
            3 => new SetLayout(row.Id, [new ColumnShare(Place(row, n).Id, 1 + (n % 3))]),
            4 => new SetLayout(
                row.Id,
                [new ColumnShare(id, 1), .. row.Row.Columns.Reverse().Take(3).Select(c => new ColumnShare(c.Id, 2))]
            ),
            5 => new SplitText(row.Id, block.Id, "text", RichText.FromParagraphs("a"), GovernedLibrary.Block(id, "text")),
            6 => new JoinTexts(
                row.Id,
                block.Id,
                row.Row.Blocks.SkipWhile(b => b.Id != block.Id).ElementAtOrDefault(1)?.Id ?? "none",
                "text",
                RichText.FromParagraphs("ab")
            ),
            7 => new DuplicateBlock(row.Id, block.Id, id),
            8 => new InsertBlock(row.Id, Place(row, n).Id, 0, GovernedLibrary.Block(id, "text")),
            9 => new DetachRow(row.Id, Detached.FromRow(row)),
            10 => new MoveRow(row.Id, n % 2 == 0 ? "free" : "dear", 0),
            11 => new SwapRows(row.Id, other.Id),
            12 => new DuplicateRow(row.Id, id),
            _ => new InsertRow(
                n % 2 == 0 ? "free" : "dear",
                0,
                n % 3 == 0
                    ? new PlacedRow
                    {
                        Id = id,
                        Master = Id,
                        Release = 1,
                    }
                    : new PlacedRow { Id = id, Own = GovernedLibrary.Built(id) }
            ),
        };
    }

    /// <summary>What unlinking, moving and laying out anew did to a sealed block, one by one.</summary>
    [Fact]
    public void Unlinked_rows_keep_what_the_template_laid_on_them_and_blocks_what_they_stood_in()
    {
        var email = Start();
        var author = People[0];
        var first = email.Zones["free"][0].Id;
        Decision Write(Email now, string row, string piece, string field, FieldValue value) =>
            Decide(author, new SetFill(row, piece, field, value), now);
        var words = new FieldValue.Words("Mine");
        Assert.IsType<Decision.Refused>(Write(email, first, "headline", "text", words));
        var detach = new DetachRow(first, Detached.FromRow(RunningOrder.From(email, Masters).Find(first)!));
        Assert.IsType<Decision.Allowed>(Decide(author, detach, email));
        var unlinked = (Email)EditApplication.Apply(detach, email);
        Assert.IsType<Decision.Refused>(Write(unlinked, first, "headline", "text", words));

        var open = (Email)
            EditApplication.Apply(new InsertRow("free", 0, new PlacedRow { Id = "open", Own = GovernedLibrary.Built("open") }), unlinked);
        var moved = (Email)EditApplication.Apply(new MoveBlock(first, "button", "open", "open-column", 0), open);
        Assert.IsType<Decision.Refused>(Write(moved, "open", "button", "text", words));
        var swapped = (Email)EditApplication.Apply(new SwapBlocks(first, "button", "open", "open-text"), open);
        Assert.IsType<Decision.Refused>(Write(swapped, "open", "button", "text", words));

        // A sealed column that goes takes what stood in it along, locked.
        var second = email.Zones["free"][1].Id;
        var row = (Email)
            EditApplication.Apply(new DetachRow(second, Detached.FromRow(RunningOrder.From(email, Masters).Find(second)!)), email);
        var laid = (Email)EditApplication.Apply(new SetLayout(second, [new ColumnShare("free", 1)]), row);
        Assert.IsType<Decision.Refused>(Write(laid, second, "fixed", "text", new FieldValue.Prose(RichText.FromParagraphs("Mine"))));
        Assert.IsType<Decision.Allowed>(Write(laid, second, "say", "text", new FieldValue.Prose(RichText.FromParagraphs("Mine"))));

        // A picture behind a row is how it looks.
        Assert.IsType<Decision.Refused>(Decide(author, new SetBackground(second, "viaduct"), row));
        Assert.IsType<Decision.Allowed>(Decide(author, new SetBackground("open", "viaduct"), open));

        // What a zone locks stays there.
        var third = email.Zones["dear"][0].Id;
        Assert.IsType<Decision.Refused>(Write(email, third, "say", "text", new FieldValue.Prose(RichText.FromParagraphs("Mine"))));
        Assert.IsType<Decision.Refused>(Decide(author, new MoveRow(third, "free", 0), email));
        Assert.IsType<Decision.Allowed>(Decide(author, new MoveRow(second, "dear", 0), email));
        // Locks are not brought along with a move.
        Assert.IsType<Decision.Refused>(
            Decide(author, new MoveBlock("open", "open-text", "open", "open-column", 0) { Locks = Locks.Open }, open)
        );
        Assert.IsType<Decision.Refused>(
            Decide(author, new SwapBlocks("open", "open-text", "open", "open-text") { FirstLocks = Locks.Open }, open)
        );
    }
}
