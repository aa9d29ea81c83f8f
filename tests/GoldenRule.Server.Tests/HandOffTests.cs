using System.Net;
using System.Net.Http.Json;
using System.Text;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.HandOffs;
using GoldenRule.Server.Reviews;
using Npgsql;

namespace GoldenRule.Server.Tests;

/// <summary>Hand-offs over the API: what is frozen stays, whatever becomes of the library; and who may do what, at once.</summary>
public sealed class HandOffTests(Running server) : IClassFixture<Running>
{
    private static async Task<EmailHandOffs> List(HttpClient client, Guid email) =>
        (await client.GetFromJsonAsync<EmailHandOffs>($"/api/emails/{email}/hand-offs", DocumentJson.Options))!;

    private static Task<HttpResponseMessage> Post(HttpClient client, Guid email, string hash, Guid? id = null) =>
        client.PostAsJsonAsync($"/api/emails/{email}/hand-offs", new { id = id ?? Guid.CreateVersion7(), hash });

    internal static async Task<HandOffAnswer> HandOff(HttpClient client, Guid email) =>
        await (await Post(client, email, (await List(client, email)).Hash)).Read<HandOffAnswer>();

    internal static async Task<HandOffVerified> Verify(HttpClient client, Guid id) =>
        await (await client.PostAsync($"/api/hand-offs/{id}/verification", null)).Read<HandOffVerified>();

    internal static Task<byte[]> File(HttpClient client, Guid id, string form) => client.GetByteArrayAsync($"/api/hand-offs/{id}/{form}");

    internal static string PageOf(HandOffAnswer answer) => new Uri(answer.Page).AbsolutePath;

    [Fact]
    public async Task Only_what_is_approved_and_was_looked_at_is_handed_off_and_asked_twice_it_is_one()
    {
        var author = await server.As("bea");
        var email = await server.NewGala(author);
        await (await Post(author, email, (await List(author, email)).Hash)).Problem(409, "state");
        await server.Approve(author, email);
        await (await Post(author, email, "0000")).Problem(409, "seen-changed");
        await (await Post(await server.As("jonas"), email, (await List(author, email)).Hash)).Problem(403, "refused");
        var (hash, id) = ((await List(author, email)).Hash, Guid.CreateVersion7());
        var both = await Task.WhenAll(Post(author, email, hash, id), Post(author, email, hash, id));
        Assert.All(both, answer => Assert.Equal(HttpStatusCode.OK, answer.StatusCode));
        var answer = await both[0].Read<HandOffAnswer>();
        Assert.Equal((1, 2), (answer.Record.Number, answer.Record.Approvals.Length));
        Assert.Equal(1, server.Query(db => db.HandOffs.Count(h => h.DocumentId == email)));
        Assert.True((await Verify(author, id)).Holds);
        // Frozen: nothing of it is written any more.
        await (await Edit(author, email, "Too late")).Problem(403, "refused");
        await (await Post(author, email, hash)).Problem(409, "state");
    }

    private static async Task<HttpResponseMessage> Edit(HttpClient client, Guid email, string subject)
    {
        var desk = await Running.Desk(client, email);
        return await client.PostAsJsonAsync(
            $"/api/emails/{email}/edits",
            new EditsRequest(
                desk.Revision,
                [new SentEdit(Guid.CreateVersion7(), Guid.CreateVersion7(), new SetDetail("subject", subject))]
            ),
            DocumentJson.Options
        );
    }

    [Fact]
    public async Task A_hand_off_while_someone_types_is_of_what_was_approved_or_refused()
    {
        var (author, other) = (await server.As("bea"), await server.As("imran"));
        for (var round = 0; round < 5; round++)
        {
            var email = await server.ApprovedGala(author);
            var hash = (await List(author, email)).Hash;
            var answers = await Task.WhenAll(Post(author, email, hash), Edit(other, email, "At the same time"));
            var handed = answers[0].StatusCode == HttpStatusCode.OK;
            Assert.NotEqual(handed, answers[1].IsSuccessStatusCode);
            Assert.Equal(handed ? EmailState.HandedOff : EmailState.Draft, (await List(author, email)).State);
            if (handed)
            {
                Assert.Equal(hash, (await answers[0].Read<HandOffAnswer>()).Record.Seen);
            }
        }
    }

