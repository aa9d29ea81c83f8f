using System.Collections.Immutable;
using System.Text.Json.Nodes;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Interchange;
using GoldenRule.Core.Releases;
using GoldenRule.Core.Validation;

namespace GoldenRule.Core.Tests;

/// <summary>What cannot be is refused with the place named, whoever asks for it.</summary>
public class StructureTests
{
    private static Template Template => GovernedLibrary.Template;

    public static TheoryData<string, Func<Document>, string> Impossible =>
        new()
        {
            { "least above most", () => Zone(z => z with { Least = 5, Most = 2 }), "free" },
            { "a zone of nothing", () => Zone(z => z with { Most = 0 }), "free" },
            { "a zone that begins with what it does not take", () => Zone(z => z with { Accepts = [RowKind.Footer] }), "first" },
            {
                "a zone that begins with more than it takes",
                () => Zone(z => z with { Least = 0, Most = 1, Default = [z.Default[0], z.Default[0] with { Id = "again" }] }),
                "free"
            },
            { "a row in two places", () => Template with { Order = [.. Template.Order, Template.Order[0]] }, "mast" },
            {
                "a lock loosened",
                () =>
                    Placed("mast", p =>
                        p with
                        {
                            Rules = p.Rules.Add("title", new PieceRules { Locks = new Locks { Content = new Lock.Open() } }),
                        }
                    ),
                "mast/title"
            },
            {
                "a reservation widened",
                () =>
                    Placed("hero", p =>
                        p with
                        {
                            Rules = p.Rules.Add(
                                "words",
                                new PieceRules
                                {
                                    Locks = new Locks { Content = new Lock.Reserved { Roles = [Role.Designer, Role.Author] } },
                                }
                            ),
                        }
                    ),
                "hero/words"
            },
            {
                "rules for no piece",
                () => Placed("hero", p => p with { Rules = p.Rules.Add("ghost", new PieceRules { Instruction = "x" }) }),
                "hero/ghost"
            },
            {
                "a fill of no piece",
                () =>
                    Placed("hero", p =>
                        p with
                        {
                            Fills = p.Fills.Add("ghost", new PieceFill { Look = new PieceFill().Look.Add("style", "primary") }),
                        }
                    ),
                "hero/ghost"
            },
            {
                "a fill of the wrong type",
                () =>
                    Placed("hero", p =>
                        p with
                        {
                            Fills = p.Fills.Add(
                                "headline",
                                new PieceFill { Content = new PieceFill().Content.Add("text", new FieldValue.Flag(true)) }
                            ),
                        }
                    ),
                "hero/headline"
            },
            { "a saved row nobody knows", () => Placed("hero", p => p with { Release = 99 }), "hero" },
            { "neither saved nor own", () => Placed("hero", p => p with { Master = null }), "hero" },
            {
                "an own row with fills beside it",
                () => Placed("own", p => p with { Fills = p.Fills.Add("note", new PieceFill { Shown = Visibility.PhoneOnly }) }),
                "own"
            },
            { "an unknown block kind", () => Row(b => b with { Kind = "hologram" }), "headline" },
            { "an unknown field", () => Row(b => b with { Content = b.Content.Add("glow", new FieldValue.Words("x")) }), "headline" },
            { "a look that no kind has", () => Row(b => b with { Look = b.Look.SetItem("level", "9") }), "headline" },
            { "an offer that no kind has", () => Row(b => b with { Offers = b.Offers.Add("level", ["9"]) }), "headline" },
            { "a limit of no field", () => Row(b => b with { Limits = b.Limits.Add("glow", new Limit { Characters = 3 }) }), "headline" },
            {
                "a limit that leaves no room",
                () => Row(b => b with { Limits = b.Limits.Add("text", new Limit { Characters = 0 }) }),
                "headline"
            },
            {
                "items that contradict",
                () => Row(b => b with { Limits = b.Limits.Add("text", new Limit { ItemsLeast = 4, ItemsMost = 2 }) }),
                "headline"
            },
            {
                "a shape that is none",
                () => Row(b => b with { Limits = b.Limits.Add("text", new Limit { PictureRatio = "wide" }) }),
                "headline"
            },
            {
                "a host that is none",
                () => Row(b => b with { Limits = b.Limits.Add("text", new Limit { Hosts = ["not a host"] }) }),
                "headline"
            },
            {
                "five columns",
                () =>
                    GovernedLibrary.Main with
                    {
                        Row = GovernedLibrary.Main.Row with
                        {
                            Columns = [.. Enumerable.Range(0, 5).Select(i => new Column { Id = $"c{i}" })],
                        },
                    },
                "story"
            },
            {
                "a column of no width",
                () => GovernedLibrary.Main with { Row = GovernedLibrary.Main.Row with { Columns = [new Column { Id = "c", Parts = 0 }] } },
                "c"
            },
            {
                "an id used twice",
                () => GovernedLibrary.Main with { Row = GovernedLibrary.Main.Row with { Columns = [new Column { Id = "story" }] } },
                "story"
            },
            {
                "an email's zone that its template lacks",
                () => GovernedLibrary.Email with { Zones = GovernedLibrary.Email.Zones.Add("ghost", []) },
                "ghost"
            },
        };

