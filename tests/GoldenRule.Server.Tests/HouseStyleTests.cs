using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Interchange;
using GoldenRule.Core.Releases;
using GoldenRule.Core.Specimens;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.HouseStyles;

namespace GoldenRule.Server.Tests;

/// <summary>House styles through the API: made, brought in, named and renamed, released, gone back to.</summary>
public sealed class HouseStyleTests(Running server) : IClassFixture<Running>
{
    [Fact]
    public async Task A_house_style_is_made_once_filled_by_one_import_and_released()
    {
        var lead = await server.As("ruth");
        var id = Guid.CreateVersion7();
        for (var i = 0; i < 2; i++)
        {
            Assert.Equal(
                0,
                (
                    await (await lead.PostAsJsonAsync("/api/house-styles", new { id, name = "From the website" })).Read<HouseStyleEntry>()
                ).Release
            );
        }

        await (await lead.PostAsJsonAsync("/api/house-styles", new { id, name = "Another" })).Problem(409, "conflict");
        var css = await File.ReadAllTextAsync(Path.Combine(Running.Root, "demo/larkfell/website/site.css"));
        var plan = await (
            await lead.PostAsJsonAsync($"/api/house-styles/{id}/import", new { format = "css", text = css })
        ).Read<ImportEntry[]>();
        Assert.Equal("--shadow", Assert.Single(plan, p => p.Action == ImportAction.Left).Place);

        // The steps refer to one another in any order, and go as one.
        var step = Guid.CreateVersion7();
        var edits = plan.Where(p => p.Edit is not null)
            .Reverse()
            .Select(p => new
            {
                id = Guid.CreateVersion7(),
                step,
                edit = p.Edit,
            })
            .ToList();
        var filled = await (
            await lead.PostAsJsonAsync($"/api/house-styles/{id}/edits", new { @base = 0, edits }, DocumentJson.Options)
        ).Read<HouseStyleAnswer>();
        Assert.Equal(
            "#8e2a1c",
            (await Get(lead, id)).Styles.Single(s => s.Name == "primary").Properties.Single(p => p.Name == "fill").Resolved
        );
        Assert.Equal(edits.Count, filled.Changes);
        Assert.Equal(
            0,
            (
                await (
                    await lead.PostAsJsonAsync($"/api/house-styles/{id}/undo", new { id = Guid.CreateVersion7() })
                ).Read<HouseStyleAnswer>()
            ).Changes
        );
        await (await lead.PostAsJsonAsync($"/api/house-styles/{id}/redo", new { id = Guid.CreateVersion7() })).Read<HouseStyleAnswer>();

        await (
            await lead.PostAsJsonAsync(
                "/api/house-styles",
                new
                {
                    id = Guid.CreateVersion7(),
                    name = "Sub",
                    parent = id,
                }
            )
        ).Problem(422, "invalid");
        Assert.Equal(
            1,
            (
                await (
                    await lead.PostAsJsonAsync($"/api/house-styles/{id}/releases", new { note = "As the website has it" })
                ).Read<ReleaseAnswer>()
            ).Release
        );
        var sub = Guid.CreateVersion7();
        await (
            await lead.PostAsJsonAsync(
                "/api/house-styles",
                new
                {
                    id = sub,
                    name = "Sub",
                    parent = id,
                }
            )
        ).Read<HouseStyleEntry>();
        var inherited = await Get(lead, sub);
        Assert.Equal("From the website", inherited.ParentName);
        Assert.All(inherited.Variables, v => Assert.False(v.Own));
    }