    [Fact]
    public async Task A_picture_replaced_after_the_approval_stops_the_hand_off_and_after_it_changes_nothing()
    {
        var (author, lead) = (await server.As("bea"), await server.As("ruth"));
        var (before, after) = (await server.ApprovedGala(author), await server.ApprovedGala(author));
        var frozen = await HandOff(author, after);
        var html = await File(author, frozen.Record.Id, "html");
        var page = await (await server.CreateClient().GetAsync(PageOf(frozen))).Content.ReadAsStringAsync();
        var shown = server
            .Query(db => db.Pictures.ToList())
            .First(p => Encoding.UTF8.GetString(html).Contains(p.WholeFile, StringComparison.Ordinal));
        var other = server.Query(db => db.Pictures.First(p => p.Id != shown.Id && p.ReplacedBy == null));
        var hash = (await List(author, before)).Hash;
        (await lead.PutAsJsonAsync($"/api/pictures/{shown.Id}/replacement", new { by = other.Id })).EnsureSuccessStatusCode();
        try
        {
            Assert.NotEqual(hash, (await List(author, before)).Hash);
            await (await Post(author, before, hash)).Problem(409, "state");
            Assert.Equal(html, await File(author, frozen.Record.Id, "html"));
            Assert.Equal(page, await (await server.CreateClient().GetAsync(PageOf(frozen))).Content.ReadAsStringAsync());
            Assert.True((await Verify(author, frozen.Record.Id)).Holds);
        }
        finally
        {
            (await lead.DeleteAsync($"/api/pictures/{shown.Id}/replacement")).EnsureSuccessStatusCode();
        }
    }

    [Fact]
    public async Task The_database_refuses_to_change_what_was_handed_off()
    {
        var author = await server.As("bea");
        var frozen = await HandOff(author, await server.ApprovedGala(author));
        foreach (
            var sql in new[]
            {
                $"update hand_offs set seal = '' where id = '{frozen.Record.Id}'",
                $"delete from hand_offs where id = '{frozen.Record.Id}'",
                "update frozen_contents set content = ''",
                "delete from frozen_contents",
                "delete from hand_off_files",
                "truncate hand_offs cascade",
                "truncate frozen_contents cascade",
                "update picture_files set content = ''",
                "delete from picture_files",
            }
        )
        {
            var refused = Assert.Throws<PostgresException>(() => server.Sql(sql));
            Assert.Contains("append-only", refused.Message, StringComparison.Ordinal);
        }

        Assert.True((await Verify(author, frozen.Record.Id)).Holds);
        var seen = frozen.Record.Find(Core.HandOffs.HandOffFileKind.Seen)!;
        // Past the triggers, as whoever owns the database could, it shows.
        void Meddle(string content) =>
            server.Sql(
                $"""
                alter table frozen_contents disable trigger all;
                update frozen_contents set content = {content} where sha256 = '{seen.Sha256}';
                alter table frozen_contents enable trigger all;
                """
            );
        Meddle("content || '\\x20'");
        var looked = await Verify(author, frozen.Record.Id);
        Assert.False(looked.Holds);
        Assert.Contains(seen.Name, Assert.Single(looked.Faults), StringComparison.Ordinal);
        // Others are frozen of the same bytes.
        Meddle("substring(content from 1 for length(content) - 1)");
        Assert.True((await Verify(author, frozen.Record.Id)).Holds);
    }

    [Fact]
    public async Task A_correction_is_a_new_hand_off_that_names_the_former_and_withdrawing_closes_the_page()
    {
        var (author, lead, reader) = (await server.As("bea"), await server.As("ruth"), server.CreateClient());
        var email = await server.ApprovedGala(author);
        var first = await HandOff(author, email);
        Assert.Equal(HttpStatusCode.OK, (await reader.GetAsync(PageOf(first))).StatusCode);
        await (await author.PostAsJsonAsync($"/api/hand-offs/{first.Record.Id}/withdrawal", new { reason = " " })).Problem(422, "invalid");
        (await author.PostAsync($"/api/emails/{email}/correction", null)).EnsureSuccessStatusCode();
        await (await author.PostAsync($"/api/emails/{email}/correction", null)).Problem(409, "state");
        (await Edit(author, email, "Put right")).EnsureSuccessStatusCode();
        await server.Approve(author, email);
        var second = await HandOff(author, email);
        Assert.Equal((2, first.Record.Id), (second.Record.Number, second.Record.Corrects));
        Assert.NotEqual(PageOf(first), PageOf(second));
        var compared = (
            await author.GetFromJsonAsync<ReviewComparison>(
                $"/api/emails/{email}/review/comparison?against=hand-off&handOff=1",
                DocumentJson.Options
            )
        )!;
        Assert.Equal("Subject", Assert.Single(compared.Changes).Name);

        var withdrawn = await (
            await author.PostAsJsonAsync($"/api/hand-offs/{first.Record.Id}/withdrawal", new { reason = "The wrong day" })
        ).Read<HandOffAnswer>();
        Assert.Equal("The wrong day", withdrawn.Withdrawal?.Reason);
        await (await author.PostAsJsonAsync($"/api/hand-offs/{first.Record.Id}/withdrawal", new { reason = "Again" })).Problem(
            409,
            "state"
        );
        Assert.Equal(HttpStatusCode.Gone, (await reader.GetAsync(PageOf(first))).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await reader.GetAsync(PageOf(second))).StatusCode);
        Assert.True((await Verify(author, first.Record.Id)).Holds);

