using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Logs;
using GoldenRule.Server.Mail;
using GoldenRule.Server.People;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;
using OtpNet;

namespace GoldenRule.Server.Tests;

/// <summary>
/// How people come, prove who they are, get roles and go (OWASP ASVS 4.0.3, chapters 2 to 4). Mail is never sent here: what is in
/// the outbox is read.
/// </summary>
public sealed partial class PeopleTests(Running server) : IClassFixture<Running>
{
    private const string Password = "several words and a signal box";

    private sealed record Link(Guid Person, string Token);

    private async Task<(Guid Id, Link Link, string Email)> Invited(HttpClient lead, params Role[] roles)
    {
        var (id, email) = (Guid.CreateVersion7(), $"p{Guid.NewGuid():N}@example.org");
        using var answer = await Invite(lead, id, email, roles);
        answer.EnsureSuccessStatusCode();
        return (id, LastLink(id), email);
    }

    private static Task<HttpResponseMessage> Invite(HttpClient lead, Guid id, string email, params Role[] roles) =>
        lead.PostAsJsonAsync(
            "/api/accounts",
            new
            {
                id,
                email,
                name = "Mia Fen",
                roles,
                inTeams = Array.Empty<object>(),
            },
            DocumentJson.Options
        );

    /// <summary>What the last mail to someone links to.</summary>
    private Link LastLink(Guid person)
    {
        using var scope = server.Services.CreateScope();
        var mail = scope
            .ServiceProvider.GetRequiredService<GoldenRuleDb>()
            .OutgoingMails.Where(m => m.AccountId == person)
            .OrderByDescending(m => m.Id)
            .First();
        var text = scope.ServiceProvider.GetRequiredService<Outbox>().Open(mail).TextBody!;
        var found = InMail().Match(text);
        return new Link(Guid.Parse(found.Groups["person"].Value), Uri.UnescapeDataString(found.Groups["token"].Value.Trim()));
    }

