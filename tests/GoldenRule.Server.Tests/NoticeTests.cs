using System.Net.Http.Json;
using System.Text.Json.Nodes;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Reviews;
using GoldenRule.Data;
using GoldenRule.Server.Home;
using GoldenRule.Server.Mail;
using GoldenRule.Server.Reviews;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace GoldenRule.Server.Tests;

/// <summary>What people are told of: gathered into one mail an hour, as they choose; and approvals from a writer's browser.</summary>
public sealed class NoticeTests(Running server) : IClassFixture<Running>, IDisposable
{
    private readonly WebApplicationFactory<Program> mailing = server.Second(
        ("Notices:MailAfter", "0"),
        ("Notices:LookEvery", "86400"),
        ("Mail:Host", "127.0.0.1"),
        ("Mail:Port", "1"),
        ("Mail:From", "golden-rule@larkfell.example.org"),
        ("PublicAddress", "https://mail.larkfell.example.org")
    );

    public void Dispose() => mailing.Dispose();

    private async Task Look()
    {
        using var scope = mailing.Services.CreateScope();
        await scope.ServiceProvider.GetRequiredService<NoticeDigest>().SendAllAsync(default);
    }

    private Guid Of(string name) => server.Query(db => db.Users.Single(u => u.Name.StartsWith(name)).Id);

    /// <summary>The texts of all mails to somebody, the first one first.</summary>
    private List<string> Mails(Guid person)
    {
        using var scope = mailing.Services.CreateScope();
        var outbox = scope.ServiceProvider.GetRequiredService<Outbox>();
        return
        [
            .. scope
                .ServiceProvider.GetRequiredService<GoldenRuleDb>()
                .OutgoingMails.AsNoTracking()
                .Where(m => m.AccountId == person)
                .OrderBy(m => m.AskedAt)
                .AsEnumerable()
                .Select(m => outbox.Open(m))
                .Select(m => $"{m.Subject}\n{m.TextBody}"),
        ];
    }

    private static Task<HttpResponseMessage> Comment(HttpClient client, Guid email, string text, params Guid[] mentions) =>
        client.PostAsJsonAsync(
            $"/api/emails/{email}/comments",
            new
            {
                id = Guid.CreateVersion7(),
                text,
                mentions,
            }
        );

    [Fact]
    public async Task What_waits_is_gathered_into_one_mail_an_hour_and_told_once()
    {
        var (legal, bea) = (await server.As("jonas"), Of("Bea"));
        var email = server.EmailId("Winter steam gala");
        await Look();
        var before = Mails(bea).Count;
        server.Sql($"update \"AspNetUsers\" set notices_mailed_at = null where id = '{bea}'");
        (await Comment(legal, email, "Is the first departure right?", bea)).EnsureSuccessStatusCode();
        (await Comment(legal, email, "And the last?", bea)).EnsureSuccessStatusCode();
        await Look();
        var first = Mails(bea).Skip(before).ToList();
        Assert.Contains("first departure", Assert.Single(first), StringComparison.Ordinal);
        Assert.Contains("And the last?", first[0], StringComparison.Ordinal);
        Assert.Contains($"https://mail.larkfell.example.org/emails/{email}/review?comment=", first[0], StringComparison.Ordinal);

        // Within the hour nothing more comes, and after it only what is new.
        (await Comment(legal, email, "And the price?", bea)).EnsureSuccessStatusCode();
        await Look();
        Assert.Equal(before + 1, Mails(bea).Count);
        server.Sql($"update \"AspNetUsers\" set notices_mailed_at = now() - interval '61 minutes' where id = '{bea}'");
        await Look();
        var second = Mails(bea)[before + 1];
        Assert.Contains("And the price?", second, StringComparison.Ordinal);
        Assert.DoesNotContain("And the last?", second, StringComparison.Ordinal);
        server.Sql($"update \"AspNetUsers\" set notices_mailed_at = null where id = '{bea}'");
        await Look();
        Assert.Equal(before + 2, Mails(bea).Count);
    }