    [Theory]
    [MemberData(nameof(Impossible))]
    public void What_cannot_be_is_refused_with_its_place(string what, Func<Document> make, string place)
    {
        var fault = Assert.Throws<StructureException>(() => Structure.Complete(make(), GovernedLibrary.Masters));
        Assert.True(fault.Piece == place, $"{what}: refused at {fault.Piece}, not at {place}: {fault.Message}");
        Assert.EndsWith(".", fault.Message, StringComparison.Ordinal);
    }

    [Fact]
    public void What_can_be_passes()
    {
        foreach (
            var document in (Document[])
                [
                    Template,
                    GovernedLibrary.Main,
                    GovernedLibrary.Email,
                    .. Larkfell.Rows.Select(r => r.Row),
                    .. Larkfell.Emails.Select(e => e.Email),
                ]
        )
        {
            Structure.Complete(
                document,
                document == GovernedLibrary.Email || document is Template || document == (Document)GovernedLibrary.Main
                    ? GovernedLibrary.Masters
                    : Larkfell.Masters
            );
        }

        Structure.Complete(Placed("mast", p => p with { Rules = p.Rules.Add(
                        "strap",
                        new PieceRules
                        {
                            Locks = new Locks { Content = new Lock.Sealed() },
                            Limits = new PieceRules().Limits.Add("text", new Limit { Characters = 10 }),
                        }
                    ) }), GovernedLibrary.Masters);
    }

    [Fact]
    public void A_limit_of_the_saved_row_is_tightened_and_never_loosened()
    {
        var saved = GovernedLibrary.Main with
        {
            Row = RowWith(b => b with { Limits = b.Limits.Add("text", new Limit { Characters = 40, Hosts = ["example.org"] }) }),
        };
        var masters = GovernedLibrary.Masters.With([KeyValuePair.Create((GovernedLibrary.MainId, 1), saved)]);
        Template With(Limit limit) =>
            Placed("hero", p =>
                p with
                {
                    Rules = p.Rules.SetItem("headline", new PieceRules { Limits = new PieceRules().Limits.Add("text", limit) }),
                }
            );
        Structure.Complete(
            With(
                new Limit
                {
                    Characters = 30,
                    Words = 5,
                    Hosts = ["shop.example.org"],
                }
            ),
            masters
        );
        Assert.Throws<StructureException>(() => Structure.Complete(With(new Limit { Characters = 50 }), masters));
        Assert.Throws<StructureException>(() => Structure.Complete(With(new Limit { Hosts = ["example.net"] }), masters));
        var ruled = RunningOrder.From(With(new Limit { Words = 5 }), masters).Find("hero")!.FindBlock("headline")!.Limits["text"];
        Assert.Equal((40, 5), (ruled.Characters, ruled.Words));
    }

    [Fact]
    public void Variants_do_not_lead_in_a_circle()
    {
        var (a, b, c) = (Guid.NewGuid(), Guid.NewGuid(), Guid.NewGuid());
        var known = new Dictionary<Guid, Guid?>
        {
            [a] = null,
            [b] = a,
            [c] = b,
        };
        Structure.CheckVariants(Guid.NewGuid(), GovernedLibrary.Main with { VariantOf = c }, known);
        Assert.Throws<StructureException>(() => Structure.CheckVariants(a, GovernedLibrary.Main with { VariantOf = c }, known));
        Assert.Throws<StructureException>(() => Structure.CheckVariants(a, GovernedLibrary.Main with { VariantOf = a }, known));
    }

