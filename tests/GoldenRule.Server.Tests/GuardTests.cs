using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Server.Desks;
using GoldenRule.Server.HouseStyles;

namespace GoldenRule.Server.Tests;

/// <summary>What stands at the door, and what several do at the same moment.</summary>
public sealed class GuardTests(Running server) : IClassFixture<Running>
{
    private static object Sent(long seen, params Edit[] edits) =>
        new
        {
            @base = seen,
            edits = edits.Select(edit => new
            {
                id = Guid.CreateVersion7(),
                step = Guid.CreateVersion7(),
                edit,
            }),
        };

    private static Task<HttpResponseMessage> Post(HttpClient client, string path, object body) =>
        client.PostAsJsonAsync(path, body, DocumentJson.Options);

    [Fact]
    public async Task Cookies_and_pages_are_closed_to_scripts_and_to_other_sites()
    {
        using var client = server.CreateClient(new() { HandleCookies = false });
        var signedIn = await client.PostAsJsonAsync(
            "/api/session",
            new { email = "ruth@larkfell.example.org", password = "steam-and-cinders" }
        );
        var cookie = Running.SessionCookie(signedIn);
        Assert.All(["httponly", "samesite=strict", "path=/"], flag => Assert.Contains(flag, cookie, StringComparison.OrdinalIgnoreCase));
        foreach (var path in (string[])["/", "/api/session", "/api/emails", "/pictures/none.png"])
        {
            var answer = await client.GetAsync(path);
            var policy = Assert.Single(answer.Headers.GetValues("Content-Security-Policy"));
            // CSP level 3: scripts from here alone, none inline; no plug-ins, no other base, no framing from elsewhere.
            Assert.All(
                ["script-src 'self'", "object-src 'none'", "base-uri 'none'", "frame-ancestors 'self'", "default-src 'self'"],
                rule => Assert.Contains(rule, policy.Split(';', StringSplitOptions.TrimEntries))
            );
            Assert.Equal("nosniff", Assert.Single(answer.Headers.GetValues("X-Content-Type-Options")));
        }
    }

    [Fact]
    public async Task Files_that_are_too_large_are_refused_as_such()
    {
        var lead = await server.As("ruth");
        var house = (await Running.House(lead)).Id;
        foreach (
            var (path, name, bytes) in new[]
            {
                ("/api/pictures", "x.png", 6 << 20),
                ("/api/files", "x.pdf", 6 << 20),
                ($"/api/house-styles/{house}/palette", "x.png", 6 << 20),
            }
        )
        {
            using var form = new MultipartFormDataContent { { new ByteArrayContent(new byte[bytes]), "file", name } };
            Assert.Equal(HttpStatusCode.RequestEntityTooLarge, (await lead.PostAsync(path, form)).StatusCode);
        }
    }

    [Theory]
    [InlineData("rows")]
    [InlineData("templates")]
    [InlineData("house-styles")]
    public async Task A_release_is_of_the_draft_that_was_seen_and_one_of_several_at_once_is_made(string kind)
    {
        var lead = await server.As("ruth");
        var id = Guid.CreateVersion7();
        (
            await lead.PostAsJsonAsync(
                $"/api/{kind}",
                kind switch
                {
                    "rows" => new
                    {
                        id,
                        name = "Guarded",
                        rowKind = "main",
                    },
                    "templates" => new
                    {
                        id,
                        name = "Guarded",
                        campaignType = "members-gazette",
                    },
                    _ => (object)new { id, name = "Guarded" },
                }
            )
        ).EnsureSuccessStatusCode();
        async Task<HttpResponseMessage> Release(string? seen)
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, $"/api/{kind}/{id}/releases")
            {
                Content = JsonContent.Create(new { note = "Guarded" }),
            };
            if (seen is not null)
            {
                request.Headers.IfMatch.Add(new EntityTagHeaderValue(seen));
            }