    [Fact]
    public async Task A_variable_in_use_does_not_vanish_but_another_can_take_its_place()
    {
        var lead = await server.As("ruth");
        var house = await Running.House(lead);
        var inStyles = await (await Edit(lead, house.Id, new { kind = "remove-variable", key = "soot" })).Problem(422, "invalid");
        Assert.Contains("content, text", (string?)inStyles["detail"], StringComparison.Ordinal);
        // No style refers to the postal address, but the footers' rows do.
        var inRows = await (await Edit(lead, house.Id, new { kind = "remove-variable", key = "postal-address" })).Problem(422, "invalid");
        Assert.Contains("row \"", (string?)inRows["detail"], StringComparison.Ordinal);
        Assert.Equal("variable postal-address", (string?)inRows["piece"]);

        var uses = (
            await lead.GetFromJsonAsync<VariableUsesAnswer>(
                $"/api/house-styles/{house.Id}/variables/postal-address/uses",
                DocumentJson.Options
            )
        )!;
        Assert.All(uses.Places, u => Assert.Equal(UserKind.Row, u.Kind));
        Assert.NotEmpty(uses.Places);
        // What the Tearooms say for themselves would break without what is under it.
        await (
            await Edit(
                lead,
                house.Id,
                new
                {
                    kind = "rename-variable",
                    key = "accent",
                    to = "engine-green",
                    forget = false,
                }
            )
        ).Problem(422, "invalid");

        var renamed = await (
            await Edit(
                lead,
                house.Id,
                new
                {
                    kind = "rename-variable",
                    key = "postal-address",
                    to = "address",
                    forget = false,
                }
            )
        ).Read<HouseStyleAnswer>();
        Assert.Contains(renamed.Variables, v => v.Variable.Key == "address" && v.Places == uses.Places.Length);
        await (
            await lead.PostAsJsonAsync($"/api/house-styles/{house.Id}/undo", new { id = Guid.CreateVersion7() })
        ).Read<HouseStyleAnswer>();
    }

