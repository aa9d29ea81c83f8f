using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Releases;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;
using GoldenRule.Server.Home;
using Microsoft.Extensions.DependencyInjection;

namespace GoldenRule.Server.Tests;

/// <summary>Releases at a moment, going back as a new release, what takes the place of what is retired, updates of many emails.</summary>
public sealed class ReleaseTests(Running server) : IClassFixture<Running>
{
    private Guid Row(string name) => server.Query(db => db.Documents.Single(d => d.Kind == DocumentKind.Row && d.Name == name).Id);

    private static async Task<DeskAnswer> Desk(HttpClient client, Guid row) =>
        (await client.GetFromJsonAsync<DeskAnswer>($"/api/rows/{row}/desk", DocumentJson.Options))!;

    private static async Task<long> Describe(HttpClient client, Guid row, string text)
    {
        var revision = (await Desk(client, row)).Revision;
        var edit = new
        {
            id = Guid.CreateVersion7(),
            step = Guid.CreateVersion7(),
            edit = new { kind = "set-description", text },
        };
        (
            await client.PostAsJsonAsync($"/api/rows/{row}/edits", new { @base = revision, edits = new[] { edit } })
        ).EnsureSuccessStatusCode();
        return revision + 1;
    }

    private static Task<HttpResponseMessage> Release(HttpClient client, Guid row, object body) =>
        client.PostAsJsonAsync($"/api/rows/{row}/releases", body);

    private static async Task<HttpResponseMessage> Plan(HttpClient client, Guid row, DateTime at, long? seen = null)
    {
        using var request = new HttpRequestMessage(HttpMethod.Put, $"/api/rows/{row}/planned-release");
        request.Content = JsonContent.Create(new { note = "At its moment", at });
        if (seen is { } revision)
        {
            request.Headers.TryAddWithoutValidation("If-Match", $"\"{revision}\"");
        }

        return await client.SendAsync(request);
    }

    private static async Task<PlannedReleaseAnswer?> Planned(HttpClient client, Guid row) =>
        (await client.GetFromJsonAsync<PlannedReleases>($"/api/rows/{row}/planned-release", DocumentJson.Options))!.Planned;

    // As if its moment had come; the server looks for those by itself, now and then.
    private async Task MomentComes(Guid row)
    {
        server.Sql($"update planned_releases set at = now() - interval '1 second' where document_id = '{row}'");
        using var scope = server.Services.CreateScope();
        var plans = scope.ServiceProvider.GetRequiredService<ReleasePlans>();
        while (await plans.MakeNextAsync(default)) { }

        // Another turn may have it in its hands.
        while (server.Query(db => db.PlannedReleases.Any(p => p.DocumentId == row && p.Problem == "")))
        {
            await Task.Delay(20);
        }
    }

    private int Newest(Guid row) => server.Query(db => db.Releases.Where(r => r.DocumentId == row).Max(r => r.Number));

    [Fact]
    public async Task A_release_is_made_at_its_moment_as_it_was_planned()
    {
        var (designer, row) = (await server.As("dana"), Row("Two facts"));
        var revision = await Describe(designer, row, "Planned");
        await (await Plan(designer, row, DateTime.UtcNow.AddDays(-1))).Problem(422, "invalid");
        await (await Plan(designer, row, DateTime.UtcNow.AddDays(1), revision - 1)).Problem(412, "changed-since");
        await (await Plan(await server.As("imran"), row, DateTime.UtcNow.AddDays(1))).Problem(403, "refused");
        (await Plan(designer, row, DateTime.UtcNow.AddDays(1), revision)).EnsureSuccessStatusCode();
        Assert.Equal(
            ("Dana Whitlow", false, ""),
            ((await Planned(designer, row))!.By, (await Planned(designer, row))!.DraftChanged, (await Planned(designer, row))!.Problem)
        );
        var before = Newest(row);
        await MomentComes(row);
        Assert.Equal(before + 1, Newest(row));
        Assert.Null(await Planned(designer, row));
        Assert.Equal(1, server.Query(db => db.Log.Count(l => l.Kind == LogKind.ReleasePlanned && l.Subject == "Two facts")));
    }

    [Fact]
    public async Task A_draft_that_was_changed_since_is_not_released_and_whoever_planned_it_is_told()
    {
        var (designer, row) = (await server.As("dana"), Row("Station staff"));
        await Describe(designer, row, "Planned");
        (await Plan(designer, row, DateTime.UtcNow.AddDays(1))).EnsureSuccessStatusCode();
        await Describe(await server.As("ruth"), row, "Changed since");
        Assert.True((await Planned(designer, row))!.DraftChanged);
        var before = Newest(row);
        await MomentComes(row);
        Assert.Equal(before, Newest(row));
        Assert.StartsWith("The draft was changed", (await Planned(designer, row))!.Problem, StringComparison.Ordinal);
        var wait = Assert.Single(await designer.Waits(), w => w.Kind == WaitKind.ReleaseNotMade && w.Id == row);
        Assert.Contains("was not made", wait.Text, StringComparison.Ordinal);
        Assert.DoesNotContain(await (await server.As("ruth")).Waits(), w => w.Kind == WaitKind.ReleaseNotMade);
        // Released by hand, there is nothing left to tell.
        (await Release(designer, row, new { note = "By hand" })).EnsureSuccessStatusCode();
        Assert.Null(await Planned(designer, row));
        Assert.DoesNotContain(await designer.Waits(), w => w.Kind == WaitKind.ReleaseNotMade);
    }

