using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Interchange;

namespace GoldenRule.Core.Tests;

/// <summary>Edits of a house style: exact inverses, and renames and replacements that break nothing.</summary>
public sealed class StyleEditTests
{
    private static readonly string[] Keys = ["engine-green", "buffer-red", "accent", "link-ink", "tint", "new-one", "another"];

    private static Edit Make(int kind, int a, int b, HouseStyle style)
    {
        var (key, other) = (Keys[a % Keys.Length], Keys[b % Keys.Length]);
        return (kind % 9) switch
        {
            0 => new SetVariable(
                new BrandVariable
                {
                    Key = key,
                    Label = $"Label {b}",
                    Type = VariableType.Colour,
                    Value = b % 3 == 0 ? "{" + other + "}" : $"#0000{b % 256:x2}",
                    Dark = b % 2 == 0 ? "#ffffff" : null,
                },
                b % 4 == 0 ? b % 9 : null
            ),
            1 => new RemoveVariable(key),
            2 => new RenameVariable(key, other),
            3 => new MoveVariable(key, b % (style.Variables.Length + 2)),
            4 => new ReplaceVariable(key, other),
            5 => new SetStyle("primary", b % 2 == 0 ? "fill" : "border", b % 3 == 0 ? null : "{" + key + "}"),
            6 => new SetName($"Name {b}"),
            7 => new RestoreHouseStyle(style with { Variables = style.Variables.RemoveAt(b % style.Variables.Length) }),
            _ => new RenameVariable(key, "new-" + key),
        };
    }

    /// <summary>
    /// Whatever is done, in any order, taking it back restores the very same house style, and replaying gives the very same end.
    /// </summary>
    [Property(MaxTest = 300)]
    public Property Every_edit_of_a_house_style_has_an_exact_inverse() =>
        Prop.ForAll(Gen.Choose(0, 10_000).ListOf(3).ListOf(14).ToArbitrary(), steps =>
            Inverses.Restore(
                Larkfell.HouseStyle,
                steps.Select(s => (Func<Document, Edit>)(style => Make(s[0], s[1], s[2], (HouseStyle)style)))
            )
        );

    [Fact]
    public void A_rename_changes_nothing_that_is_seen_and_undoing_it_frees_the_new_key()
    {
        var renamed = (HouseStyle)new RenameVariable("accent", "signal").Apply(Larkfell.HouseStyle);
        Assert.Equal(Values(new StyleLayers(Larkfell.HouseStyle)), Values(new StyleLayers(renamed)));
        // The sub-brand, the rows and the emails still say "accent".
        Assert.Equal("#8f3f35", new StyleLayers(renamed, Larkfell.Tearooms).Value("primary", "fill"));
        Assert.Equal("signal", new StyleLayers(renamed).Find("accent")!.Key);
        var back = (HouseStyle)new RenameVariable("accent", "signal").Invert(Larkfell.HouseStyle).Apply(renamed);
        Assert.Equal(DocumentJson.Write(Larkfell.HouseStyle), DocumentJson.Write(back));
        Assert.Null(new StyleLayers(back).Find("signal"));
    }

    [Fact]
    public void What_is_replaced_leads_to_its_heir_wherever_it_was_used()
    {
        var after = new StyleLayers((HouseStyle)new ReplaceVariable("accent", "engine-green").Apply(Larkfell.HouseStyle));
        Assert.Equal("#1f3a34", after.Value("primary", "fill"));
        Assert.Equal("engine-green", after.Find("accent")!.Key);
        Assert.Throws<StructureException>(() => new ReplaceVariable("accent", "body-size").Apply(Larkfell.HouseStyle));
        Assert.Throws<StructureException>(() => new ReplaceVariable("accent", "accent").Apply(Larkfell.HouseStyle));
    }

