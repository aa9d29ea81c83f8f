using System.Net.Http.Json;
using System.Text.Json.Nodes;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Releases;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Emails;
using GoldenRule.Server.HouseStyles;

namespace GoldenRule.Server.Tests;

/// <summary>House styles, templates and saved rows go the same road as emails; several servers share one database.</summary>
public sealed class MasterTests(Running server) : IClassFixture<Running>
{
    private static object Sent(long seen, params object[] edits) =>
        new
        {
            @base = seen,
            edits = edits.Select(e => new
            {
                id = Guid.CreateVersion7(),
                step = Guid.CreateVersion7(),
                edit = e,
            }),
        };

    [Fact]
    public async Task Locks_and_limits_of_masters_are_edits_that_leave_releases_as_they_are()
    {
        var (designer, author) = (await server.As("dana"), await server.As("imran"));
        var template = server.Query(db => db.Documents.Single(d => d.Kind == DocumentKind.Template && d.Name == "Volunteer call").Id);
        var row = server.Query(db => db.Documents.Single(d => d.Kind == DocumentKind.Row && d.Name == "Departure board").Id);
        var seal = new
        {
            kind = "set-lock",
            row = "hero",
            aspect = "content",
            @lock = new { kind = "sealed" },
        };
        var limit = new
        {
            kind = "set-limit",
            piece = "headline",
            field = "text",
            limit = new { characters = 3 },
        };

        (await designer.PostAsJsonAsync($"/api/templates/{template}/edits", Sent(0, seal))).EnsureSuccessStatusCode();
        (await designer.PostAsJsonAsync($"/api/rows/{row}/edits", Sent(0, limit))).EnsureSuccessStatusCode();
        Assert.Contains("sealed", server.Query(db => db.Documents.Single(d => d.Id == template).Head), StringComparison.Ordinal);
        Assert.Equal(1, server.Query(db => db.Edits.Count(e => e.DocumentId == row)));

        // The release that emails refer to is the one before: nothing changes for them.
        var desk = await server.NewEmail(author, "Volunteer call");
        (await author.Edit(desk.Id, 0, Asking.SetWords("hero", "headline", "Still open"))).EnsureSuccessStatusCode();

        await (
            await designer.PostAsJsonAsync(
                $"/api/rows/{row}/edits",
                Sent(
                    1,
                    new
                    {
                        kind = "set-limit",
                        piece = "headline",
                        field = "glow",
                        limit = new { characters = 3 },
                    }
                )
            )
        ).Problem(422, "invalid");
        await (await designer.PostAsJsonAsync($"/api/templates/{row}/edits", Sent(0, seal))).Problem(404, "not-found");
        await (await author.PostAsJsonAsync($"/api/rows/{row}/edits", Sent(1, limit))).Problem(403, "refused");
    }

    [Fact]
    public async Task A_house_style_tells_where_its_values_come_from_and_undoes_what_was_changed()
    {
        var lead = await server.As("ruth");
        var house = await Running.House(lead);
        var fill = house.Styles.Single(s => s.Name == "primary").Properties.Single(p => p.Name == "fill");
        Assert.Equal(("{accent}", "#8e2a1c"), (fill.Written, fill.Resolved));
        Assert.Equal("accent,buffer-red", string.Join(',', fill.Through));
        Assert.Equal("Larkfell", Assert.Single(fill.Layers).Layer);
        Assert.True(house.MayEdit);
        Assert.Equal(0, house.Changes);
        Assert.All(house.Contrast, c => Assert.True(c.Passes));

        var plain = await (
            await lead.PostAsJsonAsync(
                $"/api/house-styles/{house.Id}/edits",
                Sent(
                    house.Revision,
                    new
                    {
                        kind = "set-style",
                        style = "primary",
                        property = "fill",
                        value = "#123456",
                    }
                )
            )
        ).Read<HouseStyleAnswer>();
        var literal = plain.Styles.Single(s => s.Name == "primary").Properties.Single(p => p.Name == "fill");
        Assert.True(literal.Literal);
        Assert.True(literal.Changed);
        Assert.Contains(plain.Specimen.Rows, r => r?.Contains("#123456", StringComparison.Ordinal) == true);
        var back = await (
            await lead.PostAsJsonAsync($"/api/house-styles/{house.Id}/undo", new { id = Guid.CreateVersion7() })
        ).Read<HouseStyleAnswer>();
        Assert.Equal(0, back.Changes);
        Assert.True(back.CanRedo);
        var again = await (
            await lead.PostAsJsonAsync($"/api/house-styles/{house.Id}/redo", new { id = Guid.CreateVersion7() })
        ).Read<HouseStyleAnswer>();
        Assert.Equal(1, again.Changes);
        await lead.PostAsJsonAsync($"/api/house-styles/{house.Id}/undo", new { id = Guid.CreateVersion7() });
    }

