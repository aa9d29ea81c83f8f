using System.Net.Http.Json;
using System.Text.Json.Nodes;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Audiences;
using GoldenRule.Server.Jobs;
using GoldenRule.Server.TestSends;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MimeKit;

namespace GoldenRule.Server.Tests;

/// <summary>
/// Tests sent to a mail server that refuses, drops, is slow or offers no encryption: each said, nothing half done, nothing twice.
/// </summary>
public sealed class TestSendTests(RunningWithMail server) : IClassFixture<RunningWithMail>
{
    private static readonly string[] Names = ["first", "refused", "dropped", "cut", "slow"];

    private Guid Me(string name) => server.Query(db => db.Users.Single(u => u.Name.StartsWith(name)).Id);

    private async Task<Tester[]> Testers()
    {
        var lead = await server.As("ruth");
        var testers = Names.Select(n => new Tester(Guid.CreateVersion7(), n, $"{n}@example.org")).ToArray();
        (await lead.PutAsJsonAsync("/api/testers", testers, DocumentJson.Options)).EnsureSuccessStatusCode();
        return testers;
    }

    private static Task<HttpResponseMessage> Send(HttpClient client, Guid email, object request) =>
        client.PostAsJsonAsync($"/api/emails/{email}/test-sends", request);

    private static async Task<TestSendEntry> Done(HttpClient client, Guid email, Guid id)
    {
        var job = await Running.Ended(client, id);
        Assert.Equal(JobState.Done, job.State);
        var all = (await client.GetFromJsonAsync<TestSends.TestSends>($"/api/emails/{email}/test-sends", DocumentJson.Options))!;
        return all.Last.Single(t => t.Id == id);
    }

    private List<MimeMessage> Taken(string to) =>
        [
            .. server
                .Mail.Taken.Where(m => m.To == to)
                .Select(m => MimeMessage.Load(new MemoryStream(System.Text.Encoding.Latin1.GetBytes(m.Message)))),
        ];

    private void NoneThisHour() => server.Sql("update test_sends set asked_at = asked_at - interval '2 hours'");

    [Fact]
    public async Task Of_five_addresses_each_has_a_result_of_its_own_and_none_gets_it_twice()
    {
        NoneThisHour();
        var (author, testers) = (await server.As("bea"), await Testers());
        var (email, id) = (server.EmailId("Winter steam gala"), Guid.CreateVersion7());
        var request = new
        {
            id,
            people = Array.Empty<Guid>(),
            testers = testers.Select(t => t.Id),
        };
        (await Send(author, email, request)).EnsureSuccessStatusCode();
        // Its answer was lost: asked again, it is the same test.
        (await Send(author, email, request)).EnsureSuccessStatusCode();
        var states = (await Done(author, email, id)).Messages.ToDictionary(m => m.Address.Split('@')[0]);
        Assert.Equal(SendState.Sent, states["first"].State);
        Assert.Equal(SendState.Refused, states["refused"].State);
        Assert.Contains("550", states["refused"].Answer, StringComparison.Ordinal);
        Assert.Contains("No such mailbox here", states["refused"].Answer, StringComparison.Ordinal);
        // All of it was said and nothing answered: nobody knows, and it is not said again.
        Assert.All(new[] { "dropped", "cut", "slow" }, name => Assert.Equal(SendState.Unknown, states[name].State));
        Assert.Contains("within 3 seconds", states["slow"].Answer, StringComparison.Ordinal);
        Assert.Single(Taken("first@example.org"));
        Assert.Single(Taken("dropped@example.org"));

        // The job once more, as after a server that died: what was not waiting stays as it is.
        using var scope = server.Services.CreateScope();
        var work = scope.ServiceProvider.GetServices<Work>().Single(w => w.Name == TestSendWork.WorkName);
        var job = await scope.ServiceProvider.GetRequiredService<GoldenRuleDb>().Jobs.AsNoTracking().SingleAsync(j => j.Id == id);
        await work.RunAsync(job, (_, _, _) => Task.CompletedTask, default);
        Assert.Single(Taken("first@example.org"));
        Assert.Single(Taken("dropped@example.org"));
    }

    [Fact]
    public async Task Without_encryption_nothing_is_said_and_that_is_told()
    {
        NoneThisHour();
        var author = await server.As("bea");
        var (email, id) = (server.EmailId("Winter steam gala"), Guid.CreateVersion7());
        server.Mail.OffersTls = false;
        try
        {
            (await Send(author, email, new { id, people = new[] { Me("Bea") } })).EnsureSuccessStatusCode();
            var message = Assert.Single((await Done(author, email, id)).Messages);
            Assert.Equal(SendState.Refused, message.State);
            Assert.Contains("STARTTLS", message.Answer, StringComparison.Ordinal);
            Assert.DoesNotContain(Taken("bea@larkfell.example.org"), m => m.MessageId!.StartsWith($"{id:N}.", StringComparison.Ordinal));
        }
        finally
        {
            server.Mail.OffersTls = true;
        }
    }

