using System.Collections.Immutable;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Tests;

/// <summary>What is taken over from before an edit is what would be made anew, and no more is made than must be.</summary>
public sealed class TakenOverTests
{
    private static readonly Zone Zone = new()
    {
        Id = "zone",
        Name = "Anything",
        Most = 60,
    };

    // A content area with space, border and corners of its own, which the rows at its two ends carry.
    private static readonly StyleLayers Style = new(
        Larkfell
            .HouseStyle.WithStyle("content", "borderWidth", "2")
            .WithStyle("content", "radius", "8")
            .WithStyle("content", "outerSpace", "24")
    );

    private static readonly PlacedRow Top = Row("top", "heading");

    private static readonly Template Template = new()
    {
        Name = "x",
        CampaignType = "",
        HouseStyle = Guid.Empty,
        Order = [Top, Zone, Row("foot", "text")],
    };

    private static readonly Template ZoneAlone = Template with { Order = [Zone] };

    [Property(MaxTest = 500)]
    public Property Whatever_is_edited_the_result_is_that_of_making_all_anew() =>
        Prop.ForAll(Gen.Choose(0, 1 << 20).ListOf(12).ToArbitrary(), Gen.Elements(Template, ZoneAlone).ToArbitrary(), (steps, template) =>
        {
            var email = new Email
            {
                Name = "x",
                Template = Guid.Empty,
                TemplateRelease = 0,
            };
            var (resolved, compiled, inspected) = Make(email, template, default);
            foreach (var step in steps)
            {
                email = Edit(email, step);
                var fresh = Make(email, template, default);
                var before = (resolved, compiled, inspected);
                (resolved, compiled, inspected) = Make(email, template, before);

                Assert.Equal(fresh.Compiled.HtmlText(), compiled.HtmlText());
                Assert.Equal(fresh.Compiled.PlainText(), compiled.PlainText());
                Assert.Equal(fresh.Compiled.Rows.Select(r => r.Place), compiled.Rows.Select(r => r.Place));
                Assert.Equal(Findings(fresh.Inspected), Findings(inspected));

                foreach (
                    var (was, now) in before.resolved.Order.Rows.Join(resolved.Order.Rows, r => r.Id, r => r.Id, (was, now) => (was, now))
                )
                {
                    Assert.Equal(
                        ReferenceEquals(was.Placed, now.Placed) && ReferenceEquals(was.Fills, now.Fills),
                        ReferenceEquals(was, now)
                    );
                }

                foreach (
                    var (was, now) in before.compiled.Rows.Join(compiled.Rows, r => r.Source.Id, r => r.Source.Id, (was, now) => (was, now))
                )
                {
                    var same =
                        ReferenceEquals(was.Source.Source, now.Source.Source)
                        && was.Place == now.Place
                        && was.Html.Span.SequenceEqual(now.Html.Span);
                    Assert.Equal(same, ReferenceEquals(was, now));
                }
            }
        });

    [Fact]
    public void In_a_template_too_rows_that_stand_elsewhere_now_stay_the_same()
    {
        var former = RunningOrder.From(Template, GovernedLibrary.Masters);
        var now = RunningOrder.From(
            Template with
            {
                Order = [Row("new", "text"), Template.Order[2], Zone, Top],
            },
            GovernedLibrary.Masters,
            former
        );
        Assert.Equal(["new", "foot", "top"], now.Rows.Select(r => r.Id));
        Assert.Same(former.Rows[1], now.Rows[1]);
        Assert.Same(former.Rows[0], now.Rows[2]);
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(4)]
    public void Space_border_and_corners_of_the_content_area_lie_at_its_ends(int count)
    {
        var email = new Email
        {
            Name = "x",
            Template = Guid.Empty,
            TemplateRelease = 0,
            Zones = ImmutableSortedDictionary<string, ImmutableArray<PlacedRow>>.Empty.Add(
                Zone.Id,
                [.. Enumerable.Range(0, count).Select(i => Row($"row{i}", "divider"))]
            ),
        };
        var rows = Make(email, ZoneAlone, default).Compiled.Rows;
        for (var i = 0; i < count; i++)
        {
            var (first, last) = (i == 0, i == count - 1);
            // A parser's reading of the row: the cell around it, and the content area in that.
            var cell = new AngleSharp.Html.Parser.HtmlParser()
                .ParseDocument(System.Text.Encoding.UTF8.GetString(rows[i].Html.Span))
                .QuerySelector("td")!;
            var area = cell.QuerySelector("div")!
                .GetAttribute("style")!
                .Split(';')
                .Select(d => d.Split(':', 2))
                .Where(d => d.Length == 2)
                .ToDictionary(d => d[0], d => d[1], StringComparer.Ordinal);
            Assert.Equal($"padding:{(first ? 24 : 0)}px 0 {(last ? 24 : 0)}px", cell.GetAttribute("style"));
            Assert.Equal(
                (true, true, first, last),
                (
                    area.ContainsKey("border-left"),
                    area.ContainsKey("border-right"),
                    area.ContainsKey("border-top"),
                    area.ContainsKey("border-bottom")
                )
            );
            Assert.StartsWith("2px solid ", area["border-left"], StringComparison.Ordinal);
            Assert.Equal(
                first || last ? $"{(first ? "8px 8px" : "0px 0px")} {(last ? "8px 8px" : "0px 0px")}" : null,
                area.GetValueOrDefault("border-radius")
            );
        }
    }