    [Fact]
    public async Task Each_kind_is_switched_off_here_and_by_mail()
    {
        var (imran, legal) = (await server.As("imran"), await server.As("jonas"));
        var id = Of("Imran");
        await Look();
        var settings = (await imran.GetFromJsonAsync<NoticeSettings>("/api/notices", DocumentJson.Options))!;
        Assert.Equal(Enum.GetValues<WaitKind>(), settings.Settings.Select(s => s.Kind));
        Assert.All(settings.Settings, s => Assert.True(s.InApplication && s.ByMail));
        var off = new
        {
            kind = "mention",
            inApplication = false,
            byMail = false,
        };
        await (await imran.PutAsJsonAsync("/api/notices", new[] { off, off })).Problem(422, "invalid");
        (await imran.PutAsJsonAsync("/api/notices", new[] { off })).EnsureSuccessStatusCode();
        (await Comment(legal, server.EmailId("Soup and a window seat"), "Only for Imran", id)).EnsureSuccessStatusCode();
        var wait = Assert.Single(await imran.Waits(), w => w.Text.Contains("Only for Imran", StringComparison.Ordinal));
        Assert.False(wait.Tell);
        server.Sql($"update \"AspNetUsers\" set notices_mailed_at = null where id = '{id}'");
        await Look();
        Assert.DoesNotContain(Mails(id), m => m.Contains("Only for Imran", StringComparison.Ordinal));
    }

    [Fact]
    public async Task Somebody_whose_role_is_gone_is_mailed_nothing_of_what_waited()
    {
        var (legal, wren) = (await server.As("jonas"), Of("Wren"));
        (await Comment(legal, server.EmailId("Spring on the shop shelf"), "For Wren", wren)).EnsureSuccessStatusCode();
        server.Sql($"update \"AspNetUsers\" set deactivated_at = now() where id = '{wren}'");
        await Look();
        server.Sql($"update \"AspNetUsers\" set deactivated_at = null where id = '{wren}'");
        Assert.DoesNotContain(Mails(wren), m => m.Contains("For Wren", StringComparison.Ordinal));
    }

    [Fact]
    public async Task Leads_are_told_of_an_approval_in_a_browser_that_a_writer_uses()
    {
        // One browser: the author signs out and the approver signs in.
        var browser = await server.As("imran");
        var email = server.EmailId("Winter timetable");
        var asked = (await browser.GetFromJsonAsync<ReviewAnswer>($"/api/emails/{email}/review", DocumentJson.Options))!;
        Assert.Equal(EmailState.InReview, asked.State);
        (await browser.DeleteAsync("/api/session")).EnsureSuccessStatusCode();
        await Running.SignIn(browser, "ruth");
        var decided = await (
            await browser.PostAsJsonAsync($"/api/emails/{email}/review/decisions", new { verdict = "approve", hash = asked.Hash })
        ).Read<ReviewAnswer>();
        Assert.Equal(EmailState.Approved, decided.State);
        var approval = decided.Rounds[0].Approvals.Single(a => a.Verdict == ReviewVerdict.Approve);
        Assert.Equal("Imran Sayle", Assert.Single(approval.SameBrowserAs).Name);

        var lead = await server.As("ruth");
        var wait = Assert.Single(await lead.Waits(), w => w.Kind == WaitKind.SameBrowser && w.Id == email);
        Assert.Contains("Imran Sayle, who wrote in it", wait.Text, StringComparison.Ordinal);
        // Nobody else hears of it, and their own review says nothing.
        var author = await server.As("imran");
        Assert.DoesNotContain(await author.Waits(), w => w.Kind == WaitKind.SameBrowser);
        var seen = (await author.GetFromJsonAsync<ReviewAnswer>($"/api/emails/{email}/review", DocumentJson.Options))!;
        Assert.All(seen.Rounds[0].Approvals, a => Assert.Empty(a.SameBrowserAs));
        Assert.Equal(1, server.Query(db => db.Log.Count(l => l.Kind == LogKind.ApprovedFromWritersBrowser)));
        // The author knows that it is approved; both say that they know, and it is gone.
        var approved = Assert.Single(await author.Waits(), w => w.Kind == WaitKind.Approved && w.Id == email);
        (await author.PostAsJsonAsync("/api/home/noted", new { key = approved.Key })).EnsureSuccessStatusCode();
        (await lead.PostAsJsonAsync("/api/home/noted", new { key = wait.Key })).EnsureSuccessStatusCode();
        Assert.DoesNotContain(await author.Waits(), w => w.Kind == WaitKind.Approved && w.Id == email);
        Assert.DoesNotContain(await lead.Waits(), w => w.Kind == WaitKind.SameBrowser);
    }
}
