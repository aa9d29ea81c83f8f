using System.Collections.Immutable;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Specimens;

/// <summary>A sheet that shows every global style in use, compiled like any email.</summary>
public static class Specimen
{
    private static readonly ImmutableSortedDictionary<string, PieceFill> NoFills = ImmutableSortedDictionary<string, PieceFill>.Empty;

    /// <summary>The picture of the specimen, by this id on its own shelf.</summary>
    public const string Picture = "specimen";

    private static readonly ImmutableArray<OrderedRow> Rows =
    [
        Row(
            "type",
            Surface.Content,
            Text("preheader", "Steam is back on the viaduct, and members ride first."),
            Heading("1", "The 10:40 runs again"),
            Heading("2", "Members ride first"),
            Heading("3", "How the work was done"),
            Heading("4", "What comes next"),
            Body("Four hundred blocks, one crane and a very patient heron. Read ", "the whole story", " or come and see it."),
            List(ListStyle.Bullet, "Booking opens 2 March", "Tearooms from nine"),
            Text("small", "Trains may be diesel-hauled on days of high fire risk.")
        ),
        Row(
            "buttons",
            Surface.Content,
            Button("primary", "Choose your seat"),
            Button("secondary", "See the timetable"),
            Button("quiet", "Ask the station")
        ),
        Row(
            "things",
            Surface.Content,
            New("divider", "divider"),
            New("picture", "picture", new FieldValue.Image(Picture)).With("alt", new FieldValue.Words("A steam engine on a viaduct")),
            Text("caption", "The viaduct, drawn from the east."),
            New(
                "table",
                "cells",
                new FieldValue.Cells([
                    ["Train", "Leaves", "Returns"],
                    ["The Lamplighter", "18:20", "21:05"],
                    ["Valley stopper", "10:40", "12:15"],
                ])
            )
        ),
        Row(
            "tint",
            Surface.Tint,
            Heading("3", "On the tint"),
            Body("A quieter band for what stands beside. It has ", "links of its own", " too."),
            Text("small", "And small print.")
        ),
        Row(
            "strong",
            Surface.Strong,
            Heading("3", "On the strong colour"),
            Body("Headers and footers lie here, with ", "their links", "."),
            New(
                "social-links",
                "links",
                new FieldValue.LinkList([new NamedLink("Photographs", Site), new NamedLink("Films", Site), new NamedLink("News", Site)])
            ),
            New("legal-footer", "text", new FieldValue.Prose(RichText.FromParagraphs("Larkfell Railway, Station Yard, Larkfell.")))
                .With("unsubscribeText", new FieldValue.Words("Unsubscribe"))
                .With("unsubscribe", new FieldValue.Link(Site))
        ),
    ];

    private const string Site = "https://larkfell.example.org/";

    /// <summary>For each piece of the sheet, by its id, the properties of global styles that it shows.</summary>
    public static ImmutableSortedDictionary<string, ImmutableArray<(string Style, string Property)>> Shows { get; } =
        Rows.SelectMany(r =>
                r.Master.Row.Blocks.Select(b =>
                    KeyValuePair.Create(b.Id, Properties(b, Theme.StyleName(r.Master.Row.Surface)).ToImmutableArray())
                )
            )
            .ToImmutableSortedDictionary(StringComparer.Ordinal);

    /// <summary>"Heading 3 on the tinted area": what a piece of the sheet is called.</summary>
    public static string Label(string piece)
    {
        var (style, surface) = (Shows[piece][0].Style, Shows[piece][^1].Style);
        return GlobalStyles.Label(style) + (surface == "content" ? "" : $" on the {GlobalStyles.Label(surface).ToLowerInvariant()}");
    }

    /// <param name="picture">A picture of the brand; null: the sheet shows none.</param>
    public static CompiledEmail Compile(StyleLayers style, string picturesAt, Picture? picture = null)
    {
        var email = new Email
        {
            Name = "Specimen",
            Template = Guid.Empty,
            TemplateRelease = 0,
        };
        var template = new Template
        {
            Name = "Specimen",
            CampaignType = "",
            HouseStyle = Guid.Empty,
        };
        var shelf = new PictureCatalog(picture is null ? [] : [picture], [new Replacement(Picture, picture?.Id ?? Picture)]);
        return Compiler.Compile(Resolver.Resolve(email, new RunningOrder(template, Rows), style, shelf), picturesAt, Purpose.Proof);
    }

    private static IEnumerable<(string, string)> Properties(Block block, string surface) =>
        BlockKinds
            .For(block)
            .Styles(block)
            .SelectMany(s =>
                GlobalStyles
                    .All.Single(g => g.Name == s.Style)
                    .Properties.Select(p => (s.Style, p.Name))
                    .Concat(s.Colour is null ? [] : [(surface, s.Colour)])
            )
            .Append((surface, "background"));

    private static OrderedRow Row(string id, Surface surface, params Block[] blocks)
    {
        var saved = BlockKinds.Complete(
            new SavedRow
            {
                Name = id,
                RowKind = RowKind.Main,
                Row = new Row
                {
                    Id = id,
                    Surface = surface,
                    Columns = [new Column { Id = id + "-column", Blocks = [.. blocks.Select((b, i) => b with { Id = $"{id}-{i}" })] }],
                },
            }
        );
        return new OrderedRow(
            new PlacedRow
            {
                Id = id,
                Master = Guid.Empty,
                Release = 0,
            },
            saved,
            null,
            NoFills,
            NoFills
        );
    }

    private static Block New(string kind, string field, FieldValue? value = null, params (string Property, string Value)[] look) =>
        new()
        {
            Id = "",
            Kind = kind,
            Content = value is null
                ? ImmutableSortedDictionary<string, FieldValue>.Empty
                : ImmutableSortedDictionary<string, FieldValue>.Empty.Add(field, value),
            Look = look.ToImmutableSortedDictionary(l => l.Property, l => l.Value),
        };

    private static Block Heading(string level, string words) => New("heading", "text", new FieldValue.Words(words), ("level", level));

    private static Block Body(string before, string link, string after) =>
        New(
            "text",
            "text",
            new FieldValue.Prose(
                new RichText
                {
                    Paragraphs =
                    [
                        new Paragraph
                        {
                            Runs = [new Run { Text = before }, new Run { Text = link, Href = Site }, new Run { Text = after }],
                        },
                    ],
                }
            )
        );

    private static Block List(ListStyle list, params string[] items) =>
        New(
            "text",
            "text",
            new FieldValue.Prose(
                new RichText { Paragraphs = [.. items.Select(i => new Paragraph { List = list, Runs = [new Run { Text = i }] })] }
            )
        );

    private static Block Text(string style, string words) =>
        New("text", "text", new FieldValue.Prose(RichText.FromParagraphs(words)), ("style", style));

    private static Block With(this Block block, string field, FieldValue value) =>
        block with
        {
            Content = block.Content.SetItem(field, value),
        };

    private static Block Button(string style, string words) =>
        New("button", "text", new FieldValue.Words(words), ("style", style)).With("link", new FieldValue.Link(Site));
}
