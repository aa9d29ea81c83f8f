using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Tests;

/// <summary>
/// A small library with every sort of lock in it, and an independent model of who may do what there: tables written by
/// hand from the rules of the job, sharing no code with the program.
/// </summary>
internal static class GovernedLibrary
{
    public static readonly Guid MainId = Guid.Parse("00000000-0000-0000-0000-00000000000a");
    public static readonly Guid AdvertId = Guid.Parse("00000000-0000-0000-0000-00000000000b");
    public static readonly Guid MastId = Guid.Parse("00000000-0000-0000-0000-00000000000c");
    public static readonly Guid TemplateId = Guid.Parse("00000000-0000-0000-0000-00000000000d");

    private static readonly Lock Sealed = new Lock.Sealed();
    private static readonly Lock Open = new Lock.Open();
    private static readonly Lock Designers = new Lock.Reserved { Roles = [Role.Designer] };

    /// <summary>Headline open; words for designers; button sealed but for a choice of two looks.</summary>
    public static SavedRow Main { get; } =
        Row(
            "Story",
            RowKind.Main,
            Block("headline", "heading"),
            Block("words", "text") with
            {
                Locks = new Locks { Content = Designers },
            },
            Block("button", "button") with
            {
                Locks = new Locks { Content = Sealed, Look = Open },
                Offers = Offer("style", "primary", "secondary"),
            }
        );

    /// <summary>Whom one block is reserved for by name.</summary>
    public static readonly Guid Named = Guid.Parse("00000000-0000-0000-0000-0000000000ee");

    /// <summary>Open, but for one block that is one person's, and a column that is sealed.</summary>
    public static SavedRow Advert { get; } =
        Row(
            "Advert",
            RowKind.Advert,
            Block("words", "text"),
            Block("hers", "text") with
            {
                Locks = new Locks { Content = new Lock.Reserved { People = [Named] } },
            }
        )
            is var row
            ? row with
            {
                Row = row.Row with
                {
                    Columns =
                    [
                        .. row.Row.Columns,
                        new Column
                        {
                            Id = "side",
                            Locks = new Locks { Content = Sealed },
                            Blocks = [Block("boxed", "text")],
                        },
                    ],
                },
            }
            : null!;

    /// <summary>All sealed by its row, but one piece that says otherwise.</summary>
    public static SavedRow Mast { get; } =
        Row("Masthead", RowKind.Header, Block("title", "heading"), Block("strap", "text") with { Locks = new Locks { Content = Open } })
            is var row
            ? row with
            {
                Row = row.Row with { Locks = new Locks { Content = Sealed } },
            }
            : null!;

    public static Template Template { get; } =
        new()
        {
            Name = "Governed",
            CampaignType = "test",
            HouseStyle = Guid.Empty,
            Order =
            [
                new PlacedRow
                {
                    Id = "mast",
                    Master = MastId,
                    Release = 1,
                },
                // The template takes the headline from the authors, which the saved row leaves open.
                new PlacedRow
                {
                    Id = "hero",
                    Master = MainId,
                    Release = 1,
                    Rules = Rules("headline", new PieceRules { Locks = new Locks { Content = Designers } }),
                },
                new PlacedRow
                {
                    Id = "own",
                    Own = Row(
                        "Own",
                        RowKind.Secondary,
                        Block("note", "text"),
                        Block("fixed", "heading") with
                        {
                            Locks = new Locks { Content = Sealed },
                        }
                    ),
                },
                new Zone
                {
                    Id = "free",
                    Name = "Free",
                    Accepts = [RowKind.Main],
                    Least = 1,
                    Most = 4,
                    OwnRows = true,
                    Default =
                    [
                        new PlacedRow
                        {
                            Id = "first",
                            Master = MainId,
                            Release = 1,
                        },
                    ],
                },
                new Zone
                {
                    Id = "kept",
                    Name = "Kept",
                    Accepts = [RowKind.Advert],
                    Least = 0,
                    Most = 2,
                    Locks = new Locks { Arrangement = Designers },
                    Default =
                    [
                        new PlacedRow
                        {
                            Id = "second",
                            Master = AdvertId,
                            Release = 1,
                        },
                    ],
                },
            ],
        };

