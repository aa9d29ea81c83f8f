using System.Text.RegularExpressions;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Interchange;

namespace GoldenRule.Core.Tests;

/// <summary>
/// A website's CSS in, custom properties out. That the result looks like the page is checked in the browser tests, against
/// Chromium's own reading of the same file.
/// </summary>
public sealed class CssTests
{
    private static readonly StyleLayers Empty = new(new HouseStyle { Name = "Empty" });

    private static readonly string Site = File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "larkfell", "website", "site.css"));

    [Fact]
    public void The_demo_websites_custom_properties_become_variables_and_dress_the_styles()
    {
        var plan = ImportPlan.Make(CssReader.Read(Site), Empty);
        var layers = new StyleLayers(
            (HouseStyle)plan.Where(s => s.Edit is not null).Aggregate((Document)Empty.Own, (style, step) => step.Edit!.Apply(style))
        );
        Assert.Equal(
            (
                "#8e2a1c",
                "#232e29",
                "#ece6d6",
                "16",
                "640",
                "28",
                "Georgia, 'Times New Roman', serif",
                "Larkfell Heritage Railway",
                "https://larkfell.example.org/book"
            ),
            (
                Value("buffer-red"),
                Value("soot"),
                layers.Explain("soot").Dark,
                Value("body-size"),
                Value("measure"),
                Value("h1-size"),
                Value("reading-face"),
                Value("company"),
                Value("booking-page")
            )
        );
        Assert.Equal("{accent}", layers.Find("link-ink")!.Value);
        Assert.Equal(
            (
                "{accent}",
                "{ticket-cream}",
                "{corner}",
                "12",
                "24",
                "{measure}",
                "{h1-size}",
                "1.2",
                "{heading-ink}",
                "{hairline}",
                "{engine-green}"
            ),
            (
                Set("primary", "fill"),
                Set("primary", "text"),
                Set("primary", "radius"),
                Set("primary", "paddingBlock") ?? "12",
                Set("primary", "paddingInline") ?? "24",
                Set("page", "width"),
                Set("heading1", "size"),
                Set("heading1", "lineHeight") ?? "1.2",
                Set("content", "heading"),
                Set("divider", "colour"),
                Set("strong", "background")
            )
        );
        Assert.Equal("#f0a593", layers["content", "link"].Dark);
        // A shadow is nothing that email can show, and is said to be left.
        Assert.Contains("is neither a colour", Assert.Single(plan, s => s.Place == "--shadow").Reason, StringComparison.Ordinal);

        string Value(string key) => layers.Explain(key).Value;
        string? Set(string style, string property) => layers.Own.FindStyle(style, property);
    }

    [Fact]
    public void Where_no_rule_says_what_a_property_dresses_its_name_does()
    {
        var found = CssReader.Read(
            ":root{--color-text:#111111;--link-color:#0000ee;--font-heading:Georgia, serif;--radius:8px;--brand-accent:#cc0000}"
        );
        Assert.Equal(
            [("content", "text"), ("content", "link"), ("heading1", "font"), ("primary", "radius"), ("primary", "fill")],
            found.Variables.Select(v => found.Styles.First(s => s.Value == "{" + v.Variable.Key + "}")).Select(s => (s.Style, s.Property))
        );
    }

    [Theory]
    [InlineData("red", "#ff0000")]
    [InlineData("#abc", "#aabbcc")]
    [InlineData("#aabbccff", "#aabbcc")]
    [InlineData("rgb(255, 128, 0)", "#ff8000")]
    [InlineData("rgb(100% 50% 0% / 100%)", "#ff8000")]
    // CSS Color 4, 7: hsl(120deg 100% 25%) is the colour "green"; hsl(30deg 100% 50%) is #ff8000.
    [InlineData("hsl(120deg 100% 25%)", "#008000")]
    [InlineData("hsl(30 100% 50%)", "#ff8000")]
    [InlineData("hsl(0.5turn 100% 50%)", "#00ffff")]
    // CSS Color 4, 9.2's own example: oklch(0.40101 0.12332 21.555) is rgb(49.06% 13.87% 15.9%).
    [InlineData("oklch(0.40101 0.12332 21.555)", "#7d2329")]
    [InlineData("color(srgb 1 0.5 0)", "#ff8000")]
    [InlineData("rgba(0, 0, 0, 0.5)", null)]
    [InlineData("#00000080", null)]
    [InlineData("transparent", null)]
    [InlineData("color(display-p3 1 0 0)", null)]
    [InlineData("url(x)", null)]
    [InlineData("", null)]
    public void Colours_are_read_as_css_writes_them(string css, string? expected) =>
        Assert.Equal(expected, CssColour.Parse(css)?.ToString());

    [Theory]
    [InlineData("16px", "16")]
    [InlineData("1.5rem", "24")]
    [InlineData("12pt", "16")]
    [InlineData("0", "0")]
    [InlineData("50%", null)]
    [InlineData("-4px", null)]
    [InlineData("calc(1px + 1px)", null)]
    public void Lengths_become_pixels(string css, string? expected) => Assert.Equal(expected, CssLength.Pixels(css));

    [Theory]
    [InlineData("--a: var(--b); --b: var(--a)", "leads to itself")]
    [InlineData("--a: var(--nowhere)", "There is no --nowhere")]
    [InlineData("--a: calc(1px + 2px)", "is neither a colour")]
    public void What_cannot_be_a_variable_is_left_with_its_reason(string declarations, string said)
    {
        var found = CssReader.Read($":root{{{declarations}}}");
        Assert.Empty(found.Variables);
        Assert.Contains(said, found.Left[0].Reason, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("")]
    [InlineData("not css at all")]
    [InlineData(".x{color:red}")]
    public void A_file_with_nothing_to_take_is_refused(string css) => Assert.Throws<StructureException>(() => CssReader.Read(css));

    [Fact]
    public void Custom_properties_written_are_read_back_to_the_same_values()
    {
        var css = CssProperties.Write(Larkfell.Style, "https://larkfell.example.org/pictures/", id =>
            Larkfell.Pictures.Find(id)?.Whole.Name
        );
        var found = CssReader.Read(css);
        foreach (var variable in Larkfell.Style.Variables.Where(v => v.Type != VariableType.Picture))
        {
            var back = found.Variables.Single(f => f.Variable.Key == variable.Key).Variable;
            // CSS has no type for a value: a weight whose name does not say so comes back as a number.
            Assert.Equal((variable.Type, variable.Value, variable.Dark), (back.Type, back.Value, back.Dark));
        }

        Assert.Contains("--accent: var(--buffer-red);", css, StringComparison.Ordinal);
        Assert.Matches(
            new Regex(
                @"@media \(prefers-color-scheme: dark\) \{\s+:root \{[^}]*--soot: #ece6d6;",
                RegexOptions.None,
                TimeSpan.FromSeconds(1)
            ),
            css
        );
        Assert.Matches(
            new Regex(
                "--logo: url\\(\"https://larkfell\\.example\\.org/pictures/[0-9a-f]{64}\\.jpg\"\\)",
                RegexOptions.None,
                TimeSpan.FromSeconds(1)
            ),
            css
        );
    }

    [Fact]
    public void Text_cannot_break_out_of_the_css()
    {
        var style = new HouseStyle
        {
            Name = "*/ body{}",
            Variables =
            [
                new BrandVariable
                {
                    Key = "t",
                    Label = "T",
                    Type = VariableType.Text,
                    Value = "\"; } body { color: red } \n</style>\\",
                    Group = "*/ x",
                },
            ],
        };
        var css = CssProperties.Write(new StyleLayers(style), "", _ => null);
        Assert.DoesNotContain("</style", css, StringComparison.Ordinal);
        var parsed = new AngleSharp.Css.Parser.CssParser(
            new AngleSharp.Css.Parser.CssParserOptions { IsIncludingUnknownDeclarations = true }
        ).ParseStyleSheet(css);
        Assert.Equal(":root", Assert.IsAssignableFrom<AngleSharp.Css.Dom.ICssStyleRule>(Assert.Single(parsed.Rules)).SelectorText);
    }

    [Theory]
    [InlineData("Acid Green / 500", "acid-green-500")]
    [InlineData("fontSizeLarge", "font-size-large")]
    [InlineData("Énamel", "enamel")]
    [InlineData("2xl", "v-2xl")]
    [InlineData("---", "")]
    public void Names_become_keys(string name, string key) => Assert.Equal(key, Naming.Key(name));
}
