using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Sending;
using GoldenRule.Data;
using GoldenRule.Server.Destinations;
using GoldenRule.Server.HandOffs;
using GoldenRule.Server.Home;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Returns;
using GoldenRule.Server.Sends;
using GoldenRule.Server.Tokens;
using GoldenRule.Server.Webhooks;
using Microsoft.Extensions.Configuration;

namespace GoldenRule.Server.Tests;

/// <summary>Sending on what was handed off, and what comes back. The whole road by a platform is what sending.spec.ts is about.</summary>
public sealed class SendingTests(RunningWithMail server) : IClassFixture<RunningWithMail>
{
    private async Task<(HttpClient Author, HandOffAnswer HandOff)> HandedOff()
    {
        var author = await server.As("bea");
        return (author, await HandOffTests.HandOff(author, await server.ApprovedGala(author)));
    }

    private static async Task<Guid> MailServer(HttpClient client) =>
        (await client.GetFromJsonAsync<DestinationList>("/api/destinations", DocumentJson.Options))!.All.Single(d => d.Kind == "smtp").Id;

    private static async Task<SendRequest> Request(HttpClient client, params string[] to) =>
        new(
            Guid.CreateVersion7(),
            await MailServer(client),
            new BatchRule(3, 1),
            "Europe/London",
            File: Encoding.UTF8.GetBytes("Email\n" + string.Join('\n', to))
        );

    private static Task<HttpResponseMessage> Send(HttpClient client, Guid handOff, SendRequest request) =>
        client.PostAsJsonAsync($"/api/hand-offs/{handOff}/sends", request, DocumentJson.Options);

    private static async Task<SendEntry> Ended(HttpClient client, Guid handOff)
    {
        for (var i = 0; ; i++)
        {
            var all = (await client.GetFromJsonAsync<SendingAnswer>($"/api/hand-offs/{handOff}/sending", DocumentJson.Options))!;
            if (all.Sends.All(s => s.State is SendingState.Done or SendingState.Stopped or SendingState.Paused))
            {
                return all.Sends[0];
            }

            Assert.True(i < 3_000, $"It is {all.Sends[0].State}: {all.Sends[0].Answer}");
            await Task.Delay(100);
        }
    }

    private int TakenBy(string to) => server.Mail.Taken.Count(t => t.To == to);

    [Fact]
    public async Task Whatever_the_mail_server_does_nobody_gets_it_twice_and_each_is_told()
    {
        var (author, of) = await HandedOff();
        string[] to =
        [
            "one@a.example.org",
            "refused@a.example.org",
            "dropped@a.example.org",
            "cut@a.example.org",
            "later@a.example.org",
            "two@a.example.org",
            "gone@a.example.org",
        ];
        server.Sql($"insert into unsubscribed_addresses values ('{Unsubscribing.HashOf("GONE@a.example.org")}', now())");
        var request = await Request(author, to);
        // Asked twice at once it is one send.
        var both = await Task.WhenAll(Send(author, of.Record.Id, request), Send(author, of.Record.Id, request));
        Assert.Contains(both, answer => answer.IsSuccessStatusCode);
        var ended = await Ended(author, of.Record.Id);
        Assert.Equal(SendingState.Done, ended.State);
        Assert.Equal((3, 1, 2), (ended.Batches.Sum(b => b.Sent), ended.Batches.Sum(b => b.Refused), ended.Batches.Sum(b => b.Unknown)));
        Assert.Equal([1, 0, 1, 0, 1, 1, 0], to.Select(TakenBy));
        var missed = (
            await author.GetFromJsonAsync<List<NotReached>>(
                $"/api/hand-offs/{of.Record.Id}/sends/{request.Id}/not-reached",
                DocumentJson.Options
            )
        )!;
        Assert.Equal(
            [
                ("refused@a.example.org", SendState.Refused),
                ("dropped@a.example.org", SendState.Unknown),
                ("cut@a.example.org", SendState.Unknown),
            ],
            missed.Select(m => (m.Address, m.State))
        );
        Assert.StartsWith("550 ", missed[0].Answer, StringComparison.Ordinal);

        // The same list again: who got it, or may have, is left out; who was refused is tried.
        var again = await (
            await author.PostAsJsonAsync($"/api/hand-offs/{of.Record.Id}/sends/plan", await Request(author, to), DocumentJson.Options)
        ).Read<DrawnSend>();
        Assert.Equal((1, 1, 5), (again.Recipients, again.Unsubscribed, again.SentBefore));
    }

