using System.Net.Http.Json;
using System.Text.Json.Nodes;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Emails;

namespace GoldenRule.Server.Tests;

public sealed class EditRoadTests(Running server) : IClassFixture<Running>
{
    [Fact]
    public async Task A_sealed_piece_is_refused_with_rule_and_piece_and_nothing_is_stored()
    {
        var author = await server.As("imran");
        var desk = await server.NewEmail(author);
        var answer = await author.Edit(
            desk.Id,
            desk.Revision,
            Asking.SetWords("hero", "headline", "Lawful"),
            Asking.SetWords("footer", "legal", "Stay", "unsubscribeText")
        );
        var problem = await answer.Problem(403, "refused");
        Assert.Equal(Rules.LockContent, (string?)problem["rule"]);
        Assert.Equal("footer/legal", (string?)problem["piece"]);
        Assert.Contains("designers", (string?)problem["detail"], StringComparison.Ordinal);
        // Not even the lawful half of the batch.
        Assert.Equal(0, server.Query(db => db.Edits.Count(e => e.DocumentId == desk.Id)));
        Assert.Equal(0, server.Query(db => db.Documents.Single(d => d.Id == desk.Id).Revision));
        Assert.DoesNotContain("Lawful", server.Query(db => db.Documents.Single(d => d.Id == desk.Id).Head), StringComparison.Ordinal);

        var designer = await server.As("dana");
        (
            await designer.Edit(desk.Id, desk.Revision, Asking.SetWords("footer", "legal", "Leave the list", "unsubscribeText"))
        ).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task An_answer_holds_the_rows_that_changed_and_no_others()
    {
        var author = await server.As("imran");
        var desk = await server.NewEmail(author);
        Assert.True(desk.Whole);
        var edits = new
        {
            @base = desk.Revision,
            styleVersion = desk.Proof.StyleVersion,
            edits = new[]
            {
                new
                {
                    id = Guid.CreateVersion7(),
                    step = Guid.CreateVersion7(),
                    edit = Asking.SetWords("hero", "headline", "All aboard"),
                },
            },
        };
        var changed = await (await author.PostAsJsonAsync($"/api/emails/{desk.Id}/edits", edits)).Read<DeskAnswer>();
        Assert.False(changed.Whole);
        Assert.Equal("hero", Assert.Single(changed.Rows).Id);
        Assert.Contains("All aboard", changed.Rows[0].Html, StringComparison.Ordinal);
        Assert.Null(changed.Proof.Opening);
        Assert.Equal(1, changed.Revision);
        Assert.True(changed.CanUndo);
    }

    /// <summary>Two who write in one email cost each other one question of the database with each key: was it the same place?</summary>
    [Fact]
    public async Task An_edit_made_beside_anothers_asks_once_more_and_knows_what_can_be_taken_back()
    {
        server.Server.PreserveExecutionContext = true;
        var (author, other) = (await server.As("imran"), await server.As("bea"));
        var desk = await server.NewEmail(author);
        foreach (var revision in (long[])[0, 2])
        {
            await WriteAsync(author, "hero", $"All aboard {revision}", revision);
            await WriteAsync(other, "board", $"Beside {revision}", revision);
        }

        var beside = await HeardAsync("All aboard, late", 3);
        var alone = await HeardAsync("All aboard, again", 5);
        Assert.Equal(alone + 1, beside);
        var back = await Move(other, desk.Id, "undo");
        Assert.Contains("Beside 0", back.Rows.Single(r => r.Id == "board").Html, StringComparison.Ordinal);
        Assert.Equal("All aboard, again", Headline(await Running.Desk(author, desk.Id)));

        async Task<int> HeardAsync(string words, long seen) =>
            (await server.Statements.DuringAsync(() => WriteAsync(author, "hero", words, seen))).Count;

        async Task WriteAsync(HttpClient client, string row, string words, long seen) =>
            (await client.Edit(desk.Id, seen, Asking.SetWords(row, "headline", words))).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task What_is_sent_twice_is_stored_once()
    {
        var author = await server.As("imran");
        var desk = await server.NewEmail(author);
        var body = new
        {
            @base = 0,
            edits = new[]
            {
                new
                {
                    id = Guid.CreateVersion7(),
                    step = Guid.CreateVersion7(),
                    edit = (object)
                        new
                        {
                            kind = "duplicate-row",
                            row = "none",
                            copy = "x",
                        },
                },
            },
        };
        var insert = new
        {
            kind = "insert-row",
            zone = "stops",
            index = 0,
            row = new
            {
                id = Guid.CreateVersion7(),
                master = await StoryRow(author, desk.Id),
                release = 1,
            },
        };
        var once = new
        {
            @base = 0,
            edits = new[]
            {
                new
                {
                    body.edits[0].id,
                    body.edits[0].step,
                    edit = (object)insert,
                },
            },
        };
        for (var i = 0; i < 2; i++)
        {
            Assert.Equal(1, (await (await author.PostAsJsonAsync($"/api/emails/{desk.Id}/edits", once)).Read<DeskAnswer>()).Revision);
        }

        // So too from a browser that crashed, has seen since what it had sent, and has more to say.
        var again = new
        {
            @base = 1,
            edits = new object[]
            {
                once.edits[0],
                new
                {
                    id = Guid.CreateVersion7(),
                    step = Guid.CreateVersion7(),
                    edit = Asking.SetWords("hero", "headline", "Typed before the crash"),
                },
            },
        };
        Assert.Equal(
            1,
            (await (await author.PostAsJsonAsync($"/api/emails/{desk.Id}/edits", once with { @base = 1 })).Read<DeskAnswer>()).Revision
        );
        for (var i = 0; i < 2; i++)
        {
            var after = await (await author.PostAsJsonAsync($"/api/emails/{desk.Id}/edits", again)).Read<DeskAnswer>();
            Assert.Equal(2, after.Revision);
            Assert.Equal("Typed before the crash", Headline(await Running.Desk(author, desk.Id)));
        }

        Assert.True((await author.GetFromJsonAsync<ReplayAnswer>($"/api/emails/{desk.Id}/replay", DocumentJson.Options))!.Equal);
    }

    [Fact]
    public async Task Two_people_in_different_places_both_succeed_and_in_the_same_place_the_later_hears_of_both()
    {
        var (imran, bea) = (await server.As("imran"), await server.As("bea"));
        var desk = await server.NewEmail(imran);
        (await imran.Edit(desk.Id, 0, Asking.SetWords("hero", "headline", "His"))).EnsureSuccessStatusCode();
        (await bea.Edit(desk.Id, 0, Asking.SetWords("board", "headline", "Hers"))).EnsureSuccessStatusCode();
        var problem = await (await bea.Edit(desk.Id, 0, Asking.SetWords("hero", "headline", "Hers"))).Problem(409, "conflict");
        Assert.Equal("hero/headline/text", (string?)problem["target"]);
        Assert.Equal("His", (string?)problem["theirs"]!["value"]!["text"]);
        Assert.Equal("Hers", (string?)problem["yours"]!["value"]!["text"]);
        Assert.All(["theirs", "yours"], one => Assert.Equal("set-fill", (string?)problem[one]!["kind"]));
        Assert.Contains("Imran Sayle", (string?)problem["detail"], StringComparison.Ordinal);
        // Having seen it, she may.
        (await bea.Edit(desk.Id, 2, Asking.SetWords("hero", "headline", "Hers"))).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task Undo_and_redo_work_across_sessions_and_are_per_author()
    {
        var imran = await server.As("imran");
        var bea = await server.As("bea");
        var desk = await server.NewEmail(imran);
        (await imran.Edit(desk.Id, 0, Asking.SetWords("hero", "headline", "One"))).EnsureSuccessStatusCode();
        (await imran.Edit(desk.Id, 1, Asking.SetWords("hero", "headline", "Two"))).EnsureSuccessStatusCode();
        (await bea.Edit(desk.Id, 2, Asking.SetWords("board", "headline", "Hers"))).EnsureSuccessStatusCode();

        var later = await server.As("imran");
        Assert.Equal("One", Headline(await Move(later, desk.Id, "undo")));
        Assert.Equal("One promise, in a reader’s words", Headline(await Move(later, desk.Id, "undo")));
        await (await later.PostAsJsonAsync($"/api/emails/{desk.Id}/undo", new { id = Guid.CreateVersion7(), @base = 0 })).Problem(
            422,
            "invalid"
        );
        Assert.Equal("One", Headline(await Move(later, desk.Id, "redo")));
        var last = await Move(later, desk.Id, "redo");
        Assert.Equal("Two", Headline(last));
        Assert.False(last.CanRedo);

        // Someone else has written there since: taking one's own back would lose theirs.
        (await bea.Edit(desk.Id, last.Revision, Asking.SetWords("hero", "headline", "Hers"))).EnsureSuccessStatusCode();
        await (await later.PostAsJsonAsync($"/api/emails/{desk.Id}/undo", new { id = Guid.CreateVersion7(), @base = 0 })).Problem(
            409,
            "conflict"
        );
    }

    [Fact]
    public async Task A_removed_row_comes_back_with_all_that_was_in_it()
    {
        var author = await server.As("imran");
        var desk = await server.NewEmail(author, "Members’ gazette");
        var row = desk.Order.Items.Single(i => i.Zone?.Id == "beside").Zone!.Rows[0];
        (
            await author.Edit(desk.Id, 0, Asking.SetWords(row, "headline", "Warm scones"), new { kind = "remove-row", row })
        ).EnsureSuccessStatusCode();
        Assert.DoesNotContain((await Running.Desk(author, desk.Id)).Rows, r => r.Id == row);
        var back = await Move(author, desk.Id, "undo");
        Assert.Contains("Warm scones", back.Rows.Single(r => r.Id == row).Html, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Taking_back_a_row_in_which_someone_else_has_written_is_refused_and_loses_nothing()
    {
        var (imran, bea) = (await server.As("imran"), await server.As("bea"));
        var desk = await server.NewEmail(imran);
        (
            await imran.Edit(
                desk.Id,
                0,
                new
                {
                    kind = "insert-row",
                    zone = "stops",
                    index = 0,
                    row = new
                    {
                        id = "his",
                        master = await StoryRow(imran, desk.Id),
                        release = 1,
                    },
                }
            )
        ).EnsureSuccessStatusCode();
        (await bea.Edit(desk.Id, 1, Asking.SetWords("hero", "headline", "Elsewhere"))).EnsureSuccessStatusCode();
        await Move(imran, desk.Id, "undo");
        await Move(imran, desk.Id, "redo");

        (await bea.Edit(desk.Id, 4, Asking.SetWords("his", "headline", "Her words in his row"))).EnsureSuccessStatusCode();
        await (await imran.PostAsJsonAsync($"/api/emails/{desk.Id}/undo", new { id = Guid.CreateVersion7(), @base = 5 })).Problem(
            409,
            "conflict"
        );
        Assert.Contains(
            "Her words in his row",
            (await Running.Desk(bea, desk.Id)).Rows.Single(r => r.Id == "his").Html,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task The_head_equals_the_replay_of_its_edits()
    {
        var author = await server.As("imran");
        var desk = await server.NewEmail(author);
        var story = await StoryRow(author, desk.Id);
        for (var i = 0; i < 12; i++)
        {
            var revision = (await Running.Desk(author, desk.Id)).Revision;
            object edit = (i % 4) switch
            {
                0 => new
                {
                    kind = "insert-row",
                    zone = "stops",
                    index = 0,
                    row = new
                    {
                        id = $"row{i}",
                        master = story,
                        release = 1,
                    },
                },
                1 => Asking.SetWords($"row{i - 1}", "headline", $"Stop {i}"),
                2 => Asking.SetWords("hero", "headline", $"Train {i}"),
                _ => new
                {
                    kind = "set-detail",
                    field = "subject",
                    value = $"Subject {i}",
                },
            };
            (await author.Edit(desk.Id, revision, edit)).EnsureSuccessStatusCode();
        }

        await Move(author, desk.Id, "undo");
        await Move(author, desk.Id, "undo");
        await Move(author, desk.Id, "redo");
        var replay = (await author.GetFromJsonAsync<ReplayAnswer>($"/api/emails/{desk.Id}/replay", DocumentJson.Options))!;
        Assert.Equal(15, replay.Revision);
        Assert.True(replay.Equal);

        // The check can fail: a head that someone meddled with is told from its replay.
        server.Sql($$"""update documents set head = jsonb_set(head, '{details,subject}', '"meddled"') where id = '{{desk.Id}}'""");
        Assert.False((await author.GetFromJsonAsync<ReplayAnswer>($"/api/emails/{desk.Id}/replay", DocumentJson.Options))!.Equal);
    }

    [Fact]
    public async Task An_edit_after_approval_returns_the_email_to_draft_and_what_is_handed_off_is_frozen()
    {
        var author = await server.As("bea");
        var approved = server.EmailId("Spring");
        Assert.Equal(EmailState.Approved, (await Running.Desk(author, approved)).State);
        var changed = await (await author.Edit(approved, 0, Asking.SetWords("hero", "headline", "Newer on the shelf"))).Read<DeskAnswer>();
        Assert.Equal(EmailState.Draft, changed.State);
        await (await author.Edit(server.EmailId("Lineside"), 0, Asking.SetWords("hero", "headline", "x"))).Problem(403, "refused");
    }

    [Fact]
    public async Task A_zone_offers_only_what_it_takes()
    {
        var author = await server.As("imran");
        var desk = await server.NewEmail(author);
        var offers = (await author.GetFromJsonAsync<JsonArray>($"/api/emails/{desk.Id}/offers?zone=stops"))!
            .Select(o => (string?)o!["name"])
            .ToList();
        Assert.Equal(["Itinerary stop", "Story, picture left", "Story, words only"], offers);
    }

    [Fact]
    public async Task Starting_twice_with_one_id_makes_one_email()
    {
        var author = await server.As("imran");
        var templates = await Running.Templates(author);
        var request = new
        {
            id = Guid.CreateVersion7(),
            template = templates![0]!["id"],
            name = "Only one",
        };
        for (var i = 0; i < 2; i++)
        {
            (await author.PostAsJsonAsync("/api/emails", request)).EnsureSuccessStatusCode();
        }

        Assert.Equal(1, server.Query(db => db.Documents.Count(d => d.Name == "Only one")));
        var other = await server.As("bea");
        await (await other.PostAsJsonAsync("/api/emails", request)).Problem(409, "conflict");
    }

    private static string Headline(DeskAnswer desk) =>
        ((FieldValue.Words)desk.Rows.Single(r => r.Id == "hero").Columns[0].Blocks.Single(b => b.Id == "headline").Fields[0].Value).Text;

    private static async Task<DeskAnswer> Move(HttpClient client, Guid id, string move) =>
        await (await client.PostAsJsonAsync($"/api/emails/{id}/{move}", new { id = Guid.CreateVersion7(), @base = -1 })).Read<DeskAnswer>();

    private static async Task<string> StoryRow(HttpClient client, Guid email) =>
        (string)
            (await client.GetFromJsonAsync<JsonArray>($"/api/emails/{email}/offers?zone=stops"))!.Single(o =>
                (string?)o!["name"] == "Story, words only"
            )!["id"]!;
}
