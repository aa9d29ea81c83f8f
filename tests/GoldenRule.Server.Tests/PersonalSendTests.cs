using System.Collections.Immutable;
using System.Net;
using System.Net.Http.Json;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.HandOffs;
using MimeKit;

namespace GoldenRule.Server.Tests;

/// <summary>An email that is written to one person: theirs alone, and handed in once.</summary>
public sealed class PersonalSendTests(RunningWithMail server) : IClassFixture<RunningWithMail>
{
    private static Task<HttpResponseMessage> Edit(HttpClient client, string kind, Guid id, long revision, Edit edit) =>
        client.PostAsJsonAsync(
            $"/api/{kind}/{id}/edits",
            new EditsRequest(revision, [new SentEdit(Guid.CreateVersion7(), Guid.CreateVersion7(), edit)]),
            DocumentJson.Options
        );

    /// <summary>The gala on a release of its template that is for one person, written to an address and handed off.</summary>
    private async Task<HandOffAnswer> HandedOff(HttpClient author, string address)
    {
        var release = await ForOnePerson();
        var email = await server.NewGala(author);
        server.Sql($"update documents set head = jsonb_set(head, '{{templateRelease}}', '{release}') where id = '{email}'");
        (await Edit(author, "emails", email, 0, new SetRecipient(Ada(address)))).EnsureSuccessStatusCode();
        await server.Approve(author, email);
        var list = (await author.GetFromJsonAsync<EmailHandOffs>($"/api/emails/{email}/hand-offs", DocumentJson.Options))!;
        return await (
            await author.PostAsJsonAsync($"/api/emails/{email}/hand-offs", new { id = Guid.CreateVersion7(), hash = list.Hash })
        ).Read<HandOffAnswer>();
    }

    private static Recipient Ada(string address) =>
        new("Ada Fell", address, ImmutableSortedDictionary<string, string>.Empty.Add("first-name", "Ada"));

    /// <returns>Number of the first release of the template that is for one person.</returns>
    private async Task<int> ForOnePerson()
    {
        var lead = await server.As("ruth");
        var id = (Guid)(await Running.Templates(lead)).Single(t => (string?)t!["name"] == "Special train")!["id"]!;
        var desk = (await lead.GetFromJsonAsync<DeskAnswer>($"/api/templates/{id}/desk", DocumentJson.Options))!;
        if (!desk.About!.ForOnePerson)
        {
            (await Edit(lead, "templates", id, desk.Revision, new SetForOnePerson(true))).EnsureSuccessStatusCode();
            (await lead.PostAsJsonAsync($"/api/templates/{id}/releases", new { note = "For one person" })).EnsureSuccessStatusCode();
        }

        return server.Query(db => db.Releases.Where(r => r.DocumentId == id).Max(r => r.Number));
    }

    private static Task<HttpResponseMessage> Send(HttpClient client, Guid id) => client.PostAsync($"/api/hand-offs/{id}/sending", null);

    private List<MimeMessage> Taken(string to) =>
        [
            .. server
                .Mail.Taken.Where(m => m.To == to)
                .Select(m => MimeMessage.Load(new MemoryStream(System.Text.Encoding.Latin1.GetBytes(m.Message)))),
        ];

    [Fact]
    public async Task An_email_for_many_readers_is_written_to_nobody()
    {
        var author = await server.As("bea");
        var email = await server.NewGala(author);
        await (await Edit(author, "emails", email, 0, new SetRecipient(Ada("first@example.org")))).Problem(403, "refused");
    }

    [Fact]
    public async Task It_is_handed_in_once_as_it_was_frozen_and_its_page_is_theirs_alone()
    {
        var author = await server.As("bea");
        var handed = await HandedOff(author, "first@example.org");
        Assert.True(handed.Send.Allowed);
        var both = await Task.WhenAll(Send(author, handed.Record.Id), Send(author, handed.Record.Id));
        Assert.Single(both, a => a.StatusCode == HttpStatusCode.OK);
        Assert.Single(both, a => a.StatusCode == HttpStatusCode.Conflict);
        var message = Assert.Single(Taken("first@example.org"));
        Assert.Equal("first@example.org", message.To.Mailboxes.Single().Address);
        var html = await author.GetStringAsync($"/api/hand-offs/{handed.Record.Id}/html");
        Assert.Equal(html.ReplaceLineEndings(), message.HtmlBody!.ReplaceLineEndings());
        Assert.DoesNotContain("{{", html, StringComparison.Ordinal);
        await (await Send(author, handed.Record.Id)).Problem(409, "state");
        var answer = (await author.GetFromJsonAsync<HandOffAnswer>($"/api/hand-offs/{handed.Record.Id}", DocumentJson.Options))!;
        Assert.Equal(SendState.Sent, answer.Sending?.State);

        var reader = server.CreateClient();
        Assert.Equal(HttpStatusCode.NotFound, (await reader.GetAsync(new Uri(handed.Page).AbsolutePath)).StatusCode);
        var own = html.Split("href=\"")
            .Select(part => part.Split('"')[0])
            .First(href => href.Contains("?reader=", StringComparison.Ordinal));
        Assert.Equal(HttpStatusCode.OK, (await reader.GetAsync(new Uri(WebUtility.HtmlDecode(own)).PathAndQuery)).StatusCode);
    }

    [Fact]
    public async Task What_the_server_refuses_is_sent_again_and_what_it_may_have_taken_is_not()
    {
        var author = await server.As("bea");
        var refused = await HandedOff(author, "refused@example.org");
        var answer = await (await Send(author, refused.Record.Id)).Read<HandOffAnswer>();
        Assert.Equal((SendState.Refused, true), (answer.Sending!.State, answer.Send.Allowed));
        Assert.Contains("No such mailbox here", answer.Sending.Answer, StringComparison.Ordinal);
        (await Send(author, refused.Record.Id)).EnsureSuccessStatusCode();

        var dropped = await HandedOff(author, "dropped@example.org");
        answer = await (await Send(author, dropped.Record.Id)).Read<HandOffAnswer>();
        Assert.Equal((SendState.Unknown, false), (answer.Sending!.State, answer.Send.Allowed));
        await (await Send(author, dropped.Record.Id)).Problem(409, "state");
        Assert.Single(Taken("dropped@example.org"));
    }

    [Fact]
    public async Task Nobody_sends_what_is_withdrawn_has_no_address_or_is_for_many()
    {
        var author = await server.As("bea");
        var withdrawn = await HandedOff(author, "first@example.org");
        (
            await author.PostAsJsonAsync($"/api/hand-offs/{withdrawn.Record.Id}/withdrawal", new { reason = "By the test" })
        ).EnsureSuccessStatusCode();
        await (await Send(author, withdrawn.Record.Id)).Problem(409, "state");
        await (await Send(author, (await HandedOff(author, "")).Record.Id)).Problem(409, "state");
        var many = server.Query(db => db.HandOffs.OrderBy(h => h.At).First().Id);
        await (await Send(author, many)).Problem(409, "state");
        await (await Send(await server.As("jonas"), withdrawn.Record.Id)).Problem(403, "refused");
    }
}
