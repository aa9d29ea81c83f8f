using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.People;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.DependencyInjection;

namespace GoldenRule.Server.Tests;

/// <summary>Who is signed in, for how long, and what ends it (OWASP ASVS 4.0.3, chapters 2 and 3).</summary>
[Collection(Alone.Name)]
public sealed class SessionTests(Running server) : IClassFixture<Running>
{
    private const string Password = "steam-and-cinders";

    /// <summary>Someone new for each test, so that what it does to them touches nobody else.</summary>
    private async Task<(Account Account, string Name)> Someone(Role role = Role.Author)
    {
        var name = "p" + Guid.NewGuid().ToString("N")[..8];
        using var scope = server.Services.CreateScope();
        var accounts = scope.ServiceProvider.GetRequiredService<UserManager<Account>>();
        var account = new Account
        {
            UserName = $"{name}@larkfell.example.org",
            Email = $"{name}@larkfell.example.org",
            Name = "Someone New",
        };
        Assert.True((await accounts.CreateAsync(account, Password)).Succeeded);
        Assert.True((await accounts.AddToRoleAsync(account, role.ToString())).Succeeded);
        return (account, name);
    }

    private async Task<HttpStatusCode> StatusFor(string cookie, string path = "/api/templates")
    {
        using var client = server.CreateClient(new() { HandleCookies = false });
        client.DefaultRequestHeaders.Add("Cookie", cookie);
        return (await client.GetAsync(path)).StatusCode;
    }

    private async Task WithAccounts(Func<UserManager<Account>, Task<IdentityResult>> act)
    {
        using var scope = server.Services.CreateScope();
        Assert.True((await act(scope.ServiceProvider.GetRequiredService<UserManager<Account>>())).Succeeded);
    }

    [Fact]
    public async Task Signing_out_ends_the_session_and_not_only_the_cookie()
    {
        var (_, name) = await Someone();
        var cookie = await Running.Cookie(server, name);
        Assert.Equal(HttpStatusCode.OK, await StatusFor(cookie));
        using var client = server.CreateClient(new() { HandleCookies = false });
        client.DefaultRequestHeaders.Add("Cookie", cookie);
        Assert.Equal(HttpStatusCode.NoContent, (await client.DeleteAsync("/api/session")).StatusCode);
        Assert.Equal(HttpStatusCode.Unauthorized, await StatusFor(cookie));
    }

    [Theory]
    [InlineData("password")]
    [InlineData("lock-out")]
    [InlineData("deleted")]
    [InlineData("everywhere")]
    public async Task What_ends_every_session_ends_them_at_once_and_on_every_server(string how)
    {
        var (account, name) = await Someone();
        var cookies = new[] { await Running.Cookie(server, name), await Running.Cookie(server, name) };
        await using var twin = server.Twin();
        using var there = twin.CreateClient(new() { HandleCookies = false });
        there.DefaultRequestHeaders.Add("Cookie", cookies[1]);
        Assert.Equal(HttpStatusCode.OK, (await there.GetAsync("/api/templates")).StatusCode);
        switch (how)
        {
            case "password":
                await WithAccounts(async accounts =>
                    await accounts.ChangePasswordAsync(
                        (await accounts.FindByIdAsync(account.Id.ToString()))!,
                        Password,
                        "another-long-password"
                    )
                );
                break;
            case "lock-out":
                await WithAccounts(async accounts =>
                    await accounts.SetLockoutEndDateAsync((await accounts.FindByIdAsync(account.Id.ToString()))!, DateTimeOffset.MaxValue)
                );
                break;
            case "deleted":
                await WithAccounts(async accounts => await accounts.DeleteAsync((await accounts.FindByIdAsync(account.Id.ToString()))!));
                break;
            default:
                using (var client = await server.As(name))
                {
                    Assert.Equal(HttpStatusCode.NoContent, (await client.DeleteAsync("/api/sessions")).StatusCode);
                }

                break;
        }

        foreach (var cookie in cookies)
        {
            Assert.Equal(HttpStatusCode.Unauthorized, await StatusFor(cookie));
        }

        Assert.Equal(HttpStatusCode.Unauthorized, (await there.GetAsync("/api/templates")).StatusCode);
    }

    [Fact]
    public async Task A_role_that_is_taken_away_is_away_with_the_next_request()
    {
        var (account, name) = await Someone(Role.Lead);
        var cookie = await Running.Cookie(server, name);
        Assert.Equal(HttpStatusCode.OK, await StatusFor(cookie, "/api/audits/newest"));
        await WithAccounts(async accounts =>
            await accounts.RemoveFromRoleAsync((await accounts.FindByIdAsync(account.Id.ToString()))!, nameof(Role.Lead))
        );
        Assert.Equal(HttpStatusCode.Forbidden, await StatusFor(cookie, "/api/audits/newest"));
        Assert.Equal(HttpStatusCode.OK, await StatusFor(cookie));
    }

