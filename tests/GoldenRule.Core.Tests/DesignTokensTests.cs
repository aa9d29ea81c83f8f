using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Interchange;

namespace GoldenRule.Core.Tests;

/// <summary>
/// Design tokens out and in. The examples are those of the Design Tokens Format and Color modules 2025.10, W3C Design Tokens
/// Community Group, from memory.
/// </summary>
public sealed class DesignTokensTests
{
    private static readonly StyleLayers Empty = new(new HouseStyle { Name = "Empty" });

    [Theory]
    // 5.1: a token, its type said by itself.
    [InlineData("""{"token name":{"$value":"#123456","$type":"color"}}""", "token-name", VariableType.Colour, "#123456")]
    // 8.1 and the Color Module, 4.2: "Majestic magenta".
    [InlineData(
        """{"Majestic magenta":{"$type":"color","$value":{"colorSpace":"srgb","components":[1,0,1],"alpha":1,"hex":"#ff00ff"}}}""",
        "majestic-magenta",
        VariableType.Colour,
        "#ff00ff"
    )]
    [InlineData(
        """{"hot pink":{"$type":"color","$value":{"colorSpace":"hsl","components":[330,100,50],"alpha":1,"hex":"#ff0080"}}}""",
        "hot-pink",
        VariableType.Colour,
        "#ff0080"
    )]
    // A space that this program does not convert falls back on the hex form, as the module asks.
    [InlineData(
        """{"p":{"$type":"color","$value":{"colorSpace":"display-p3","components":[1,0,1],"hex":"#ff00ff"}}}""",
        "p",
        VariableType.Colour,
        "#ff00ff"
    )]
    // 8.2
    [InlineData(
        """{"spacing-stack-0":{"$value":{"value":0,"unit":"rem"},"$type":"dimension"}}""",
        "spacing-stack-0",
        VariableType.Size,
        "0"
    )]
    [InlineData(
        """{"spacing-stack-1":{"$value":{"value":0.25,"unit":"rem"},"$type":"dimension"}}""",
        "spacing-stack-1",
        VariableType.Size,
        "4"
    )]
    // As drafts before 2025 wrote it.
    [InlineData("""{"old size":{"$value":"16px","$type":"dimension"}}""", "old-size", VariableType.Size, "16")]
    // 8.3
    [InlineData(
        """{"Primary font":{"$value":"Comic Sans MS","$type":"fontFamily"}}""",
        "primary-font",
        VariableType.Font,
        "'Comic Sans MS', sans-serif"
    )]
    [InlineData(
        """{"Body font":{"$value":["Helvetica","Arial","sans-serif"],"$type":"fontFamily"}}""",
        "body-font",
        VariableType.Font,
        "Helvetica, Arial, sans-serif"
    )]
    // 8.4
    [InlineData("""{"font-weight-default":{"$value":350,"$type":"fontWeight"}}""", "font-weight-default", VariableType.Weight, "350")]
    [InlineData("""{"font-weight-thick":{"$value":"extra-bold","$type":"fontWeight"}}""", "font-weight-thick", VariableType.Weight, "800")]
    // 8.7
    [InlineData("""{"line-height-large":{"$value":2.3,"$type":"number"}}""", "line-height-large", VariableType.Number, "2.3")]
    // 6.4: the group says the type.
    [InlineData("""{"brand":{"$type":"color","acid green":{"$value":"#00ff66"}}}""", "acid-green", VariableType.Colour, "#00ff66")]
    // 6.2: the token that stands for its group.
    [InlineData("""{"accent":{"$root":{"$type":"color","$value":"#dd0000"}}}""", "accent", VariableType.Colour, "#dd0000")]
    public void The_modules_examples_are_read(string json, string key, VariableType type, string value)
    {
        var found = DesignTokensReader.Read(json);
        Assert.Empty(found.Left);
        var variable = Assert.Single(found.Variables).Variable;
        Assert.Equal((key, type, value), (variable.Key, variable.Type, variable.Value));
        Assert.Equal(ImportAction.Added, Assert.Single(ImportPlan.Make(found, Empty)).Action);
    }

