using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using GoldenRule.Core.Governance;
using Microsoft.AspNetCore.Http.Metadata;
using Microsoft.AspNetCore.Routing;
using Microsoft.Extensions.DependencyInjection;

namespace GoldenRule.Server.Tests;

/// <summary>Who reaches what, and how errors are told.</summary>
public sealed class ReachingTests(Running server) : IClassFixture<Running>
{
    /// <summary>Every route there is, found by asking the server itself: nobody gets in by one that was forgotten.</summary>
    [Fact]
    public async Task Every_route_asks_for_a_sign_in_but_the_few_that_cannot()
    {
        var client = server.CreateClient();
        string[] open =
        [
            "/api/session",
            "/api/session/openid",
            "/api/server",
            "/api/setup",
            "/api/invitations/acceptance",
            "/api/password-resets",
            "/api/password-resets/acceptance",
            "/health/live",
            "/health/ready",
            "/pictures/{file}",
            "/view/{address}",
            "/unsubscribe/{reader}",
            "/api/{**rest}",
            "{*path:nonfile}",
        ];
        var routes = server.Services.GetRequiredService<EndpointDataSource>().Endpoints.OfType<RouteEndpoint>().ToList();
        Assert.True(routes.Count > 25);
        foreach (var route in routes)
        {
            var pattern = route.RoutePattern.RawText!.TrimEnd('/');
            var methods = route.Metadata.GetMetadata<HttpMethodMetadata>()?.HttpMethods ?? ["GET"];
            if (open.Contains(pattern))
            {
                continue;
            }

            var path =
                "/"
                + System
                    .Text.RegularExpressions.Regex.Replace(
                        pattern
                            .Replace("{number:int}", "1", StringComparison.Ordinal)
                            .Replace("{revision:long}", "1", StringComparison.Ordinal)
                            .Replace("{id:int}", "1", StringComparison.Ordinal),
                        "\\{[^}]+\\}",
                        Guid.NewGuid().ToString()
                    )
                    .TrimStart('/');
            foreach (var method in methods)
            {
                var takesFile = route.Metadata.GetMetadata<IAcceptsMetadata>()?.ContentTypes.Contains("multipart/form-data") == true;
                HttpContent? content = (method, takesFile) switch
                {
                    ("POST", true) => Upload([], "x"),
                    ("POST", false) => JsonContent.Create(new { }),
                    _ => null,
                };
                var answer = await client.SendAsync(new HttpRequestMessage(new HttpMethod(method), path) { Content = content });
                Assert.True(answer.StatusCode == HttpStatusCode.Unauthorized, $"{method} {pattern} answered {answer.StatusCode}");
            }
        }
    }

    [Fact]
    public async Task Roles_are_decided_on_the_server()
    {
        var (reviewer, author, designer) = (await server.As("jonas"), await server.As("imran"), await server.As("dana"));
        var house = await Running.House(author);
        var email = server.EmailId("March");
        var recolour = new
        {
            @base = 0,
            edits = new[]
            {
                new
                {
                    id = Guid.CreateVersion7(),
                    step = Guid.CreateVersion7(),
                    edit = new
                    {
                        kind = "set-style",
                        style = "primary",
                        property = "fill",
                        value = "#000000",
                    },
                },
            },
        };

        var templates = await Running.Templates(reviewer);
        await Rule(
            await reviewer.PostAsJsonAsync(
                "/api/emails",
                new
                {
                    id = Guid.CreateVersion7(),
                    template = templates![0]!["id"],
                    name = "x",
                }
            )
        );
        await Rule(await reviewer.Edit(email, 0, Asking.SetWords("hero", "headline", "x")));
        using var file = Upload([1, 2, 3], "x.png");
        await Rule(await reviewer.PostAsync("/api/pictures", file));
        foreach (var client in (HttpClient[])[reviewer, author, designer])
        {
            await Rule(await client.PostAsJsonAsync($"/api/house-styles/{house.Id}/edits", recolour));
            await Rule(await client.PostAsJsonAsync($"/api/house-styles/{house.Id}/releases", new { note = "x" }));
            await Rule(await client.PostAsJsonAsync("/api/house-styles", new { id = Guid.CreateVersion7(), name = "x" }));
        }

        var picture = (string?)(await reviewer.GetFromJsonAsync<JsonObject>("/api/pictures"))!["pictures"]![0]!["id"];
        await Rule(await reviewer.PatchAsJsonAsync($"/api/pictures/{picture}", new { name = "x" }));
        foreach (var client in (HttpClient[])[reviewer, author])
        {
            await Rule(await client.PutAsJsonAsync($"/api/pictures/{picture}/replacement", new { by = picture }));
            await Rule(await client.DeleteAsync($"/api/pictures/{picture}/replacement"));
            foreach (var master in (await client.GetFromJsonAsync<JsonArray>("/api/masters"))!.DistinctBy(m => (bool)m!["row"]!))
            {
                await Rule(
                    await client.PostAsJsonAsync(
                        $"/api/{((bool)master!["row"]! ? "rows" : "templates")}/{master["id"]}/releases",
                        new { note = "x" }
                    )
                );
            }
        }

        var lockEdit = new
        {
            @base = 0,
            edits = new[]
            {
                new
                {
                    id = Guid.CreateVersion7(),
                    step = Guid.CreateVersion7(),
                    edit = new
                    {
                        kind = "set-lock",
                        row = "hero",
                        piece = "headline",
                        aspect = "content",
                        @lock = new { kind = "sealed" },
                    },
                },
            },
        };
        var template = $"/api/templates/{templates!.Single(t => (string?)t!["name"] == "Special train")!["id"]}/edits";
        await Rule(await author.PostAsJsonAsync(template, lockEdit));
        (await designer.PostAsJsonAsync(template, lockEdit)).EnsureSuccessStatusCode();

        static async Task Rule(HttpResponseMessage answer) =>
            Assert.Equal(Rules.Role, (string?)(await answer.Problem(403, "refused"))["rule"]);
    }

