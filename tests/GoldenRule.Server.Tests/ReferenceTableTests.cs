using System.Net.Http.Json;
using System.Text.Json.Nodes;
using System.Threading;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Releases;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Tests;

/// <summary>The table of references is what a walk over everything stored finds, whatever happened.</summary>
public sealed class ReferenceTableTests(Running server) : IClassFixture<Running>
{
    [Fact]
    public async Task It_follows_edits_undo_new_documents_and_releases()
    {
        var (author, lead) = (await server.As("imran"), await server.As("ruth"));
        var desk = await server.NewEmail(author);
        _ = await (await author.Edit(desk.Id, 0, Asking.SetLink("hero", "button", "https://elsewhere.example.org/a"))).Read<JsonObject>();
        Assert.Contains("elsewhere.example.org", Hosts(desk.Id));
        AssertIsWhatAWalkFinds();
        (
            await author.PostAsJsonAsync($"/api/emails/{desk.Id}/undo", new { id = Guid.CreateVersion7(), @base = 1 })
        ).EnsureSuccessStatusCode();
        Assert.DoesNotContain("elsewhere.example.org", Hosts(desk.Id));

        var copy = Guid.CreateVersion7();
        (
            await author.PostAsJsonAsync(
                "/api/emails",
                new
                {
                    id = copy,
                    email = server.EmailId("March"),
                    name = "A copy",
                    next = true,
                }
            )
        ).EnsureSuccessStatusCode();
        var house = await Running.House(lead);
        (
            await lead.PostAsJsonAsync($"/api/house-styles/{house.Id}/releases", new { note = "As it is", required = false })
        ).EnsureSuccessStatusCode();
        AssertIsWhatAWalkFinds();
    }

    [Fact]
    public async Task What_was_stored_before_is_taken_in_by_two_servers_at_once_beside_edits_and_after_being_broken_off()
    {
        var author = await server.As("bea");
        var desk = await server.NewEmail(author);
        server.Sql("delete from document_references");
        server.Sql("update documents set references_known = false");
        await using var one = server.Context();
        await using var two = server.Context();

        // Broken off in the middle: nothing of the batch stays.
        using (var soon = new CancellationTokenSource())
        {
            await Assert.ThrowsAnyAsync<Exception>(() =>
                one.TakeInReferencesAsync(
                    5,
                    (kind, json) =>
                    {
                        soon.Cancel();
                        return StoredForm.Read(kind, json);
                    },
                    soon.Token
                )
            );
        }

        Assert.Equal(0, server.Query(db => db.References.Count()));
        one.ChangeTracker.Clear();
        // An edit of what is not read yet leaves it to whoever reads it.
        (await author.Edit(desk.Id, 0, Asking.SetWords("hero", "headline", "Meanwhile"))).EnsureSuccessStatusCode();
        await Task.WhenAll(All(one), All(two));
        Assert.Equal(0, server.Query(db => db.Documents.Count(d => !d.ReferencesKnown)));
        AssertIsWhatAWalkFinds();

        static async Task All(GoldenRuleDb db)
        {
            while (await db.CountUnreadAsync(default) > 0)
            {
                _ = await db.TakeInReferencesAsync(3, StoredForm.Read, default);
            }
        }
    }

    [Fact]
    public async Task Random_histories_leave_the_table_as_a_walk_finds_it()
    {
        const int seed = 20261129;
        var random = new Random(seed);
        var (author, lead) = (await server.As("imran"), await server.As("ruth"));
        var pictures = server.Query(db => db.Pictures.OrderBy(p => p.Id).Select(p => p.Id).ToList());
        var email = (await server.NewEmail(author, "Members’ gazette")).Id;
        var (accepted, undone, links, copies) = (0, 0, 0, 0);
        for (var i = 0; i < 120; i++)
        {
            var desk = await Running.Desk(author, email);
            var answer = random.Next(8) switch
            {
                0 => await author.PostAsJsonAsync($"/api/emails/{email}/undo", new { id = Guid.CreateVersion7(), @base = desk.Revision }),
                1 => await author.PostAsJsonAsync($"/api/emails/{email}/redo", new { id = Guid.CreateVersion7(), @base = desk.Revision }),
                _ => await author.Edit(email, desk.Revision, await AnEdit(desk)),
            };
            var what = answer.IsSuccessStatusCode ? 1 : 0;
            Assert.True((int)answer.StatusCode is 200 or 403 or 409 or 422, await answer.Content.ReadAsStringAsync());
            accepted += what;
            undone += answer.RequestMessage!.RequestUri!.AbsolutePath.EndsWith("edits", StringComparison.Ordinal) ? 0 : what;
        }

        // What refuses everything changes no reference either.
        Assert.True(accepted > 60 && undone > 5, $"{accepted} accepted, {undone} of them undo and redo, seed {seed}");
        AssertIsWhatAWalkFinds();

        async Task<object> AnEdit(DeskAnswer desk)
        {
            var rows = desk.Rows.Where(r => r.Zone is not null).ToList();
            var row = rows.Count == 0 ? desk.Rows[0] : rows[random.Next(rows.Count)];
            switch (random.Next(6))
            {
                case 0:
                    var offers = (await author.GetFromJsonAsync<JsonArray>($"/api/emails/{email}/offers?zone=stories"))!;
                    var offer = offers[random.Next(offers.Count)]!;
                    return new
                    {
                        kind = "insert-row",
                        zone = "stories",
                        index = 0,
                        row = new
                        {
                            id = $"new-{Guid.NewGuid():N}",
                            master = (string?)offer["id"],
                            release = (int)offer["release"]!,
                        },
                    };
                case 1:
                    return new { kind = "remove-row", row = row.Id };
                case 2:
                    return new
                    {
                        kind = "duplicate-row",
                        row = row.Id,
                        copy = $"copy-{copies++}",
                    };
                default:
                    var fields = row
                        .Columns.SelectMany(c => c.Blocks)
                        .SelectMany(b => b.Fields.Select(f => (Piece: b.Id, Field: f)))
                        .Where(f => f.Field.Value is FieldValue.Image or FieldValue.Link)
                        .ToList();
                    var (piece, field) = fields.Count == 0 ? ("text", null) : fields[random.Next(fields.Count)];
                    var fill = new SetFill(
                        row.Id,
                        piece,
                        field?.Name ?? "text",
                        field?.Value is FieldValue.Image
                            ? new FieldValue.Image(pictures[random.Next(pictures.Count)])
                            : new FieldValue.Link($"https://host-{random.Next(5)}.example.org/{links++}")
                    );
                    return JsonNode.Parse(DocumentJson.Write<Edit>(fill))!;
            }
        }
    }

