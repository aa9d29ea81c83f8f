using System.Collections.Immutable;
using System.Text.Json.Nodes;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Coverage;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Interchange;
using GoldenRule.Core.Releases;
using GoldenRule.Core.Validation;

namespace GoldenRule.Core.Tests;

/// <summary>A template taken out has everything it needs inside it, and comes back as what it was.</summary>
public class TemplateFileTests
{
    private static Template Gazette => RunningOrder.From(Larkfell.Gazette, Larkfell.Masters).Template;

    private static TemplateFile Packed =>
        TemplatePacking.Pack(Gazette, "Members’ gazette", Larkfell.Masters, Larkfell.Style, Larkfell.Pictures, id =>
            Convert.ToBase64String(System.Text.Encoding.UTF8.GetBytes(id))
        );

    [Fact]
    public void It_brings_its_rows_variables_and_pictures()
    {
        var file = Packed;
        Assert.Equal(Gazette.PlacedRows.Select(p => p.Master).Distinct().Count(), file.Rows.Length);
        Assert.Contains(file.Variables, v => v.Key == "postal-address" && v.Value.Length > 0);
        Assert.NotEmpty(file.Pictures);
        Assert.Equal(file.Write(), TemplateFile.Read(file.Write()).Write());
    }

    [Fact]
    public void In_a_house_style_without_its_variables_their_values_stand_instead()
    {
        var bare = new StyleLayers(new HouseStyle { Name = "Bare" });
        var file = Packed;
        var mapped = TemplatePacking.Settling(file, bare, id => id);
        var rows = file.Rows.Select(r => BlockKinds.Complete(mapped.Map(r.Row))).ToList();
        Assert.All(rows, r => Assert.Empty(VariableUses.In(r)));
        var footer = rows.Single(r => r.RowKind == RowKind.Footer).Row.Blocks.First(b => b.Kind == "legal-footer");
        Assert.Contains(
            file.Variables.Single(v => v.Key == "postal-address").Value,
            ((FieldValue.Prose)footer.Content["text"]).Text.PlainText,
            StringComparison.Ordinal
        );
        // Where the house style has them, they stay references.
        Assert.Contains(file.Rows.Select(r => TemplatePacking.Settling(file, Larkfell.Style, id => id).Map(r.Row)), r =>
            VariableUses.In(r).Any()
        );
        var fault = Assert.Throws<StructureException>(() =>
            TemplatePacking
                .Settling(file with { Variables = [] }, bare, id => id)
                .Map(file.Rows.Single(r => r.Row.RowKind == RowKind.Footer).Row)
        );
        Assert.Contains("which neither it nor", fault.Message, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("[]", "no template file")]
    [InlineData("{}", "no template file")]
    [InlineData("""{"type":"golden-rule-template"}""", "of which version")]
    [InlineData("""{"type":"golden-rule-template","version":2}""", "newer than this program")]
    [InlineData("""{"type":"golden-rule-template","version":1,"template":{"name":1}}""", "$.template.name")]
    [InlineData(
        """
            {"type":"golden-rule-template","version":1,"template":{"name":"x","campaignType":"t",
            "houseStyle":"00000000-0000-0000-0000-000000000000","order":[{"kind":"zone","id":"z",
            "default":[{"kind":"zone","id":"y"}]}]}}
            """,
        "$.template.order[0].default[0]"
    )]
    [InlineData("""{"type":"golden-rule-template","version":1,"surprise":true}""", "surprise")]
    [InlineData("{\"type\":\"golden-rule-template\",\n\"version\":1,\n\"template\":", "line 3")]
    public void A_broken_or_newer_file_says_where_it_is_wrong(string json, string words)
    {
        var fault = Assert.Throws<StructureException>(() => TemplateFile.Read(json));
        Assert.Contains(words, fault.Message + fault.Piece, StringComparison.Ordinal);
    }

    [Fact]
    public void The_committed_schema_is_the_one_that_reads_and_writes()
    {
        var committed = Path.Combine(AppContext.BaseDirectory, "template.schema.json");
        Assert.Equal(File.ReadAllText(committed), TemplateFile.Schema());
        Assert.Equal("https://json-schema.org/draft/2020-12/schema", (string?)JsonNode.Parse(TemplateFile.Schema())!["$schema"]);
    }

    [Fact]
    public void An_email_becomes_the_template_it_would_have_been_started_from()
    {
        var email = Larkfell.Gazette;
        var made = Renewed.FromEmail(email, Gazette, "From March");
        Structure.Complete(made, Larkfell.Masters);
        var again = RunningOrder.From(made, Larkfell.Masters);
        var first = RunningOrder.From(email, Larkfell.Masters);
        Assert.Equal(first.Rows.Select(r => r.Id), again.Rows.Select(r => r.Id));
        // What it said is what a new email starts with.
        Assert.Equal(Larkfell.Compile(email).PlainText(), Larkfell.Compile(Started(made)).PlainText());

        Email Started(Template template) =>
            email with
            {
                Fills = ImmutableSortedDictionary<string, ImmutableSortedDictionary<string, PieceFill>>.Empty.AddRange(
                    template.Order.OfType<PlacedRow>().Where(p => !p.Fills.IsEmpty).Select(p => KeyValuePair.Create(p.Id, p.Fills))
                ),
                Zones = template.Order.OfType<Zone>().ToImmutableSortedDictionary(z => z.Id, z => z.Default),
            };
    }

    [Fact]
    public void Coverage_tells_apart_what_is_served_drafted_missing_and_not_needed()
    {
        CoveringRow[] rows =
        [
            new(Guid.NewGuid(), "Masthead", RowKind.Header, [], true),
            new(Guid.NewGuid(), "Offer", RowKind.Main, ["shop"], true),
            new(Guid.NewGuid(), "Hero in the making", RowKind.Hero, ["shop"], false),
        ];
        var needs = new Dictionary<(string, string), bool>
        {
            [("shop", RowKind.Footer)] = true,
            [("news", RowKind.Main)] = true,
            [("news", RowKind.Header)] = false,
        };
        var coverage = CoverageGrid.For(["shop", "news"], RowKindPlan.Usual.Offered.Select(k => k.Key), rows, needs);
        CoverageState At(string type, string kind) => coverage.Cells.Single(c => c.CampaignType == type && c.RowKind == kind).State;
        Assert.Equal(18, coverage.Cells.Length);
        Assert.Equal(CoverageState.Served, At("shop", RowKind.Header));
        Assert.Equal(CoverageState.NotNeeded, At("news", RowKind.Header));
        Assert.Equal(CoverageState.Served, At("shop", RowKind.Main));
        Assert.Equal(CoverageState.Missing, At("news", RowKind.Main));
        Assert.Equal(CoverageState.DraftOnly, At("shop", RowKind.Hero));
        Assert.Equal(CoverageState.Missing, At("shop", RowKind.Footer));
        Assert.Equal(CoverageState.Unplanned, At("news", RowKind.Legal));
        Assert.Equal(18, Enum.GetValues<CoverageState>().Sum(coverage.Count));
    }
}
