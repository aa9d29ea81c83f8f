using System.Collections.Immutable;
using System.Reflection;
using System.Text.Json.Serialization;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Governance;
using GoldenRule.Core.History;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Tests;

/// <summary>One of each edit there is: where it can be made, that it is taken back exactly, and what a history calls it.</summary>
public sealed class EveryEditTests
{
    private static readonly RichText TwoTexts = RichText.FromParagraphs("First, then the rest.");

    private static Block Text(string id, string words) =>
        GovernedLibrary.Block(id, "text") is var block
            ? block with
            {
                Content = block.Content.SetItem("text", new FieldValue.Prose(RichText.FromParagraphs(words))),
            }
            : null!;

    // Two columns, with what edits of blocks need.
    private static readonly SavedRow Built = GovernedLibrary.Built("b") with
    {
        Name = "Built",
        Row = new Row
        {
            Id = "b-row",
            Locks = Locks.Open,
            Columns =
            [
                new Column
                {
                    Id = "left",
                    Parts = 2,
                    Blocks = [Text("one", "First, then the rest."), Text("two", "Below it."), GovernedLibrary.Block("button", "button")],
                },
                new Column { Id = "right", Blocks = [GovernedLibrary.Block("line", "divider") with { Name = "Rule" }] },
            ],
        },
    };

    private static readonly UnplacedContent Aside = new(Story, "headline", "Headline", "The saved row has no such piece any more.")
    {
        Field = "text",
        Value = new FieldValue.Words("Kept"),
    };

    private static readonly Email Email = GovernedLibrary.Email with
    {
        Zones = GovernedLibrary.Email.Zones.SetItem(
            "free",
            [.. GovernedLibrary.Email.Zones["free"], new PlacedRow { Id = "built", Own = Built }]
        ),
        Unplaced = ImmutableSortedDictionary<string, UnplacedContent>.Empty.Add("kept", Aside),
        ConfirmedUnchanged = ["hero/words/text"],
    };

    private static readonly Template Template = (Template)BlockKinds.Complete(GovernedLibrary.Template) is var template
        ? template with
        {
            Order = template.Order.Add(new PlacedRow { Id = "built", Own = Built }),
        }
        : null!;

    private static readonly BrandVariable Red = Larkfell.HouseStyle.Variables.First(v => v.Type == VariableType.Colour);
    private static readonly BrandVariable Other = Larkfell.HouseStyle.Variables.Last(v => v.Type == VariableType.Colour);

    // One variable has taken the place of another.
    private static readonly HouseStyle House = Larkfell.HouseStyle.WithVariable(Red with { Formerly = ["gone"] });

    // The row "built" of an email or a template; in a saved row the row itself.
    private static readonly SavedRow Row = Built with { Row = Built.Row with { Id = "built" } };

    private static string Story => GovernedLibrary.Email.Zones["free"][0].Id;