    private static (ResolvedEmail Resolved, CompiledEmail Compiled, Inspected Inspected) Make(
        Email email,
        Template template,
        (ResolvedEmail Resolved, CompiledEmail Compiled, Inspected Inspected) former
    )
    {
        var order = RunningOrder.From(email, template, GovernedLibrary.Masters, former.Resolved?.Order);
        var resolved = Resolver.Resolve(email, order, Style, PictureCatalog.Empty, former.Resolved);
        var compiled = Compiler.Compile(resolved, "", Purpose.Sending, former.Compiled);
        return (resolved, compiled, CheckList.Run(new Inspection(resolved, compiled, CheckContext.Usual), former.Inspected));
    }

    private static IEnumerable<(string, Place, string)> Findings(Inspected inspected) =>
        inspected.Findings.Select(f => (f.Check, f.Place, f.Message));

    // Adds, takes out, moves, rewrites or swaps, in the zone or in the template's own row.
    private static Email Edit(Email email, int step)
    {
        var rows = email.Zones.GetValueOrDefault(Zone.Id, []);
        var (act, at, other) = (step % 6, rows.IsEmpty ? 0 : step / 6 % rows.Length, rows.IsEmpty ? 0 : step / 400 % rows.Length);
        return act switch
        {
            0 or 1 => In(rows.Insert(at, Row($"row{step}", Kinds[step / 6 % Kinds.Length]))),
            _ when rows.IsEmpty => email with { Fills = email.Fills.SetItem(Top.Id, Says(step)) },
            2 => In(rows.RemoveAt(at)),
            3 => In(rows.RemoveAt(at).Insert(other % Math.Max(1, rows.Length - 1), rows[at])),
            4 => In(rows.SetItem(at, rows[at] with { Fills = Says(step) })),
            _ => In(rows.SetItem(at, rows[other]).SetItem(other, rows[at])),
        };

        Email In(ImmutableArray<PlacedRow> changed) => email with { Zones = email.Zones.SetItem(Zone.Id, changed) };
    }

    private static readonly string[] Kinds = ["heading", "contents", "divider", "narrowed"];

    private static ImmutableSortedDictionary<string, PieceFill> Says(int step) =>
        ImmutableSortedDictionary<string, PieceFill>.Empty.Add(
            "block",
            new PieceFill { Shown = step % 2 == 0 ? Visibility.DesktopOnly : null }
        );

    // Headings stand in contents lists, which stand in other rows; a row may narrow the house style for itself.
    private static PlacedRow Row(string id, string kind)
    {
        var block = BlockKinds.All.Single(k => k.Name == (kind == "narrowed" ? "text" : kind)).New("block");
        block =
            kind == "heading"
                ? block with
                {
                    Content = block.Content.SetItem("text", new FieldValue.Words($"Heading of {id}")),
                    Look = block.Look.SetItem("named", "yes"),
                }
                : block;
        var saved = new SavedRow
        {
            Name = id,
            RowKind = RowKind.Main,
            Row = new Row { Id = "row", Columns = [new Column { Id = "column", Blocks = [block] }] },
        };
        return new PlacedRow
        {
            Id = id,
            Own =
                kind == "narrowed"
                    ? saved with
                    {
                        Narrowed = saved.Narrowed.Add(
                            Larkfell.HouseStyle.Variables.First(v => v.Type == VariableType.Colour).Key,
                            new NarrowedValue("#004488")
                        ),
                    }
                    : saved,
        };
    }
}