    [Fact]
    public async Task A_sub_brand_shows_what_is_its_own_and_what_it_inherits()
    {
        var lead = await server.As("ruth");
        var all = (await lead.GetFromJsonAsync<HouseStyleEntry[]>("/api/house-styles", DocumentJson.Options))!;
        var child = all.Single(s => s.Parent is not null);
        Assert.Equal(all[0].Id, child.Parent);
        var room = (await lead.GetFromJsonAsync<HouseStyleAnswer>($"/api/house-styles/{child.Id}", DocumentJson.Options))!;
        Assert.Equal(
            ["accent", "engine-green", "heading-ink", "tint"],
            room.Variables.Where(v => v.Own).Select(v => v.Variable.Key).Order(StringComparer.Ordinal)
        );
        Assert.Contains(room.Variables, v => !v.Own && v.Variable.Type == VariableType.Font);
        // What the parent would release reaches the sub-brand's emails too.
        var tearoom = await server.NewEmail(await server.As("imran"), "Tearoom offer");
        var reach = (await lead.GetFromJsonAsync<ReachAnswer>($"/api/house-styles/{all[0].Id}/reach", DocumentJson.Options))!;
        Assert.Contains(reach.Emails, e => e.Id == tearoom.Id && e.Follows);
        var own = (await lead.GetFromJsonAsync<ReachAnswer>($"/api/house-styles/{child.Id}/reach", DocumentJson.Options))!;
        Assert.Equal(new[] { tearoom.Id, server.EmailId("Soup") }.Order(), own.Emails.Select(e => e.Id).Order());
        Assert.Equal("#8f3f35", room.Styles.Single(s => s.Name == "primary").Properties.Single(p => p.Name == "fill").Resolved);
    }

    [Fact]
    public async Task Why_a_field_says_what_it_says_is_told_layer_by_layer()
    {
        var author = await server.As("bea");
        var desk = await server.NewEmail(author, "Shop offer");
        (await author.Edit(desk.Id, 0, Asking.SetWords("hero", "button", "See the mugs"))).EnsureSuccessStatusCode();
        var said = (await author.GetFromJsonAsync<ExplainedValue[]>($"/api/emails/{desk.Id}/why?row=hero", DocumentJson.Options))!
            .Where(s => s.Piece == "button")
            .ToList();
        Assert.Equal(
            [("Picture and promise, release 1", "Choose your seat"), ("Shop offer", "Visit the shop"), ("This email", "See the mugs")],
            said.Single(s => s is { Kind: ExplainedKind.Words, Field: "text" }).Layers.Select(s => (s.Layer, s.Value))
        );
        Assert.Equal(
            [Provenance.Usual, "Picture and promise, release 1"],
            said.First(s => s.Kind == ExplainedKind.Look).Layers.Select(l => l.Layer)
        );
        await (await author.GetAsync($"/api/emails/{desk.Id}/why?row=nowhere")).Problem(404, "not-found");
        var inbox = (await author.GetFromJsonAsync<ExplainedValue[]>($"/api/emails/{desk.Id}/why", DocumentJson.Options))!;
        Assert.Equal("This email", inbox.Single(s => s.Field == "subject").Layers[^1].Layer);
    }