    [Theory]
    [InlineData("Accent")]
    [InlineData("1st")]
    [InlineData("")]
    [InlineData("a b")]
    public void A_key_that_references_could_not_write_is_refused(string key) =>
        Assert.Throws<StructureException>(() => new RenameVariable("accent", key).Apply(Larkfell.HouseStyle));

    [Fact]
    public void A_variable_keeps_its_type() =>
        Assert.Throws<StructureException>(() =>
            new SetVariable(
                new BrandVariable
                {
                    Key = "accent",
                    Label = "Accent",
                    Type = VariableType.Size,
                    Value = "3",
                }
            ).Apply(Larkfell.HouseStyle)
        );

    [Fact]
    public void A_size_can_be_written_in_a_plain_number_but_not_the_other_way_round()
    {
        var style = new HouseStyle
        {
            Name = "House",
            Variables =
            [
                new BrandVariable
                {
                    Key = "n",
                    Label = "N",
                    Type = VariableType.Number,
                    Value = "18",
                },
                new BrandVariable
                {
                    Key = "s",
                    Label = "S",
                    Type = VariableType.Size,
                    Value = "20",
                },
            ],
        };
        Assert.Equal("18", new StyleLayers(style.WithStyle("body", "size", "{n}")).Value("body", "size"));
        Assert.Throws<StructureException>(() => new StyleLayers(style.WithStyle("body", "lineHeight", "{s}")));
        Assert.Throws<StructureException>(() => new StyleLayers(style.WithStyle("body", "weight", "1200")));
        Assert.Throws<StructureException>(() => new StyleLayers(style.WithStyle("divider", "style", "wavy")));
    }

    /// <summary>The graph is random: the model walks it by itself and says what must differ after one variable changed.</summary>
    [Property(MaxTest = 200)]
    public Property Changing_one_variable_changes_every_place_that_leads_to_it_and_no_other() =>
        Prop.ForAll(
            Gen.Choose(-8, 100).ListOf(10).Two().ToArbitrary(),
            Gen.Choose(0, 9).ToArbitrary(),
            Gen.Choose(0, 9).ListOf(40).ToArbitrary(),
            (links, changed, uses) =>
            {
                // Variable i leads to an earlier one or to none, in light and dark apart, so that there is no circle.
                int[] To(IReadOnlyList<int> of) => [.. of.Select((l, i) => l < 0 || i == 0 ? -1 : l % i)];
                var (light, dark) = (To(links.Item1), To(links.Item2));
                string Value(int[] to, int i, int channel) => to[i] < 0 ? $"#{i:x2}{channel:x2}00" : $"{{v{to[i]}}}";
                var properties = GlobalStyles
                    .All.SelectMany(s => s.Properties.Where(p => p.Type == VariableType.Colour).Select(p => (s.Name, Property: p.Name)))
                    .Take(uses.Count)
                    .ToList();
                var before = properties
                    .Zip(uses)
                    .Aggregate(
                        new HouseStyle
                        {
                            Name = "House",
                            Variables =
                            [
                                .. Enumerable
                                    .Range(0, 10)
                                    .Select(i => new BrandVariable
                                    {
                                        Key = $"v{i}",
                                        Label = $"v{i}",
                                        Type = VariableType.Colour,
                                        Value = Value(light, i, 1),
                                        Dark = Value(dark, i, 2),
                                    }),
                            ],
                        },
                        (style, use) => style.WithStyle(use.First.Name, use.First.Property, $"{{v{use.Second}}}")
                    );
                var after = before.WithVariable(before.FindVariable($"v{changed}")! with { Value = "#00ff00", Dark = "#00ff01" });

                bool Leads(int[] to, int i) => i == changed || (to[i] >= 0 && Leads(to, to[i]));
                var (old, now) = (new StyleLayers(before), new StyleLayers(after));
                return properties
                        .Zip(uses)
                        .All(use =>
                        {
                            var (was, is_) = (old[use.First.Name, use.First.Property], now[use.First.Name, use.First.Property]);
                            return is_.Value == (Leads(light, use.Second) ? "#00ff00" : was.Value)
                                && is_.Dark == (Leads(dark, use.Second) ? "#00ff01" : was.Dark);
                        })
                    && GlobalStyles
                        .All.SelectMany(s => s.Properties.Select(p => (s.Name, p.Name)))
                        .Except(properties)
                        .All(p =>
                            old[p.Item1, p.Item2] is var o && now[p.Item1, p.Item2] is var n && (o.Value, o.Dark) == (n.Value, n.Dark)
                            || old[p.Item1, p.Item2].SameAs is not null
                        );
            }
        );

