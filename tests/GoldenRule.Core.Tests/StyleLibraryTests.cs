using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Releases;
using GoldenRule.Core.Specimens;

namespace GoldenRule.Core.Tests;

/// <summary>Where variables are used, what releases change, and what would be read where something cannot be.</summary>
public sealed class StyleLibraryTests
{
    [Fact]
    public void Uses_name_styles_variables_rows_and_templates()
    {
        var rows = Larkfell.Rows;
        var uses = VariableUses.Find(Larkfell.Style, VariableUses.OfMasters(rows, []));
        Assert.Contains(uses["accent"], u => u is { Kind: UserKind.Style, Id: "primary/fill", Name: "Primary button, fill" });
        Assert.Contains(uses["accent"], u => u is { Kind: UserKind.Variable, Id: "link-ink" });
        Assert.Contains(uses["buffer-red"], u => u is { Kind: UserKind.Variable, Id: "accent" });
        Assert.Contains(uses["postal-address"], u => u.Kind == UserKind.Row);
        Assert.Contains(uses["logo"], u => u.Kind == UserKind.Row);
        // Every reference in the demo's files is found: counted by their text alone.
        var written = rows.Sum(r =>
            System.Text.RegularExpressions.Regex.Matches(DocumentJson.Write(r.Row), "\"\\{[a-z-]+\\}\"|\"variable\":\"[a-z-]+\"").Count
        );
        Assert.Equal(written, uses.SelectMany(u => u).Count(u => u.Kind == UserKind.Row));
    }

    [Fact]
    public void A_difference_says_values_before_and_after_and_the_styles_they_touch()
    {
        var after = Larkfell
            .HouseStyle.WithVariable(Larkfell.HouseStyle.FindVariable("buffer-red")! with { Value = "#112233" })
            .WithStyle("body", "size", "17")
            .WithStyle("divider", "colour", null);
        after = (HouseStyle)new RenameVariable("moor", "heath").Apply(after);
        after = (HouseStyle)new ReplaceVariable("plain-face", "reading-face").Apply(after);
        var changes = StyleDifference.Between(Larkfell.Style, new StyleLayers(after));

        var red = changes.Single(c => c.Variable == "buffer-red");
        Assert.Equal((ChangeKind.Changed, "#8e2a1c", "#112233"), (red.Kind, red.Before, red.After));
        Assert.Equal(
            ["Content area, links", "Primary button, border", "Primary button, fill", "Tinted area, links"],
            red.Touches.Order(StringComparer.Ordinal)
        );
        var size = changes.Single(c => c.Name == "Body text, size");
        Assert.Equal((ChangeKind.Changed, "Body size", "17"), (size.Kind, size.Before, size.After));
        Assert.Equal(
            (ChangeKind.Removed, "Ruled line"),
            (changes.Single(c => c.Name == "Divider, colour").Kind, changes.Single(c => c.Name == "Divider, colour").Before)
        );
        Assert.Equal(ChangeKind.Renamed, changes.Single(c => c.Variable == "heath").Kind);
        Assert.Equal(
            (ChangeKind.Removed, "led on to Reading face"),
            (changes.Single(c => c.Variable == "plain-face").Kind, changes.Single(c => c.Variable == "plain-face").After)
        );
        Assert.Equal(5, changes.Length);
        Assert.Empty(StyleDifference.Between(Larkfell.Style, new StyleLayers(Larkfell.HouseStyle)));
        Assert.Equal(
            ChangeKind.Moved,
            Assert
                .Single(
                    StyleDifference.Between(
                        Larkfell.Style,
                        new StyleLayers((HouseStyle)new MoveVariable("moor", 0).Apply(Larkfell.HouseStyle))
                    )
                )
                .Kind
        );
    }

    /// <summary>
    /// Whatever colours are set, each remedy offered for a pair makes that pair pass and changes nothing but what it names.
    /// </summary>
    [Property(MaxTest = 60)]
    public Property Every_remedy_makes_its_pair_pass() => Prop.ForAll(Gen.Choose(0, 0xffffff).ListOf(4).ToArbitrary(), colours =>
        {
            var style = new[] { "accent", "tint", "soot", "ticket-cream" }
                .Zip(colours)
                .Aggregate(Larkfell.HouseStyle, (s, c) => s.WithVariable(s.FindVariable(c.First)! with { Value = $"#{c.Second:x6}" }));
            var layers = new StyleLayers(style);
            return Legibility
                .ForStyle(layers)
                .Where(p => !p.Reading.Passes)
                .All(pair =>
                {
                    var remedies = Legibility.Remedies(pair, layers).ToList();
                    return remedies.Exists(r => r.Brand is null)
                        && remedies.TrueForAll(remedy =>
                        {
                            var after = Legibility
                                .ForStyle(new StyleLayers((HouseStyle)remedy.Edit.Apply(style)))
                                .Single(p =>
                                    p.Reading.Dark == pair.Reading.Dark && p.TextAt == pair.TextAt && p.Background == pair.Background
                                );
                            // Where text and background follow one variable, no single change can tell them apart.
                            return after.Reading.Passes || Shared(layers, pair);
                        });
                });
        });

    /// <summary>Rows used to be stored with their blocks a second time, outside the columns; what was stored so is still read.</summary>
    [Fact]
    public void A_row_stored_with_its_blocks_twice_is_read()
    {
        var row = Larkfell.Rows[0].Row;
        var stored = System.Text.Json.Nodes.JsonNode.Parse(DocumentJson.Write(row))!;
        Assert.Null(stored["row"]!["blocks"]);
        stored["row"]!["blocks"] = System.Text.Json.Nodes.JsonNode.Parse(DocumentJson.Write(row.Row.Columns[0].Blocks));
        Assert.Equal(DocumentJson.Write(row), DocumentJson.Write(DocumentJson.ReadDocument<SavedRow>(stored.ToJsonString())));
    }

    [Fact]
    public void The_table_has_the_ratio_of_the_smallest_text_that_uses_a_colour()
    {
        var large = new StyleLayers(Larkfell.HouseStyle.WithStyle("small", "size", "24").WithStyle("footer", "size", "24"));
        Assert.Equal(3, Legibility.ForStyle(large).First(p => p.Reading.What == "Small print").Reading.Needed);
        var mixed = new StyleLayers(Larkfell.HouseStyle.WithStyle("small", "size", "24").WithStyle("footer", "size", "14"));
        Assert.Equal(4.5, Legibility.ForStyle(mixed).First(p => p.Reading.What == "Small print").Reading.Needed);
    }

    [Fact]
    public void Every_property_of_every_style_is_shown_by_a_piece_of_the_specimen_or_by_the_sheet_itself()
    {
        var shown = Specimen.Shows.Values.SelectMany(s => s).ToHashSet();
        var all = GlobalStyles.All.Where(s => s.Name != "page").SelectMany(s => s.Properties.Select(p => (s.Name, p.Name))).ToList();
        Assert.DoesNotContain(all, p => !shown.Contains(p) && p.Item1 is not ("content" or "tint" or "strong"));
        Assert.Equal("Heading 3 on the tinted area", Specimen.Label("tint-0"));
    }

    private static bool Shared(StyleLayers layers, LegibilityPair pair) =>
        layers[pair.TextAt.Style, pair.TextAt.Property]
            .Through.Intersect(layers[pair.BackgroundAt.Style, pair.BackgroundAt.Property].Through, StringComparer.Ordinal)
            .Any();
}