    [Fact]
    public async Task A_mail_server_killed_in_the_middle_of_a_batch_of_2000_gets_each_once()
    {
        var (author, of) = await HandedOff();
        string[] to = [.. Enumerable.Range(0, 2_000).Select(i => $"reader.{i}@many.example.org")];
        server.Mail.DownAfter = server.Mail.Taken.Count + 700;
        var request = (await Request(author, to)) with { Rule = new BatchRule(2_000, 1) };
        (await Send(author, of.Record.Id, request)).EnsureSuccessStatusCode();
        var ended = await Ended(author, of.Record.Id);
        Assert.Equal((SendingState.Done, 1_999, 1), (ended.State, ended.Batches.Sum(b => b.Sent), ended.Batches.Sum(b => b.Unknown)));
        var taken = server.Mail.Taken.Where(t => t.To.EndsWith("@many.example.org", StringComparison.Ordinal)).Select(t => t.To).ToList();
        Assert.Equal((1_999, 1_999), (taken.Count, taken.Distinct(StringComparer.Ordinal).Count()));
        // The one of whom the server did not say whether it has it is told, and not sent again.
        var unknown = await author.GetFromJsonAsync<List<NotReached>>(
            $"/api/hand-offs/{of.Record.Id}/sends/{request.Id}/not-reached",
            DocumentJson.Options
        );
        Assert.Equal(to.Except(taken), unknown!.Select(u => u.Address));
    }

    [Fact]
    public async Task What_is_paused_goes_on_where_it_was_and_what_is_withdrawn_stops()
    {
        var (author, of) = await HandedOff();
        var id = of.Record.Id;
        var request = (await Request(author, "p1@b.example.org", "p2@b.example.org")) with { Start = "2031-01-01T10:00" };
        (await Send(author, id, request)).EnsureSuccessStatusCode();
        Task<HttpResponseMessage> Act(HttpClient client, string act) =>
            client.PostAsJsonAsync($"/api/hand-offs/{id}/sends/{request.Id}/act", new { act });

        await (await Act(author, "resume")).Problem(409, "state");
        var paused = await (await Act(author, "pause")).Read<SendingAnswer>();
        Assert.Equal(
            (SendingState.Paused, new DateTime(2031, 1, 1, 10, 0, 0, DateTimeKind.Utc)),
            (paused.Sends[0].State, paused.Sends[0].Batches[0].At)
        );
        // By hand it is known; what a fault has paused waits at Home, for whoever asked for it.
        Assert.DoesNotContain(await author.Waits(), w => w.Kind == WaitKind.SendPaused);
        server.Sql($"update sends set answer = 'The mail server is not there.' where id = '{request.Id}'");
        var wait = Assert.Single(await author.Waits(), w => w.Kind == WaitKind.SendPaused);
        Assert.Equal("Sending it is paused. The mail server is not there.", wait.Text);
        Assert.DoesNotContain(await (await server.As("ruth")).Waits(), w => w.Kind == WaitKind.SendPaused);
        await (await Act(await server.As("jonas"), "resume")).Problem(403, "refused");
        await (await Act(await server.As("wren"), "resume")).Problem(403, "refused");
        (await Act(author, "resume")).EnsureSuccessStatusCode();
        Assert.DoesNotContain(await author.Waits(), w => w.Kind == WaitKind.SendPaused);
        Assert.Equal(SendingState.Done, (await Ended(author, id)).State);
        Assert.Equal((1, 1), (TakenBy("p1@b.example.org"), TakenBy("p2@b.example.org")));

        var later = (await Request(author, "p3@b.example.org")) with { Start = "2031-01-01T10:00" };
        (await Send(author, id, later)).EnsureSuccessStatusCode();
        (await author.PostAsJsonAsync($"/api/hand-offs/{id}/withdrawal", new { reason = "Rained off" })).EnsureSuccessStatusCode();
        var stopped = await Ended(author, id);
        Assert.Equal((SendingState.Stopped, "It was withdrawn."), (stopped.State, stopped.Answer));
        await (await Send(author, id, await Request(author, "p4@b.example.org"))).Problem(409, "state");
    }

    [Fact]
    public async Task Who_was_sent_to_is_deleted_after_thirty_days_and_counts_stay()
    {
        var (author, of) = await HandedOff();
        var id = of.Record.Id;
        (await Send(author, id, await Request(author, "r1@d.example.org", "r2@d.example.org"))).EnsureSuccessStatusCode();
        _ = await Ended(author, id);
        int Left() => server.Query(db => db.Recipients.Count(r => db.Sends.Any(s => s.Id == r.SendId && s.HandOffId == id)));
        await using var db = server.Context();
        await RecipientRetention.DeleteAsync(db, default);
        Assert.Equal(2, Left());
        server.Sql($"update sends set asked_at = now() - interval '31 days' where hand_off_id = '{id}'");
        server.Sql("update send_batches set ended_at = now() - interval '31 days'");
        await RecipientRetention.DeleteAsync(db, default);
        Assert.Equal(0, Left());
        Assert.Equal(2, (await Ended(author, id)).Batches.Sum(b => b.Sent));
    }