    public static ReleaseCatalog Masters { get; } =
        new(
            ImmutableDictionary<(Guid, int), SavedRow>.Empty.Add((MainId, 1), Main).Add((AdvertId, 1), Advert).Add((MastId, 1), Mast),
            ImmutableDictionary<(Guid, int), Template>.Empty.Add((TemplateId, 1), (Template)BlockKinds.Complete(Template))
        );

    public static Email Email { get; } = Start();

    /// <summary>Whoever asks: one role, several, or one person by name.</summary>
    public sealed record Who(ImmutableArray<Role> Roles, bool IsNamed = false)
    {
        public Who(Role role)
            : this([role]) { }

        // A reviewer reads; whoever is something else besides may do what that allows.
        public bool Edits => Roles.Any(r => r != Role.Reviewer);

        public bool Designs => Roles.Contains(Role.Designer);
    }

    public static ImmutableArray<Who> Everyone { get; } =
    [
        .. Enum.GetValues<Role>().Select(r => new Who(r)),
        new([Role.Author, Role.Reviewer]),
        new([Role.Designer, Role.Reviewer]),
        new([Role.Author], IsNamed: true),
        new([]),
        new([Role.Reviewer], IsNamed: true),
    ];

    /// <summary>Who may write in a piece: the table of the model.</summary>
    public static bool MayWrite(Who who, string master, string row, string piece) =>
        who.Edits
        && (master, row, piece) switch
        {
            ("Masthead", _, "title") => false,
            ("Masthead", _, "strap") => true,
            ("Masthead", _, "masthead") => false,
            ("Story", "hero", "headline") => who.Designs,
            ("Story", _, "headline") => true,
            ("Story", _, "words") => who.Designs,
            ("Story", _, "button") => false,
            ("Story", _, "story") => true,
            ("Advert", _, "words" or "advert") => true,
            ("Advert", _, "hers") => who.IsNamed,
            ("Advert", _, "boxed") => false,
            ("Own", _, "note") => true,
            ("Own", _, "fixed") => false,
            ("Own", _, "own") => true,
            // What an author builds is open to all who edit.
            ("Built", _, _) => true,
            _ => throw new InvalidOperationException($"The model does not know {master}/{piece}."),
        };

    public static bool MayChoose(Who who, string master, string piece, string property, string? value) =>
        who.Edits
        && master switch
        {
            "Story" when piece == "button" && property == "style" => value is null or "primary" or "secondary",
            "Story" when piece == "button" => value is null,
            "Built" => true,
            _ => false,
        };

    public static bool MayArrange(Who who, string? zone) =>
        zone switch
        {
            "free" => who.Edits,
            "kept" => who.Designs,
            _ => false,
        };

    /// <summary>Every edit kind on every piece by every role, with what the model says of it.</summary>
    /// <param name="order">Of an email started from <see cref="Template"/>, nothing changed in it yet.</param>
    public static IEnumerable<(Who Who, Edit Edit, bool Allowed)> Expectations(RunningOrder order, IEnumerable<Who> people) =>
        people.SelectMany(who =>
            order
                .Rows.SelectMany(row => OfPieces(who, row).Concat(OfRow(who, row)))
                .Concat(OfDocument(who))
                .Select(e => (who, e.Edit, e.Allowed))
        );