    /// <summary>
    /// An edit, the documents it can be made in (e-mail, template, row, house style, snippet, audiences), and what a history of
    /// the email says of it.
    /// </summary>
    public static TheoryData<Edit, string, string?> All =>
        new()
        {
            { new SetFill("hero", "words", "text", new FieldValue.Prose(TwoTexts)), "et", "changed text of Story" },
            { new ClearFill("hero", "words", "text"), "et", "put text of Story back to the template's" },
            { new SetLook("hero", "button", "style", "secondary"), "et", "chose secondary for button of Story" },
            { new ClearLook("hero", "button", "style"), "et", "put the look of button of Story back to the template's" },
            { new SetShown("hero", "words", Visibility.PhoneOnly), "et", "showed text of Story on phones only" },
            { new SetShown("built", "one", Visibility.DesktopOnly), "etr", "showed text of Built on desktops only" },
            { new SetShown("hero", "words", null), "et", "showed text of Story everywhere" },
            { new SetCondition("hero", "words", new Condition.Audience("members")), "et", "said who sees text of Story" },
            { new SetCondition("built", "one", Condition.Everyone), "etr", "showed text of Built to everyone" },
            { new SetCondition("hero", "words", null), "et", "left who sees text of Story to the layer beneath" },
            {
                new InsertRow(
                    "free",
                    0,
                    new PlacedRow
                    {
                        Id = "new",
                        Master = GovernedLibrary.MainId,
                        Release = 1,
                    }
                ),
                "et",
                "added Story"
            },
            { new RemoveRow("built"), "et", "removed Built" },
            { new MoveRow("built", "free", 0), "et", "moved Built up" },
            { new MoveRow("built", "kept", 0), "et", "moved Built to Kept" },
            { new SwapRows("built", "built"), "et", "let Built and Built change places" },
            { new DuplicateRow("built", "copy"), "et", "duplicated Built" },
            { new DetachRow(Story, Built), "e", "detached Story from its saved row" },
            { new DetachRow("hero", Built), "t", "detached Story from its saved row" },
            {
                new ReattachRow(
                    new PlacedRow
                    {
                        Id = "built",
                        Master = GovernedLibrary.MainId,
                        Release = 1,
                    }
                ),
                "et",
                "put Built back on its saved row"
            },
            { new InsertZone(0, new Zone { Id = "new", Name = "New" }), "t", null },
            { new RemoveZone("kept"), "t", null },
            {
                new SetZone(
                    new Zone
                    {
                        Id = "free",
                        Name = "Renamed",
                        Least = 0,
                        Most = 9,
                    }
                ),
                "t",
                null
            },
            { new InsertBlock("built", "right", 1, GovernedLibrary.Block("new", "spacer")), "etr", "added a spacer to Built" },
            { new RemoveBlock("built", "line"), "etr", "took rule of Built out" },
            { new MoveBlock("built", "button", "built", "right", 0), "etr", "moved button of Built" },
            { new SwapBlocks("built", "button", "built", "line"), "etr", "let button of Built and rule of Built change places" },
            { new DuplicateBlock("built", "button", "copy"), "etr", "duplicated button of Built" },
            {
                new SplitText("built", "one", "text", RichText.FromParagraphs("First,"), Text("new", "then the rest.")),
                "etr",
                "split text of Built"
            },
            {
                new JoinTexts("built", "one", "two", "text", RichText.FromParagraphs("All of it.")),
                "etr",
                "joined text of Built with the text below"
            },
            { new SetLayout("built", [new ColumnShare("right", 1), new ColumnShare("third", 3)]), "etr", "set the columns of a row" },
            {
                new RestoreColumns(
                    "built",
                    [Built.Row.Columns[1] with { Blocks = [.. Built.Row.Columns[0].Blocks, .. Built.Row.Columns[1].Blocks] }]
                ),
                "etr",
                "set the columns of a row"
            },
            { new SetBackground("built", "viaduct"), "etr", "changed the background of a row" },
            { new SetDetail("subject", "Steam"), "et", "changed the subject" },
            { new SetDetail("senderName", "Larkfell"), "et", "changed the sender" },
            { new SetLanguage("cy"), "e", "set the language to cy" },
            { new ConfirmUnchanged("details/subject", true), "e", "said that the subject still holds" },
            { new ConfirmUnchanged("hero/words/text", false), "e", "marked text of Story to be renewed" },
            {
                new TakeUpdate(
                    2,
                    ImmutableSortedDictionary<string, int>.Empty,
                    ImmutableSortedDictionary<string, UnplacedContent>.Empty,
                    []
                ),
                "e",
                "took release 2 of the template"
            },
            {
                new TakeUpdate(
                    1,
                    ImmutableSortedDictionary<string, int>.Empty.Add(Story, 2),
                    ImmutableSortedDictionary<string, UnplacedContent>.Empty,
                    []
                ),
                "e",
                "took an update of Story"
            },
            {
                new TakeUpdate(
                    1,
                    ImmutableSortedDictionary<string, int>.Empty,
                    ImmutableSortedDictionary<string, UnplacedContent>.Empty,
                    ["kept"]
                ),
                "e",
                "went back to release 1 of the template"
            },
            { new DiscardUnplaced("kept"), "e", "discarded text that was not placed" },
            { new RestoreUnplaced("another", Aside), "e", "set something aside again" },
            { new SetPlainText(WrittenText.Over("made", "By hand.")), "e", "wrote the plain text by hand" },
            { new SetPlainText(null), "e", "had the plain text made from the email again" },
            { new SetAttachments([new Attachment("0", "Timetable.pdf", "application/pdf", 1)]), "e", "attached 1 file" },
            { new SetPlainTextOpen(true), "t", null },
            { new SetForOnePerson(true), "t", null },
            { new SetRecipient(null), "e", "left open to whom it is written" },
            { new SetLock("built", "one", Aspect.Content, new Lock.Sealed()), "tr", null },
            { new SetLock("free", null, Aspect.Arrangement, new Lock.Sealed()), "t", null },
            { new SetLimit("one", "text", new Limit { Characters = 40 }, "built"), "tr", null },
            { new SetOffer("built", "button", "style", ["primary", "quiet"]), "tr", null },
            { new SetInstruction("built", "one", "Two lines at most."), "tr", null },
            { new SetInstruction("built", null, "For news only."), "tr", null },
            { new SetPlaceholder("built", "one", true), "tr", null },
            { new SetPieceName("built", "one", "Opening words"), "etr", null },
            { new SetPieceName("built", null, "Leading story"), "et", null },
            { new SetRowKind(RowKind.Advert), "r", null },
            { new SetRowKind(RowKind.Advert, "built"), "tr", null },
            { new SetCampaignTypes(["news"]), "trs", null },
            { new SetDescription("For the top of a gazette."), "trs", null },
            { new SetTags(["gazette", "summer"]), "tr", null },
            { new SetVaries("the picture stands right"), "r", null },
            { new SetHouseStyle(Guid.Parse("00000000-0000-0000-0000-0000000000aa")), "t", null },
            { new NarrowVariable(Red.Key, new NarrowedValue("#004488", "#88bbff")), "tr", null },
            { new SetName("Another name"), "etrhs", "renamed it \"Another name\"" },
            { new SetVariable(House.FindVariable(Red.Key)! with { Value = "#004488" }), "h", null },
            {
                new SetVariable(
                    new BrandVariable
                    {
                        Key = "new-one",
                        Label = "New",
                        Type = VariableType.Colour,
                        Value = "#004488",
                    },
                    1
                ),
                "h",
                null
            },
            { new RemoveVariable(Red.Key), "h", null },
            { new RenameVariable(Red.Key, "signal-red"), "h", null },
            { new MoveVariable(Red.Key, 3), "h", null },
            { new ReplaceVariable(Red.Key, Other.Key), "h", null },
            {
                new ReinstateVariable(
                    new BrandVariable
                    {
                        Key = "gone",
                        Label = "Gone",
                        Type = VariableType.Colour,
                        Value = "#004488",
                    },
                    0,
                    Red.Key
                ),
                "h",
                null
            },
            { new SetStyle("body", "size", "17"), "h", null },
            { new RestoreHouseStyle(House with { Name = "As it was" }), "h", null },
            { new SetSnippetValue("first", new FieldValue.Prose(TwoTexts)), "s", null },
            { new AddSnippetValue(new ScheduledValue("new", "2026-11-01T09:00", new FieldValue.Prose(TwoTexts))), "s", null },
            { new RemoveSnippetValue("first"), "s", null },
            { new RemoveSnippetValue("second"), "s", null },
            { new RestoreFirstValue(new ScheduledValue("before", "", new FieldValue.Prose(TwoTexts)), "2026-10-01T00:00"), "s", null },
            { new SetSnippetFrom("second", "2027-01-01T00:00"), "s", null },
            { new SetSnippetExpiry("2027-12-01T00:00"), "s", null },
            { new SetSnippetEditors(new SnippetEditors { Roles = [Role.Author] }), "s", null },
            { new ReplaceSnippet("other"), "s", null },
            { new SetMergeField(Larkfell.Audiences.Fields[0] with { Label = "Given name" }), "a", null },
            {
                new SetMergeField(
                    new MergeField
                    {
                        Key = "coach",
                        Label = "Coach",
                        Type = MergeFieldType.Text,
                    },
                    1
                ),
                "a",
                null
            },
            { new RemoveMergeField("member"), "a", null },
            { new SetAudience(new Audience("walkers", "Walkers", Condition.Everyone), 0), "a", null },
            { new RemoveAudience("members"), "a", null },
            {
                new SetExportProfile(
                    new ExportProfile
                    {
                        Key = "plain",
                        Name = "Plain",
                        Field = "[NAME]",
                    }
                ),
                "a",
                null
            },
            { new RemoveExportProfile("parish"), "a", null },
        };

