using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Tests;

public sealed class EditTests
{
    private static readonly string[] Rows = ["hero", "viaduct", "boiler", "meeting", "tearoom", "copy0", "copy1"];
    private static readonly string[] Pieces = ["headline", "text", "button"];
    private static readonly string[] Zones = ["stories", "beside"];

    private static Edit Make(int kind, int a, int b, int c)
    {
        var (row, piece, zone) = (Rows[a % Rows.Length], Pieces[b % Pieces.Length], Zones[c % Zones.Length]);
        return (kind % 10) switch
        {
            0 => new SetFill(row, piece, "text", new FieldValue.Words($"words {c}")),
            1 => new ClearFill(row, piece, "text"),
            2 => new SetLook(row, piece, "align", c % 2 == 0 ? "left" : "center"),
            3 => new ClearLook(row, piece, "align"),
            4 => new MoveRow(row, zone, b % 3),
            5 => new SwapRows(row, Rows[b % Rows.Length]),
            6 => new DuplicateRow(row, $"copy{c % 2}"),
            7 => new RemoveRow(row),
            8 => new InsertRow(
                zone,
                b % 3,
                new PlacedRow
                {
                    Id = $"copy{c % 2}",
                    Master = Guid.Empty,
                    Release = 1,
                }
            ),
            _ => new SetDetail(c % 2 == 0 ? "subject" : "preheader", $"words {a}"),
        };
    }

    /// <summary>Whatever is done, in any order, taking it back restores the very same document.</summary>
    [Property(MaxTest = 300)]
    public Property Every_edit_has_an_exact_inverse() =>
        Prop.ForAll(Gen.Choose(0, 10_000).ListOf(4).ListOf(12).ToArbitrary(), steps =>
            Inverses.Restore(Larkfell.Gazette, steps.Select(s => (Func<Document, Edit>)(_ => Make(s[0], s[1], s[2], s[3]))))
        );

    [Fact]
    public void Edits_of_masters_and_styles_have_inverses_too()
    {
        var row = Larkfell.Masters.Newest(Larkfell.RowId("Footer"))!.Value.Row;
        var template = Larkfell.Masters.Template(Larkfell.Gazette.Template, 1);
        (Document, Edit)[] cases =
        [
            (row, new SetLock(null, "legal", Aspect.Content, new Lock.Sealed())),
            (row, new SetLock(null, null, Aspect.Content, null)),
            (row, new SetLimit("legal", "unsubscribeText", new Limit { Characters = 20 })),
            (template, new SetLock("hero", null, Aspect.Look, new Lock.Sealed())),
            (template, new SetLock("hero", "headline", Aspect.Content, new Lock.Reserved { Roles = [Role.Designer] })),
            (Larkfell.HouseStyle, new SetVariable(Larkfell.HouseStyle.Variables[0] with { Value = "#123456" })),
            (
                Larkfell.HouseStyle,
                new SetVariable(
                    new BrandVariable
                    {
                        Key = "new",
                        Label = "New",
                        Type = VariableType.Colour,
                        Value = "#123456",
                    }
                )
            ),
            (Larkfell.HouseStyle, new SetStyle("primary", "fill", "{soot}")),
            (Larkfell.HouseStyle, new SetStyle("primary", "fill", null)),
        ];
        Assert.All(cases, c =>
        {
            var after = c.Item2.Apply(c.Item1);
            Assert.NotEqual(Inverses.Json(c.Item1), Inverses.Json(after));
            Assert.Equal(Inverses.Json(c.Item1), Inverses.Json(Inverses.RoundTrip(c.Item2.Invert(c.Item1)).Apply(after)));
        });
    }

    [Fact]
    public void An_edit_that_does_not_fit_says_where_and_changes_nothing()
    {
        Assert.Equal("nowhere", Assert.Throws<StructureException>(() => new RemoveRow("nowhere").Apply(Larkfell.Gazette)).Piece);
        Assert.Throws<StructureException>(() => new MoveRow("viaduct", "stories", 7).Apply(Larkfell.Gazette));
        Assert.Throws<StructureException>(() => new SetStyle("primary", "glow", "1").Apply(Larkfell.HouseStyle));
        Assert.Throws<StructureException>(() => new SetDetail("subject", "x").Apply(Larkfell.HouseStyle));
    }

    [Fact]
    public void Stored_forms_are_versioned_and_a_newer_one_is_refused()
    {
        var json = DocumentJson.Write(Larkfell.Gazette);
        Assert.Equal(json, DocumentJson.Write(DocumentJson.ReadDocument<Email>(json)));
        var newer = json.Replace("\"format\":2", "\"format\":3", StringComparison.Ordinal);
        Assert.Contains(
            "format 3",
            Assert.Throws<StructureException>(() => DocumentJson.ReadDocument<Email>(newer)).Message,
            StringComparison.Ordinal
        );
    }