            return await lead.SendAsync(request);
        }

        (await Post(lead, $"/api/{kind}/{id}/edits", Sent(0, new SetName("Guarded still")))).EnsureSuccessStatusCode();
        await (await Release("\"0\"")).Problem(412, "changed-since");
        // RFC 9110, 13.1.1: the one that was seen.
        (await Release("\"1\"")).EnsureSuccessStatusCode();

        var answers = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => Release(null)));
        Assert.All(answers, a => Assert.True((int)a.StatusCode is 200 or 412, $"{a.StatusCode}"));
        var numbers = server.Query(db => db.Releases.Where(r => r.DocumentId == id).Select(r => r.Number).ToList());
        Assert.Equal(Enumerable.Range(1, numbers.Count), numbers.Order());
        Assert.Equal(1 + answers.Count(a => a.IsSuccessStatusCode), numbers.Count);
    }

    [Fact]
    public async Task Two_windows_that_set_one_value_of_a_house_style_hear_of_both_and_their_own_are_no_conflict()
    {
        var lead = await server.As("ruth");
        var id = Guid.CreateVersion7();
        (await lead.PostAsJsonAsync("/api/house-styles", new { id, name = "Contested" })).EnsureSuccessStatusCode();
        var path = $"/api/house-styles/{id}/edits";
        static SetStyle Size(string value) => new("body", "size", value);
        (await Post(lead, path, Sent(0, Size("17")))).EnsureSuccessStatusCode();
        // Another window, which had seen nothing of it.
        var problem = await (await Post(lead, path, Sent(0, Size("18")))).Problem(409, "conflict");
        Assert.Equal(("17", "18"), ((string?)problem["theirs"]!["value"], (string?)problem["yours"]!["value"]));
        (await Post(lead, path, Sent(0, new SetStyle("body", "lineHeight", "1.6")))).EnsureSuccessStatusCode();
        // What the same window stored since is no conflict with what it says next, though both were made before the first was answered.
        var own = server.Query(db => db.Edits.Where(e => e.DocumentId == id).Select(e => e.Id).ToList());
        var next = new
        {
            @base = 0,
            own,
            edits = new[]
            {
                new
                {
                    id = Guid.CreateVersion7(),
                    step = Guid.CreateVersion7(),
                    edit = (Edit)Size("19"),
                },
            },
        };
        (await Post(lead, path, next)).EnsureSuccessStatusCode();
        Assert.Equal(
            "19",
            (await lead.GetFromJsonAsync<HouseStyleAnswer>($"/api/house-styles/{id}", DocumentJson.Options))!
                .Styles.Single(s => s.Name == "body")
                .Properties.Single(p => p.Name == "size")
                .Written
        );
    }

    [Fact]
    public async Task Undo_while_others_write_takes_back_what_is_ones_own_and_nothing_else()
    {
        var (imran, bea) = (await server.As("imran"), await server.As("bea"));
        var desk = await server.NewEmail(imran);
        var path = $"/api/emails/{desk.Id}";
        var hers = Task.Run(async () =>
        {
            for (var i = 0; i < 30; i++)
            {
                (await Post(bea, $"{path}/edits", Sent(1 << 20, new SetDetail("preheader", $"Hers {i}")))).EnsureSuccessStatusCode();
            }
        });
        var (made, taken) = (0, 0);
        for (var i = 0; i < 15; i++)
        {
            (await Post(imran, $"{path}/edits", Sent(1 << 20, new SetDetail("subject", $"His {i}")))).EnsureSuccessStatusCode();
            made++;
            if (i % 3 == 2)
            {
                (await imran.PostAsJsonAsync($"{path}/undo", new { id = Guid.CreateVersion7(), @base = 0 })).EnsureSuccessStatusCode();
                taken++;
            }
        }

        await hers;
        var end = await Running.Desk(imran, desk.Id);
        Assert.Equal(("His 13", "Hers 29"), (end.Head.Details.Subject, end.Head.Details.Preheader));
        Assert.Equal(30 + made + taken, end.Revision);
        Assert.True((await imran.GetFromJsonAsync<ReplayAnswer>($"{path}/replay", DocumentJson.Options))!.Equal);
    }
}
