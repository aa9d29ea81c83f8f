using System.IO.Compression;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json.Nodes;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Audits;
using GoldenRule.Server.Checks;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Files;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Jobs;
using Microsoft.Extensions.DependencyInjection;

namespace GoldenRule.Server.Tests;

/// <summary>What leaves the house and what the checks say of it, through the API: policy, messages, bundles, files, jobs.</summary>
public sealed class OutputTests(Running server) : IClassFixture<Running>
{
    private static readonly byte[] Pdf = Encoding.ASCII.GetBytes("%PDF-1.4 a menu");

    [Fact]
    public async Task The_lead_sets_severities_hosts_and_client_mix_and_every_server_follows()
    {
        var (lead, author) = (await server.As("ruth"), await server.As("imran"));
        var policy = await lead.GetFromJsonAsync<CheckPolicyAnswer>("/api/checks/policy", DocumentJson.Options);
        object Policy(object severities) =>
            new
            {
                severities,
                clients = new Dictionary<string, double>(StringComparer.Ordinal) { ["gmail.ios"] = 40 },
                hosts = new[] { "films.example.org", "forum.example.org", "larkfell.example.org", "photos.example.org" },
            };
        Task<HttpResponseMessage> Put(HttpClient who, object body, long revision)
        {
            var request = new HttpRequestMessage(HttpMethod.Put, "/api/checks/policy") { Content = JsonContent.Create(body) };
            request.Headers.IfMatch.Add(new EntityTagHeaderValue($"\"{revision}\""));
            return who.SendAsync(request);
        }

        await (await Put(author, Policy(new { }), policy!.Revision)).Problem(403, "refused");
        Assert.Equal(
            "severities/*/unsubscribe",
            (string?)
                (
                    await (
                        await Put(
                            lead,
                            Policy(new Dictionary<string, object>(StringComparer.Ordinal) { ["*"] = new { unsubscribe = "off" } }),
                            policy.Revision
                        )
                    ).Problem(422, "invalid")
                )["piece"]
        );
        Assert.Contains(
            "no campaign type",
            (string)
                (await (await Put(lead, Policy(new { nowhere = new { preheader = "off" } }), policy.Revision)).Problem(422, "invalid"))[
                    "detail"
                ]!,
            StringComparison.Ordinal
        );
        var senders = new { senders = new Dictionary<string, string[]>(StringComparer.Ordinal) { ["nowhere"] = ["larkfell.example.org"] } };
        Assert.Equal("senders/nowhere", (string?)(await (await Put(lead, senders, policy.Revision)).Problem(422, "invalid"))["piece"]);
        var named = new
        {
            senders = new Dictionary<string, string[]>(StringComparer.Ordinal) { ["*"] = ["Larkfell <post@larkfell.example.org>"] },
        };
        Assert.Equal("senders/*", (string?)(await (await Put(lead, named, policy.Revision)).Problem(422, "invalid"))["piece"]);

        var lamplighter = server.EmailId("The Lamplighter");
        Assert.Contains((await Running.Desk(author, lamplighter)).Findings!.Now, f =>
            f.Check == "preheader" && f.Severity == Severity.Warn
        );
        var set = Policy(new Dictionary<string, object>(StringComparer.Ordinal) { ["special-train"] = new { preheader = "stop" } });
        var answer = await (await Put(lead, set, policy.Revision)).Read<CheckPolicyAnswer>();
        Assert.Equal((policy.Revision + 1, "Ruth Calder"), (answer.Revision, answer.ChangedBy));
        await (await Put(lead, set, policy.Revision)).Problem(412, "changed-since");

        using var twin = server.Twin();
        var there = await Running.SignIn(twin.CreateClient(), "imran");
        Assert.Contains((await Running.Desk(there, lamplighter)).Findings!.Now, f => f.Check == "preheader" && f.Severity == Severity.Stop);
        var report = await author.GetFromJsonAsync<Report>($"/api/emails/{lamplighter}/report", DocumentJson.Options);
        Assert.Contains(report!.Findings, f => f is { Check: "preheader", Severity: Severity.Stop, Group: CheckGroup.LawAndDelivery });
        // Forty of forty known readers use the one client.
        Assert.All(report.Features.Where(f => f.MissedShare > 0), f =>
            Assert.Equal((1.0, "Gmail, iOS"), (f.MissedShare, Assert.Single(f.Missed)))
        );
    }

