using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Tests;

public sealed class HouseStyleTests
{
    private static BrandVariable Colour(string key, string value, string? dark = null) =>
        new()
        {
            Key = key,
            Label = key,
            Type = VariableType.Colour,
            Value = value,
            Dark = dark,
        };

    private static HouseStyle With(params BrandVariable[] variables) => new() { Name = "House", Variables = [.. variables] };

    [Fact]
    public void A_circle_of_variables_is_refused_with_its_path()
    {
        var fault = Assert.Throws<StructureException>(() =>
            new StyleLayers(With(Colour("a", "{b}"), Colour("b", "{c}"), Colour("c", "{a}")))
        );
        Assert.Contains("a → b → c → a", fault.Message, StringComparison.Ordinal);
    }

    [Fact]
    public void A_circle_by_way_of_dark_values_is_refused_too() =>
        Assert.ThrowsAny<StructureException>(() =>
            new StyleLayers(With(Colour("a", "#000000", "{a}")).WithStyle("content", "text", "{a}"))
        );

    [Theory]
    [InlineData("content", "text", "{nothing}", "nothing")]
    [InlineData("content", "text", "{size}", "type")]
    [InlineData("content", "text", "red", "#rrggbb")]
    [InlineData("body", "size", "large", "number")]
    [InlineData("body", "font", "Georgia", "font stack")]
    [InlineData("body", "font", "x;color:red, serif", "font stack")]
    public void What_cannot_be_resolved_is_refused_and_names_the_place(string style, string property, string value, string said)
    {
        var house = With(
                new BrandVariable
                {
                    Key = "size",
                    Label = "Size",
                    Type = VariableType.Number,
                    Value = "16",
                }
            )
            .WithStyle(style, property, value);
        var fault = Assert.Throws<StructureException>(() => new StyleLayers(house));
        Assert.Contains(said, fault.Message, StringComparison.Ordinal);
        Assert.Contains(style, fault.Message, StringComparison.Ordinal);
    }

    [Fact]
    public void A_sub_brand_says_only_what_differs_and_the_nearest_wins()
    {
        var layers = new StyleLayers(Larkfell.HouseStyle, Larkfell.Tearooms);
        Assert.Equal("#8f3f35", layers.Value("primary", "fill"));
        Assert.Equal("#8e2a1c", Larkfell.Style.Value("primary", "fill"));
        Assert.Equal(Larkfell.Style.Value("body", "font"), layers.Value("body", "font"));
        Assert.Equal("accent", Assert.Single(layers["primary", "fill"].Through));
        Assert.Equal("Larkfell", layers["primary", "fill"].Layers.Single().Layer);
    }

    [Fact]
    public void A_dark_value_stands_for_its_variable_wherever_it_is_followed()
    {
        var layers = new StyleLayers(
            With(Colour("ink", "#000000", "#eeeeee"), Colour("text", "{ink}")).WithStyle("content", "text", "{text}")
        );
        Assert.Equal(("#000000", "#eeeeee"), (layers["content", "text"].Value, layers["content", "text"].Dark));
    }

    /// <summary>
    /// Over random graphs: changing one variable changes what refers to it, through any number of others, and nothing else.
    /// </summary>
    [Property(MaxTest = 200)]
    public Property Changing_a_variable_changes_what_follows_it_and_no_more() =>
        Prop.ForAll(Gen.Choose(-1, 100).ListOf(12).ToArbitrary(), Gen.Choose(0, 11).ToArbitrary(), (links, changed) =>
        {
            // Variable i refers to an earlier one or to none, so that there is no circle.
            var parents = links.Select((l, i) => l < 0 || i == 0 ? -1 : l % i).ToArray();
            string Value(int i) => parents[i] < 0 ? $"#{i:x2}0000" : $"{{v{parents[i]}}}";
            var before = With([.. parents.Select((_, i) => Colour($"v{i}", Value(i)))]);
            var after = before.WithVariable(Colour($"v{changed}", "#00ff00"));
            bool Follows(int i) => i == changed || (parents[i] >= 0 && Follows(parents[i]));

            var (old, now) = (new StyleLayers(before), new StyleLayers(after));
            return Enumerable
                .Range(0, parents.Length)
                .All(i => Follows(i) ? now.Variable($"v{i}", "") == "#00ff00" : now.Variable($"v{i}", "") == old.Variable($"v{i}", ""));
        });
}