        var yesterday = DateOnly.FromDateTime(DateTime.UtcNow.AddDays(-1));
        await (await author.PutAsJsonAsync($"/api/hand-offs/{second.Record.Id}/page", new { until = yesterday })).Problem(403, "refused");
        (await lead.PutAsJsonAsync($"/api/hand-offs/{second.Record.Id}/page", new { until = yesterday })).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Gone, (await reader.GetAsync(PageOf(second))).StatusCode);
        (await lead.PutAsJsonAsync($"/api/hand-offs/{second.Record.Id}/page", new { until = (string?)null })).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.OK, (await reader.GetAsync(PageOf(second))).StatusCode);
    }

    [Fact]
    public async Task A_page_says_nothing_of_a_reader_unless_the_address_was_written_here_for_them()
    {
        var (lead, reader) = (await server.As("ruth"), server.CreateClient());
        var email = server.EmailId("Spring on the shop shelf");
        var frozen = await HandOff(lead, email);
        var answer = await reader.GetAsync(PageOf(frozen));
        var page = await answer.Content.ReadAsStringAsync();
        Assert.Equal("noindex", answer.Headers.GetValues("X-Robots-Tag").Single());
        Assert.StartsWith("default-src 'none'", answer.Headers.GetValues("Content-Security-Policy").Single(), StringComparison.Ordinal);
        Assert.Contains("name=\"robots\" content=\"noindex\"", page, StringComparison.Ordinal);
        Assert.False(answer.Headers.Contains("Set-Cookie"));
        using var again = new HttpRequestMessage(HttpMethod.Get, PageOf(frozen));
        again.Headers.TryAddWithoutValidation("If-None-Match", answer.Headers.ETag!.ToString());
        Assert.Equal(HttpStatusCode.NotModified, (await reader.SendAsync(again)).StatusCode);

        var samples = (await lead.GetFromJsonAsync<System.Text.Json.Nodes.JsonArray>("/api/sample-readers"))!;
        var pages = new HashSet<string>(StringComparer.Ordinal);
        string own = "";
        foreach (var sample in samples.Take(6))
        {
            var written = await (
                await lead.PostAsJsonAsync($"/api/hand-offs/{frozen.Record.Id}/reader-address", new { sample = (Guid)sample!["id"]! })
            ).Read<ReaderAddress>();
            own = new Uri(written.Address).PathAndQuery;
            var seen = await reader.GetAsync(own);
            Assert.Equal(HttpStatusCode.OK, seen.StatusCode);
            Assert.Contains("no-store", seen.Headers.CacheControl!.ToString(), StringComparison.Ordinal);
            pages.Add((await seen.Content.ReadAsStringAsync()).Replace(own, "", StringComparison.Ordinal));
        }

        // Members see one offer more.
        Assert.True(pages.Count > 1);
        var forged = own[..^4] + (own.EndsWith('A') ? "BBBB" : "AAAA");
        Assert.Equal(HttpStatusCode.Forbidden, (await reader.GetAsync(forged)).StatusCode);
        Assert.Equal(HttpStatusCode.Forbidden, (await reader.GetAsync(PageOf(frozen) + "?reader=x")).StatusCode);
        // Written for one page, it opens no other.
        var other = server.Query(db => db.HandOffs.First(h => h.Id != frozen.Record.Id).Address);
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await reader.GetAsync("/view/" + other + own[own.IndexOf('?', StringComparison.Ordinal)..])).StatusCode
        );
        Assert.Equal(HttpStatusCode.NotFound, (await reader.GetAsync("/view/AAAAAAAAAAAAAAAAAAAAAA")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await reader.GetAsync("/view/draft")).StatusCode);
    }
}
