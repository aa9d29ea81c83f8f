using System.Collections.Immutable;
using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Tests;

/// <summary>Each block kind on its own: what it writes as HTML and as text, and what it refuses.</summary>
public sealed class BlockKindTests
{
    private static readonly string PictureId = Larkfell.Pictures.Find(Larkfell.PictureId("viaduct.jpg"))!.Id;

    public static TheoryData<string> Kinds => [.. BlockKinds.All.Select(k => k.Name)];

    private static Block New(string kind, params (string Field, FieldValue Value)[] content) =>
        BlockKinds
            .All.Single(k => k.Name == kind)
            .Complete(
                new Block
                {
                    Id = "block",
                    Kind = kind,
                    Content = content.ToImmutableSortedDictionary(c => c.Field, c => c.Value),
                }
            );

    private static Block Looking(Block block, string property, string value) => block with { Look = block.Look.SetItem(property, value) };

    private static CompiledEmail Compile(Block block, Surface surface = Surface.Content, PictureCatalog? pictures = null)
    {
        var none = new PlacedRow
        {
            Id = "row",
            Master = Guid.Empty,
            Release = 1,
        }.Fills;
        var saved = BlockKinds.Complete(
            new SavedRow
            {
                Name = "Row",
                RowKind = RowKind.Main,
                Row = new Row
                {
                    Id = "row",
                    Surface = surface,
                    Columns = [new Column { Id = "column", Blocks = [block] }],
                },
            }
        );
        var row = new OrderedRow(
            new PlacedRow
            {
                Id = "row",
                Master = Guid.Empty,
                Release = 1,
            },
            saved,
            null,
            none,
            none
        );
        return Compiler.Compile(
            Larkfell.Resolve(Larkfell.Gazette) with
            {
                Pictures = pictures ?? Larkfell.Pictures,
                Rows = [Resolver.Resolve(row, Larkfell.Style)],
            },
            "/p/",
            Purpose.Sending
        );
    }

    private static IElement Html(Block block, Surface surface = Surface.Content, PictureCatalog? pictures = null) =>
        new HtmlParser().ParseDocument(Compile(block, surface, pictures).HtmlText()).QuerySelector("[role=article]")!;

    private static string Text(Block block) => Compile(block).PlainText();

    [Theory]
    [MemberData(nameof(Kinds))]
    public void A_new_block_compiles_on_every_surface_with_no_setting(string kind)
    {
        foreach (var surface in Enum.GetValues<Surface>())
        {
            Assert.Single(Html(New(kind), surface).QuerySelectorAll("table.pg"));
        }
    }

    [Theory]
    [MemberData(nameof(Kinds))]
    public void Every_choice_of_every_look_compiles(string kind)
    {
        foreach (var property in BlockKinds.All.Single(k => k.Name == kind).Look)
        {
            Assert.All(property.Choices, choice => Assert.NotEmpty(Compile(Looking(New(kind), property.Name, choice)).Html()));
        }
    }

    [Theory]
    [MemberData(nameof(Kinds))]
    public void Fields_and_looks_that_a_kind_does_not_have_are_refused(string kind)
    {
        var definition = BlockKinds.All.Single(k => k.Name == kind);
        Assert.Equal(
            "x",
            Assert
                .Throws<StructureException>(() =>
                    definition.Complete(
                        new Block
                        {
                            Id = "x",
                            Kind = kind,
                            Content = New(kind).Content.Add("glow", new FieldValue.Flag(true)),
                        }
                    )
                )
                .Piece
        );
        Assert.Throws<StructureException>(() =>
            definition.Complete(
                new Block
                {
                    Id = "x",
                    Kind = kind,
                    Look = New(kind).Look.Add("glow", "bright"),
                }
            )
        );
        foreach (var property in definition.Look)
        {
            Assert.Throws<StructureException>(() =>
                definition.Complete(
                    new Block
                    {
                        Id = "x",
                        Kind = kind,
                        Look = New(kind).Look.SetItem(property.Name, "#ff00ff"),
                    }
                )
            );
        }

        foreach (var field in definition.Fields)
        {
            FieldValue wrong = field.Default is FieldValue.Flag ? new FieldValue.Words("") : new FieldValue.Flag(true);
            Assert.Throws<StructureException>(() =>
                definition.Complete(
                    new Block
                    {
                        Id = "x",
                        Kind = kind,
                        Content = New(kind).Content.SetItem(field.Name, wrong),
                    }
                )
            );
        }
    }