    private static readonly Snippet Snippet = new()
    {
        Name = "Running days",
        Key = "running-days",
        Type = SnippetType.Text,
        Values =
        [
            new ScheduledValue("first", "", new FieldValue.Prose(RichText.FromParagraphs("Saturday"))),
            new ScheduledValue("second", "2026-12-01T00:00", new FieldValue.Prose(RichText.FromParagraphs("Sunday"))),
        ],
    };

    [Fact]
    public void There_is_one_of_each() =>
        Assert.Equal(
            typeof(Edit).GetCustomAttributes<JsonDerivedTypeAttribute>().Select(a => a.DerivedType.Name).Order(StringComparer.Ordinal),
            All.Select(row => row[0].GetType().Name).Distinct(StringComparer.Ordinal).Order(StringComparer.Ordinal)
        );

    [Theory]
    [MemberData(nameof(All))]
    public void It_is_stored_made_and_taken_back_exactly_where_it_can_be_made_and_refused_elsewhere(Edit edit, string where, string? told)
    {
        Assert.Equal(edit.GetType(), Inverses.RoundTrip(edit).GetType());
        Assert.Equal(DocumentJson.Write(edit), DocumentJson.Write(Inverses.RoundTrip(edit)));
        foreach (
            var (name, document) in new (char, Document)[]
            {
                ('e', Email),
                ('t', Template),
                ('r', Row),
                ('h', House),
                ('s', Snippet),
                ('a', Larkfell.Audiences),
            }
        )
        {
            if (!where.Contains(name, StringComparison.Ordinal))
            {
                Assert.True(IsRefused(edit, document), $"{edit.GetType().Name} was made in a document of kind {document.GetType().Name}.");
                continue;
            }

            var back = Inverses.RoundTrip(edit.Invert(document));
            var after = Inverses.RoundTrip(edit).Apply(document);
            Assert.Equal(Inverses.Json(document), Inverses.Json(back.Apply(after)));
            // And brought again.
            Assert.Equal(Inverses.Json(after), Inverses.Json(Inverses.RoundTrip(back.Invert(after)).Apply(back.Apply(after))));
        }

        _ = told;
    }