    /// <summary>The server keeps no state of its own: what one stores, another shows, in the next answer.</summary>
    [Fact]
    public async Task Two_servers_over_one_database_tell_the_same()
    {
        using var other = server.Twin();
        var (here, there) = (await server.As("imran"), await Running.SignIn(other.CreateClient(), "imran"));
        var desk = await server.NewEmail(here);
        Assert.Equal(desk.Revision, (await Running.Desk(there, desk.Id)).Revision);
        for (var i = 0; i < 6; i++)
        {
            var client = i % 2 == 0 ? here : there;
            var answer = await (await client.Edit(desk.Id, i, Asking.SetWords("hero", "headline", $"Train {i}"))).Read<DeskAnswer>();
            Assert.Contains($"Train {i}", answer.Rows.Single(r => r.Id == "hero").Html, StringComparison.Ordinal);
            Assert.Equal(i + 1, answer.Revision);
        }

        // Undo on one takes back what was done on the other.
        var undone = await (
            await here.PostAsJsonAsync($"/api/emails/{desk.Id}/undo", new { id = Guid.CreateVersion7(), @base = 6 })
        ).Read<DeskAnswer>();
        Assert.Contains("Train 4", undone.Rows.Single(r => r.Id == "hero").Html, StringComparison.Ordinal);
        Assert.True((await there.GetFromJsonAsync<ReplayAnswer>($"/api/emails/{desk.Id}/replay", DocumentJson.Options))!.Equal);
    }

    [Fact]
    public async Task Findings_come_again_only_when_they_changed()
    {
        var author = await server.As("imran");
        var desk = await server.NewEmail(author);
        Assert.NotNull(desk.Findings);
        async Task<DeskAnswer> Write(long seen, string words) =>
            await (
                await author.PostAsJsonAsync(
                    $"/api/emails/{desk.Id}/edits",
                    new
                    {
                        @base = seen,
                        styleVersion = desk.Proof.StyleVersion,
                        edits = new[]
                        {
                            new
                            {
                                id = Guid.CreateVersion7(),
                                step = Guid.CreateVersion7(),
                                edit = Asking.SetWords("hero", "headline", words),
                            },
                        },
                    }
                )
            ).Read<DeskAnswer>();
        // Its placeholder is gone: one finding less, and nothing but that is said.
        var (all, change) = (desk.Findings!.Now, (await Write(0, "A")).Findings!);
        Assert.Empty(change.Now);
        Assert.Equal(all.Length - 1, change.Before + change.After);
        Assert.Equal("placeholder-wording", all[change.Before].Check);
        Assert.Null((await Write(1, "AB")).Findings);
        var longer = (await Write(2, new string('A', 61))).Findings!;
        Assert.Equal("limit", Assert.Single(longer.Now).Check);
        Assert.Equal(
            (await Running.Desk(author, desk.Id)).Findings!.Now.Select(f => (f.Check, f.Place)),
            [
                .. all.RemoveAt(change.Before)
                    .Take(longer.Before)
                    .Concat(longer.Now)
                    .Concat(all.RemoveAt(change.Before).TakeLast(longer.After))
                    .Select(f => (f.Check, f.Place)),
            ]
        );
    }

    [Fact]
    public async Task Every_check_has_its_reason()
    {
        var author = await server.As("imran");
        var checks = (await author.GetFromJsonAsync<JsonArray>("/api/checks"))!;
        Assert.True(checks.Count >= 12);
        Assert.All(checks, c => Assert.NotEmpty((string)c!["why"]!));
    }

    [Fact]
    public async Task Templates_and_rows_are_shown_as_they_look()
    {
        var author = await server.As("imran");
        foreach (var template in await Running.Templates(author))
        {
            var html = await author.GetStringAsync($"/api/templates/{template!["id"]}/html");
            Assert.StartsWith("<!DOCTYPE html>", html, StringComparison.Ordinal);
            Assert.DoesNotContain("data-row", html, StringComparison.Ordinal);
        }

        // The tearooms' template wears the sub-brand's colours.
        var tearooms = server.Query(db => db.Documents.Single(d => d.Kind == DocumentKind.Template && d.Name == "Tearoom offer").Id);
        Assert.Contains("#8f3f35", await author.GetStringAsync($"/api/templates/{tearooms}/html"), StringComparison.Ordinal);
        var row = server.Query(db => db.Documents.Single(d => d.Kind == DocumentKind.Row && d.Name == "Tearoom").Id);
        Assert.Contains("A table by the window", await author.GetStringAsync($"/api/rows/{row}/html"), StringComparison.Ordinal);
        await (await author.GetAsync($"/api/templates/{Guid.NewGuid()}/html")).Problem(404, "not-found");
    }
}