    private static IEnumerable<(Edit Edit, bool Allowed)> OfPieces(Who who, OrderedRow row)
    {
        foreach (var block in row.Row.Blocks)
        {
            var (field, value) = block.Content.First();
            var write = MayWrite(who, row.Master.Name, row.Id, block.Id);
            yield return (new SetFill(row.Id, block.Id, field, value), write);
            yield return (new ClearFill(row.Id, block.Id, field), write);
            yield return (new SetShown(row.Id, block.Id, Visibility.PhoneOnly), write);
            yield return (new SetCondition(row.Id, block.Id, new Condition.Audience("members")), write);
            yield return (new SetCondition(row.Id, block.Id, null), write);
            foreach (var property in BlockKinds.For(block).Look)
            {
                yield return (
                    new ClearLook(row.Id, block.Id, property.Name),
                    MayChoose(who, row.Master.Name, block.Id, property.Name, null)
                );
                foreach (var choice in property.Choices)
                {
                    yield return (
                        new SetLook(row.Id, block.Id, property.Name, choice),
                        MayChoose(who, row.Master.Name, block.Id, property.Name, choice)
                    );
                }
            }

            // The pieces of saved rows and of the template's own rows stay where they are, and rules are set in the library: for everyone.
            foreach (
                var edit in (Edit[])
                    [
                        new RemoveBlock(row.Id, block.Id),
                        new DuplicateBlock(row.Id, block.Id, "copy"),
                        new MoveBlock(row.Id, block.Id, row.Id, row.Row.Columns[0].Id, 0),
                        new SwapBlocks(row.Id, block.Id, row.Id, row.Row.Blocks.First().Id),
                        new SplitText(row.Id, block.Id, field, RichText.FromParagraphs("a"), Block("rest", "text")),
                        new JoinTexts(row.Id, block.Id, row.Row.Blocks.Last().Id, field, RichText.FromParagraphs("a")),
                        new SetLock(row.Id, block.Id, Aspect.Content, new Lock.Open()),
                        new SetLimit(block.Id, field, null, row.Id),
                        new SetOffer(row.Id, block.Id, "style", ["quiet"]),
                        new SetInstruction(row.Id, block.Id, "x"),
                        new SetPlaceholder(row.Id, block.Id, false),
                        new SetPieceName(row.Id, block.Id, "x"),
                    ]
            )
            {
                yield return (edit, false);
            }
        }
    }

    private static IEnumerable<(Edit Edit, bool Allowed)> OfRow(Who who, OrderedRow row)
    {
        var write = MayWrite(who, row.Master.Name, row.Id, row.Row.Id);
        yield return (new SetShown(row.Id, row.Row.Id, Visibility.DesktopOnly), write);
        yield return (new SetCondition(row.Id, row.Row.Id, new Condition.Test("member", Comparison.Is, ["yes"])), write);
        // Whoever may take the row away may say which audience sees it.
        var audience = write || (row.Zone is { } zone && MayArrange(who, zone.Id));
        yield return (new SetCondition(row.Id, row.Row.Id, new Condition.Audience("members")), audience);
        yield return (new SetCondition(row.Id, row.Row.Id, Condition.Everyone), audience);
        foreach (
            var edit in (Edit[])
                [
                    new SetLook(row.Id, row.Row.Id, "surface", "tint"),
                    new InsertBlock(row.Id, row.Row.Columns[0].Id, 0, Block("new", "divider")),
                    new SetLayout(row.Id, [new ColumnShare("a", 1)]),
                    new SetBackground(row.Id, null),
                    new RestoreColumns(row.Id, row.Row.Columns),
                    new ReattachRow(row.Placed),
                ]
        )
        {
            yield return (edit, false);
        }

        var arrange = MayArrange(who, row.Zone?.Id);
        yield return (new MoveRow(row.Id, row.Zone?.Id ?? "free", 0), arrange);
        yield return (new DuplicateRow(row.Id, "copy"), arrange);
        yield return (new SwapRows(row.Id, row.Id), arrange);
        // The free zone holds its least.
        yield return (new RemoveRow(row.Id), arrange && row.Zone?.Id == "kept");
        yield return (new DetachRow(row.Id, Detached.FromRow(row)), arrange && row.Zone?.Id == "free");
    }