    [Theory]
    [InlineData("1", "h1", "=")]
    [InlineData("2", "h2", "-")]
    [InlineData("4", "h4", "-")]
    public void A_heading_is_a_heading_of_its_level(string level, string tag, string line)
    {
        var block = Looking(New("heading", ("text", new FieldValue.Words("The 10:40"))), "level", level);
        Assert.Equal("The 10:40", Html(block).QuerySelector(tag)!.TextContent);
        Assert.Equal($"The 10:40\n{new string(line[0], 9)}\n", Text(block));
        Assert.Contains(
            $"font-size:{Larkfell.Style.Value("heading" + level, "size")}px",
            Html(block).QuerySelector(tag)!.GetAttribute("style"),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void Text_keeps_paragraphs_lists_emphasis_breaks_and_links()
    {
        var block = New(
            "text",
            (
                "text",
                new FieldValue.Prose(
                    new RichText
                    {
                        Paragraphs =
                        [
                            new Paragraph
                            {
                                Runs =
                                [
                                    new Run { Text = "One\ntwo " },
                                    new Run { Text = "bold", Bold = true },
                                    new Run
                                    {
                                        Text = "both",
                                        Bold = true,
                                        Italic = true,
                                        Href = "https://example.org/a",
                                    },
                                ],
                            },
                            new Paragraph { List = ListStyle.Bullet, Runs = [new Run { Text = "a" }] },
                            new Paragraph { List = ListStyle.Bullet, Runs = [new Run { Text = "b" }] },
                            new Paragraph { List = ListStyle.Number, Runs = [new Run { Text = "c" }] },
                        ],
                    }
                )
            )
        );
        var html = Html(block);
        Assert.Equal(
            "p,br,strong,a,strong,em,ul,li,li,ol,li",
            string.Join(',', html.QuerySelectorAll("p,br,strong,em,a,ul,ol,li").Select(e => e.LocalName))
        );
        Assert.Equal("https://example.org/a", html.QuerySelector("a")!.GetAttribute("href"));
        Assert.Equal("One\ntwo boldboth (https://example.org/a)\n\n* a\n* b\n\n1. c\n", Text(block));
    }

    [Fact]
    public void A_picture_has_its_width_alt_and_link_and_says_them_in_text()
    {
        var block = New(
            "picture",
            ("picture", new FieldValue.Image(PictureId)),
            ("alt", new FieldValue.Words("A viaduct")),
            ("link", new FieldValue.Link("https://example.org/"))
        );
        var image = Html(block).QuerySelector("a[href='https://example.org/'] > img")!;
        Assert.Equal($"/p/{PictureId}.jpg", image.GetAttribute("src"));
        // 640 wide, 28 at each side.
        Assert.Equal("584", image.GetAttribute("width"));
        Assert.Equal("146", Html(Looking(block, "width", "25")).QuerySelector("img")!.GetAttribute("width"));
        Assert.Contains("height:auto", image.GetAttribute("style"), StringComparison.Ordinal);
        Assert.Equal("[A viaduct]: https://example.org/\n", Text(block));

        var decorative = block with { Content = block.Content.SetItem("decorative", new FieldValue.Flag(true)) };
        Assert.Equal("", Html(decorative).QuerySelector("img")!.GetAttribute("alt"));
        Assert.Empty(Html(New("picture")).QuerySelectorAll("img"));
    }

    [Theory]
    [InlineData(100, "320")]
    [InlineData(161, "640")]
    [InlineData(320, "640")]
    [InlineData(321, "960")]
    [InlineData(640, "1280")]
    [InlineData(900, "1280")]
    public void The_lightest_file_that_is_twice_as_wide_as_it_is_shown_is_sent(int shown, string file)
    {
        var picture = new Picture("whole", "P", 1280, 640, 90, "jpg", "")
        {
            Smaller = [new("960.jpg", 960, 480, 60), new("640.jpg", 640, 320, 40), new("320.jpg", 320, 160, 20)],
        };
        Assert.Equal(file == "1280" ? "whole.jpg" : file + ".jpg", picture.FileFor(shown).Name);
    }

    [Fact]
    public void A_replaced_picture_shows_the_other_however_often_it_was_replaced()
    {
        Picture One(string id) => new(id, id, 10, 10, 1, "png", "");
        var shelf = new PictureCatalog([One("a"), One("b"), One("c")], [new Replacement("a", "b"), new Replacement("b", "c")]);
        Assert.Equal("c", shelf.Find("a")!.Id);
        Assert.Null(shelf.Find("d"));
        // A circle, which the server refuses, would end too.
        Assert.NotNull(new PictureCatalog([One("a"), One("b")], [new Replacement("a", "b"), new Replacement("b", "a")]).Find("a"));
    }

    [Fact]
    public void A_picture_is_cropped_on_phones_where_it_is_asked_for_and_there_is_a_crop()
    {
        var block = Looking(
            New("picture", ("picture", new FieldValue.Image(PictureId)), ("alt", new FieldValue.Words("A viaduct"))),
            "phone",
            "cropped"
        );
        Assert.Empty(Html(block).QuerySelectorAll("source"));
        var view = Larkfell.Pictures.Find(PictureId)! with { PhoneCrop = new PictureFile("crop.jpg", 750, 563, 9) };
        var source = Html(block, pictures: new PictureCatalog([view])).QuerySelector("picture > source")!;
        Assert.Equal(("/p/crop.jpg", "(max-width:480px)"), (source.GetAttribute("srcset"), source.GetAttribute("media")));
        Assert.Equal("img", source.NextElementSibling!.LocalName);
    }

    [Fact]
    public void A_table_has_a_header_row_that_readers_are_told_of_and_stands_in_columns_in_text()
    {
        var block = New(
            "table",
            (
                "cells",
                new FieldValue.Cells([
                    ["Train", "Leaves"],
                    ["The Lamplighter", "18:20"],
                    ["<b>", "10:40"],
                ])
            )
        );
        var table = Html(block).QuerySelector("table:not([role])")!;
        Assert.Equal(["Train", "Leaves"], table.QuerySelectorAll("tr:first-child > th[scope=col]").Select(c => c.TextContent));
        Assert.Equal(["The Lamplighter", "18:20", "<b>", "10:40"], table.QuerySelectorAll("td").Select(c => c.TextContent));
        Assert.Equal("Train            Leaves\n---------------  ------\nThe Lamplighter  18:20\n<b>              10:40\n", Text(block));
        Assert.Empty(Html(Looking(block, "header", "no")).QuerySelectorAll("th"));
        var wide = New(
            "table",
            (
                "cells",
                new FieldValue.Cells([
                    [new string('a', 50), new string('b', 50)],
                ])
            )
        );
        Assert.All(Text(wide).Split('\n'), line => Assert.InRange(line.Length, 0, PlainTextWriter.LineLength));
    }

    [Fact]
    public void A_button_is_a_padded_link_and_a_shape_of_the_same_size_and_colours_for_the_word_based_client()
    {
        var block = New(
            "button",
            ("text", new FieldValue.Words("Choose & go")),
            ("link", new FieldValue.Link("https://example.org/?a=1&b=2"))
        );
        var link = Html(block).QuerySelector("a.bp")!;
        Assert.Equal("Choose & go", link.TextContent);
        Assert.Equal("https://example.org/?a=1&b=2", link.GetAttribute("href"));
        var html = Compile(block).HtmlText();
        var shape = html[html.IndexOf("<v:roundrect", StringComparison.Ordinal)..html.IndexOf("</v:roundrect>", StringComparison.Ordinal)];
        Assert.Contains($"fillcolor=\"{Larkfell.Style.Value("primary", "fill")}\"", shape, StringComparison.Ordinal);
        Assert.Contains("href=\"https://example.org/?a=1&amp;b=2\"", shape, StringComparison.Ordinal);
        // 16 px at 1.25, 12 above and below, a border of 1: what the link's box measures in a browser.
        Assert.Contains("height:46px", shape, StringComparison.Ordinal);
        Assert.Contains("Choose &amp; go", shape, StringComparison.Ordinal);
        Assert.Contains(
            "width:100%",
            Html(Looking(block, "fit", "full")).QuerySelector("a.bp")!.GetAttribute("style"),
            StringComparison.Ordinal
        );
        Assert.Equal("Choose & go: https://example.org/?a=1&b=2\n", Text(block));
    }

    [Fact]
    public void Social_links_stand_in_order_each_with_its_name()
    {
        var block = New(
            "social-links",
            (
                "links",
                new FieldValue.LinkList([
                    new NamedLink("Films", "https://a.example.org/"),
                    new NamedLink("Forum", "https://b.example.org/"),
                ])
            )
        );
        Assert.Equal(["Films", "Forum"], Html(block).QuerySelectorAll("a").Select(a => a.TextContent));
        Assert.Equal("Films: https://a.example.org/\nForum: https://b.example.org/\n", Text(block));
    }

    [Fact]
    public void A_legal_footer_offers_only_the_ways_that_lead_somewhere()
    {
        var block = New(
            "legal-footer",
            ("text", new FieldValue.Prose(RichText.FromParagraphs("Larkfell"))),
            ("unsubscribe", new FieldValue.Link("{unsubscribe-page}"))
        );
        // The way to the web page is there by itself, unless it has no words.
        Assert.Equal(["Unsubscribe", "View in browser"], Html(block, Surface.Strong).QuerySelectorAll("a").Select(a => a.TextContent));
        block = block with { Content = block.Content.SetItem("viewText", new FieldValue.Words("")) };
        Assert.Equal(["Unsubscribe"], Html(block, Surface.Strong).QuerySelectorAll("a").Select(a => a.TextContent));
        Assert.Contains("Unsubscribe: https://larkfell.example.org/mail/unsubscribe", Text(block), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(0)]
    [InlineData(5)]
    public void A_row_has_one_to_four_columns(int columns)
    {
        var row = new SavedRow
        {
            Name = "Row",
            RowKind = RowKind.Main,
            Row = new Row { Id = "row", Columns = [.. Enumerable.Range(0, columns).Select(i => new Column { Id = $"c{i}" })] },
        };
        Assert.Throws<StructureException>(() => BlockKinds.Complete(row));
    }

    [Fact]
    public void An_id_used_twice_and_an_unknown_kind_are_refused()
    {
        SavedRow With(params Block[] blocks) =>
            new()
            {
                Name = "Row",
                RowKind = RowKind.Main,
                Row = new Row { Id = "row", Columns = [new Column { Id = "c", Blocks = [.. blocks] }] },
            };
        Assert.Contains(
            "twice",
            Assert.Throws<StructureException>(() => BlockKinds.Complete(With(New("divider"), New("spacer")))).Message,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "hologram",
            Assert.Throws<StructureException>(() => BlockKinds.Complete(With(new Block { Id = "b", Kind = "hologram" }))).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void Every_text_of_the_specimen_is_in_the_contrast_table_and_the_other_way_round()
    {
        var table = Checking.Legibility.ForStyle(Larkfell.Style).Where(p => !p.Reading.Dark).ToList();
        Assert.Equal(16, table.Count);
        // WCAG 2.2, relative luminance and contrast ratio as they are defined there, worked out anew.
        static double Luminance(Colour colour)
        {
            var hex = colour.ToString();
            double Channel(int at) =>
                Convert.ToInt32(hex.Substring(at, 2), 16) / 255.0 is var c && c <= 0.04045 ? c / 12.92 : Math.Pow((c + 0.055) / 1.055, 2.4);
            return (0.2126 * Channel(1)) + (0.7152 * Channel(3)) + (0.0722 * Channel(5));
        }

        Assert.All(table, p =>
        {
            var (text, background) = (Luminance(p.Reading.Text), Luminance(p.Reading.Background));
            Assert.Equal((Math.Max(text, background) + 0.05) / (Math.Min(text, background) + 0.05), p.Reading.Ratio, 6);
        });
        var html = Specimens.Specimen.Compile(Larkfell.Style, "").HtmlText();
        Assert.All(table, p => Assert.Contains(p.Reading.Text.ToString(), html, StringComparison.Ordinal));
        Assert.All(table, p => Assert.Contains(p.Reading.Background.ToString(), html, StringComparison.Ordinal));
    }
}