    [GeneratedRegex(@"#person=(?<person>[0-9a-f-]+)&token=(?<token>\S+)", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex InMail();

    private static Task<HttpResponseMessage> Accept(HttpClient client, Link link, string password = Password) =>
        client.PostAsJsonAsync(
            "/api/invitations/acceptance",
            new
            {
                person = link.Person,
                token = link.Token,
                password,
            }
        );

    private static Task<HttpResponseMessage> SignIn(HttpClient client, string email, string? code = null, string password = Password) =>
        client.PostAsJsonAsync(
            "/api/session",
            new
            {
                email,
                password,
                code,
            }
        );

    private static async Task<string> TypeOf(HttpResponseMessage answer) =>
        JsonNode.Parse(await answer.Content.ReadAsStringAsync())!["type"]!
            .GetValue<string>()
            .Replace("/problems/", "", StringComparison.Ordinal);

    private static async Task<AccountEntry> Entry(HttpClient lead, Guid id) =>
        (await lead.GetFromJsonAsync<AccountEntry[]>("/api/accounts", DocumentJson.Options))!.Single(a => a.Id == id);

    [Fact]
    public async Task An_invitation_opens_once_and_whoever_accepts_it_is_signed_in_as_what_they_were_invited_for()
    {
        var lead = await server.As("ruth");
        var (id, link, email) = await Invited(lead, Role.Author);
        Assert.Equal(AccountState.Invited, (await Entry(lead, id)).State);
        var client = server.CreateClient();
        Assert.Equal(HttpStatusCode.Unauthorized, (await SignIn(client, email)).StatusCode);
        Assert.Equal("invalid", await TypeOf(await Accept(client, link, "too short")));
        (await Accept(client, link)).EnsureSuccessStatusCode();
        var session = await client.GetFromJsonAsync<SessionAnswer>("/api/session", DocumentJson.Options);
        Assert.Equal((id, Role.Author), (session!.Id, Assert.Single(session.Roles)));
        var again = await Accept(server.CreateClient(), link);
        Assert.Equal((HttpStatusCode.Gone, "link-over"), (again.StatusCode, await TypeOf(again)));
        (await SignIn(server.CreateClient(), email)).EnsureSuccessStatusCode();
        Assert.Equal(AccountState.Active, (await Entry(lead, id)).State);
    }

    [Fact]
    public async Task A_link_that_was_replaced_or_withdrawn_or_is_another_s_opens_nothing()
    {
        var lead = await server.As("ruth");
        var (id, link, _) = await Invited(lead);
        var (_, other, _) = await Invited(lead);
        (await lead.PostAsync($"/api/accounts/{id}/invitation", null)).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Gone, (await Accept(server.CreateClient(), link)).StatusCode);
        Assert.Equal(HttpStatusCode.Gone, (await Accept(server.CreateClient(), other with { Person = id })).StatusCode);
        var sent = LastLink(id);
        (await lead.DeleteAsync($"/api/accounts/{id}/invitation")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Gone, (await Accept(server.CreateClient(), sent)).StatusCode);
        Assert.DoesNotContain((await lead.GetFromJsonAsync<AccountEntry[]>("/api/accounts", DocumentJson.Options))!, account =>
            account.Id == id
        );
    }

    [Fact]
    public async Task A_link_opens_nothing_after_its_day()
    {
        var lead = await server.As("ruth");
        var (_, link, _) = await Invited(lead);
        // A server for which a day is no time at all.
        await using var late = server
            .Second()
            .WithWebHostBuilder(b =>
                b.ConfigureServices(s => s.Configure<DataProtectionTokenProviderOptions>(o => o.TokenLifespan = TimeSpan.FromTicks(1)))
            );
        Assert.Equal(HttpStatusCode.Gone, (await Accept(late.CreateClient(), link)).StatusCode);
        (await Accept(server.CreateClient(), link)).EnsureSuccessStatusCode();
    }

    [Theory]
    [InlineData("{0}", 409)]
    [InlineData("{1}", 409)]
    [InlineData("  {0} ", 409)]
    [InlineData("ru\u0442h@larkfell.example.org", 422)] // a Cyrillic letter that looks like a Latin one
    [InlineData("ruth@l\u00e4rkfell.example.org", 422)]
    [InlineData("ruth", 422)]
    [InlineData("ruth@localhost", 422)]
    [InlineData("Ruth <ruth@larkfell.example.org>", 422)]
    [InlineData("a\r\nBcc: b@example.org", 422)]
    [InlineData("", 422)]
    public async Task One_address_is_one_person_s_however_it_is_written(string written, int status)
    {
        var lead = await server.As("ruth");
        var (_, _, email) = await Invited(lead);
        using var answer = await Invite(
            lead,
            Guid.CreateVersion7(),
            string.Format(System.Globalization.CultureInfo.InvariantCulture, written, email, email.ToUpperInvariant())
        );
        Assert.Equal(status, (int)answer.StatusCode);
    }

    [Fact]
    public async Task A_new_password_comes_by_mail_and_ends_every_session()
    {
        var lead = await server.As("ruth");
        var (id, link, email) = await Invited(lead, Role.Author);
        var client = server.CreateClient();
        (await Accept(client, link)).EnsureSuccessStatusCode();
        var stranger = server.CreateClient();
        foreach (var address in (string[])[email, "nobody@larkfell.example.org"])
        {
            Assert.Equal(
                HttpStatusCode.Accepted,
                (await stranger.PostAsJsonAsync("/api/password-resets", new { email = address })).StatusCode
            );
        }

        var reset = LastLink(id);
        // The link of one thing opens no other.
        Assert.Equal(HttpStatusCode.Gone, (await Accept(stranger, reset)).StatusCode);
        Task<HttpResponseMessage> Reset() =>
            stranger.PostAsJsonAsync(
                "/api/password-resets/acceptance",
                new
                {
                    person = reset.Person,
                    token = reset.Token,
                    password = "another set of words",
                }
            );
        Assert.Equal(HttpStatusCode.NoContent, (await Reset()).StatusCode);
        Assert.Equal(HttpStatusCode.Gone, (await Reset()).StatusCode);
        Assert.Equal(HttpStatusCode.Unauthorized, (await client.GetAsync("/api/templates")).StatusCode);
        Assert.Equal(HttpStatusCode.Unauthorized, (await SignIn(stranger, email)).StatusCode);
        (await SignIn(stranger, email, password: "another set of words")).EnsureSuccessStatusCode();
    }

    /// <summary>RFC 6238, appendix B, SHA-1: the last six of its eight digits, which is what an app shows.</summary>
    [Theory]
    [InlineData(59, "287082")]
    [InlineData(1111111109, "081804")]
    [InlineData(1111111111, "050471")]
    [InlineData(1234567890, "005924")]
    [InlineData(2000000000, "279037")]
    [InlineData(20000000000, "353130")]
    public void Codes_are_those_of_the_standard_and_each_opens_once(long seconds, string code)
    {
        var secret = Base32Encoding.ToString("12345678901234567890"u8.ToArray());
        var at = DateTime.UnixEpoch.AddSeconds(seconds);
        var step = OneTimeCode.Step(secret, code, at, null);
        Assert.Equal(seconds / 30, step);
        Assert.Null(OneTimeCode.Step(secret, code, at, step));
        Assert.Equal(step, OneTimeCode.Step(secret, $"{code[..3]} {code[3..]}", at.AddSeconds(30), step - 1));
        Assert.Null(OneTimeCode.Step(secret, code, at.AddSeconds(90), null));
        Assert.Null(OneTimeCode.Step(secret, code[1..], at, null));
        Assert.Null(OneTimeCode.Step(secret, "-" + code[1..], at, null));
    }

    [Fact]
    public async Task With_two_factors_the_password_alone_opens_nothing_and_no_code_opens_twice()
    {
        var lead = await server.As("ruth");
        var (_, link, email) = await Invited(lead, Role.Author);
        var client = server.CreateClient();
        (await Accept(client, link)).EnsureSuccessStatusCode();
        Assert.Equal("invalid", await TypeOf(await client.PostAsJsonAsync("/api/session/two-factor", new { password = "not it" })));
        using var begun = await client.PostAsJsonAsync("/api/session/two-factor", new { password = Password });
        var secret = JsonNode.Parse(await begun.Content.ReadAsStringAsync())!["secret"]!.GetValue<string>();
        // Until a code was typed the password goes on being enough.
        (await SignIn(server.CreateClient(), email)).EnsureSuccessStatusCode();
        Assert.Equal(
            "invalid",
            await TypeOf(await client.PostAsJsonAsync("/api/session/two-factor/confirmation", new { code = "000000x" }))
        );
        var totp = new Totp(Base32Encoding.ToBytes(secret));
        var now = DateTime.UtcNow;
        using var confirmed = await client.PostAsJsonAsync("/api/session/two-factor/confirmation", new { code = totp.ComputeTotp(now) });
        confirmed.EnsureSuccessStatusCode();
        var codes = JsonNode.Parse(await confirmed.Content.ReadAsStringAsync())!["codes"]!
            .AsArray()
            .Select(c => c!.GetValue<string>())
            .ToList();
        Assert.Equal(10, codes.Distinct().Count());

        var other = server.CreateClient();
        Assert.Equal("second-factor", await TypeOf(await SignIn(other, email)));
        // The one that turned it on was used by that.
        Assert.Equal("sign-in", await TypeOf(await SignIn(other, email, totp.ComputeTotp(now))));
        (await SignIn(other, email, totp.ComputeTotp(now.AddSeconds(30)))).EnsureSuccessStatusCode();
        Assert.Equal("sign-in", await TypeOf(await SignIn(server.CreateClient(), email, totp.ComputeTotp(now.AddSeconds(30)))));
        (await SignIn(server.CreateClient(), email, codes[0].ToLowerInvariant())).EnsureSuccessStatusCode();
        Assert.Equal("sign-in", await TypeOf(await SignIn(server.CreateClient(), email, codes[0])));
        Assert.Equal(9, (await other.GetFromJsonAsync<TwoFactorState>("/api/session/two-factor", DocumentJson.Options))!.RecoveryCodes);
        (await other.PostAsJsonAsync("/api/session/two-factor/end", new { password = Password })).EnsureSuccessStatusCode();
        (await SignIn(server.CreateClient(), email)).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task Nobody_signs_in_over_a_session_that_is_there()
    {
        var lead = await server.As("ruth");
        var (_, link, _) = await Invited(lead, Role.Author);
        var cookie = await Running.Cookie(server, "jonas");
        using var planted = server.CreateClient(new() { HandleCookies = false });
        planted.DefaultRequestHeaders.Add("Cookie", cookie);
        Assert.Equal("session-before", await TypeOf(await Accept(planted, link)));
        using var accepted = await Accept(planted, link);
        accepted.EnsureSuccessStatusCode();
        // Whoever knew the key knows nothing now.
        Assert.NotEqual(cookie, Running.SessionCookie(accepted).Split(';')[0]);
        Assert.Equal(HttpStatusCode.Unauthorized, (await planted.GetAsync("/api/templates")).StatusCode);
    }

    [Fact]
    public async Task Sessions_are_listed_and_ended_one_by_one_and_only_one_s_own()
    {
        var lead = await server.As("ruth");
        var (_, link, email) = await Invited(lead, Role.Author);
        var (here, there) = (server.CreateClient(), server.CreateClient());
        there.DefaultRequestHeaders.UserAgent.ParseAdd("Elsewhere/1.0");
        (await Accept(here, link)).EnsureSuccessStatusCode();
        (await SignIn(there, email)).EnsureSuccessStatusCode();
        var sessions = (await here.GetFromJsonAsync<OwnSession[]>("/api/sessions", DocumentJson.Options))!;
        var other = Assert.Single(sessions, s => !s.Here);
        Assert.Equal("Elsewhere/1.0", other.Browser);
        (await lead.DeleteAsync($"/api/sessions/{other.Id}")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.OK, (await there.GetAsync("/api/templates")).StatusCode);
        (await here.DeleteAsync($"/api/sessions/{other.Id}")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Unauthorized, (await there.GetAsync("/api/templates")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await here.GetAsync("/api/templates")).StatusCode);
    }

    [Fact]
    public async Task Someone_leads_always_and_two_leads_do_not_undo_one_another()
    {
        var ruth = await server.As("ruth");
        var me = (await ruth.GetFromJsonAsync<SessionAnswer>("/api/session", DocumentJson.Options))!.Id;
        async Task<HttpResponseMessage> Set(HttpClient by, Guid id, string version, params Role[] roles) =>
            await by.PutAsJsonAsync($"/api/accounts/{id}/roles", new { roles, version }, DocumentJson.Options);
        var last = await Set(ruth, me, (await Entry(ruth, me)).Version);
        Assert.Equal("invalid", await TypeOf(last));
        Assert.Equal("invalid", await TypeOf(await ruth.PostAsJsonAsync($"/api/accounts/{me}/deactivation", new { })));
        var (id, link, _) = await Invited(ruth, Role.Lead);
        // Who has not come yet leads nothing.
        Assert.Equal("invalid", await TypeOf(await Set(ruth, me, (await Entry(ruth, me)).Version)));
        var second = server.CreateClient();
        (await Accept(second, link)).EnsureSuccessStatusCode();
        var seen = (await Entry(ruth, id)).Version;
        (await Set(second, id, seen, Role.Lead, Role.Author)).EnsureSuccessStatusCode();
        Assert.Equal("changed-since", await TypeOf(await Set(ruth, id, seen, Role.Lead)));
        Assert.Equal((Role[])[Role.Lead, Role.Author], (await Entry(ruth, id)).Roles.AsEnumerable());

        // Both at once, each the other: one of them stays.
        var (mine, theirs) = ((await Entry(ruth, me)).Version, (await Entry(ruth, id)).Version);
        var both = await Task.WhenAll(Set(ruth, id, theirs), Set(second, me, mine));
        Assert.Equal(1, both.Count(b => b.IsSuccessStatusCode));
        if (!both[0].IsSuccessStatusCode)
        {
            // For the tests after this one.
            (await Set(second, me, (await Entry(second, me)).Version, Role.Lead)).EnsureSuccessStatusCode();
            (await Set(ruth, id, (await Entry(ruth, id)).Version)).EnsureSuccessStatusCode();
        }
    }

    [Fact]
    public async Task A_role_taken_away_is_away_with_the_next_request_and_an_unknown_one_is_refused()
    {
        var lead = await server.As("ruth");
        var (id, link, _) = await Invited(lead, Role.Designer);
        var client = server.CreateClient();
        (await Accept(client, link)).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.OK, (await client.GetAsync("/api/audits/newest")).StatusCode);
        var version = (await Entry(lead, id)).Version;
        using var unknown = await lead.PutAsJsonAsync($"/api/accounts/{id}/roles", new { roles = new[] { "owner" }, version });
        Assert.Equal(HttpStatusCode.BadRequest, unknown.StatusCode);
        (await lead.PutAsJsonAsync($"/api/accounts/{id}/roles", new { roles = Array.Empty<string>(), version })).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Forbidden, (await client.GetAsync("/api/audits/newest")).StatusCode);
    }

