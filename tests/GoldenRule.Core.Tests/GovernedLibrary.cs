using System.Collections.Immutable;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;

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
    public static SavedRow Main { get; } = Row("Story", RowKind.Main,
        Block("headline", "heading"),
        Block("words", "text") with { Locks = new Locks { Content = Designers } },
        Block("button", "button") with { Locks = new Locks { Content = Sealed, Look = Open }, Offers = Offer("style", "primary", "secondary") });

    public static SavedRow Advert { get; } = Row("Advert", RowKind.Advert, Block("words", "text"));

    /// <summary>All sealed by its row, but one piece that says otherwise.</summary>
    public static SavedRow Mast { get; } = Row("Masthead", RowKind.Header, Block("title", "heading"), Block("strap", "text") with { Locks = new Locks { Content = Open } }) is var row
        ? row with { Row = row.Row with { Locks = new Locks { Content = Sealed } } }
        : null!;

    public static Template Template { get; } = new()
    {
        Name = "Governed",
        CampaignType = "test",
        HouseStyle = Guid.Empty,
        Order =
        [
            new PlacedRow { Id = "mast", Master = MastId, Release = 1 },
            // The template takes the headline from the authors, which the saved row leaves open.
            new PlacedRow { Id = "hero", Master = MainId, Release = 1, Rules = Rules("headline", new PieceRules { Locks = new Locks { Content = Designers } }) },
            new PlacedRow { Id = "own", Own = Row("Own", RowKind.Secondary, Block("note", "text"), Block("fixed", "heading") with { Locks = new Locks { Content = Sealed } }) },
            new Zone { Id = "free", Name = "Free", Accepts = [RowKind.Main], Least = 1, Most = 4, OwnRows = true, Default = [new PlacedRow { Id = "first", Master = MainId, Release = 1 }] },
            new Zone { Id = "kept", Name = "Kept", Accepts = [RowKind.Advert], Least = 0, Most = 2, Locks = new Locks { Arrangement = Designers }, Default = [new PlacedRow { Id = "second", Master = AdvertId, Release = 1 }] },
        ],
    };

    public static MasterShelf Masters { get; } = new(
        ImmutableDictionary<(Guid, int), SavedRow>.Empty.Add((MainId, 1), Main).Add((AdvertId, 1), Advert).Add((MastId, 1), Mast),
        ImmutableDictionary<(Guid, int), Template>.Empty.Add((TemplateId, 1), (Template)BlockKinds.Complete(Template)));

    public static Email Email { get; } = Start();

    /// <summary>Who may write in a piece: the table of the model.</summary>
    public static bool MayWrite(Role role, string master, string row, string piece) => role != Role.Reviewer && (master, row, piece) switch
    {
        ("Masthead", _, "title") => false,
        ("Masthead", _, "strap") => true,
        ("Masthead", _, "masthead") => false,
        ("Story", "hero", "headline") => role == Role.Designer,
        ("Story", _, "headline") => true,
        ("Story", _, "words") => role == Role.Designer,
        ("Story", _, "button") => false,
        ("Story", _, "story") => true,
        ("Advert", _, "words" or "advert") => true,
        ("Own", _, "note") => true,
        ("Own", _, "fixed") => false,
        ("Own", _, "own") => true,
        // What an author builds is open to all who edit.
        ("Built", _, _) => true,
        _ => throw new InvalidOperationException($"The model does not know {master}/{piece}."),
    };

    public static bool MayChoose(Role role, string master, string piece, string property, string? value) => role != Role.Reviewer && master switch
    {
        "Story" when piece == "button" && property == "style" => value is null or "primary" or "secondary",
        "Story" when piece == "button" => value is null,
        "Built" => true,
        _ => false,
    };

    public static bool MayArrange(Role role, string? zone) => zone switch
    {
        "free" => role != Role.Reviewer,
        "kept" => role == Role.Designer,
        _ => false,
    };

    /// <summary>Every edit kind on every piece by every role, with what the model says of it.</summary>
    /// <param name="order">Of an email started from <see cref="Template"/>, nothing changed in it yet.</param>
    public static IEnumerable<(Role Role, Edit Edit, bool Allowed)> Expectations(RunningOrder order) => Enum.GetValues<Role>().SelectMany(role =>
        order.Rows.SelectMany(row => OfPieces(role, row).Concat(OfRow(role, row))).Concat(OfDocument(role)));

    private static IEnumerable<(Role, Edit, bool)> OfPieces(Role role, OrderedRow row)
    {
        foreach (var block in row.Row.Blocks)
        {
            var (field, value) = block.Content.First();
            var write = MayWrite(role, row.Master.Name, row.Id, block.Id);
            yield return (role, new SetFill(row.Id, block.Id, field, value), write);
            yield return (role, new ClearFill(row.Id, block.Id, field), write);
            yield return (role, new SetShown(row.Id, block.Id, ShownOn.PhoneOnly), write);
            foreach (var property in BlockKinds.Of(block).Look)
            {
                foreach (var choice in property.Choices)
                {
                    yield return (role, new SetLook(row.Id, block.Id, property.Name, choice), MayChoose(role, row.Master.Name, block.Id, property.Name, choice));
                }
            }

            // The pieces of saved rows and of the template's own rows stay where they are, and rules are set in the library: for everyone.
            foreach (var edit in (Edit[])[
                new RemoveBlock(row.Id, block.Id), new DuplicateBlock(row.Id, block.Id, "copy"), new MoveBlock(row.Id, block.Id, row.Id, row.Row.Columns[0].Id, 0),
                new SwapBlocks(row.Id, block.Id, row.Id, row.Row.Blocks.First().Id), new SplitText(row.Id, block.Id, field, RichText.Of("a"), Block("rest", "text")), new JoinTexts(row.Id, block.Id, row.Row.Blocks.Last().Id, field, RichText.Of("a")), new SetLock(row.Id, block.Id, Aspect.Content, new Lock.Open()),
                new SetLimit(block.Id, field, null, row.Id), new SetOffer(row.Id, block.Id, "style", ["quiet"]), new SetInstruction(row.Id, block.Id, "x"),
                new SetPlaceholder(row.Id, block.Id, false), new SetPieceName(row.Id, block.Id, "x")])
            {
                yield return (role, edit, false);
            }
        }
    }

    private static IEnumerable<(Role, Edit, bool)> OfRow(Role role, OrderedRow row)
    {
        yield return (role, new SetShown(row.Id, row.Row.Id, ShownOn.DesktopOnly), MayWrite(role, row.Master.Name, row.Id, row.Row.Id));
        foreach (var edit in (Edit[])[
            new SetLook(row.Id, row.Row.Id, "surface", "tint"), new InsertBlock(row.Id, row.Row.Columns[0].Id, 0, Block("new", "divider")), new SetLayout(row.Id, [new ColumnShare("a", 1)]),
            new SetBackground(row.Id, null), new RestoreColumns(row.Id, row.Row.Columns), new ReattachRow(row.Placed)])
        {
            yield return (role, edit, false);
        }

        var arrange = MayArrange(role, row.Zone?.Id);
        yield return (role, new MoveRow(row.Id, row.Zone?.Id ?? "free", 0), arrange);
        yield return (role, new DuplicateRow(row.Id, "copy"), arrange);
        // The free zone holds its least.
        yield return (role, new RemoveRow(row.Id), arrange && row.Zone?.Id == "kept");
        yield return (role, new DetachRow(row.Id, Detached.Of(row)), arrange && row.Zone?.Id == "free");
    }

    private static IEnumerable<(Role, Edit, bool)> OfDocument(Role role)
    {
        foreach (var edit in (Edit[])[
            new InsertZone(0, new Zone { Id = "z" }), new RemoveZone("free"), new SetZone(new Zone { Id = "free" }), new SetDescription("x"), new SetTags(["x"]), new SetCampaignTypes(["x"]),
            new SetRowKind(RowKind.Hero, "own"), new SetVaries("x"), new SetHouseStyle(Guid.NewGuid()), new NarrowVariable("x", null), new SetStyle("body", "size", "20")])
        {
            yield return (role, edit, false);
        }

        foreach (var edit in (Edit[])[new SetDetail("subject", "x"), new SetDetail("campaignName", "x"), new SetLanguage("cy"), new SetStillRight("hero/headline/text", true), new PutAway("x")])
        {
            yield return (role, edit, role != Role.Reviewer);
        }

        // There is no newer release, and what is put back is only what was taken.
        yield return (role, new TakeUpdate(2, ImmutableSortedDictionary<string, int>.Empty, ImmutableSortedDictionary<string, SetAside>.Empty, []), false);
        yield return (role, new KeepAside("x", new SetAside("hero", "headline", "x", "x")), false);
        yield return (role, new InsertRow("free", 0, new PlacedRow { Id = "n", Own = Built("n") }), MayArrange(role, "free"));
        yield return (role, new InsertRow("kept", 0, new PlacedRow { Id = "n", Own = Built("n") with { RowKind = RowKind.Advert } }), false);
        yield return (role, new InsertRow("free", 0, new PlacedRow { Id = "n", Own = Built("n") with { Instruction = "Mine" } }), false);
        yield return (role, new InsertRow(null, 0, new PlacedRow { Id = "n", Own = Built("n") }), false);
    }

    public static SavedRow Built(string id) => new()
    {
        Name = "Built",
        RowKind = RowKind.Main,
        Row = new Row { Id = $"{id}-row", Locks = Locks.Open, Columns = [new Column { Id = $"{id}-column", Blocks = [Block($"{id}-text", "text")] }] },
    };

    public static Block Block(string id, string kind) => BlockKinds.All.First(k => k.Name == kind).New(id);

    private static SavedRow Row(string name, RowKind kind, params Block[] blocks) => new()
    {
        Name = name,
        RowKind = kind,
        Row = new Row { Id = name.ToLowerInvariant(), Columns = [new Column { Id = "column", Blocks = [.. blocks] }] },
    };

    private static ImmutableSortedDictionary<string, ImmutableArray<string>> Offer(string property, params string[] choices) =>
        ImmutableSortedDictionary<string, ImmutableArray<string>>.Empty.Add(property, [.. choices]);

    private static ImmutableSortedDictionary<string, PieceRules> Rules(string piece, PieceRules rules) => ImmutableSortedDictionary<string, PieceRules>.Empty.Add(piece, rules);

    private static Email Start()
    {
        var next = 0;
        return Documents.Email.StartFrom(TemplateId, 1, Template, "Test", () => $"r{next++}");
    }
}