    [Fact]
    public async Task Files_are_taken_by_what_they_are_and_go_out_with_the_message()
    {
        var (author, reviewer) = (await server.As("imran"), await server.As("jonas"));
        await (await Upload(reviewer, "menu.pdf", Pdf)).Problem(403, "refused");
        await (await Upload(author, "menu.exe", Pdf)).Problem(422, "invalid");
        await (await Upload(author, "menu.pdf", "MZ"u8.ToArray())).Problem(422, "invalid");
        var file = await (await Upload(author, "../../Menü.pdf", Pdf)).Read<FileEntry>();
        Assert.Equal((Convert.ToHexStringLower(SHA256.HashData(Pdf)), "Menü.pdf", "application/pdf"), (file.Id, file.Name, file.MediaType));
        Assert.Equal(file.Id, (await (await Upload(author, "again.pdf", Pdf)).Read<FileEntry>()).Id);
        var loaded = await author.GetAsync($"/api/files/{file.Id}");
        Assert.Equal("attachment", loaded.Content.Headers.ContentDisposition?.DispositionType);

        var desk = await server.NewEmail(author);
        object Attach(string id, int bytes) =>
            new
            {
                kind = "set-attachments",
                files = new[]
                {
                    new
                    {
                        file = id,
                        name = "Menü.pdf",
                        mediaType = "application/pdf",
                        bytes,
                    },
                },
            };
        await (await author.Edit(desk.Id, desk.Revision, Attach(new string('0', 64), 5))).Problem(422, "invalid");
        await (await author.Edit(desk.Id, desk.Revision, Attach(file.Id, 5))).Problem(422, "invalid");
        var after = await (await author.Edit(desk.Id, desk.Revision, Attach(file.Id, file.Bytes))).Read<DeskAnswer>();
        Assert.Equal(file.Id, Assert.Single(after.Head.Attachments).File);
        var message = Encoding.ASCII.GetString(await author.GetByteArrayAsync($"/api/emails/{desk.Id}/message"));
        Assert.Contains("multipart/mixed", message, StringComparison.Ordinal);
        Assert.Contains(Convert.ToBase64String(Pdf), message, StringComparison.Ordinal);

        // No address to send from: said, and with its place.
        await (
            await author.Edit(
                desk.Id,
                after.Revision,
                new
                {
                    kind = "set-detail",
                    field = "senderAddress",
                    value = "",
                }
            )
        ).Read<DeskAnswer>();
        Assert.Equal(
            "details/senderAddress",
            (string?)(await (await author.GetAsync($"/api/emails/{desk.Id}/message")).Problem(422, "invalid"))["piece"]
        );
        await (await author.GetAsync($"/api/emails/{server.EmailId("March")}/message?to=nobody")).Problem(422, "invalid");
    }

    [Fact]
    public async Task A_bundle_carries_the_pictures_themselves()
    {
        var author = await server.As("imran");
        using var archive = new ZipArchive(
            new MemoryStream(await author.GetByteArrayAsync($"/api/emails/{server.EmailId("March")}/bundle"))
        );
        var pictures = archive.Entries.Where(e => e.FullName.StartsWith("pictures/", StringComparison.Ordinal)).ToList();
        Assert.True(pictures.Count >= 4);
        Assert.All(pictures, p =>
        {
            using var stream = p.Open();
            Assert.Equal(Path.GetFileNameWithoutExtension(p.Name), Convert.ToHexStringLower(SHA256.HashData(stream)));
        });
    }