    // By its structure, by the rules for everyone, or because there is nothing to change.
    private static bool IsRefused(Edit edit, Document document)
    {
        var open = OpenDocument.Open(document, GovernedLibrary.Masters, EmailState.Draft);
        if (
            Enum.GetValues<Role>()
                .All(role =>
                    Governor.Decide(new Person(Guid.Empty, "Someone", [role]), edit, open) is Decision.Refused { Reason.Length: > 10 }
                )
        )
        {
            return true;
        }

        var after = document;
        var fault = Record.Exception(() => after = edit.Apply(document));
        return fault is StructureException { Message.Length: > 10 } || Inverses.Json(after) == Inverses.Json(document);
    }

    [Theory]
    [MemberData(nameof(All))]
    public void A_history_tells_it_by_the_names_of_then(Edit edit, string where, string? told)
    {
        _ = where;
        Assert.Equal(
            told ?? "changed its rules",
            HistoryWords.Tell(edit, RunningOrder.From(Email, GovernedLibrary.Masters), GovernedLibrary.Masters)
        );
    }

    [Fact]
    public void Several_edits_of_one_step_are_told_together()
    {
        Assert.Equal("changed the subject", HistoryWords.Tell(["changed the subject", "changed the subject"]));
        Assert.Equal("changed the subject and removed Built", HistoryWords.Tell(["changed the subject", "removed Built"]));
        Assert.Equal("removed A and 2 more", HistoryWords.Tell(["removed A", "removed B", "removed C", "removed B"]));
    }

    /// <summary>What an undo would take from someone else: whatever was said in a piece that goes, and nothing beside it.</summary>
    [Theory]
    [InlineData("built", "one", true)]
    [InlineData("built", "two", true)]
    [InlineData("hero", "words", false)]
    public void Taking_a_row_away_takes_what_was_said_in_it(string row, string piece, bool goes)
    {
        var said = DocumentJson.Write<Edit>(new SetFill(row, piece, "text", new FieldValue.Prose(TwoTexts)));
        Assert.Equal(goes, new RemoveRow("built").TakesAway(said));
        Assert.Equal(goes && piece == "two", new RemoveBlock("built", "two").TakesAway(said));
        Assert.Equal(goes && piece == "two", new JoinTexts("built", "one", "two", "text", TwoTexts).TakesAway(said));
        Assert.Equal(goes, new ReattachRow(new PlacedRow { Id = "built" }).TakesAway(said));
        Assert.True(new RestoreHouseStyle(House).TakesAway(said));
        Assert.False(new SetLayout("built", [new ColumnShare("left", 1)]).TakesAway(said));
    }
}