    /// <summary>RFC 9457: every error, whoever makes it, has the media type and the members.</summary>
    [Fact]
    public async Task Errors_are_problem_details()
    {
        var author = await server.As("imran");
        var email = server.EmailId("March");
        await (await server.CreateClient().GetAsync("/api/templates")).Problem(401, "sign-in");
        await (await author.GetAsync("/api/nothing")).Problem(404, "not-found");
        await (await author.GetAsync($"/api/emails/{Guid.NewGuid()}/desk")).Problem(404, "not-found");
        await (await author.GetAsync("/api/emails?after=x")).Problem(400, "bad-request");
        await (await author.PostAsync("/api/emails", new StringContent("{ not json", Encoding.UTF8, "application/json"))).Problem(
            400,
            "bad-request"
        );
        await (await author.PostAsync("/api/emails", new StringContent("{\"surprise\":1}", Encoding.UTF8, "application/json"))).Problem(
            400,
            "bad-request"
        );
        await (await author.PostAsync("/api/emails", new StringContent("<x/>", Encoding.UTF8, "application/xml"))).Problem(
            415,
            "media-type"
        );
        await (await author.Edit(email, 0, new { kind = "set-everything" })).Problem(400, "bad-request");
        await (
            await author.Edit(
                email,
                0,
                new
                {
                    kind = "move-row",
                    row = "viaduct",
                    zone = "stories",
                    index = 99,
                }
            )
        ).Problem(422, "invalid");
        await (await author.Edit(email, 0, Asking.SetLink("hero", "button", "{nowhere}"))).Problem(422, "invalid");
        await (
            await author.PostAsJsonAsync(
                "/api/emails",
                new
                {
                    id = Guid.CreateVersion7(),
                    template = Guid.NewGuid(),
                    name = "x",
                }
            )
        ).Problem(404, "not-found");
        await (
            await author.PostAsJsonAsync(
                "/api/emails",
                new
                {
                    id = Guid.CreateVersion7(),
                    template = Guid.NewGuid(),
                    name = "  ",
                }
            )
        ).Problem(422, "invalid");
        await (
            await server.CreateClient().PostAsJsonAsync("/api/session", new { email = "imran@larkfell.example.org", password = "wrong" })
        ).Problem(401, "sign-in");
    }

    [Fact]
    public async Task Guessing_a_password_is_stopped()
    {
        var client = server.CreateClient();
        HttpResponseMessage? last = null;
        for (var i = 0; i < 9; i++)
        {
            last = await client.PostAsJsonAsync("/api/session", new { email = "guessed@larkfell.example.org", password = $"guess {i}" });
        }

        await last!.Problem(429, "locked-out");
    }

    [Fact]
    public async Task Mail_HTML_is_handed_out_so_that_it_can_run_nothing()
    {
        var author = await server.As("imran");
        var answer = await author.GetAsync($"/api/emails/{server.EmailId("March")}/html");
        Assert.StartsWith("sandbox", answer.Headers.GetValues("Content-Security-Policy").Single(), StringComparison.Ordinal);
        Assert.Contains("src=\"http://localhost/pictures/", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("/health/live")]
    [InlineData("/health/ready")]
    public async Task Health_is_told(string path) =>
        Assert.Equal(HttpStatusCode.OK, (await server.CreateClient().GetAsync(path)).StatusCode);

    internal static MultipartFormDataContent Upload(byte[] bytes, string name) => new() { { new ByteArrayContent(bytes), "file", name } };
}