    [Fact]
    public async Task Whoever_may_not_release_any_more_when_the_moment_comes_releases_nothing()
    {
        var (designer, row) = (await server.As("dana"), Row("Small print"));
        await Describe(designer, row, "Planned");
        (await Plan(designer, row, DateTime.UtcNow.AddDays(1))).EnsureSuccessStatusCode();
        var dana = server.Query(db => db.Users.Single(u => u.Name == "Dana Whitlow").Id);
        var roles = server.Query(db => db.UserRoles.Where(r => r.UserId == dana).Select(r => r.RoleId).ToList());
        server.Sql($"delete from \"AspNetUserRoles\" where user_id = '{dana}'");
        var before = Newest(row);
        await MomentComes(row);
        foreach (var role in roles)
        {
            server.Sql($"insert into \"AspNetUserRoles\" (user_id, role_id) values ('{dana}', '{role}')");
        }

        Assert.Equal(before, Newest(row));
        Assert.Contains("may not release it any more", (await Planned(designer, row))!.Problem, StringComparison.Ordinal);
        (await designer.DeleteAsync($"/api/rows/{row}/planned-release")).EnsureSuccessStatusCode();
        Assert.Null(await Planned(designer, row));
    }

    [Fact]
    public async Task At_the_moment_and_by_hand_at_once_one_release_is_made()
    {
        var (designer, row) = (await server.As("dana"), Row("Itinerary stop"));
        await Describe(designer, row, "At once");
        (await Plan(designer, row, DateTime.UtcNow.AddDays(1))).EnsureSuccessStatusCode();
        var before = Newest(row);
        var byHand = Release(designer, row, new { note = "By hand" });
        await MomentComes(row);
        var answered = await byHand;
        Assert.True(
            answered.StatusCode is HttpStatusCode.OK or HttpStatusCode.PreconditionFailed,
            await answered.Content.ReadAsStringAsync()
        );
        // Either may come first; the other finds it made. By hand after the other is a release of its own, which nobody plans.
        Assert.InRange(Newest(row), before + 1, before + 2);
        Assert.Null(await Planned(designer, row));
        Assert.InRange(server.Query(db => db.Releases.Count(r => r.DocumentId == row && r.Note == "At its moment")), 0, 1);
    }