    [Fact]
    public async Task What_cannot_be_sent_is_refused_with_the_place()
    {
        var (author, of) = await HandedOff();
        var good = await Request(author, "ada@c.example.org");
        foreach (
            var (bad, piece) in new (SendRequest, string)[]
            {
                (good with { Rule = new BatchRule(0) }, "size"),
                (good with { Zone = "Europe/Atlantis", Start = "2031-01-01T10:00" }, "zone"),
                (good with { Start = "tomorrow" }, "start"),
                (good with { File = [] }, "file"),
                (good with { File = Encoding.UTF8.GetBytes("Email\nnobody\n") }, "file"),
                (good with { File = null }, "file"),
            }
        )
        {
            var problem = await (await Send(author, of.Record.Id, bad)).Problem(422, "invalid");
            Assert.Equal(piece, (string?)problem["piece"]);
        }

        await (await Send(author, of.Record.Id, good with { Destination = Guid.NewGuid() })).Problem(404, "not-found");
    }

    [Fact]
    public async Task Events_count_once_and_only_of_what_was_handed_off()
    {
        var (author, of) = await HandedOff();
        var link = (await Returns(author, of.Record.Id)).Links[0].Link.Address;
        var (reads, reports) = (await Token(TokenScopes.ReadHandOffs), await Token(TokenScopes.ReportEvents));
        ReaderEvent Event(string id, ReaderEventKind kind, string to = "", int seconds = 600) =>
            new(id, kind, of.Record.At.AddSeconds(seconds), "m-" + id, to, "", of.Record.At);
        var told = new EventsRequest([
            Event("1", ReaderEventKind.Sent),
            Event("2", ReaderEventKind.Clicked, link),
            Event("2", ReaderEventKind.Clicked, link),
            Event("3", ReaderEventKind.Clicked, link, 2),
            Event("4", ReaderEventKind.Clicked, "https://elsewhere.example.org/"),
        ]);
        Task<HttpResponseMessage> Tell(HttpClient client, Guid id, object what) =>
            client.PostAsJsonAsync($"/api/hand-offs/{id}/events", what, DocumentJson.Options);

        Assert.Equal(new(4, 1), await (await Tell(reports, of.Record.Id, told)).Read<EventsTaken>());
        var both = await Task.WhenAll(Tell(reports, of.Record.Id, told), Tell(reports, of.Record.Id, told));
        Assert.All(both, answer => Assert.Equal(HttpStatusCode.OK, answer.StatusCode));
        var came = await Returns(author, of.Record.Id);
        Assert.Equal(new ReturnCounts(1, 0, 0, 2, 1, 0), came.Counts);
        Assert.Equal((1, 1, 1), (came.Links[0].Clicked, came.Links[0].Scanned, came.Elsewhere));

        await (await Tell(reports, Guid.NewGuid(), told)).Problem(404, "not-found");
        await (await Tell(reads, of.Record.Id, told)).Problem(403, "refused");
        await (await Tell(await server.As("ruth"), of.Record.Id, told)).Problem(401, "sign-in");
        await (
            await Tell(
                reports,
                of.Record.Id,
                new
                {
                    events = new[]
                    {
                        new
                        {
                            id = "",
                            kind = "sent",
                            at = DateTime.UtcNow,
                        },
                    },
                }
            )
        ).Problem(422, "invalid");
        Assert.Equal(
            400,
            (int)
                (
                    await Tell(
                        reports,
                        of.Record.Id,
                        new
                        {
                            events = new[]
                            {
                                new
                                {
                                    id = "x",
                                    kind = "danced",
                                    at = DateTime.UtcNow,
                                },
                            },
                        }
                    )
                ).StatusCode
        );
    }

    private static async Task<ReturnAnswer> Returns(HttpClient client, Guid id) =>
        (await client.GetFromJsonAsync<ReturnAnswer>($"/api/hand-offs/{id}/returns", DocumentJson.Options))!;