    [Fact]
    public async Task The_plain_text_is_written_by_hand_where_the_template_lets_it()
    {
        var (lead, author) = (await server.As("ruth"), await server.As("imran"));
        var desk = await server.NewEmail(author);
        var text = (await author.GetFromJsonAsync<DraftText>($"/api/emails/{desk.Id}/draft/text", DocumentJson.Options))!;
        object Write(string words, string of) => new { kind = "set-plain-text", value = new { text = words, of } };
        Assert.False(text.Write.Allowed);
        await (await author.Edit(desk.Id, desk.Revision, Write("By hand.", text.MadeOf))).Problem(403, "refused");
        var written = await (await lead.Edit(desk.Id, desk.Revision, Write("By hand.", text.MadeOf))).Read<DeskAnswer>();
        Assert.Equal("[Draft, not approved, revision 1]\n\nBy hand.", await author.GetStringAsync($"/api/emails/{desk.Id}/text"));
        await (await author.Edit(desk.Id, written.Revision, Asking.SetWords("hero", "headline", "Another promise"))).Read<DeskAnswer>();
        Assert.True((await author.GetFromJsonAsync<DraftText>($"/api/emails/{desk.Id}/draft/text", DocumentJson.Options))!.Behind);
    }

    [Fact]
    public async Task A_release_that_must_be_taken_stops_what_is_made_from_an_older_one()
    {
        var (designer, author) = (await server.As("dana"), await server.As("imran"));
        var desk = await server.NewEmail(author);
        var hero = desk.Rows.Single(r => r.Id == "hero").Master!.Value;
        (await designer.PostAsJsonAsync($"/api/rows/{hero}/releases", new { note = "May wait" })).EnsureSuccessStatusCode();
        Assert.Contains((await Running.Desk(author, desk.Id)).Findings!.Now, f =>
            f is { Check: "update-waiting", Severity: Severity.Advise, Place.Row: "hero" }
        );
        (
            await designer.PostAsJsonAsync($"/api/rows/{hero}/releases", new { note = "The price was wrong", required = true })
        ).EnsureSuccessStatusCode();
        Assert.Contains((await Running.Desk(author, desk.Id)).Findings!.Now, f =>
            f is { Check: "update-required", Severity: Severity.Stop, Place.Row: "hero" }
        );
    }