    /// <summary>Sections 7.1 and 7.2: an alias by braces, one by a JSON Pointer, and one through another.</summary>
    [Theory]
    [InlineData("\"{group name.token name}\"")]
    [InlineData("{\"$ref\":\"#/group name/token name/$value\"}")]
    public void Aliases_stay_aliases(string alias)
    {
        var found = DesignTokensReader.Read(
            $$$"""
            {"group name":{"token name":{"$value":1234,"$type":"number"}},"alias name":{"$value":{{{alias}}}},
            "again":{"$value":"{alias name}"}}
            """
        );
        Assert.Equal(["1234", "{token-name}", "{alias-name}"], found.Variables.Select(v => v.Variable.Value));
        Assert.All(found.Variables, v => Assert.Equal(VariableType.Number, v.Variable.Type));
        Assert.Equal("group name", found.Variables[0].Variable.Group);
    }

    [Theory]
    [InlineData("""{"a":{"$value":"{b}"},"b":{"$value":"{a}"}}""", "a", "circle")]
    [InlineData("""{"a":{"$value":"{nowhere}"}}""", "a", "not in the file")]
    [InlineData(
        """{"s":{"$type":"shadow","$value":{"color":"#000000","offsetX":"1px","offsetY":"1px","blur":"1px","spread":"0px"}}}""",
        "s",
        "shadow"
    )]
    [InlineData(
        """{"t":{"$type":"color","$value":{"colorSpace":"srgb","components":[0,0,0],"alpha":0.5,"hex":"#000000"}}}""",
        "t",
        "email can show"
    )]
    [InlineData("""{"n":{"$value":12}}""", "n", "$type")]
    [InlineData("""{"d":{"$type":"dimension","$value":{"value":5,"unit":"cm"}}}""", "d", "dimension")]
    public void What_cannot_be_taken_over_is_named_with_its_reason(string json, string place, string said)
    {
        var left = Assert.Single(ImportPlan.Make(DesignTokensReader.Read(json), Empty), s => s.Place == place);
        Assert.Equal(ImportAction.Left, left.Action);
        Assert.Contains(said, left.Reason, StringComparison.Ordinal);
        Assert.Null(left.Edit);
    }

    [Theory]
    [InlineData("{\n  \"a\": {", "line 2")]
    [InlineData("[]", "JSON object")]
    [InlineData("{\"a\":{}}", "no design tokens")]
    public void A_file_that_is_none_is_refused_and_says_where(string json, string said) =>
        Assert.Contains(said, Assert.Throws<StructureException>(() => DesignTokensReader.Read(json)).Message, StringComparison.Ordinal);

    [Fact]
    public void The_demos_variables_survive_a_round_trip_whole()
    {
        var back = Imported(DesignTokens.Write(Larkfell.Style));
        Assert.Equal(Larkfell.HouseStyle.Variables.Select(v => DocumentJson.Write(v)), back.Variables.Select(v => DocumentJson.Write(v)));
        Assert.All(ImportPlan.Make(DesignTokensReader.Read(DesignTokens.Write(Larkfell.Style)), Larkfell.Style), s =>
            Assert.Equal(ImportAction.Same, s.Action)
        );
    }

    /// <summary>
    /// Random variables of every type, grouped, described, renamed, referring to one another: all come back as they were.
    /// </summary>
    [Property(MaxTest = 100)]
    public Property Any_variables_survive_a_round_trip() => Prop.ForAll(Gen.Choose(0, 9999).ListOf(5).ListOf(9).ToArbitrary(), seeds =>
        {
            var variables = new List<BrandVariable>();
            foreach (var (s, i) in seeds.Select((s, i) => (s, i)))
            {
                var type = (VariableType)(s[0] % 8);
                var same = variables.Where(v => BrandVariable.Fits(v.Type, type)).ToList();
                variables.Add(
                    new BrandVariable
                    {
                        Key = $"key-{i}",
                        Label = s[1] % 3 == 0 ? "Énamel \"green\" {x}" : $"Label {s[1]}",
                        Type = type,
                        Value = same.Count > 0 && s[2] % 2 == 0 ? "{" + same[s[2] % same.Count].Key + "}" : Literal(type, s[2]),
                        Dark = type == VariableType.Colour && s[3] % 2 == 0 ? $"#{s[3]:x6}" : null,
                        Group = (s[4] % 4) switch
                        {
                            0 => "",
                            1 => "Paints",
                            2 => "$odd.{group}",
                            _ => "key-0",
                        },
                        Description = s[4] % 3 == 0 ? "What it is for" : "",
                        Formerly = s[4] % 5 == 0 ? [$"old-{i}"] : [],
                    }
                );
            }

            var style = new HouseStyle { Name = "House", Variables = [.. variables] };
            var back = Imported(DesignTokens.Write(new StyleLayers(style)));
            return style.Variables.Select(v => DocumentJson.Write(v)).SequenceEqual(back.Variables.Select(v => DocumentJson.Write(v)));
        });