    [Fact]
    public async Task The_command_says_where_the_table_differs()
    {
        var (missing, extra) = server.Query(db =>
            (
                db.References.AsNoTracking().First(r => r.Kind == ReferenceKind.Picture),
                db.Documents.First(d => d.Kind == DocumentKind.Email)
            )
        );
        Assert.Equal((0, $"{server.Query(db => db.Documents.Count())} documents compared, 0 differences"), await CheckAsync());
        server.Sql(
            $"""
            delete from document_references where document_id = '{missing.DocumentId}' and release = {missing.Release}
                and kind = 'Picture' and key = '{missing.Key}' and place = '{missing.Place}';
            insert into document_references (document_id, release, kind, key, target_release, place)
                values ('{extra.Id}', 0, 'Host', 'nowhere.example.org', 0, 'hero/button/link')
            """
        );
        var (code, told) = await CheckAsync();
        Assert.Equal(1, code);
        Assert.Contains($"Picture {missing.Key} at {missing.Place} is missing in the table", told, StringComparison.Ordinal);
        Assert.Contains($"{extra.Id}: Host nowhere.example.org at hero/button/link is in the table only", told, StringComparison.Ordinal);
        Assert.EndsWith("documents compared, 2 differences", told, StringComparison.Ordinal);
        // Read anew, it is right again.
        server.Sql("update documents set references_known = false");
        await using var db = server.Context();
        while (await db.TakeInReferencesAsync(50, StoredForm.Read, default) > 0) { }

        Assert.Equal(0, (await CheckAsync()).Code);

        async Task<(int Code, string Told)> CheckAsync()
        {
            await using var database = server.Context();
            await using var words = new StringWriter();
            var ended = await ReferenceCheck.RunAsync(database, words, default);
            return (ended, words.ToString().TrimEnd());
        }
    }

    [Fact]
    public async Task Where_a_picture_is_used_is_what_the_database_finds_in_the_documents_themselves()
    {
        var lead = await server.As("ruth");
        var ids = server.Query(db => db.Pictures.Select(p => p.Id).ToList());
        Assert.NotEmpty(ids);
        foreach (var id in ids)
        {
            var told = (await lead.GetFromJsonAsync<UsesAnswer>($"/api/pictures/{id}/uses", DocumentJson.Options))!;
            var found = server.Query(db => SayingPicture(db, id));
            Assert.Equal(found.Order(), told.Uses.Select(u => u.Id).Order());
            Assert.Equal((0, told.Uses.Count(u => u.Kind == DocumentKind.Email)), (told.Unread, told.Emails));
        }
    }

    /// <summary>Documents that show a picture, by a walk of the database itself over their JSON (SQL/JSON path, ISO/IEC 9075-2).</summary>
    internal static List<Guid> SayingPicture(GoldenRuleDb db, string picture) =>
        db
            .Database.SqlQuery<Guid>(
                $"""
                select id as "Value" from documents
                where exists (
                    select 1 from jsonb_path_query(head - 'lastTime', 'strict $.**') as x
                    where jsonb_typeof(x) = 'string' and x #>> array[]::text[] = {picture}
                )
                """
            )
            .ToList();

    private List<string> Hosts(Guid email) =>
        server.Query(db => db.References.Where(r => r.DocumentId == email && r.Kind == ReferenceKind.Host).Select(r => r.Key).ToList());

    private void AssertIsWhatAWalkFinds()
    {
        var stored = server.Query(db => db.References.AsNoTracking().ToList()).Select(r => (r.DocumentId, r.Release, Of(r))).ToHashSet();
        var heads = server.Query(db => db.Documents.AsNoTracking().ToList()).Select(d => (d.Id, Number: 0, d.Kind, Body: d.Head));
        var releases = server.Query(db => db.Releases.AsNoTracking().ToList()).Select(r => (Id: r.DocumentId, r.Number, r.Kind, r.Body));
        var walked = heads
            .Concat(releases)
            .SelectMany(d => References.Find(StoredForm.Read(d.Kind, d.Body)).Select(r => (d.Id, d.Number, r)))
            .ToHashSet();
        Assert.NotEmpty(walked);
        Assert.Equal((0, 0), (walked.Except(stored).Count(), stored.Except(walked).Count()));

        static Reference Of(StoredReference r) => new(r.Kind, r.Key, r.TargetRelease, r.Place);
    }
}