    [Fact]
    public async Task The_whole_library_is_audited_as_a_job_with_progress_and_taken_away_as_CSV()
    {
        var (lead, author) = (await server.As("ruth"), await server.As("imran"));
        await (await author.PostAsJsonAsync("/api/audits", new { id = Guid.CreateVersion7() })).Problem(403, "refused");
        await (await author.GetAsync("/api/audits/newest")).Problem(403, "refused");
        var id = Guid.CreateVersion7();
        var asked = await (await lead.PostAsJsonAsync("/api/audits", new { id })).Read<JobEntry>();
        Assert.Equal(id, (await (await lead.PostAsJsonAsync("/api/audits", new { id })).Read<JobEntry>()).Id);
        await (await author.GetAsync($"/api/jobs/{asked.Id}")).Problem(404, "not-found");
        var job = await Running.Ended(lead, asked.Id);
        var documents = server.Query(db =>
            db.Documents.Count(d =>
                (d.Kind == DocumentKind.Email || d.Kind == DocumentKind.Template || d.Kind == DocumentKind.Row) && !d.Retired
            )
        );
        Assert.Equal((JobState.Done, documents, documents), (job.State, job.Done, job.Total));

        var audit = (await lead.GetFromJsonAsync<AuditRoom>("/api/audits/newest", DocumentJson.Options))!.Audit!;
        Assert.Equal(documents, audit.Documents);
        Assert.Equal(audit.Count, audit.ByCheck.Sum(c => c.Stop + c.Warn + c.Advise));
        Assert.Equal(audit.Count, audit.ByCampaignType.Sum(c => c.Stop + c.Warn + c.Advise));
        // What the audit says of an email is what its desk says.
        var march = server.EmailId("Winter steam");
        Assert.Equal(
            (await Running.Desk(lead, march)).Findings!.Now.Select(f => (f.Check, f.Message)).Order(),
            audit.Findings.Where(f => f.Document == march).Select(f => (f.Check, f.Message)).Order()
        );
        var only = (await lead.GetFromJsonAsync<AuditRoom>("/api/audits/newest?check=default-wording", DocumentJson.Options))!.Audit!;
        Assert.True(
            only.Count > 0 && only.Findings.All(f => f is { Check: "default-wording", Row: not null, Piece: not null, Field: not null })
        );
        var blockers = (await lead.GetFromJsonAsync<AuditRoom>("/api/audits/newest?severity=stop", DocumentJson.Options))!.Audit!;
        Assert.True(blockers.Count is > 0 && blockers.Count < audit.Count && blockers.Findings.All(f => f.Severity == Severity.Stop));
        await (await lead.GetAsync("/api/audits/newest?severity=grave")).Problem(400, "bad-request");
        var csv = await lead.GetStringAsync("/api/audits/newest.csv");
        Assert.StartsWith("Severity,Check,Message,", csv, StringComparison.Ordinal);
        Assert.Equal(audit.Count + 1, csv.Split("\r\n", StringSplitOptions.RemoveEmptyEntries).Length);
    }

    [Fact]
    public async Task The_sheet_to_sign_off_is_printed_as_a_job_and_is_its_asker_s()
    {
        var (author, other) = (await server.As("imran"), await server.As("bea"));
        var asked = await (
            await author.PostAsJsonAsync($"/api/emails/{server.EmailId("March")}/sign-off", new { id = Guid.CreateVersion7() })
        ).Read<JobEntry>();
        var job = await Running.Ended(author, asked.Id);
        Assert.Equal((JobState.Done, "March: the viaduct reopens.pdf"), (job.State, job.Result));
        var pdf = await author.GetByteArrayAsync($"/api/jobs/{job.Id}/result");
        Assert.StartsWith("%PDF-", Encoding.ASCII.GetString(pdf, 0, 8), StringComparison.Ordinal);
        await (await other.GetAsync($"/api/jobs/{job.Id}/result")).Problem(404, "not-found");
        // What opens the page is nobody who may do more: with Chromium's sandbox where one can be had, never as root.
        string[] command =
        [
            .. HeadlessChromium.Command("chromium", "/tmp", server.Services.GetRequiredService<HeadlessChromium>().Open is null),
        ];
        Assert.Equal(Environment.UserName == "root", command.Contains("--reuid=65534"));
        Assert.Equal(server.Services.GetRequiredService<HeadlessChromium>().Open is not null, command.Contains("--no-sandbox"));
    }

    [Theory]
    [InlineData("no-media-queries")]
    [InlineData("partly-recoloured")]
    [InlineData("fully-recoloured")]
    public async Task Simulated_views_hold_every_row(string view)
    {
        var author = await server.As("imran");
        var id = server.EmailId("March");
        var shown = (await author.GetFromJsonAsync<DraftView>($"/api/emails/{id}/draft/view?view={view}", DocumentJson.Options))!;
        Assert.Equal((await Running.Desk(author, id)).Rows.Select(r => r.Id), shown.Rows.Select(r => r.Id));
        await (await author.GetAsync($"/api/emails/{id}/draft/view?view=upside-down")).Problem(400, "bad-request");
    }

    private static async Task<HttpResponseMessage> Upload(HttpClient client, string name, byte[] content)
    {
        using var form = new MultipartFormDataContent();
        form.Add(new ByteArrayContent(content), "file", name);
        return await client.PostAsync("/api/files", form);
    }
}