    [Fact]
    public async Task Each_reader_and_combination_gets_a_message_of_its_own()
    {
        NoneThisHour();
        var author = await server.As("bea");
        var (email, id) = (server.EmailId("Spring on the shop shelf"), Guid.CreateVersion7());
        var readers = (await author.GetFromJsonAsync<JsonArray>("/api/sample-readers"))!
            .Take(3)
            .Select(r => ((Guid)r!["id"]!, (string)r["name"]!))
            .ToList();
        (
            await Send(
                author,
                email,
                new
                {
                    id,
                    people = new[] { Me("Bea") },
                    readers = readers.Select(r => r.Item1),
                    combinations = true,
                    picturesInside = true,
                }
            )
        ).EnsureSuccessStatusCode();
        var test = await Done(author, email, id);
        Assert.All(test.Messages, m => Assert.Equal(SendState.Sent, m.State));
        var taken = Taken("bea@larkfell.example.org").Where(m => m.MessageId!.StartsWith($"{id:N}.", StringComparison.Ordinal)).ToList();
        // One condition: two combinations.
        Assert.Equal(readers.Count + 2, taken.Count);
        Assert.All(readers, r => Assert.Contains(taken, m => m.Subject!.StartsWith($"[Test, {r.Item2}]", StringComparison.Ordinal)));
        Assert.Contains(taken, m => m.Subject!.StartsWith("[Test 1 of 2]", StringComparison.Ordinal));
        Assert.NotEqual(
            taken.Single(m => m.Subject!.StartsWith("[Test 1 of 2]", StringComparison.Ordinal)).HtmlBody,
            taken.Single(m => m.Subject!.StartsWith("[Test 2 of 2]", StringComparison.Ordinal)).HtmlBody
        );
        Assert.All(taken, m => Assert.Contains(m.BodyParts, p => p is MimePart { ContentId: not null }));
    }

    [Fact]
    public async Task Limits_strangers_and_reviewers_are_held_to_what_they_may()
    {
        NoneThisHour();
        var (author, reviewer) = (await server.As("imran"), await server.As("jonas"));
        var email = server.EmailId("Winter steam gala");
        var me = Me("Jonas");
        (await Send(reviewer, email, new { id = Guid.CreateVersion7(), people = new[] { me } })).EnsureSuccessStatusCode();
        await (await Send(reviewer, email, new { id = Guid.CreateVersion7(), people = new[] { Me("Bea") } })).Problem(403, "refused");
        await (await Send(author, email, new { id = Guid.CreateVersion7(), people = new[] { Guid.NewGuid() } })).Problem(422, "invalid");
        await (await Send(author, email, new { id = Guid.CreateVersion7(), people = Array.Empty<Guid>() })).Problem(422, "invalid");
        await (
            await Send(
                author,
                email,
                new
                {
                    id = Guid.CreateVersion7(),
                    people = new[] { Me("Imran") },
                    readers = Enumerable.Range(0, 11).Select(_ => Guid.NewGuid()),
                }
            )
        ).Problem(422, "invalid");
        await (await author.PutAsJsonAsync("/api/testers", Array.Empty<object>())).Problem(403, "refused");
        // 40 an hour: what goes past them is refused as a whole.
        var readers = (await author.GetFromJsonAsync<JsonArray>("/api/sample-readers"))!.Select(r => (Guid)r!["id"]!).Take(4).ToList();
        var people = server.Query(db => db.Users.Where(u => u.DeactivatedAt == null).Select(u => u.Id).Take(4).ToList());
        var each = people.Count * readers.Count;
        for (var sent = each; sent <= 40; sent += each)
        {
            var id = Guid.CreateVersion7();
            (
                await Send(
                    author,
                    email,
                    new
                    {
                        id,
                        people,
                        readers,
                    }
                )
            ).EnsureSuccessStatusCode();
            Assert.Equal(JobState.Done, (await Running.Ended(author, id)).State);
        }

        var refused = await (
            await Send(
                author,
                email,
                new
                {
                    id = Guid.CreateVersion7(),
                    people,
                    readers,
                }
            )
        ).Problem(429, "too-often");
        Assert.Contains($"{40 % each} more", (string?)refused["detail"], StringComparison.Ordinal);
    }
}