    private async Task<HttpClient> Token(string scope)
    {
        var lead = await server.As("ruth");
        var made = await (
            await lead.PostAsJsonAsync(
                "/api/tokens",
                new
                {
                    id = Guid.CreateVersion7(),
                    name = "A program",
                    scopes = new[] { scope },
                }
            )
        ).Read<TokenMade>();
        // What is stored opens nothing.
        Assert.False(server.Query(db => db.Tokens.Any(t => t.Beginning == made.Token)));
        var program = server.CreateClient();
        program.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", made.Token);
        return program;
    }

    [Fact]
    public async Task What_changed_since_is_found_and_withdrawals_among_it()
    {
        var program = await Token(TokenScopes.ReadHandOffs);
        var (author, of) = await HandedOff();
        async Task<FoundHandOffs> Find(string since) =>
            (await program.GetFromJsonAsync<FoundHandOffs>($"/api/hand-offs?since={Uri.EscapeDataString(since)}", DocumentJson.Options))!;

        var first = await Find("");
        Assert.Equal(of.Record.Id, first.All[^1].Id);
        Assert.Contains(await Find(first.Since) is var again ? again.All : [], h => h.Id == of.Record.Id);
        (
            await author.PostAsJsonAsync($"/api/hand-offs/{of.Record.Id}/withdrawal", new { reason = "Rained off" })
        ).EnsureSuccessStatusCode();
        Assert.True((await Find(first.Since)).All.Single(h => h.Id == of.Record.Id).Withdrawn);
        await (await program.GetAsync("/api/hand-offs?since=yesterday")).Problem(400, "bad-request");
    }

    /// <summary>The registries of special addresses (RFC 6890), an IPv4 address within an IPv6 one, and what is everybody's.</summary>
    [Theory]
    [InlineData("127.0.0.1", false)]
    [InlineData("10.1.2.3", false)]
    [InlineData("172.31.255.255", false)]
    [InlineData("172.32.0.1", true)]
    [InlineData("192.168.0.1", false)]
    [InlineData("169.254.169.254", false)]
    [InlineData("100.64.0.1", false)]
    [InlineData("0.0.0.0", false)]
    [InlineData("224.0.0.1", false)]
    [InlineData("255.255.255.255", false)]
    [InlineData("::1", false)]
    [InlineData("::", false)]
    [InlineData("::ffff:127.0.0.1", false)]
    [InlineData("64:ff9b::7f00:1", false)]
    [InlineData("2002:7f00:1::", false)]
    [InlineData("fd00::1", false)]
    [InlineData("fe80::1", false)]
    [InlineData("93.184.215.14", true)]
    [InlineData("2606:2800:21f:cb07:6820:80da:af6b:8b2c", true)]
    public void Inward_addresses_are_not_asked(string address, bool may)
    {
        using var outbound = new OutboundConnections(new ConfigurationBuilder().Build());
        Assert.Equal(may, outbound.MayAsk(IPAddress.Parse(address)));
    }

    [Fact]
    public async Task A_name_that_leads_inward_is_refused_when_it_is_connected_to()
    {
        using var outbound = new OutboundConnections(new ConfigurationBuilder().Build());
        await Assert.ThrowsAsync<InwardAddressException>(() => outbound.ConnectAsync("localhost", 80, default));
        var lead = await server.As("ruth");
        Task<HttpResponseMessage> Add(string address) =>
            lead.PostAsJsonAsync(
                "/api/webhooks",
                new
                {
                    id = Guid.CreateVersion7(),
                    name = "Inward",
                    address,
                    kinds = new[] { "hand-off.made" },
                }
            );
        foreach (
            var address in (string[])
                [
                    "http://127.0.0.1/",
                    "https://[::1]/",
                    "https://169.254.169.254/latest",
                    "http://hooks.example.org/",
                    "ftp://x",
                    "https://a:b@hooks.example.org/",
                ]
        )
        {
            Assert.Equal("address", (string?)(await (await Add(address)).Problem(422, "invalid"))["piece"]);
        }

        var made = await (await Add("https://localhost/hook")).Read<WebhookMade>();
        (await lead.PostAsync($"/api/webhooks/{made.Webhook.Id}/trial", null)).EnsureSuccessStatusCode();
        for (var i = 0; i < 100; i++)
        {
            var told = (
                await lead.GetFromJsonAsync<List<DeliveryEntry>>($"/api/webhooks/{made.Webhook.Id}/deliveries", DocumentJson.Options)
            )!;
            if (told[0].State == DeliveryState.GivenUp)
            {
                Assert.Contains("within this network", told[0].Answer, StringComparison.Ordinal);
                return;
            }

            await Task.Delay(100);
        }

        Assert.Fail("It was not given up.");
    }

