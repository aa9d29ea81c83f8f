using System.Collections.Immutable;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Specimens;

/// <summary>
/// Every block kind with everything filled in, one row each: to look at, to measure, and to show what a kind is before it is
/// taken.
/// </summary>
public static class BlockSpecimen
{
    private const string Site = "https://larkfell.example.org/trains?from=specimen#top";

    /// <summary>A sample for each kind of field; the words say what belongs there.</summary>
    public static Block FillIn(WritableKind kind)
    {
        var block = Filled(kind);
        return block with { Look = block.Look.ContainsKey("named") ? block.Look.SetItem("named", "yes") : block.Look };
    }

    /// <param name="only">Name of the only kind to show; null: all.</param>
    /// <param name="options">True: besides, every choice that each kind and each row may be given, one row for each.</param>
    public static CompiledEmail Compile(
        StyleLayers style,
        string picturesAt,
        PictureCatalog pictures,
        string? only = null,
        bool options = false
    )
    {
        var email = new Email
        {
            Name = "Block specimen",
            Template = Guid.Empty,
            TemplateRelease = 0,
            Details = new EmailDetails { SendDay = "2027-02-25" },
        };
        var rows = BlockKinds
            .All.Where(k => only is null || k.Name == only)
            .Select(k => Row(k.Name, new Column { Id = "only", Blocks = [FillIn(k)] }))
            .Concat(only is null ? Shapes() : [])
            .Concat(options ? Options(only) : [])
            .ToList();
        // Sample pictures stand for any that the library has.
        var shelf = new PictureCatalog(
            pictures.First is { } first ? [first] : [],
            pictures.First is { } any ? [new Replacement(Specimen.Picture, any.Id)] : []
        );
        return Compiler.Compile(
            Resolver.Resolve(
                email,
                new RunningOrder(
                    new Template
                    {
                        Name = "Block specimen",
                        CampaignType = "",
                        HouseStyle = Guid.Empty,
                    },
                    [.. rows]
                ),
                style,
                shelf
            ),
            picturesAt,
            Purpose.Proof
        );
    }

    /// <summary>CSS pixels below which a filled-in block of each kind falls apart, by the kind's name.</summary>
    public static ImmutableDictionary<string, int> LeastWidths(StyleLayers style, PictureCatalog pictures)
    {
        var compiled = Compile(style, "/", pictures);
        return BlockKinds
            .All.Zip(compiled.Source.Rows)
            .ToImmutableDictionary(
                pair => pair.First.Name,
                pair => pair.First.LeastWidth(compiled.Context.View(pair.Second, pair.Second.Blocks.First(), compiled.Context.Theme.Width))
            );
    }

    // Looks that change how a block is laid out.
    private static readonly ImmutableArray<(string Kind, string Property, string Value)> Variants =
    [
        ("card", "placing", "left"),
        ("card", "placing", "right"),
        ("cards", "across", "2"),
        ("cards", "across", "3"),
        ("table", "phone", "stack"),
        ("button", "fit", "full"),
        ("quote", "size", "large"),
    ];

    private static IEnumerable<OrderedRow> Options(string? only)
    {
        foreach (var kind in BlockKinds.All.Where(k => only is null || k.Name == only))
        {
            foreach (var property in kind.Look)
            {
                foreach (var choice in property.Choices.Skip(1))
                {
                    var block = FillIn(kind);
                    yield return Row(
                        $"{kind.Name}-{property.Name}-{choice}",
                        new Column { Id = "only", Blocks = [block with { Look = block.Look.SetItem(property.Name, choice) }] }
                    );
                }
            }
        }

        if (only is not null)
        {
            yield break;
        }

        Column[] three =
        [
            .. Enumerable
                .Range(1, 3)
                .Select(i => new Column { Id = $"c{i}", Blocks = [Heading($"h{i}", $"Column {i}"), Text($"t{i}", "Words.")] }),
        ];
        foreach (var property in RowLook.All)
        {
            foreach (var choice in property.Choices.Skip(1))
            {
                yield return With(Row($"row-{property.Name}-{choice}", three), r =>
                    r with
                    {
                        Look = r.Look.SetItem(property.Name, choice),
                    }
                );
            }
        }

        foreach (var shown in new[] { Visibility.PhoneOnly, Visibility.DesktopOnly })
        {
            yield return With(Row($"row-{shown}", three), r => r with { Shown = shown });
        }
    }