    private static IEnumerable<(Edit Edit, bool Allowed)> OfDocument(Who who)
    {
        foreach (
            var edit in (Edit[])
                [
                    new InsertZone(0, new Zone { Id = "z" }),
                    new RemoveZone("free"),
                    new SetZone(new Zone { Id = "free" }),
                    new SetDescription("x"),
                    new SetTags(["x"]),
                    new SetCampaignTypes(["x"]),
                    new SetRowKind(RowKind.Hero, "own"),
                    new SetVaries("x"),
                    new SetHouseStyle(Guid.NewGuid()),
                    new NarrowVariable("x", null),
                    new SetStyle("body", "size", "20"),
                ]
        )
        {
            yield return (edit, false);
        }

        foreach (
            var edit in (Edit[])
                [
                    new SetDetail("subject", "x"),
                    new SetDetail("campaignName", "x"),
                    new SetLanguage("cy"),
                    new ConfirmUnchanged("hero/headline/text", true),
                    new DiscardUnplaced("x"),
                    new SetAttachments([]),
                    new SetRecipient(null),
                    new SetName("Another name"),
                ]
        )
        {
            yield return (edit, who.Edits);
        }

        // The plain text is for those who make templates, as this one does not open it.
        yield return (new SetPlainText(null), who.Roles.Any(r => r is Role.Lead or Role.Designer));
        foreach (
            var edit in (Edit[])
                [
                    new SetPlainTextOpen(true),
                    new SetForOnePerson(true),
                    new SetVariable(
                        new BrandVariable
                        {
                            Key = "x",
                            Label = "X",
                            Type = VariableType.Text,
                            Value = "x",
                        }
                    ),
                    new RemoveVariable("x"),
                    new RenameVariable("x", "y"),
                    new MoveVariable("x", 0),
                    new ReplaceVariable("x", "y"),
                    new ReinstateVariable(
                        new BrandVariable
                        {
                            Key = "x",
                            Label = "X",
                            Type = VariableType.Text,
                            Value = "x",
                        },
                        0,
                        "y"
                    ),
                    new RestoreHouseStyle(new HouseStyle { Name = "x" }),
                    new SetSnippetValue("x", new FieldValue.Words("x")),
                    new AddSnippetValue(new ScheduledValue("x", "", new FieldValue.Words("x"))),
                    new RemoveSnippetValue("x"),
                    new RestoreFirstValue(new ScheduledValue("x", "", new FieldValue.Words("x")), ""),
                    new SetSnippetFrom("x", ""),
                    new SetSnippetExpiry(""),
                    new SetSnippetEditors(new SnippetEditors()),
                    new ReplaceSnippet(null),
                    new SetMergeField(
                        new MergeField
                        {
                            Key = "x",
                            Label = "X",
                            Type = MergeFieldType.Text,
                        }
                    ),
                    new RemoveMergeField("x"),
                    new SetAudience(new Audience("x", "X", Condition.Everyone)),
                    new RemoveAudience("x"),
                    new SetExportProfile(
                        new ExportProfile
                        {
                            Key = "x",
                            Name = "X",
                            Field = "[NAME]",
                        }
                    ),
                    new RemoveExportProfile("x"),
                ]
        )
        {
            yield return (edit, false);
        }

        // There is no newer release, and what is put back is only what was taken.
        yield return (
            new TakeUpdate(2, ImmutableSortedDictionary<string, int>.Empty, ImmutableSortedDictionary<string, UnplacedContent>.Empty, []),
            false
        );
        yield return (new RestoreUnplaced("x", new UnplacedContent("hero", "headline", "x", "x")), false);
        yield return (new InsertRow("free", 0, new PlacedRow { Id = "n", Own = Built("n") }), MayArrange(who, "free"));
        yield return (new InsertRow("kept", 0, new PlacedRow { Id = "n", Own = Built("n") with { RowKind = RowKind.Advert } }), false);
        yield return (new InsertRow("free", 0, new PlacedRow { Id = "n", Own = Built("n") with { Instruction = "Mine" } }), false);
        yield return (new InsertRow(null, 0, new PlacedRow { Id = "n", Own = Built("n") }), false);
    }

    public static SavedRow Built(string id) =>
        new()
        {
            Name = "Built",
            RowKind = RowKind.Main,
            Row = new Row
            {
                Id = $"{id}-row",
                Locks = Locks.Open,
                Columns = [new Column { Id = $"{id}-column", Blocks = [Block($"{id}-text", "text")] }],
            },
        };

    public static Block Block(string id, string kind) => BlockKinds.All.First(k => k.Name == kind).New(id);

    private static SavedRow Row(string name, string kind, params Block[] blocks) =>
        new()
        {
            Name = name,
            RowKind = kind,
            Row = new Row { Id = name.ToLowerInvariant(), Columns = [new Column { Id = "column", Blocks = [.. blocks] }] },
        };

    private static ImmutableSortedDictionary<string, ImmutableArray<string>> Offer(string property, params string[] choices) =>
        ImmutableSortedDictionary<string, ImmutableArray<string>>.Empty.Add(property, [.. choices]);

    private static ImmutableSortedDictionary<string, PieceRules> Rules(string piece, PieceRules rules) =>
        ImmutableSortedDictionary<string, PieceRules>.Empty.Add(piece, rules);

    private static Email Start()
    {
        var next = 0;
        return Documents.Email.StartFrom(TemplateId, 1, Template, "Test", () => $"r{next++}");
    }
}