    [Fact]
    public void Format_one_is_read_as_what_it_means_now()
    {
        var row = DocumentJson.ReadDocument<SavedRow>(
            """
            {"format":1,"name":"Old","rowKind":"hero","row":{"id":"r","surface":"tint","fullWidth":true,
            "columns":[{"id":"c","blocks":[]}]}}
            """
        );
        Assert.Equal((Surface.Tint, true), (row.Row.Surface, row.Row.FullWidth));
        var template = DocumentJson.ReadDocument<Template>(
            """
            {"format":1,"name":"Old","campaignType":"t","houseStyle":"EMPTY","order":[{"kind":"placed","id":"p",
            "master":"MAIN","release":1,"pieceLocks":{"headline":{"content":{"kind":"sealed"}}}}]}
            """.Replace("EMPTY", Guid.Empty.ToString(), StringComparison.Ordinal).Replace(
                "MAIN",
                GovernedLibrary.MainId.ToString(),
                StringComparison.Ordinal
            )
        );
        Assert.IsType<Lock.Sealed>(((PlacedRow)template.Order[0]).Rules["headline"].Locks.Content);
        var edit = DocumentJson.ReadEdit<Edit>(
            """
            {"kind":"insert-row","zone":"z","index":0,"row":{"id":"p","master":"MAIN","release":1,"fills":{},
            "pieceLocks":{},"locks":{}}}
            """.Replace("EMPTY", Guid.Empty.ToString(), StringComparison.Ordinal).Replace(
                "MAIN",
                GovernedLibrary.MainId.ToString(),
                StringComparison.Ordinal
            )
        );
        Assert.Empty(((InsertRow)edit).Row.Rules);
        Assert.Equal(
            row,
            DocumentJson.ReadDocument<SavedRow>(DocumentJson.Write(row)) with
            {
                Row = row.Row,
                CampaignTypes = row.CampaignTypes,
                Tags = row.Tags,
                Narrowed = row.Narrowed,
            }
        );
    }

    [Fact]
    public void Every_starter_can_be_begun_with_in_any_house_style_and_every_kind_can_be_started()
    {
        foreach (
            var style in new[] { Larkfell.Style, new GoldenRule.Core.HouseStyles.StyleLayers([Larkfell.HouseStyle, Larkfell.Tearooms]) }
        )
        {
            foreach (var starter in Starters.All)
            {
                var template = Starters.Begin(starter.Name, style);
                Structure.Complete(template, GovernedLibrary.Masters);
                Assert.NotEmpty(RulesSummary.Write(template, GovernedLibrary.Masters));
                Assert.Contains(template.Order, i => i is PlacedRow { Own.RowKind: RowKind.Footer });
            }
        }

        foreach (var kind in BlockKinds.All)
        {
            Assert.Equal(Inverses.Json(Holding(kind.Start("b"))), Inverses.Json(BlockKinds.Complete(Holding(kind.Start("b")))));
        }

        static SavedRow Holding(Block block) =>
            GovernedLibrary.Main with
            {
                Row = new Row { Id = "r", Columns = [new Column { Id = "c", Blocks = [block] }] },
            };
    }

    private static Template Zone(Func<Zone, Zone> change) =>
        Template with
        {
            Order = [.. Template.Order.Select(i => i is Zone { Id: "free" } zone ? change(zone) : i)],
        };

    private static Template Placed(string id, Func<PlacedRow, PlacedRow> change) =>
        Template with
        {
            Order = [.. Template.Order.Select(i => i is PlacedRow placed && i.Id == id ? change(placed) : i)],
        };

    private static SavedRow Row(Func<Block, Block> change) => GovernedLibrary.Main with { Row = RowWith(change) };

    private static Row RowWith(Func<Block, Block> change)
    {
        var column = GovernedLibrary.Main.Row.Columns[0];
        return GovernedLibrary.Main.Row with { Columns = [column with { Blocks = column.Blocks.SetItem(0, change(column.Blocks[0])) }] };
    }
}