    // Rows of several columns, each shape and option once.
    private static IEnumerable<OrderedRow> Shapes()
    {
        (string Name, int[] Parts)[] shapes =
        [
            ("halves", [1, 1]),
            ("thirds", [1, 1, 1]),
            ("quarters", [1, 1, 1, 1]),
            ("third-and-rest", [1, 2]),
            ("five-to-seven", [5, 7]),
        ];
        foreach (var (name, parts) in shapes)
        {
            yield return Row(
                name,
                [
                    .. parts.Select(
                        (p, i) =>
                            new Column
                            {
                                Id = $"c{i}",
                                Parts = p,
                                Blocks =
                                [
                                    Heading($"h{i}", $"Column {i + 1}"),
                                    Text($"t{i}", "Words that tell how wide the column is where they stand."),
                                ],
                            }
                    ),
                ]
            );
        }

        foreach (var (kind, property, value) in Variants)
        {
            var block = FillIn(BlockKinds.All.First(k => k.Name == kind));
            yield return Row(
                $"{kind}-{value}",
                new Column { Id = "only", Blocks = [block with { Look = block.Look.SetItem(property, value) }] }
            );
        }

        Column[] pair =
        [
            new Column { Id = "a", Blocks = [Heading("ha", "First written"), Text("ta", "On the left.")] },
            new Column { Id = "b", Blocks = [Heading("hb", "Second written"), Text("tb", "On the right.")] },
        ];
        yield return With(Row("reversed", pair), r =>
            r with
            {
                Look = r.Look.SetItem("phone", "stack-reversed").SetItem("surface", "tint"),
            }
        );
        yield return With(Row("kept", pair), r => r with { Look = r.Look.SetItem("phone", "keep") });
        yield return With(Row("across", pair), r => r with { Look = r.Look.SetItem("across", "page").SetItem("surface", "strong") });
        yield return With(Row("background", pair), r =>
            r with
            {
                Background = Specimen.Picture,
                Look = r.Look.SetItem("surface", "strong").SetItem("space", "roomy"),
            }
        );
        yield return Row(
            "phone-only",
            new Column
            {
                Id = "only",
                Blocks =
                [
                    Text("phone", "Only phones show this.") with
                    {
                        Shown = Visibility.PhoneOnly,
                    },
                    Text("desktop", "Only desktops show this.") with
                    {
                        Shown = Visibility.DesktopOnly,
                    },
                ],
            }
        );
    }

    private static Block Heading(string id, string words) => New("heading", id, new FieldValue.Words(words));

    private static Block Text(string id, string words) => New("text", id, new FieldValue.Prose(RichText.FromParagraphs(words)));

    private static Block New(string kind, string id, FieldValue text)
    {
        var block = BlockKinds.All.First(k => k.Name == kind).New(id);
        return block with { Content = block.Content.SetItem("text", text) };
    }

    private static OrderedRow Row(string name, params Column[] columns)
    {
        var saved = new SavedRow
        {
            Name = name,
            RowKind = RowKind.Main,
            Row = new Row { Id = name, Columns = [.. columns] },
        };
        return new OrderedRow(new PlacedRow { Id = name, Own = saved }, saved, null, NoFills, NoFills);
    }

    private static OrderedRow With(OrderedRow row, Func<Row, Row> change)
    {
        var saved = row.Master with { Row = change(row.Master.Row) };
        return new OrderedRow(row.Placed with { Own = saved }, saved, null, NoFills, NoFills);
    }

    private static ImmutableSortedDictionary<string, PieceFill> NoFills => ImmutableSortedDictionary<string, PieceFill>.Empty;

    private static Block Filled(WritableKind kind)
    {
        var block = kind.New(kind.Name);
        return block with { Content = block.Content.SetItems(kind.Fields.Select(f => KeyValuePair.Create(f.Name, Sample(f)))) };
    }

    private static FieldValue Sample(Field field) =>
        field.Default switch
        {
            FieldValue.Words when field.Sample is { } sample => new FieldValue.Words(sample),
            FieldValue.Words { Text: "" } => new FieldValue.Words(field.Label),
            FieldValue.Prose => new FieldValue.Prose(
                new RichText
                {
                    Paragraphs =
                    [
                        new Paragraph
                        {
                            Runs =
                            [
                                new Run { Text = "Four hundred blocks, one crane and a very patient heron. Read " },
                                new Run { Text = "the whole story", Href = Site },
                                new Run { Text = " or come and see it." },
                            ],
                        },
                    ],
                }
            ),
            FieldValue.Link => new FieldValue.Link(Site),
            FieldValue.Image when field.Name != "phonePicture" => new FieldValue.Image(Specimen.Picture),
            FieldValue.LinkList => new FieldValue.LinkList([
                new NamedLink("Timetable", Site),
                new NamedLink("Shop", Site),
                new NamedLink("Tearooms", Site),
                new NamedLink("Volunteering", Site),
            ]),
            FieldValue.Moment moment => new FieldValue.Moment(
                "2027-03-06T10:40",
                field.Name == "when" ? "2027-03-06T15:30" : "",
                moment.Zone
            ),
            FieldValue.Entries => new FieldValue.Entries([
                .. Items.Select(item =>
                    field.Entry.ToImmutableSortedDictionary(
                        e => e.Name,
                        e => e.Default is FieldValue.Words ? new FieldValue.Words(item.GetValueOrDefault(e.Name, e.Label)) : Sample(e)
                    )
                ),
            ]),
            FieldValue.Cells => new FieldValue.Cells([
                ["Train", "Leaves", "Returns"],
                ["The Lamplighter", "18:20", "21:05"],
                ["Valley stopper", "10:40", "12:15"],
            ]),
            FieldValue.Code => new FieldValue.Code("<p style=\"color:#7A1020\"><b>Written by hand</b>, made safe.</p>"),
            var other => other,
        };

    private static readonly ImmutableArray<ImmutableDictionary<string, string>> Items =
    [
        Item("Members ride first", "Yes, more than once"),
        Item("How the work was done", "Once"),
        Item("What comes next", "Not yet"),
    ];

    private static ImmutableDictionary<string, string> Item(string heading, string answer) =>
        ImmutableDictionary<string, string>
            .Empty.Add("heading", heading)
            .Add("text", answer)
            .Add("linkText", "Read on")
            .Add("alt", "An engine on a viaduct");
}
