using System.Collections.Immutable;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Library;

/// <summary>A sheet that shows every global style in use, compiled like any email.</summary>
public static class Specimen
{
    private static readonly ImmutableSortedDictionary<string, PieceFill> NoFills = ImmutableSortedDictionary<string, PieceFill>.Empty;

    private static readonly ImmutableArray<OrderedRow> Rows =
    [
        Row("type", Surface.Content,
            Heading("1", "The 10:40 runs again"),
            Heading("2", "Members ride first"),
            Heading("3", "How the work was done"),
            Body("Four hundred blocks, one crane and a very patient heron. Read ", "the whole story", " or come and see it."),
            List("Booking opens 2 March", "Tearooms from nine"),
            Small("Trains may be diesel-hauled on days of high fire risk.")),
        Row("buttons", Surface.Content, Button("primary", "Choose your seat"), Button("secondary", "See the timetable"), Button("quiet", "Ask the station"), New("divider", "divider")),
        Row("tint", Surface.Tint, Heading("3", "On the tint"), Body("A quieter band for what stands beside. It has ", "links of its own", " too."), Small("And small print.")),
        Row("strong", Surface.Strong, Heading("3", "On the strong colour"), Body("Headers and footers lie here, with ", "their links", "."), Small("And small print.")),
    ];

    public static CompiledEmail Compile(StyleLayers style, string picturesAt)
    {
        var email = new Email { Name = "Specimen", Template = Guid.Empty, TemplateRelease = 0 };
        var template = new Template { Name = "Specimen", CampaignType = "", HouseStyle = Guid.Empty };
        return Compiler.Compile(
            new ResolvedEmail(email, template, style, PictureShelf.Empty, [.. Rows.Select(r => Resolver.Resolve(r, style))]),
            picturesAt,
            Purpose.Proof);
    }

    private static OrderedRow Row(string id, Surface surface, params Block[] blocks)
    {
        var saved = BlockKinds.Complete(new SavedRow
        {
            Name = id,
            RowKind = RowKind.Main,
            Row = new Row { Id = id, Surface = surface, Columns = [new Column { Id = id + "-column", Blocks = [.. blocks.Select((b, i) => b with { Id = $"{id}-{i}" })] }] },
        });
        return new OrderedRow(new PlacedRow { Id = id, Master = Guid.Empty, Release = 0 }, saved, null, NoFills, NoFills);
    }

    private static Block New(string kind, string field, FieldValue? value = null, params (string Property, string Value)[] look) => new()
    {
        Id = "",
        Kind = kind,
        Content = value is null ? ImmutableSortedDictionary<string, FieldValue>.Empty : ImmutableSortedDictionary<string, FieldValue>.Empty.Add(field, value),
        Look = look.ToImmutableSortedDictionary(l => l.Property, l => l.Value),
    };

    private static Block Heading(string level, string words) => New("heading", "text", new FieldValue.Words(words), ("level", level));

    private static Block Body(string before, string link, string after) => New("text", "text", new FieldValue.Prose(new RichText
    {
        Paragraphs = [new Paragraph { Runs = [new Run { Text = before }, new Run { Text = link, Href = "https://larkfell.example.org/" }, new Run { Text = after }] }],
    }));

    private static Block List(params string[] items) => New("text", "text", new FieldValue.Prose(new RichText
    {
        Paragraphs = [.. items.Select(i => new Paragraph { List = ListStyle.Bullet, Runs = [new Run { Text = i }] })],
    }));

    private static Block Small(string words) => New("text", "text", new FieldValue.Prose(RichText.Of(words)), ("style", "small"));

    private static Block Button(string style, string words)
    {
        var block = New("button", "text", new FieldValue.Words(words), ("style", style));
        return block with { Content = block.Content.Add("link", new FieldValue.Target("https://larkfell.example.org/")) };
    }
}