    [Fact]
    public async Task Going_back_makes_a_new_release_of_an_older_one_and_leaves_the_draft()
    {
        var (designer, row) = (await server.As("dana"), Row("Departure board"));
        var first = Newest(row);
        await Describe(designer, row, "A mistake");
        (await Release(designer, row, new { note = "A mistake" })).EnsureSuccessStatusCode();
        await (await Release(designer, row, new { note = "Back", again = 99 })).Problem(404, "not-found");
        var back = await (await Release(designer, row, new { note = $"Back to {first}", again = first })).Read<ReleaseAnswer>();
        Assert.Equal(first + 2, back.Release);
        Assert.True(
            server.Query(db =>
                db.Releases.Single(r => r.DocumentId == row && r.Number == first).Body
                == db.Releases.Single(r => r.DocumentId == row && r.Number == first + 2).Body
            )
        );
        var desk = await Desk(designer, row);
        Assert.Equal(("A mistake", true), (desk.About!.Description, desk.About.Changed));
        var html = await designer.GetStringAsync($"/api/rows/{row}/releases/{first}/html");
        Assert.Contains("<table", html, StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_takes_the_place_of_a_retired_row_is_named_and_offered()
    {
        var (lead, author) = (await server.As("ruth"), await server.As("imran"));
        var email = await server.NewEmail(author, "Special train");
        var (hero, next) = (Row("Picture and promise"), Row("Note on tint"));
        Task<HttpResponseMessage> Status(Guid row, object body) => lead.PutAsJsonAsync($"/api/rows/{row}/status", body);
        await (await Status(hero, new { retired = true, heir = hero })).Problem(422, "invalid");
        await (await Status(hero, new { retired = true, heir = Guid.NewGuid() })).Problem(422, "invalid");
        (await Status(hero, new { retired = true, heir = next })).EnsureSuccessStatusCode();
        var findings = (await Running.Desk(author, email.Id)).Findings!.Now.Where(f => f.Check == "retired").ToList();
        Assert.Contains(findings, f => f.Message.Contains("\"Note on tint\" takes its place", StringComparison.Ordinal));
        Assert.Equal(next, (await Desk(lead, hero)).About!.Heir);
        // Restored, it is itself again.
        (await Status(hero, new { retired = false })).EnsureSuccessStatusCode();
        Assert.DoesNotContain((await Running.Desk(author, email.Id)).Findings!.Now, f => f.Check == "retired");
        Assert.Null((await Desk(lead, hero)).About!.Heir);
    }

    [Fact]
    public async Task Updates_of_many_emails_are_shown_first_and_each_is_taken_by_itself()
    {
        var (designer, author) = (await server.As("dana"), await server.As("imran"));
        var template = server.Query(db => db.Documents.Single(d => d.Kind == DocumentKind.Template && d.Name == "Members’ gazette").Id);
        var emails = new List<Guid>();
        for (var i = 0; i < 3; i++)
        {
            emails.Add((await server.NewEmail(author, "Members’ gazette")).Id);
        }

        var revision = server.Query(db => db.Documents.Single(d => d.Id == template).Revision);
        var edit = new
        {
            id = Guid.CreateVersion7(),
            step = Guid.CreateVersion7(),
            edit = new { kind = "set-description", text = "For all" },
        };
        (
            await designer.PostAsJsonAsync($"/api/templates/{template}/edits", new { @base = revision, edits = new[] { edit } })
        ).EnsureSuccessStatusCode();
        (
            await designer.PostAsJsonAsync($"/api/templates/{template}/releases", new { note = "For all", required = true })
        ).EnsureSuccessStatusCode();

        var waiting = (await author.GetFromJsonAsync<WaitingUpdates>($"/api/updates?of={template}", DocumentJson.Options))!;
        var mine = waiting.Emails.Where(e => emails.Contains(e.Id)).ToList();
        Assert.Equal(3, mine.Count);
        Assert.All(mine, e => Assert.True(e.Update.Newer.Single(n => n.Row is null).Required && e.Update.Allowed.Allowed));

        // One was changed since it was shown, and one is not there.
        (
            await author.Edit(
                mine[0].Id,
                mine[0].Revision,
                new
                {
                    kind = "set-detail",
                    field = "subject",
                    value = "Changed",
                }
            )
        ).EnsureSuccessStatusCode();
        var body = mine.Select(e => new
            {
                id = e.Id,
                revision = e.Revision,
                edit = Guid.CreateVersion7(),
            })
            .Append(
                new
                {
                    id = Guid.NewGuid(),
                    revision = 0L,
                    edit = Guid.CreateVersion7(),
                }
            )
            .ToList();
        var taken = await (await author.PostAsJsonAsync("/api/updates", body)).Read<UpdateTaken[]>();
        Assert.StartsWith("It was changed since", taken[0].Problem, StringComparison.Ordinal);
        Assert.Null(taken[1].Problem);
        Assert.Null(taken[2].Problem);
        Assert.NotNull(taken[3].Problem);
        // Sent again, since the answer was lost: nothing is taken twice.
        var again = await (await author.PostAsJsonAsync("/api/updates", body)).Read<UpdateTaken[]>();
        Assert.Null(again[1].Problem);
        Assert.Equal(1, server.Query(db => db.Edits.Count(e => e.DocumentId == mine[1].Id)));

        // Nobody takes it for others' emails who may not edit those.
        var refused = await (
            await (await server.As("jonas")).PostAsJsonAsync(
                "/api/updates",
                new[]
                {
                    new
                    {
                        id = mine[0].Id,
                        revision = mine[0].Revision + 1,
                        edit = Guid.CreateVersion7(),
                    },
                }
            )
        ).Read<UpdateTaken[]>();
        Assert.NotNull(Assert.Single(refused).Problem);

        var own = (await author.GetFromJsonAsync<WaitingUpdates>("/api/updates", DocumentJson.Options))!;
        Assert.Contains(own.Emails, e => e.Id == mine[0].Id);
        Assert.DoesNotContain(own.Emails, e => e.Id == mine[1].Id);
        // Until it is taken, a required one stops the asking for approval.
        var review = (await author.GetFromJsonAsync<JsonObject>($"/api/emails/{mine[0].Id}/review"))!;
        Assert.True((int)review["obstacles"]!["blockers"]! > 0);
        // Nor does it leave otherwise; it is only looked at.
        Assert.True((await Running.Desk(author, mine[0].Id)).Email!.Template.UpdateRequired);
        foreach (var export in (string[])["html", "html?download=true", "text", "message", "bundle"])
        {
            await (await author.GetAsync($"/api/emails/{mine[0].Id}/{export}")).Problem(409, "state");
        }

        (await author.GetAsync($"/api/emails/{mine[0].Id}/html?proof=true")).EnsureSuccessStatusCode();
        (await author.GetAsync($"/api/emails/{mine[1].Id}/html")).EnsureSuccessStatusCode();
    }
}
