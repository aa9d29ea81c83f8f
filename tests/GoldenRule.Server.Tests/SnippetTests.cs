using System.Collections.Immutable;
using System.Net;
using System.Net.Http.Json;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Interchange;
using GoldenRule.Data;
using GoldenRule.Server.Audiences;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;
using GoldenRule.Server.Snippets;

namespace GoldenRule.Server.Tests;

/// <summary>Snippets, fields and sample readers over the API: one change is in every draft at the next answer.</summary>
public sealed class SnippetTests(Running server) : IClassFixture<Running>
{
    private static readonly DateTime Now = DateTime.UtcNow;

    private static string Local(int days, string time = "00:00") =>
        Now.AddDays(days).ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture) + "T" + time;

    private static string Day(int days) => Local(days)[..10];

    private static FieldValue Text(string words) => new FieldValue.Prose(RichText.FromParagraphs(words));

    private static async Task<SnippetAnswer> Make(
        HttpClient client,
        string key,
        SnippetType type = SnippetType.Text,
        FieldValue? value = null
    )
    {
        var answer = await client.PostAsJsonAsync(
            "/api/snippets",
            new NewSnippet(Guid.CreateVersion7(), key, $"Snippet {key}", type, "", value ?? Text("at nine")),
            DocumentJson.Options
        );
        answer.EnsureSuccessStatusCode();
        return (await answer.Content.ReadFromJsonAsync<SnippetAnswer>(DocumentJson.Options))!;
    }

    private static Task<HttpResponseMessage> Send(HttpClient client, Guid snippet, long seen, params Edit[] edits) =>
        client.PostAsJsonAsync(
            $"/api/snippets/{snippet}/edits",
            new EditsRequest(seen, [.. edits.Select(e => new SentEdit(Guid.CreateVersion7(), Guid.CreateVersion7(), e))]),
            DocumentJson.Options
        );

    private static async Task<SnippetAnswer> Edit(HttpClient client, Guid snippet, long seen, params Edit[] edits)
    {
        var answer = await Send(client, snippet, seen, edits);
        Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
        return (await answer.Content.ReadFromJsonAsync<SnippetAnswer>(DocumentJson.Options))!;
    }

    private static string Node(string key, InlineKind kind = InlineKind.Snippet) => new InlineNode(kind, key).ToString();

    private static async Task<DeskAnswer> Put(HttpClient author, Guid email, long revision, string words)
    {
        var answer = await author.Edit(email, revision, Asking.SetWords("hero", "headline", words));
        Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
        return await Running.Desk(author, email);
    }

    private static async Task<Guid> Reader(HttpClient lead, string firstName)
    {
        var id = Guid.CreateVersion7();
        (
            await lead.PutAsJsonAsync(
                $"/api/sample-readers/{id}",
                new SampleReaderRequest("Of a test", ImmutableSortedDictionary<string, string>.Empty.Add("first-name", firstName)),
                DocumentJson.Options
            )
        ).EnsureSuccessStatusCode();
        return id;
    }

    private static string Hero(DeskAnswer desk) => desk.Rows.Single(r => r.Id == "hero").Html;

    [Fact]
    public async Task One_change_is_in_every_draft_at_the_next_answer_on_every_server()
    {
        using var other = server.Twin();
        var (lead, author) = (await server.As("ruth"), await Running.SignIn(other.CreateClient(), "imran"));
        var snippet = await Make(lead, "platform");
        var (first, second) = (await server.NewEmail(author), await server.NewEmail(author));
        var shown = await Put(author, first.Id, 0, $"Trains {Node("platform")}");
        await Put(author, second.Id, 0, $"Again {Node("platform")}");
        Assert.Contains("Trains at nine", Hero(shown), StringComparison.Ordinal);
        // As it was written, with what it comes to beside it.
        var field = shown.Rows.Single(r => r.Id == "hero").Columns.SelectMany(c => c.Blocks).Single(b => b.Id == "headline").Fields[0];
        Assert.Equal($"Trains {Node("platform")}", Assert.IsType<FieldValue.Words>(field.Value).Text);
        Assert.Equal("Trains at nine", Assert.IsType<FieldValue.Words>(field.Resolved).Text);

        await Edit(lead, snippet.Id, 0, new SetSnippetValue("first", Text("at ten")));
        var again = (
            await author.GetFromJsonAsync<DeskAnswer>(
                $"/api/emails/{first.Id}/desk?seen={shown.Revision}&styleVersion={shown.Proof.StyleVersion}",
                DocumentJson.Options
            )
        )!;
        Assert.Contains("Trains at ten", Hero(again), StringComparison.Ordinal);
        Assert.Equal(shown.Revision, again.Revision);
        Assert.Contains("Again at ten", Hero(await Running.Desk(author, second.Id)), StringComparison.Ordinal);
        // What it does not stand in is not sent again.
        var apart = await server.NewEmail(author);
        await Edit(lead, snippet.Id, 1, new SetSnippetValue("first", Text("at eleven")));
        var same = await author.GetFromJsonAsync<DeskAnswer>(
            $"/api/emails/{apart.Id}/desk?seen={apart.Revision}&styleVersion={apart.Proof.StyleVersion}",
            DocumentJson.Options
        );
        Assert.False(same!.Whole);
        Assert.Empty(same.Rows);

        var uses = await lead.GetFromJsonAsync<UsesAnswer>($"/api/snippets/{snippet.Id}/uses", DocumentJson.Options);
        Assert.Equal(new[] { first.Id, second.Id }.Order(), uses!.Uses.Select(u => u.Id).Order());
        Assert.Equal(
            2,
            (await lead.GetFromJsonAsync<SnippetEntry[]>("/api/snippets", DocumentJson.Options))!.Single(s => s.Key == "platform").Places
        );
    }

    [Fact]
    public async Task The_day_it_goes_out_decides_which_value_is_shown_and_another_can_be_looked_at()
    {
        var (lead, author) = (await server.As("ruth"), await server.As("imran"));
        var snippet = await Make(lead, "scheduled");
        snippet = await Edit(
            lead,
            snippet.Id,
            0,
            new AddSnippetValue(new ScheduledValue("later", Local(5), Text("at noon"))),
            new SetSnippetExpiry(Local(10))
        );
        Assert.Equal((0, 2L), (snippet.Holds, snippet.Revision));
        var email = await server.NewEmail(author);
        Assert.Contains("Trains at nine", Hero(await Put(author, email.Id, 0, $"Trains {Node("scheduled")}")), StringComparison.Ordinal);
        (
            await author.Edit(
                email.Id,
                1,
                new
                {
                    kind = "set-detail",
                    field = "sendDay",
                    value = Day(6),
                }
            )
        ).EnsureSuccessStatusCode();
        var then = await Running.Desk(author, email.Id);
        Assert.Contains("Trains at noon", Hero(then), StringComparison.Ordinal);
        Assert.DoesNotContain(then.Findings!.Now, f => f.Check == "snippet-expired");
        var looked = await author.GetFromJsonAsync<ReaderView>($"/api/emails/{email.Id}/draft/reader?day={Day(1)}", DocumentJson.Options);
        Assert.Contains("Trains at nine", looked!.Rows.Single(r => r.Id == "hero").Html, StringComparison.Ordinal);
        Assert.Contains("Trains at nine", looked.Text, StringComparison.Ordinal);

        (
            await author.Edit(
                email.Id,
                2,
                new
                {
                    kind = "set-detail",
                    field = "sendDay",
                    value = Day(12),
                }
            )
        ).EnsureSuccessStatusCode();
        var expired = Assert.Single((await Running.Desk(author, email.Id)).Findings!.Now, f => f.Check == "snippet-expired");
        Assert.Contains("Remove it here", expired.Remedy!.Label, StringComparison.Ordinal);
        var going = (await lead.GetFromJsonAsync<SnippetAnswer>($"/api/snippets/{snippet.Id}", DocumentJson.Options))!.GoingOut;
        Assert.Equal((email.Id, Day(12), true), (going.Single().Id, going.Single().Day, going.Single().AfterExpiry));
    }

    [Fact]
    public async Task Bad_snippets_are_refused_with_the_place_and_nothing_is_stored()
    {
        var lead = await server.As("ruth");
        var snippet = await Make(lead, "refused");
        var taken = await lead.PostAsJsonAsync(
            "/api/snippets",
            new NewSnippet(Guid.CreateVersion7(), "refused", "Another", SnippetType.Text, ""),
            DocumentJson.Options
        );
        await taken.Problem(409, "key-taken");
        foreach (
            var edit in (Edit[])
                [
                    new AddSnippetValue(new ScheduledValue("a", "tomorrow", Text("x"))),
                    new AddSnippetValue(new ScheduledValue("a", "", Text("x"))),
                    new SetSnippetValue("first", new FieldValue.Link("https://larkfell.example.org")),
                    new SetSnippetValue("first", Text(Node("refused"))),
                    new RemoveSnippetValue("first"),
                    new ReplaceSnippet("refused"),
                    new ReplaceSnippet("nowhere"),
                    new ReplaceSnippet("booking-page"),
                    new SetCampaignTypes(["nothing"]),
                    new SetName(" "),
                ]
        )
        {
            await (await Send(lead, snippet.Id, 0, edit)).Problem(422, "invalid");
        }

        await (await Send(lead, snippet.Id, 0, new SetDetail("subject", "x"))).Problem(403, "refused");
        Assert.Equal(0, (await lead.GetFromJsonAsync<SnippetAnswer>($"/api/snippets/{snippet.Id}", DocumentJson.Options))!.Revision);
        var email = await server.NewEmail(await server.As("imran"));
        var unknown = await (await server.As("imran")).Edit(email.Id, 0, Asking.SetWords("hero", "headline", Node("nowhere")));
        Assert.Contains("no snippet", await unknown.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, unknown.StatusCode);
    }

    [Fact]
    public async Task A_retired_snippet_goes_on_and_is_found_and_one_replaced_leads_to_the_other()
    {
        var (lead, author) = (await server.As("ruth"), await server.As("imran"));
        var old = await Make(lead, "old-hours", value: Text("old"));
        await Make(lead, "new-hours", value: Text("new"));
        var email = await server.NewEmail(author);
        await Put(author, email.Id, 0, Node("old-hours"));
        (await lead.PutAsJsonAsync($"/api/snippets/{old.Id}/status", new { retired = true })).EnsureSuccessStatusCode();
        var retired = await Running.Desk(author, email.Id);
        Assert.Contains(retired.Findings!.Now, f => f.Check == "snippet-retired");
        var offered = await author.GetFromJsonAsync<NodeOffer[]>("/api/nodes", DocumentJson.Options);
        Assert.NotNull(offered!.Single(o => o.Key == "old-hours").WhyNot);
        Assert.Null(offered!.Single(o => o.Key == "new-hours").WhyNot);
        await Edit(lead, old.Id, 0, new ReplaceSnippet("new-hours"));
        Assert.Contains(">new<", Hero(await Running.Desk(author, email.Id)), StringComparison.Ordinal);
        var back = await lead.PostAsJsonAsync($"/api/snippets/{old.Id}/undo", new { id = Guid.CreateVersion7() });
        back.EnsureSuccessStatusCode();
        Assert.Contains(">old<", Hero(await Running.Desk(author, email.Id)), StringComparison.Ordinal);
        var history = (await lead.GetFromJsonAsync<SnippetAnswer>($"/api/snippets/{old.Id}", DocumentJson.Options))!.History;
        Assert.Equal(["let it stand for itself again", "replaced it with new-hours"], history.Select(h => h.What));
        Assert.All(history, h => Assert.Equal("Ruth Calder", h.Author));
    }

    [Fact]
    public async Task Two_who_say_the_same_snippet_anew_at_once_are_a_conflict_and_neither_is_lost()
    {
        var (lead, designer) = (await server.As("ruth"), await server.As("dana"));
        var snippet = await Make(lead, "both");
        await Edit(lead, snippet.Id, 0, new SetSnippetValue("first", Text("hers")));
        await (await Send(designer, snippet.Id, 0, new SetSnippetValue("first", Text("mine")))).Problem(409, "conflict");
        await Edit(designer, snippet.Id, 0, new SetSnippetExpiry(Local(30)));
        var author = await server.As("imran");
        await (await Send(author, snippet.Id, 2, new SetSnippetExpiry(""))).Problem(403, "refused");
        var both = await lead.GetFromJsonAsync<SnippetAnswer>($"/api/snippets/{snippet.Id}", DocumentJson.Options);
        Assert.Equal((2L, Local(30)), (both!.Revision, both.Snippet.Expires));
    }

    [Fact]
    public async Task A_field_reads_right_for_each_reader_and_is_refused_where_it_is_not_declared()
    {
        var (lead, author) = (await server.As("ruth"), await server.As("imran"));
        var email = await server.NewEmail(author);
        await Put(author, email.Id, 0, $"Hello {Node("first-name", InlineKind.Field)}");
        (
            await author.Edit(
                email.Id,
                1,
                new
                {
                    kind = "set-detail",
                    field = "subject",
                    value = $"For {Node("first-name", InlineKind.Field)}",
                }
            )
        ).EnsureSuccessStatusCode();
        var someone = await Reader(lead, "");
        foreach (var (reader, name) in new[] { (await Reader(lead, "tomos"), "Tomos"), (someone, "traveller") })
        {
            var view = await author.GetFromJsonAsync<ReaderView>(
                $"/api/emails/{email.Id}/draft/reader?reader={reader}",
                DocumentJson.Options
            );
            Assert.Contains($"Hello {name}", view!.Rows.Single(r => r.Id == "hero").Html, StringComparison.Ordinal);
            Assert.Contains($"Hello {name}", view.Text, StringComparison.Ordinal);
            Assert.Equal($"For {name}", view.Inbox.Phone.Subject.Text);
        }

        var missing = await author.GetAsync($"/api/emails/{email.Id}/draft/reader?reader={Guid.NewGuid()}");
        Assert.Equal(HttpStatusCode.NotFound, missing.StatusCode);
        var plan = (await lead.GetFromJsonAsync<AudienceAnswer>("/api/audiences", DocumentJson.Options))!;
        Assert.Contains(plan.Fields, f => f.Field.Key == "first-name" && f.Places > 0);
        Task<HttpResponseMessage> Say(HttpClient who, Edit edit) =>
            who.PostAsJsonAsync(
                "/api/audiences/edits",
                new EditsRequest(plan.Revision, [new SentEdit(Guid.CreateVersion7(), Guid.CreateVersion7(), edit)]),
                DocumentJson.Options
            );
        // What stands in an email does not go; it is retired.
        await (await Say(lead, new RemoveMergeField("first-name"))).Problem(422, "invalid");
        await (await Say(author, new RemoveMergeField("journeys"))).Problem(403, "refused");
        var first = plan.Fields.Single(f => f.Field.Key == "first-name").Field;
        (await Say(lead, new SetMergeField(first with { Fallback = "friend" }))).EnsureSuccessStatusCode();
        Assert.Contains(
            "Hello friend",
            (await author.GetStringAsync($"/api/emails/{email.Id}/draft/reader?reader={someone}")),
            StringComparison.Ordinal
        );
        (await lead.PostAsJsonAsync("/api/audiences/undo", new { id = Guid.CreateVersion7() })).EnsureSuccessStatusCode();
    }

    /// <summary>What a sample has of a field from before its type was another is not known; the proof is drawn.</summary>
    [Fact]
    public async Task A_field_declared_anew_with_another_type_leaves_samples_that_can_be_looked_at()
    {
        var (lead, author) = (await server.As("ruth"), await server.As("imran"));
        async Task Say(Edit edit) =>
            (
                await lead.PostAsJsonAsync(
                    "/api/audiences/edits",
                    new EditsRequest(
                        (await lead.GetFromJsonAsync<AudienceAnswer>("/api/audiences", DocumentJson.Options))!.Revision,
                        [new SentEdit(Guid.CreateVersion7(), Guid.CreateVersion7(), edit)]
                    ),
                    DocumentJson.Options
                )
            ).EnsureSuccessStatusCode();
        var field = new MergeField
        {
            Key = "last-journey",
            Label = "Last journey",
            Type = MergeFieldType.Text,
        };
        await Say(new SetMergeField(field));
        var id = Guid.CreateVersion7();
        (
            await lead.PutAsJsonAsync(
                $"/api/sample-readers/{id}",
                new SampleReaderRequest("Of a test", ImmutableSortedDictionary<string, string>.Empty.Add(field.Key, "last Sunday")),
                DocumentJson.Options
            )
        ).EnsureSuccessStatusCode();
        await Say(new RemoveMergeField(field.Key));
        await Say(new SetMergeField(field with { Type = MergeFieldType.Date, Format = FieldFormat.LongDate, Fallback = "a while ago" }));
        var email = await server.NewEmail(author);
        await Put(author, email.Id, 0, $"Seen {Node(field.Key, InlineKind.Field)}");
        var view = await author.GetFromJsonAsync<ReaderView>($"/api/emails/{email.Id}/draft/reader?reader={id}", DocumentJson.Options);
        Assert.Contains("Seen a while ago", view!.Text, StringComparison.Ordinal);
        Assert.DoesNotContain(
            (await author.GetFromJsonAsync<PlatformFields>($"/api/emails/{email.Id}/fields", DocumentJson.Options))!
                .Samples.Single(s => s.Id == id)
                .Values,
            v => v.Value.Contains("Sunday", StringComparison.Ordinal)
        );
        server.Sql("delete from sample_readers");
    }

    [Fact]
    public async Task Sample_readers_come_from_a_file_whole_or_not_at_all_and_go_in_one_act()
    {
        var lead = await server.As("ruth");
        var before = (await lead.GetFromJsonAsync<SampleReader[]>("/api/sample-readers", DocumentJson.Options))!.Length;
        async Task<ReadReaders> File(string csv, bool store)
        {
            var answer = await lead.PostAsJsonAsync(
                "/api/sample-readers/file",
                new ReaderFileRequest(csv, null, store),
                DocumentJson.Options
            );
            Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
            return (await answer.Content.ReadFromJsonAsync<ReadReaders>(DocumentJson.Options))!;
        }

        async Task<int> Count() => (await lead.GetFromJsonAsync<SampleReader[]>("/api/sample-readers", DocumentJson.Options))!.Length;

        Assert.Equal(2, (await File("First name,Member\nUna,yes\nVic,no\n", false)).Readers.Length);
        Assert.Equal(before, await Count());
        Assert.Equal(3, Assert.Single((await File("First name,Member\nUna,yes\nVic,perhaps\n", true)).Bad).Line);
        Assert.Equal(before, await Count());
        await File("First name,Member\nUna,yes\nVic,no\n", true);
        Assert.Equal(before + 2, await Count());
        var full = "First name\n" + string.Concat(Enumerable.Repeat("Ada\n", SampleReader.Most));
        await (
            await lead.PostAsJsonAsync("/api/sample-readers/file", new ReaderFileRequest(full, null, true), DocumentJson.Options)
        ).Problem(422, "invalid");
        var long1 = "First name\n" + string.Concat(Enumerable.Repeat("Ada\n", 600_000));
        Assert.Contains(
            (int)(await lead.PostAsJsonAsync("/api/sample-readers/file", new ReaderFileRequest(long1), DocumentJson.Options)).StatusCode,
            new[] { 400, 413 }
        );
        Assert.Equal(before + 2, await Count());
        var id = Guid.CreateVersion7();
        Task<HttpResponseMessage> PutReader(string key, string value) =>
            lead.PutAsJsonAsync(
                $"/api/sample-readers/{id}",
                new SampleReaderRequest("By hand", ImmutableSortedDictionary<string, string>.Empty.Add(key, value)),
                DocumentJson.Options
            );
        await (await PutReader("journeys", "many")).Problem(422, "invalid");
        await (await PutReader("shoe-size", "9")).Problem(422, "invalid");
        (await PutReader("journeys", "9")).EnsureSuccessStatusCode();
        (await PutReader("journeys", "10")).EnsureSuccessStatusCode();
        Assert.Equal(before + 3, await Count());
        (await lead.DeleteAsync("/api/sample-readers")).EnsureSuccessStatusCode();
        Assert.Equal(0, await Count());
        server.Sql("delete from sample_readers");
    }

    /// <summary>A draft's stored form says what was written: the words it shows are nowhere in it.</summary>
    [Fact]
    public async Task An_email_stores_the_reference_and_replays_to_what_it_is()
    {
        var author = await server.As("imran");
        var email = await server.NewEmail(author);
        await Put(author, email.Id, 0, $"Tea: {Node("tearoom-hours")}");
        var head = server.Query(db => db.Documents.Single(d => d.Id == email.Id).Head);
        Assert.DoesNotContain("10:00 to 16:30", head, StringComparison.Ordinal);
        Assert.Contains("snippet:tearoom-hours", head, StringComparison.Ordinal);
        Assert.Contains("\"equal\":true", await author.GetStringAsync($"/api/emails/{email.Id}/replay"), StringComparison.Ordinal);
        Assert.True(server.Query(db => db.References.Any(r => r.DocumentId == email.Id && r.Key == "tearoom-hours")));
    }
}