    [Fact]
    public async Task A_password_is_changed_with_the_old_one_and_every_other_session_ends()
    {
        var (_, name) = await Someone();
        var elsewhere = await Running.Cookie(server, name);
        using var client = await server.As(name);
        await (
            await client.PostAsJsonAsync("/api/session/password", new { old = "not the password", @new = "a-new-long-password" })
        ).Problem(422, "invalid");
        await (await client.PostAsJsonAsync("/api/session/password", new { old = Password, @new = "short" })).Problem(422, "invalid");
        await (await client.PostAsJsonAsync("/api/session/password", new { old = Password, @new = Password })).Problem(422, "invalid");
        Assert.Equal(HttpStatusCode.OK, await StatusFor(elsewhere));
        (
            await client.PostAsJsonAsync("/api/session/password", new { old = Password, @new = "a-new-long-password" })
        ).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Unauthorized, await StatusFor(elsewhere));
        Assert.Equal(HttpStatusCode.OK, (await client.GetAsync("/api/templates")).StatusCode);
        using var again = server.CreateClient();
        await (await again.PostAsJsonAsync("/api/session", new { email = $"{name}@larkfell.example.org", password = Password })).Problem(
            401,
            "sign-in"
        );
    }

    [Fact]
    public async Task Wrong_passwords_lock_out_whoever_tries_them_and_nobody_who_is_signed_in()
    {
        var (account, name) = await Someone();
        var cookie = await Running.Cookie(server, name);
        using var stranger = server.CreateClient();
        var answers = new List<(HttpStatusCode Known, HttpStatusCode Unknown)>();
        for (var i = 0; i < 10; i++)
        {
            answers.Add((await Try(account.Email!), await Try($"nobody-{name}@larkfell.example.org")));
        }

        // Known and unknown are answered alike, each time.
        Assert.All(answers, answer => Assert.Equal(answer.Known, answer.Unknown));
        Assert.Equal([HttpStatusCode.Unauthorized, HttpStatusCode.TooManyRequests], answers.Select(a => a.Known).Distinct());
        Assert.Equal(HttpStatusCode.OK, await StatusFor(cookie));

        async Task<HttpStatusCode> Try(string email) =>
            (await stranger.PostAsJsonAsync("/api/session", new { email, password = "a wrong one" })).StatusCode;
    }

    /// <summary>The hash takes nearly all of the time of a sign-in; without it one of a hundred would do.</summary>
    [Fact]
    public async Task Who_is_unknown_is_looked_at_as_long_as_who_is_known()
    {
        using var client = server.CreateClient();
        var (known, unknown) = (new List<long>(), new List<long>());
        for (var i = 0; i < 7; i++)
        {
            known.Add(await Time("bea@larkfell.example.org"));
            unknown.Add(await Time($"nobody-at-all-{i}@larkfell.example.org"));
        }

        Assert.True(unknown.Min() * 4 > known.Min(), $"{unknown.Min()} to {known.Min()} ticks");

        async Task<long> Time(string email)
        {
            var watch = Stopwatch.StartNew();
            await client.PostAsJsonAsync("/api/session", new { email, password = "a wrong one" });
            return watch.ElapsedTicks;
        }
    }

    [Theory]
    [InlineData("Sec-Fetch-Site", "same-site", false)]
    [InlineData("Sec-Fetch-Site", "cross-site", false)]
    [InlineData("Sec-Fetch-Site", "same-origin", true)]
    [InlineData("Origin", "http://localhost:8099", false)]
    [InlineData("Origin", "null", false)]
    [InlineData("Origin", "http://localhost", true)]
    public async Task Another_page_cannot_change_anything_with_someones_cookie(string header, string value, bool taken)
    {
        using var client = await server.As("imran");
        using var file = ReachingTests.Upload("Day,Train\n1,2"u8.ToArray(), "days.csv");
        using var request = new HttpRequestMessage(HttpMethod.Post, "/api/files") { Content = file };
        request.Headers.Add(header, value);
        var answer = await client.SendAsync(request);
        if (taken)
        {
            Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        }
        else
        {
            await answer.Problem(403, "cross-site");
        }
    }

    [Fact]
    public async Task Another_page_cannot_listen_to_news_with_someones_cookie()
    {
        using var client = await server.As("imran");
        using var request = new HttpRequestMessage(HttpMethod.Get, "/live?id=x");
        request.Headers.Add("Origin", "http://localhost:8099");
        await (await client.SendAsync(request)).Problem(403, "cross-site");
    }

    /// <summary>A second window in which somebody else has signed in: the first still shows, and sends, what is another's.</summary>
    [Fact]
    public async Task What_a_page_of_one_person_asks_is_not_done_in_the_name_of_another()
    {
        using var client = await server.As("imran");
        var imran = (await client.GetFromJsonAsync<JsonElement>("/api/session")).GetProperty("id").GetString()!;
        client.DefaultRequestHeaders.Add(PagePerson.Header, imran.ToUpperInvariant());
        Assert.Equal(HttpStatusCode.OK, (await client.GetAsync("/api/templates")).StatusCode);
        // Signing in ends the session that is there, and is sent again.
        var bea = new { email = "bea@larkfell.example.org", password = Password };
        await (await client.PostAsJsonAsync("/api/session", bea)).Problem(409, "session-before");
        Assert.Equal(HttpStatusCode.OK, (await client.PostAsJsonAsync("/api/session", bea)).StatusCode);

        await (await client.GetAsync("/api/templates")).Problem(401, "other-person");
        await (await client.DeleteAsync("/api/sessions")).Problem(401, "other-person");
        await (await client.PostAsync("/live/negotiate?negotiateVersion=1", null)).Problem(401, "other-person");
        // Who is here is told to anyone, and whose page it is need not be said.
        Assert.Equal("Bea Thornley", (await client.GetFromJsonAsync<JsonElement>("/api/session")).GetProperty("name").GetString());
        client.DefaultRequestHeaders.Remove(PagePerson.Header);
        Assert.Equal(HttpStatusCode.OK, (await client.GetAsync("/api/templates")).StatusCode);
    }

    [Fact]
    public async Task Answers_of_the_API_are_kept_nowhere_and_other_hosts_are_not_answered()
    {
        using var client = await server.As("imran");
        Assert.Equal("no-store", (await client.GetAsync("/api/templates")).Headers.CacheControl?.ToString());
        using var request = new HttpRequestMessage(HttpMethod.Get, "/api/templates");
        request.Headers.Host = "evil.example";
        Assert.Equal(HttpStatusCode.BadRequest, (await client.SendAsync(request)).StatusCode);
    }

    /// <summary>RFC 6265bis, 4.1.3.2: a name that begins so is Secure, of one host, for every path.</summary>
    [Fact]
    public async Task Behind_HTTPS_the_cookie_is_held_to_it_and_exported_pictures_stand_at_the_public_address()
    {
        await using var secure = server.Second(("PublicAddress", "https://mail.larkfell.example.org"));
        using var client = secure.CreateClient(new() { BaseAddress = new Uri("https://mail.larkfell.example.org"), HandleCookies = false });
        using var signIn = await client.PostAsJsonAsync("/api/session", new { email = "imran@larkfell.example.org", password = Password });
        var cookie = Running.SessionCookie(signIn);
        Assert.StartsWith("__Host-", cookie, StringComparison.Ordinal);
        foreach (var word in (string[])["secure", "path=/", "httponly", "samesite=strict"])
        {
            Assert.Contains(word, cookie, StringComparison.OrdinalIgnoreCase);
        }

        Assert.DoesNotContain("domain=", cookie, StringComparison.OrdinalIgnoreCase);
        client.DefaultRequestHeaders.Add("Cookie", cookie.Split(';')[0]);
        var html = await client.GetAsync($"/api/emails/{server.EmailId("March")}/html");
        Assert.Contains("max-age", html.Headers.GetValues("Strict-Transport-Security").Single(), StringComparison.Ordinal);
        Assert.Contains(
            "src=\"https://mail.larkfell.example.org/pictures/",
            await html.Content.ReadAsStringAsync(),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Whoever_asks_too_often_is_told_when_to_ask_again_and_others_are_answered()
    {
        await using var strict = server.Second(("Limits:RequestsASecond", "4"));
        using var one = await Running.SignIn(strict.CreateClient(), "imran");
        HttpResponseMessage answer;
        var asked = 0;
        do
        {
            answer = await one.GetAsync("/api/campaign-types");
        } while (answer.IsSuccessStatusCode && ++asked < 1000);
        await answer.Problem(429, "too-often");
        Assert.True(answer.Headers.RetryAfter?.Delta >= TimeSpan.FromSeconds(1));
        using var other = await Running.SignIn(strict.CreateClient(), "bea");
        Assert.Equal(HttpStatusCode.OK, (await other.GetAsync("/api/campaign-types")).StatusCode);
    }

    [Fact]
    public async Task The_history_of_one_document_grows_only_so_much_in_an_hour()
    {
        await using var strict = server.Second(("Limits:HistoryMegabytesAnHour", "1"));
        using var author = await Running.SignIn(strict.CreateClient(), "bea");
        var (one, other) = (await server.NewEmail(author), await server.NewEmail(author));
        HttpResponseMessage answer;
        var revision = one.Revision;
        do
        {
            answer = await author.Edit(
                one.Id,
                revision,
                [.. Enumerable.Range(0, 20).Select(i => Asking.SetWords("hero", "headline", new string((char)('a' + i), 9_000)))]
            );
        } while (answer.IsSuccessStatusCode && (revision += 20) < 1000);
        await answer.Problem(429, "too-often");
        Assert.True(answer.Headers.RetryAfter?.Delta >= TimeSpan.FromMinutes(1));
        // What was refused left nothing behind, and other documents grow.
        Assert.Equal(revision, (await Running.Desk(author, one.Id)).Revision);
        (await author.Edit(other.Id, other.Revision, Asking.SetWords("hero", "headline", "Other"))).EnsureSuccessStatusCode();
    }
}