    /// <summary>
    /// What another program reads: only the module's own members, names without reserved characters, aliases that lead to tokens.
    /// </summary>
    [Fact]
    public void What_is_written_keeps_the_modules_rules()
    {
        var tokens = new List<(string Path, System.Text.Json.Nodes.JsonObject Token)>();
        Walk(System.Text.Json.Nodes.JsonNode.Parse(DesignTokens.Write(Larkfell.Style))!.AsObject(), "");
        Assert.Equal(
            Larkfell.Style.Variables.Count(v => v.Type is not (VariableType.Text or VariableType.Link or VariableType.Picture)),
            tokens.Count
        );
        foreach (var (_, token) in tokens)
        {
            Assert.Contains((string)token["$type"]!, new[] { "color", "dimension", "fontFamily", "fontWeight", "number" });
            if (token["$value"] is System.Text.Json.Nodes.JsonValue value && value.TryGetValue<string>(out var alias))
            {
                Assert.Contains(tokens, t => "{" + t.Path + "}" == alias);
            }
        }

        void Walk(System.Text.Json.Nodes.JsonObject at, string path)
        {
            if (at.ContainsKey("$value"))
            {
                tokens.Add((path, at));
                return;
            }

            foreach (var (name, child) in at.Where(c => !c.Key.StartsWith('$')))
            {
                Assert.DoesNotContain(name, c => c is '{' or '}' or '.');
                Walk(child!.AsObject(), path.Length == 0 ? name : path + "." + name);
            }
        }
    }

    [Fact]
    public void Importing_over_what_stands_tells_added_changed_same_and_left_apart()
    {
        var plan = ImportPlan.Make(
            DesignTokensReader.Read(
                """
                {"accent":{"$type":"color","$value":"#8e2a1c"},"tint":{"$type":"color","$value":"{accent}"},
                "soot":{"$type":"color","$value":"#25302b"},"fresh":{"$type":"color","$value":"#00ff00"},
                "body size":{"$type":"color","$value":"#00ff00"}}
                """
            ),
            Larkfell.Style
        );
        Assert.Equal(
            [
                ("accent", ImportAction.Changed),
                ("tint", ImportAction.Changed),
                ("soot", ImportAction.Same),
                ("fresh", ImportAction.Added),
                ("body size", ImportAction.Left),
            ],
            plan.Select(p => (p.Place, p.Action))
        );
        Assert.Equal("{buffer-red}", plan[0].Before);
        Assert.Equal("#8e2a1c", plan[1].Shown);
        // Its dark value is not the file's to take away.
        Assert.Equal("#26332f", ((SetVariable)plan[1].Edit!).Variable.Dark);
        Assert.Contains("of type size here", plan[4].Reason, StringComparison.Ordinal);
    }

    private static HouseStyle Imported(string json) =>
        (HouseStyle)
            ImportPlan
                .Make(DesignTokensReader.Read(json), Empty)
                .Aggregate((Document)Empty.Own, (style, step) =>
                    step.Edit is null ? throw new InvalidOperationException(step.Place + ": " + step.Reason) : step.Edit.Apply(style)
                );

    private static string Literal(VariableType type, int seed) =>
        type switch
        {
            VariableType.Colour => $"#{seed * 1657 % 0x1000000:x6}",
            VariableType.Size => (seed % 2000 / 4.0).ToString(System.Globalization.CultureInfo.InvariantCulture),
            // A weight may refer to it, and there is none below 1.
            VariableType.Number => ((4 + (seed % 2000)) / 4.0).ToString(System.Globalization.CultureInfo.InvariantCulture),
            VariableType.Weight => $"{1 + (seed % 1000)}",
            VariableType.Font => seed % 2 == 0 ? "Georgia, 'Times New Roman', serif" : "monospace",
            VariableType.Text => $"Words \"{seed}\" & more",
            VariableType.Link => $"https://larkfell.example.org/{seed}",
            VariableType.Picture => new string("0123456789abcdef"[seed % 16], 64),
            _ => "",
        };
}