    [Fact]
    public async Task A_variable_that_an_email_names_in_its_own_words_stays()
    {
        var (lead, author) = (await server.As("ruth"), await server.As("imran"));
        var house = await Running.House(lead);
        await (
            await Edit(
                lead,
                house.Id,
                new
                {
                    kind = "set-variable",
                    variable = new
                    {
                        key = "shop-page",
                        label = "Shop",
                        type = "link",
                        value = "https://larkfell.example.org/shop",
                    },
                }
            )
        ).Read<HouseStyleAnswer>();
        await Release(lead, house.Id, "A shop");
        var desk = await server.NewEmail(author);
        (await author.Edit(desk.Id, 0, Asking.SetLink("hero", "button", "{shop-page}"))).EnsureSuccessStatusCode();
        Assert.Contains(
            desk.Id,
            (
                await lead.GetFromJsonAsync<VariableUsesAnswer>(
                    $"/api/house-styles/{house.Id}/variables/shop-page/uses",
                    DocumentJson.Options
                )
            )!.Emails.Select(e => e.Id)
        );
        Assert.Contains(
            "email \"",
            (string?)
                (await (await Edit(lead, house.Id, new { kind = "remove-variable", key = "shop-page" })).Problem(422, "invalid"))["detail"],
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Releases_are_listed_with_what_they_changed_and_a_former_one_comes_back_as_a_new_one()
    {
        var lead = await server.As("ruth");
        var house = await Running.House(lead);
        var red = house.Variables.Single(v => v.Variable.Key == "buffer-red").Variable;
        await (
            await Edit(lead, house.Id, new { kind = "set-variable", variable = red with { Value = "#7a1f12" } })
        ).Read<HouseStyleAnswer>();
        var changes = (await lead.GetFromJsonAsync<StyleChange[]>($"/api/house-styles/{house.Id}/changes", DocumentJson.Options))!;
        Assert.Equal(("#8e2a1c", "#7a1f12"), (Assert.Single(changes).BeforeColour, changes[0].AfterColour));
        Assert.Contains("Primary button, fill", changes[0].Touches);
        await Release(lead, house.Id, "Darker");

        var list = (await lead.GetFromJsonAsync<StyleReleaseEntry[]>($"/api/house-styles/{house.Id}/releases", DocumentJson.Options))!;
        Assert.Equal(("Darker", "Ruth Calder", 1), (list[0].Note, list[0].Author, list[0].Changes));
        var former = (
            await lead.GetFromJsonAsync<StyleReleaseAnswer>($"/api/house-styles/{house.Id}/releases/{list[1].Number}", DocumentJson.Options)
        )!;
        var back = await (
            await Edit(lead, house.Id, new { kind = "restore-house-style", contents = former.Contents })
        ).Read<HouseStyleAnswer>();
        Assert.Equal(1, back.Changes);
        await Release(lead, house.Id, $"Back to release {former.Number}");
        Assert.Equal("#8e2a1c", (await Get(lead, house.Id)).Variables.Single(v => v.Variable.Key == "buffer-red").Resolved);
        await (await lead.GetAsync($"/api/house-styles/{house.Id}/releases/999")).Problem(404, "not-found");
    }

    [Fact]
    public async Task A_designer_narrows_a_variable_for_one_template_and_its_next_release_shows_it()
    {
        var (lead, designer, author) = (await server.As("ruth"), await server.As("dana"), await server.As("imran"));
        var house = await Running.House(lead);
        var template = (await designer.GetFromJsonAsync<JsonArray>("/api/masters"))!.Single(t => (string?)t!["name"] == "Special train")!;
        var edit = new
        {
            @base = (long)template["revision"]!,
            edits = new[]
            {
                new
                {
                    id = Guid.CreateVersion7(),
                    step = Guid.CreateVersion7(),
                    edit = new
                    {
                        kind = "narrow-variable",
                        key = "accent",
                        value = new { value = "#123456" },
                    },
                },
            },
        };
        await (await author.PostAsJsonAsync($"/api/templates/{template["id"]}/edits", edit)).Problem(403, "refused");
        (await designer.PostAsJsonAsync($"/api/templates/{template["id"]}/edits", edit)).EnsureSuccessStatusCode();
        var wrong = new
        {
            @base = 99,
            edits = new[]
            {
                new
                {
                    id = Guid.CreateVersion7(),
                    step = Guid.CreateVersion7(),
                    edit = new
                    {
                        kind = "narrow-variable",
                        key = "accent",
                        value = new { value = "blue-ish" },
                    },
                },
            },
        };
        await (await designer.PostAsJsonAsync($"/api/templates/{template["id"]}/edits", wrong)).Problem(422, "invalid");

        var before = await server.NewEmail(author);
        await (await author.PostAsJsonAsync($"/api/templates/{template["id"]}/releases", new { note = "Blue" })).Problem(403, "refused");
        Assert.Equal(
            2,
            (
                await (
                    await designer.PostAsJsonAsync($"/api/templates/{template["id"]}/releases", new { note = "Blue" })
                ).Read<ReleaseAnswer>()
            ).Release
        );
        Assert.Contains("#123456", Html(await server.NewEmail(author)), StringComparison.Ordinal);
        // An email made from the former release waits for the update to be taken.
        Assert.DoesNotContain("#123456", Html(await Running.Desk(author, before.Id)), StringComparison.Ordinal);
        var narrowed = (
            await lead.GetFromJsonAsync<VariableUsesAnswer>($"/api/house-styles/{house.Id}/variables/accent/uses", DocumentJson.Options)
        )!.Narrowed;
        Assert.Equal(("#123456", true, 2), (Assert.Single(narrowed).Value, narrowed[0].Released, narrowed[0].Release));

        static string Html(Desks.DeskAnswer desk) => string.Concat(desk.Rows.Select(r => r.Html));
    }

    [Fact]
    public async Task Remedies_come_with_the_pair_and_one_edit_mends_it()
    {
        var lead = await server.As("ruth");
        var house = await Running.House(lead);
        var accent = house.Variables.Single(v => v.Variable.Key == "accent").Variable;
        var pale = await (
            await Edit(lead, house.Id, new { kind = "set-variable", variable = accent with { Value = "#e8b9a0" } })
        ).Read<HouseStyleAnswer>();
        var button = pale.Contrast.Single(c => c is { Background: "Primary button", Dark: false });
        Assert.False(button.Passes);
        Assert.Equal(4, button.Remedies.Length);
        Assert.All(button.Remedies, r => Assert.True(r.Ratio >= button.Needed));
        var mended = await (
            await Edit(lead, house.Id, button.Remedies.First(r => r is { OfText: false, Brand: null }).Edit)
        ).Read<HouseStyleAnswer>();
        Assert.True(mended.Contrast.Single(c => c is { Background: "Primary button", Dark: false }).Passes);
        for (var i = 0; i < 2; i++)
        {
            await (
                await lead.PostAsJsonAsync($"/api/house-styles/{house.Id}/undo", new { id = Guid.CreateVersion7() })
            ).Read<HouseStyleAnswer>();
        }
    }

    [Fact]
    public async Task Answers_that_say_only_what_changed_add_up_to_the_whole()
    {
        var lead = await server.As("ruth");
        var house = await Running.House(lead);
        var red = house.Variables.Single(v => v.Variable.Key == "buffer-red").Variable;
        var sent = new
        {
            id = Guid.CreateVersion7(),
            step = Guid.CreateVersion7(),
            edit = new { kind = "set-variable", variable = red with { Value = "#701010" } },
        };
        var changed = await (
            await lead.PostAsJsonAsync(
                $"/api/house-styles/{house.Id}/edits",
                new { @base = house.Revision, edits = new[] { sent } },
                DocumentJson.Options
            )
        ).Read<HouseStyleAnswer>();
        Assert.False(changed.Whole);
        Assert.True(changed.Variables.Length < house.Variables.Length && changed.Styles.Length < house.Styles.Length);
        var whole = await Get(lead, house.Id);
        Assert.Equal(
            whole.Variables,
            house.Variables.Select(v => changed.Variables.FirstOrDefault(c => c.Variable.Key == v.Variable.Key) ?? v)
        );
        Assert.Equal(whole.Styles, house.Styles.Select(s => changed.Styles.FirstOrDefault(c => c.Name == s.Name) ?? s));
        Assert.Equal(whole.Specimen.Rows, house.Specimen.Rows.Select((r, i) => changed.Specimen.Rows[i] ?? r));
        // Whoever had seen something else gets all of it.
        Assert.True((await (await Edit(lead, house.Id, new { kind = "set-name", name = "Larkfell" })).Read<HouseStyleAnswer>()).Whole);
        for (var i = 0; i < 2; i++)
        {
            await (
                await lead.PostAsJsonAsync($"/api/house-styles/{house.Id}/undo", new { id = Guid.CreateVersion7() })
            ).Read<HouseStyleAnswer>();
        }
    }

    [Fact]
    public async Task Variables_go_out_and_come_back_and_a_logo_gives_its_colours()
    {
        var author = await server.As("imran");
        var house = await Running.House(author);
        var answer = await author.GetAsync($"/api/house-styles/{house.Id}/variables.tokens.json");
        Assert.Equal("larkfell.tokens.json", answer.Content.Headers.ContentDisposition?.FileNameStar);
        var plan = await (
            await author.PostAsJsonAsync(
                $"/api/house-styles/{house.Id}/import",
                new { format = "tokens", text = await answer.Content.ReadAsStringAsync() }
            )
        ).Read<ImportEntry[]>();
        Assert.All(plan, p => Assert.Equal(ImportAction.Same, p.Action));
        Assert.Contains(
            "--accent: var(--buffer-red);",
            await author.GetStringAsync($"/api/house-styles/{house.Id}/variables.css"),
            StringComparison.Ordinal
        );
        await (await author.PostAsJsonAsync($"/api/house-styles/{house.Id}/import", new { format = "tokens", text = "{" })).Problem(
            422,
            "invalid"
        );
        await (
            await author.PostAsJsonAsync($"/api/house-styles/{house.Id}/import", new { format = "css", text = new string(' ', 1_000_001) })
        ).Problem(422, "invalid");

        using var logo = ReachingTests.Upload(
            Encoding.UTF8.GetBytes(
                "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 100 60'><rect width='100' height='60' "
                    + "fill='#8e2a1c'/><circle cx='50' cy='30' r='20' fill='#3377cc'/></svg>"
            ),
            "logo.svg"
        );
        var palette = await (await author.PostAsync($"/api/house-styles/{house.Id}/palette", logo)).Read<PaletteEntry[]>();
        Assert.Equal([("#8e2a1c", "Buffer red"), ("#3377cc", null)], palette.Select(p => (p.Colour, p.Brand)));
        Assert.NotEmpty(
            (
                await author.GetFromJsonAsync<PaletteEntry[]>(
                    $"/api/house-styles/{house.Id}/palette/{house.Variables.Single(v => v.Variable.Key == "logo").Resolved}",
                    DocumentJson.Options
                )
            )!
        );
    }

    private static async Task<HouseStyleAnswer> Get(HttpClient client, Guid id) =>
        (await client.GetFromJsonAsync<HouseStyleAnswer>($"/api/house-styles/{id}", DocumentJson.Options))!;

    // As someone who has seen everything up to now.
    private static async Task<HttpResponseMessage> Edit(HttpClient client, Guid id, object edit) =>
        await client.PostAsJsonAsync(
            $"/api/house-styles/{id}/edits",
            new
            {
                @base = 1_000_000,
                edits = new[]
                {
                    new
                    {
                        id = Guid.CreateVersion7(),
                        step = Guid.CreateVersion7(),
                        edit,
                    },
                },
            },
            DocumentJson.Options
        );

    private static async Task Release(HttpClient client, Guid id, string note) =>
        (await client.PostAsJsonAsync($"/api/house-styles/{id}/releases", new { note })).EnsureSuccessStatusCode();
}