    [Fact]
    public async Task Whoever_goes_hands_over_what_they_own_and_once_erased_leaves_no_name_behind()
    {
        var lead = await server.As("ruth");
        var dana = (await lead.GetFromJsonAsync<AccountEntry[]>("/api/accounts", DocumentJson.Options))!
            .Single(a => a.Name == "Dana Whitlow")
            .Id;
        var (id, link, email) = await Invited(lead, Role.Designer);
        var client = server.CreateClient();
        (await Accept(client, link)).EnsureSuccessStatusCode();
        var row = Guid.CreateVersion7();
        (
            await client.PostAsJsonAsync(
                "/api/rows",
                new
                {
                    id = row,
                    name = "Theirs",
                    rowKind = "main",
                }
            )
        ).EnsureSuccessStatusCode();
        Assert.Equal("invalid", await TypeOf(await lead.DeleteAsync($"/api/accounts/{id}")));
        Assert.Equal("invalid", await TypeOf(await lead.PostAsJsonAsync($"/api/accounts/{id}/deactivation", new { handTo = id })));
        (await lead.PostAsJsonAsync($"/api/accounts/{id}/deactivation", new { handTo = dana })).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Unauthorized, (await client.GetAsync("/api/templates")).StatusCode);
        Assert.Equal(HttpStatusCode.Unauthorized, (await SignIn(server.CreateClient(), email)).StatusCode);
        Assert.Equal(dana, server.Query(db => db.Documents.Single(d => d.Id == row).Owner));
        Assert.Contains("Mia Fen", await lead.GetStringAsync($"/api/log?person={id}"), StringComparison.Ordinal);
        (await lead.DeleteAsync($"/api/accounts/{id}")).EnsureSuccessStatusCode();
        var log = await lead.GetStringAsync($"/api/log?person={id}");
        Assert.DoesNotContain("Mia Fen", log, StringComparison.Ordinal);
        Assert.DoesNotContain(email, log, StringComparison.Ordinal);
        Assert.Contains("A former colleague", log, StringComparison.Ordinal);
        Assert.Equal(0, server.Query(db => db.Users.Count(u => u.Email == email || u.NormalizedEmail == email.ToUpperInvariant())));
        // The address can be invited anew: that is another person.
        (await Invite(lead, Guid.CreateVersion7(), email)).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task A_team_goes_only_without_campaign_types_of_its_own_and_a_merged_one_leaves_them_to_the_other()
    {
        var lead = await server.As("ruth");
        var (id, into, key) = (Guid.CreateVersion7(), Guid.CreateVersion7(), $"made-{Guid.NewGuid():N}"[..20]);
        (await lead.PostAsJsonAsync("/api/teams", new { id, name = $"Outings {key}" })).EnsureSuccessStatusCode();
        (await lead.PostAsJsonAsync("/api/teams", new { id = into, name = $"Tours {key}" })).EnsureSuccessStatusCode();
        Assert.Equal(
            "invalid",
            await TypeOf(await lead.PostAsJsonAsync("/api/teams", new { id = Guid.CreateVersion7(), name = $"OUTINGS  {key}" }))
        );
        (
            await lead.PostAsJsonAsync(
                "/api/campaign-types",
                new
                {
                    key,
                    name = key,
                    teams = new[] { id },
                }
            )
        ).EnsureSuccessStatusCode();
        var (person, link, _) = await Invited(lead);
        var client = server.CreateClient();
        (await Accept(client, link)).EnsureSuccessStatusCode();
        (await lead.PutAsJsonAsync($"/api/teams/{id}/members/{person}", new { roles = new[] { "designer" } })).EnsureSuccessStatusCode();
        using var refused = await lead.DeleteAsync($"/api/teams/{id}");
        Assert.Contains(key, await refused.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal("invalid", await TypeOf(await lead.PostAsJsonAsync($"/api/teams/{id}/merge", new { into = id })));
        (await lead.PostAsJsonAsync($"/api/teams/{id}/merge", new { into })).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.NotFound, (await lead.DeleteAsync($"/api/teams/{id}")).StatusCode);
        // Whoever was a designer there is one here.
        using var made = await client.PostAsJsonAsync(
            "/api/templates",
            new
            {
                id = Guid.CreateVersion7(),
                name = "Theirs",
                campaignType = key,
            }
        );
        made.EnsureSuccessStatusCode();
        using var others = await client.PostAsJsonAsync(
            "/api/templates",
            new
            {
                id = Guid.CreateVersion7(),
                name = "Not theirs",
                campaignType = "shop-offer",
            }
        );
        Assert.Equal(HttpStatusCode.Forbidden, others.StatusCode);
        (await lead.PutAsJsonAsync($"/api/campaign-types/{key}", new { retired = true })).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task The_log_tells_who_did_what_and_nobody_changes_it()
    {
        var lead = await server.As("ruth");
        await SignIn(server.CreateClient(), "imran@larkfell.example.org", password: "a wrong one here");
        var team = Guid.CreateVersion7();
        (await lead.PostAsJsonAsync("/api/teams", new { id = team, name = "=HYPERLINK(1)" })).EnsureSuccessStatusCode();
        (await lead.PutAsJsonAsync($"/api/teams/{team}", new { forOthers = "hidden" })).EnsureSuccessStatusCode();
        var page = (await lead.GetFromJsonAsync<LogPage>("/api/log", DocumentJson.Options))!;
        Assert.Equal(
            ("Ruth Calder", LogKind.TeamChanged, "=HYPERLINK(1)"),
            (page.Entries[0].Who, page.Entries[0].Kind, page.Entries[0].Subject)
        );
        Assert.Equal("hidden", page.Entries[0].After!.Value.GetProperty("forOthers").GetString());
        Assert.Equal("read-only", page.Entries[0].Before!.Value.GetProperty("forOthers").GetString());
        var refused = (await lead.GetFromJsonAsync<LogPage>("/api/log?kind=sign-in-refused", DocumentJson.Options))!.Entries[0];
        Assert.Equal(("", "Imran Sayle"), (refused.Who, refused.Whom));
        // No cell is a formula.
        Assert.DoesNotContain(
            "\n=",
            (await lead.GetStringAsync("/api/log/file")).Replace(",", "\n", StringComparison.Ordinal),
            StringComparison.Ordinal
        );
        foreach (var meddling in (string[])["update log_entries set subject = ''", "delete from log_entries", "truncate log_entries"])
        {
            Assert.Equal("23001", Assert.Throws<PostgresException>(() => server.Sql(meddling)).SqlState);
        }

        Assert.Equal("invalid", await TypeOf(await lead.PutAsJsonAsync("/api/log/keeping", new { days = 1 })));
        (await lead.PutAsJsonAsync("/api/log/keeping", new { days = 30 })).EnsureSuccessStatusCode();
        server.Sql("insert into log_entries (at, kind, subject) values (now() - interval '31 days', 'SignedIn', 'long ago')");
        // The demo's own hand-offs are some of them older.
        var before = DateTime.UtcNow.AddDays(-30);
        var old = server.Query(db => db.Log.Count(l => l.At < before));
        Assert.Equal(old, await LogRetention.DeleteAsync(server.Context(), default));
        Assert.False(server.Query(db => db.Log.Any(l => l.Subject == "long ago")));
        Assert.True(server.Query(db => db.Log.Any()));
    }
}