    [Fact]
    public async Task A_secret_is_stored_encrypted_and_goes_to_no_other_address()
    {
        var lead = await server.As("ruth");
        var id = Guid.CreateVersion7();
        object Platform(string address, string? secret) =>
            new
            {
                id,
                name = "Ours",
                kind = "platform",
                address,
                secret,
            };
        var added = await lead.PostAsJsonAsync("/api/destinations", Platform("https://platform.example.org/v1", "s3cret-token"));
        Assert.DoesNotContain("s3cret-token", await added.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.DoesNotContain(
            "s3cret-token",
            Encoding.UTF8.GetString(server.Query(db => db.Destinations.Single(d => d.Id == id).Secret)),
            StringComparison.Ordinal
        );
        Assert.DoesNotContain(
            "s3cret-token",
            string.Join(' ', server.Query(db => db.Log.Select(l => l.After).ToList())),
            StringComparison.Ordinal
        );
        var moved = await lead.PutAsJsonAsync($"/api/destinations/{id}", Platform("https://elsewhere.example.org/v1", null));
        Assert.Equal("secret", (string?)(await moved.Problem(422, "invalid"))["piece"]);
        (await lead.PutAsJsonAsync($"/api/destinations/{id}", Platform("https://platform.example.org/v1", null))).EnsureSuccessStatusCode();
        (await lead.DeleteAsync($"/api/destinations/{id}")).EnsureSuccessStatusCode();
        Assert.Empty(server.Query(db => db.Destinations.Single(d => d.Id == id).Secret));
    }

    [Theory]
    [InlineData("destinations")]
    [InlineData("webhooks")]
    public async Task Of_two_leads_who_change_it_at_once_the_second_is_told_what_it_is_now(string what)
    {
        var lead = await server.As("ruth");
        var id = Guid.CreateVersion7();
        object Named(string name, string? version) =>
            what == "webhooks"
                ? new
                {
                    id,
                    name,
                    address = "https://hooks.example.org/emails",
                    kinds = new[] { "hand-off.made" },
                    version,
                }
                : new
                {
                    id,
                    name,
                    kind = "download",
                    version,
                };
        async Task<string> VersionAsync() =>
            (string)
                (await lead.GetFromJsonAsync<JsonObject>($"/api/{what}"))!["all"]!.AsArray().Single(d => (Guid)d!["id"]! == id)![
                    "version"
                ]!;
        Task<HttpResponseMessage> Change(string name, string? version) => lead.PutAsJsonAsync($"/api/{what}/{id}", Named(name, version));
        (await lead.PostAsJsonAsync($"/api/{what}", Named("Folder", null))).EnsureSuccessStatusCode();
        var seen = await VersionAsync();
        if (what == "destinations")
        {
            (await lead.PostAsync($"/api/{what}/{id}/trial", null)).EnsureSuccessStatusCode();
            Assert.Equal(seen, await VersionAsync());
        }

        string[] names = ["Folder of the press", "Folder of the shop"];
        var both = await Task.WhenAll(names.Select(n => Change(n, seen)));
        var refused = both.Single(a => a.StatusCode == HttpStatusCode.Conflict);
        var stored = names[Array.FindIndex(both, a => a.IsSuccessStatusCode)];
        Assert.Contains($"\"{stored}\" now", (string?)(await refused.Problem(409, "changed-since"))["detail"], StringComparison.Ordinal);
        (await Change("Folder", await VersionAsync())).EnsureSuccessStatusCode();
        (await Change("Folder of whoever asks for no version", null)).EnsureSuccessStatusCode();
        (await lead.DeleteAsync($"/api/{what}/{id}")).EnsureSuccessStatusCode();
        await (await Change("Gone", seen)).Problem(404, "not-found");
    }

    /// <summary>
    /// The example of the Standard Webhooks specification (spec/standard-webhooks.md, "Signature scheme"), from memory: the same secret,
    /// id, time and body give this signature.
    /// </summary>
    [Fact]
    public void A_webhook_is_signed_as_the_published_example()
    {
        var signed = WebhookCall.Sign(
            "msg_p5jXN8AQM9LWM0D4loKWxJek",
            DateTimeOffset.FromUnixTimeSeconds(1614265330),
            "{\"test\": 2432232314}",
            ["whsec_MfKQ9r8GKYqrTwjUPD8ILPZIo2LaLaSw"]
        );
        Assert.Equal("v1,g0hM9SsE+OTPJTGt/tmIKtSyZlE3uFJELVlNIOLJ1OE=", signed);
    }
}