    [Fact]
    public void The_usual_variables_make_a_whole_look_in_which_everything_can_be_read()
    {
        var style = UsualVariables.Edits.Aggregate((Document)new HouseStyle { Name = "New" }, (document, edit) => edit.Apply(document));
        var layers = new StyleLayers((HouseStyle)style);
        Assert.All(Legibility.ForStyle(layers), p =>
            Assert.True(p.Reading.Passes, $"{p.Reading.What} on {p.Background}, dark: {p.Reading.Dark}, {p.Reading.Ratio:0.00}")
        );
        Assert.All(layers.Variables, v =>
            Assert.Contains(GlobalStyles.All.SelectMany(s => s.Properties.SelectMany(p => layers[s.Name, p.Name].Through)), k => k == v.Key)
        );
    }

    [Fact]
    public void A_template_and_a_row_narrow_a_variable_for_themselves_alone()
    {
        var order = RunningOrder.From(Larkfell.Gazette, Larkfell.Masters);
        var narrowed = order with
        {
            Template = (Template)new NarrowVariable("accent", new NarrowedValue("#123456", "#abcdef")).Apply(order.Template),
        };
        var email = Resolving.Resolver.Resolve(Larkfell.Gazette, narrowed, Larkfell.Style, Larkfell.Pictures);
        Assert.Equal(("#123456", "#abcdef"), (email.Style.Value("primary", "fill"), email.Style["primary", "fill"].Dark));
        Assert.Equal("#8e2a1c", Larkfell.Style.Value("primary", "fill"));
        Assert.Equal(["Larkfell", order.Template.Name], email.Style.Explain("accent").Layers.Select(l => l.Layer));
        var html = Compiling.Compiler.Compile(email, "", Compiling.Purpose.Sending).HtmlText();
        Assert.Contains("#123456", html, StringComparison.Ordinal);
        Assert.DoesNotContain("#8e2a1c", html, StringComparison.Ordinal);

        // One row alone: its button is another colour, in dark by rules of its own; the other rows stay.
        var row = order.Rows.First(r => r.Master.Row.Blocks.Any(b => b.Kind == "button"));
        var own = row with { Master = (SavedRow)new NarrowVariable("accent", new NarrowedValue("#654321", "#fedcba")).Apply(row.Master) };
        var whole = Resolving.Resolver.Resolve(
            Larkfell.Gazette,
            order with
            {
                Rows = order.Rows.Replace(row, own),
            },
            Larkfell.Style,
            Larkfell.Pictures
        );
        html = Compiling.Compiler.Compile(whole, "", Compiling.Purpose.Sending).HtmlText();
        Assert.Contains("background-color:#654321", html, StringComparison.Ordinal);
        Assert.Matches(@"\.bp-[0-9a-f]{8}\{background-color:#fedcba!important", html);
        Assert.Contains("#8e2a1c", html, StringComparison.Ordinal);
        Assert.Throws<StructureException>(() =>
            Larkfell.Style.ForTemplate("T", narrowed.Template.Narrowed.Add("nothing", new NarrowedValue("#000000")))
        );
    }

    private static List<(string, string)> Values(StyleLayers layers) =>
        [.. GlobalStyles.All.SelectMany(s => s.Properties.Select(p => (layers[s.Name, p.Name].Value, layers[s.Name, p.Name].Dark)))];
}