    /// <summary>Steps by one author: letters are steps, "u" takes back, "r" brings again.</summary>
    [Theory]
    [InlineData("", null, null)]
    [InlineData("a", "a", null)]
    [InlineData("ab", "b", null)]
    [InlineData("abu", "a", "b")]
    [InlineData("abuu", null, "a")]
    [InlineData("abuur", "a", "b")]
    [InlineData("abuc", "c", null)]
    [InlineData("abucu", "a", "c")]
    public void Undo_and_redo_are_read_from_the_edits(string played, string? undo, string? redo)
    {
        var history = new UndoHistory();
        var sequence = 0;
        var names = new Dictionary<Guid, string>();
        foreach (var c in played)
        {
            var undone = c is 'u' or 'r' ? history.Next(c == 'r', []) : null;
            var step = Guid.NewGuid();
            names[step] = undone is { } u ? names[u] : c.ToString();
            var entry = new HistoryEntry(++sequence, step, undone);
            history.Record([entry], sequence);
            // Read twice, it counts once; and a step may be several edits.
            history.Record([entry], sequence);
            history.Follow(sequence, sequence + 1, [new HistoryEntry(sequence + 1, step, undone)]);
            sequence++;
            // What does not follow on what is known waits until the rest is read.
            history.Follow(sequence + 5, sequence + 6, [new HistoryEntry(sequence + 6, Guid.NewGuid(), null)]);
        }

        Assert.Equal(undo, history.Next(false, []) is { } x ? names[x] : null);
        Assert.Equal(redo, history.Next(true, []) is { } y ? names[y] : null);
    }

    /// <summary>However the edits of several come, each history knows what reading them all would have found, or that it has to.</summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void What_each_can_undo_is_followed_while_several_write(int seed)
    {
        var random = new Random(seed);
        Guid[] people = [Guid.NewGuid(), Guid.NewGuid(), Guid.NewGuid()];
        var followed = new UndoHistories();
        var stored = new List<(Guid Author, HistoryEntry Entry)>();
        var current = 0;
        for (var i = 0; i < 400; i++)
        {
            var author = people[random.Next(people.Length)];
            var before = stored.Count;
            var step = Guid.NewGuid();
            var undone = random.Next(3) == 0 ? Read(author).Next(random.Next(2) == 0, []) : null;
            for (var edits = random.Next(1, 3); edits > 0; edits--)
            {
                stored.Add((author, new HistoryEntry(stored.Count + 1, step, undone)));
            }

            // Another server's are not heard of.
            if (random.Next(10) > 0)
            {
                followed.Follow(author, before, [.. stored.Skip(before).Select(s => s.Entry)]);
            }

            foreach (var person in people)
            {
                var history = followed.Of(person);
                if (history.UpTo == stored.Count)
                {
                    current++;
                }
                else if (random.Next(3) == 0)
                {
                    history.Record(stored.Where(s => s.Author == person).Select(s => s.Entry), stored.Count);
                }
                else
                {
                    continue;
                }

                Assert.Equal(Read(person).Next(false, []), history.Next(false, []));
                Assert.Equal(Read(person).Next(true, []), history.Next(true, []));
            }
        }

        Assert.InRange(current, 400, 1199);

        UndoHistory Read(Guid person)
        {
            var all = new UndoHistory();
            all.Record(stored.Where(s => s.Author == person).Select(s => s.Entry), stored.Count);
            return all;
        }
    }

    [Fact]
    public void Taking_a_layout_back_keeps_what_was_written_added_and_taken_out_since()
    {
        Document before = GovernedLibrary.Built("built") with
        {
            Row = new Row
            {
                Id = "built",
                Columns =
                [
                    new Column
                    {
                        Id = "left",
                        Parts = 2,
                        Blocks = [GovernedLibrary.Block("a", "heading"), GovernedLibrary.Block("b", "text")],
                    },
                    new Column { Id = "right", Blocks = [GovernedLibrary.Block("c", "divider")] },
                ],
            },
        };
        var layout = new SetLayout("built", [new ColumnShare("left", 1)]);
        var back = Inverses.RoundTrip(layout.Invert(before));
        var since = new Edit[]
        {
            new SetFill("built", "a", "text", new FieldValue.Words("Written since")),
            new InsertBlock("built", "left", 0, GovernedLibrary.Block("d", "divider")),
            new RemoveBlock("built", "b"),
        }.Aggregate(layout.Apply(before), (d, e) => e.Apply(d));

        var row = ((SavedRow)back.Apply(since)).Row;
        Assert.Equal(
            ["left: 2: a d", "right: 1: c"],
            row.Columns.Select(c => $"{c.Id}: {c.Parts}: {string.Join(' ', c.Blocks.Select(b => b.Id))}")
        );
        Assert.Equal("Written since", ((FieldValue.Words)row.Blocks.First().Content["text"]).Text);
        Assert.Equal(Inverses.Json(before), Inverses.Json(back.Apply(layout.Apply(before))));
    }
}
