using System.Net.Http.Json;
using System.Text.Json.Nodes;
using GoldenRule.Core.Coverage;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Coverage;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Rows;
using GoldenRule.Server.Templates;

namespace GoldenRule.Server.Tests;

/// <summary>Saved rows, templates, files of them and coverage through the API.</summary>
public sealed class RowLibraryTests(Running server) : IClassFixture<Running>
{
    [Fact]
    public async Task A_row_is_made_from_any_row_with_what_is_filled_in_and_others_use_it_once_released()
    {
        var (designer, author) = (await server.As("dana"), await server.As("imran"));
        var email = server.EmailId("March");
        var desk = await Running.Desk(author, email);
        var story = desk.Rows.First(r => r.RowKind == RowKind.Main);
        var id = Guid.CreateVersion7();
        object Request(Guid of) =>
            new
            {
                id = of,
                name = "Viaduct story",
                rowKind = "secondary",
                campaignTypes = new[] { "members-gazette" },
                from = new
                {
                    kind = "email",
                    document = email,
                    row = story.Id,
                },
            };
        await (await author.PostAsJsonAsync("/api/rows", Request(id))).Problem(403, "refused");
        var made = await (await designer.PostAsJsonAsync("/api/rows", Request(id))).Read<RowEntry>();
        Assert.Equal(id, (await (await designer.PostAsJsonAsync("/api/rows", Request(id))).Read<RowEntry>()).Id);
        Assert.Equal((RowKind.Secondary, MasterState.Draft, true), (made.RowKind, made.State, made.Mine));
        var words = story.Columns.SelectMany(c => c.Blocks).First(b => b.Kind == "heading").Fields[0].Value;
        Assert.Contains(
            ((FieldValue.Words)words).Text,
            await designer.GetStringAsync($"/api/rows/{id}/html?draft=true"),
            StringComparison.Ordinal
        );

        // Nobody else sees the draft; released, a zone that takes its kind offers it.
        Assert.DoesNotContain((await Rows(author, "q=viaduct story")).Rows, r => r.Id == id);
        Assert.DoesNotContain(await Offers(author, email), o => o.Id == id);
        (await designer.PostAsJsonAsync($"/api/rows/{id}/releases", new { note = "First" })).EnsureSuccessStatusCode();
        Assert.Contains((await Rows(author, "q=viaduct story")).Rows, r => r.Id == id);
        Assert.Contains(await Offers(author, email), o => o.Id == id);

        (await designer.PutAsJsonAsync($"/api/rows/{id}/status", new { retired = true })).EnsureSuccessStatusCode();
        Assert.DoesNotContain(await Offers(author, email), o => o.Id == id);
        Assert.Equal(MasterState.Retired, Assert.Single((await Rows(designer, "q=viaduct story&state=retired")).Rows).State);
        await (await author.PutAsJsonAsync($"/api/rows/{id}/status", new { retired = false })).Problem(403, "refused");
    }

    [Fact]
    public async Task A_variant_begins_as_a_copy_and_knows_what_it_varies()
    {
        var designer = await server.As("dana");
        var origin = (await Rows(designer, "q=Two facts")).Rows.Single();
        var variant = await (
            await designer.PostAsJsonAsync(
                "/api/rows",
                new
                {
                    id = Guid.CreateVersion7(),
                    name = "Two facts on a tint",
                    variantOf = origin.Id,
                    varies = "on a tint",
                }
            )
        ).Read<RowEntry>();
        Assert.Equal((origin.Id, "on a tint", RowKind.Supporting), (variant.VariantOf, variant.Varies, variant.RowKind));
        var desk = (await designer.GetFromJsonAsync<DeskAnswer>($"/api/rows/{variant.Id}/desk", DocumentJson.Options))!;
        var row = Assert.Single(desk.Rows);
        await Edit(
            designer,
            "rows",
            desk,
            new
            {
                kind = "set-look",
                row = row.Id,
                piece = row.Piece,
                property = "surface",
                value = "tint",
            }
        );
        var uses = (await designer.GetFromJsonAsync<UsesAnswer>($"/api/rows/{origin.Id}/uses", DocumentJson.Options))!;
        Assert.Contains(uses.Uses, u => u.Id == variant.Id);
    }

    [Fact]
    public async Task A_private_row_is_not_there_for_others()
    {
        var (designer, lead, author) = (await server.As("dana"), await server.As("ruth"), await server.As("imran"));
        var mine = await (
            await lead.PostAsJsonAsync(
                "/api/rows",
                new
                {
                    id = Guid.CreateVersion7(),
                    name = "Between us",
                    rowKind = "main",
                }
            )
        ).Read<RowEntry>();
        (await lead.PutAsJsonAsync($"/api/rows/{mine.Id}/status", new { @private = true })).EnsureSuccessStatusCode();
        Assert.Empty((await Rows(designer, "q=Between us")).Rows);
        foreach (var client in new[] { designer, author })
        {
            await (await client.GetAsync($"/api/rows/{mine.Id}/desk")).Problem(404, "not-found");
            await (await client.GetAsync($"/api/rows/{mine.Id}/html?draft=true")).Problem(404, "not-found");
            await (
                await client.PostAsJsonAsync(
                    $"/api/rows/{mine.Id}/edits",
                    new
                    {
                        @base = 0,
                        edits = new[]
                        {
                            new
                            {
                                id = Guid.CreateVersion7(),
                                step = Guid.CreateVersion7(),
                                edit = new { kind = "set-name", name = "Ours" },
                            },
                        },
                    }
                )
            ).Problem(404, "not-found");
        }
    }

    [Fact]
    public async Task A_template_is_begun_from_nothing_another_an_email_and_every_starter()
    {
        var (designer, author) = (await server.As("dana"), await server.As("imran"));
        var gazette = (Guid)(await Running.Templates(designer)).Single(t => (string?)t!["name"] == "Members’ gazette")!["id"]!;
        object?[] sources =
        [
            null,
            new { template = gazette },
            new { email = server.EmailId("March") },
            .. Core.Interchange.Starters.All.Select(s => new { starter = s.Name }),
        ];
        foreach (var from in sources)
        {
            var made = await (
                await designer.PostAsJsonAsync(
                    "/api/templates",
                    new
                    {
                        id = Guid.CreateVersion7(),
                        name = "Begun",
                        campaignType = "timetable-notice",
                        from,
                    }
                )
            ).Read<TemplateEntry>();
            var desk = (await designer.GetFromJsonAsync<DeskAnswer>($"/api/templates/{made.Id}/desk", DocumentJson.Options))!;
            Assert.Equal(from is null, desk.Rows.IsEmpty);
            Assert.All(desk.Rows.Where(r => r.Master is null), r => Assert.True(r.Shape.Allowed));
            var seen = (await designer.GetFromJsonAsync<DeskAnswer>($"/api/templates/{made.Id}/desk?asAuthor=true", DocumentJson.Options))!;
            Assert.True(seen.AsAuthor);
            Assert.All(seen.Rows, r => Assert.False(r.Shape.Allowed));
            (await designer.PostAsJsonAsync($"/api/templates/{made.Id}/releases", new { note = "First" })).EnsureSuccessStatusCode();
            (
                await author.PostAsJsonAsync(
                    "/api/emails",
                    new
                    {
                        id = Guid.CreateVersion7(),
                        template = made.Id,
                        name = "From it",
                    }
                )
            ).EnsureSuccessStatusCode();
        }

        await (
            await designer.PostAsJsonAsync(
                "/api/templates",
                new
                {
                    id = Guid.CreateVersion7(),
                    name = "Begun",
                    campaignType = "no-such-type",
                }
            )
        ).Problem(422, "invalid");
        await (
            await designer.PostAsJsonAsync(
                "/api/templates",
                new
                {
                    id = Guid.CreateVersion7(),
                    name = "Begun",
                    campaignType = "shop-offer",
                    from = new { starter = "nothing-like-it" },
                }
            )
        ).Problem(422, "invalid");
        await (
            await author.PostAsJsonAsync(
                "/api/templates",
                new
                {
                    id = Guid.CreateVersion7(),
                    name = "Begun",
                    campaignType = "shop-offer",
                }
            )
        ).Problem(403, "refused");
    }

    [Fact]
    public async Task A_template_goes_out_as_a_file_and_comes_back_the_same_with_its_rows_by_reference()
    {
        var (designer, author) = (await server.As("dana"), await server.As("imran"));
        var gazette = (Guid)(await Running.Templates(designer)).Single(t => (string?)t!["name"] == "Members’ gazette")!["id"]!;
        var json = await designer.GetStringAsync($"/api/templates/{gazette}/file");
        await (await author.GetAsync($"/api/templates/{gazette}/file")).Problem(403, "refused");
        var back = await (await LockTableTests.Import(designer, json, "&name=Come back")).Read<ImportedTemplate>();
        Assert.Empty(back.Rows);
        Assert.Equal(
            await designer.GetStringAsync($"/api/templates/{gazette}/html"),
            (await designer.GetStringAsync($"/api/templates/{back.Template.Id}/html?draft=true")).Replace(
                "<title>Come back",
                "<title>Members’ gazette",
                StringComparison.Ordinal
            )
        );

        // Into a library that has other rows by these ids, they come along as rows of their own.
        var file = JsonNode.Parse(json)!;
        file["rows"]![0]!["row"]!["description"] = "Changed on the way";
        var other = await (await LockTableTests.Import(designer, file.ToJsonString(), "&name=Changed")).Read<ImportedTemplate>();
        Assert.Single(other.Rows);
    }

    [Fact]
    public async Task A_broken_file_changes_nothing()
    {
        var (designer, author) = (await server.As("dana"), await server.As("imran"));
        var gazette = (Guid)(await Running.Templates(designer)).Single(t => (string?)t!["name"] == "Members’ gazette")!["id"]!;
        var good = JsonNode.Parse(await designer.GetStringAsync($"/api/templates/{gazette}/file"))!;
        (int, int, int) Count() => server.Query(db => (db.Documents.Count(), db.Releases.Count(), db.Pictures.Count()));
        var before = Count();
        var broken = new Dictionary<string, Action<JsonNode>>
        {
            ["version"] = f => f["version"] = 99,
            ["row that is not brought"] = f => ((JsonArray)f["rows"]!).Clear(),
            ["least above most"] = f => f["template"]!["order"]!.AsArray().First(i => (string?)i!["kind"] == "zone")!["least"] = 40,
            ["a row twice"] = f => f["template"]!["order"]!.AsArray().Add(f["template"]!["order"]![0]!.DeepClone()),
            ["no campaign type"] = f => f["template"]!["campaignType"] = "elsewhere",
            ["a picture that is none"] = f =>
            {
                f["pictures"]![0]!["id"] = new string('0', 64);
                f["pictures"]![0]!["data"] = "AAAA";
            },
            ["a picture that is no Base64"] = f =>
            {
                f["pictures"]![0]!["id"] = new string('1', 64);
                f["pictures"]![0]!["data"] = "not base 64";
            },
        };
        foreach (var (what, change) in broken)
        {
            var file = good.DeepClone();
            // Rows that are new here come first, so that a later fault has something to leave behind.
            file["rows"]!.AsArray().ToList().ForEach(r => r!["row"]!["description"] = "New here");
            change(file);
            var answer = await LockTableTests.Import(designer, file.ToJsonString());
            Assert.True(
                (int)answer.StatusCode == 422 || (int)answer.StatusCode == 415,
                $"{what}: {(int)answer.StatusCode} {await answer.Content.ReadAsStringAsync()}"
            );
            Assert.Equal(before, Count());
        }

        await (await LockTableTests.Import(author, good.ToJsonString())).Problem(403, "refused");
        Assert.Equal(before, Count());
    }

    [Fact]
    public async Task Coverage_says_what_is_missing_and_takes_the_plan()
    {
        var (lead, author) = (await server.As("ruth"), await server.As("imran"));
        var coverage = (await lead.GetFromJsonAsync<CoverageAnswer>("/api/coverage", DocumentJson.Options))!;
        Assert.Equal(coverage.Cells.Length, coverage.Counts.Values.Sum());
        CoverageCell Legal(CoverageAnswer answer) =>
            answer.Cells.Single(c => c.CampaignType == "special-train" && c.RowKind == RowKind.Legal);
        var plan = new
        {
            campaignType = "special-train",
            rowKind = "legal",
            needed = (bool?)true,
        };
        await (await author.PutAsJsonAsync("/api/coverage/needs", plan)).Problem(403, "refused");
        var needed = await (await lead.PutAsJsonAsync("/api/coverage/needs", plan)).Read<CoverageAnswer>();
        Assert.Equal(CoverageState.Missing, Legal(needed).State);
        Assert.Equal(1, needed.Teams.Single(t => t.Team == "Events").Missing);
        var row = await (
            await lead.PostAsJsonAsync(
                "/api/rows",
                new
                {
                    id = Guid.CreateVersion7(),
                    name = "Conditions",
                    rowKind = "legal",
                    campaignTypes = new[] { "special-train" },
                }
            )
        ).Read<RowEntry>();
        Assert.Equal(
            CoverageState.DraftOnly,
            Legal((await lead.GetFromJsonAsync<CoverageAnswer>("/api/coverage", DocumentJson.Options))!).State
        );
        (await lead.PostAsJsonAsync($"/api/rows/{row.Id}/releases", new { note = "First" })).EnsureSuccessStatusCode();
        var served = Legal((await lead.GetFromJsonAsync<CoverageAnswer>("/api/coverage", DocumentJson.Options))!);
        Assert.Equal((CoverageState.Served, false), (served.State, Assert.Single(served.Rows).Shared));
        Assert.Equal(
            CoverageState.NotNeeded,
            Legal(await (await lead.PutAsJsonAsync("/api/coverage/needs", plan with { needed = false })).Read<CoverageAnswer>()).State
        );
        await (await lead.PutAsJsonAsync("/api/coverage/needs", plan with { campaignType = "nothing" })).Problem(404, "not-found");
    }

    [Fact]
    public async Task A_calendar_file_is_there_once_the_email_is_taken_away()
    {
        var (designer, author) = (await server.As("dana"), await server.As("imran"));
        var made = await (
            await designer.PostAsJsonAsync(
                "/api/templates",
                new
                {
                    id = Guid.CreateVersion7(),
                    name = "Evening",
                    campaignType = "special-train",
                    from = new { starter = "event" },
                }
            )
        ).Read<TemplateEntry>();
        (await designer.PostAsJsonAsync($"/api/templates/{made.Id}/releases", new { note = "First" })).EnsureSuccessStatusCode();
        var id = Guid.CreateVersion7();
        (
            await author.PostAsJsonAsync(
                "/api/emails",
                new
                {
                    id,
                    template = made.Id,
                    name = "Viaduct evening",
                }
            )
        ).EnsureSuccessStatusCode();
        var desk = await Running.Desk(author, id);
        var row = desk.Rows.Single(r => r.Columns.Any(c => c.Blocks.Any(b => b.Kind == "event")));
        var block = row.Columns.SelectMany(c => c.Blocks).Single(b => b.Kind == "event");
        (
            await author.Edit(
                id,
                0,
                new
                {
                    kind = "set-fill",
                    row = row.Id,
                    piece = block.Id,
                    field = "when",
                    value = new
                    {
                        kind = "moment",
                        start = "2027-03-06T19:00",
                        end = "",
                        zone = "Europe/London",
                    },
                }
            )
        ).EnsureSuccessStatusCode();
        var html = await author.GetStringAsync($"/api/emails/{id}/html");
        var path = System.Text.RegularExpressions.Regex.Match(html, "/pictures/[0-9a-f]{64}\\.ics").Value;
        var file = await server.CreateClient().GetAsync(path);
        Assert.Equal("text/calendar", file.Content.Headers.ContentType?.MediaType);
        Assert.Contains("DTSTART:20270306T190000Z", await file.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        await (
            await author.Edit(
                id,
                1,
                new
                {
                    kind = "set-fill",
                    row = row.Id,
                    piece = block.Id,
                    field = "when",
                    value = new { kind = "words", text = "soon" },
                }
            )
        ).Problem(403, "refused");
    }

    private static async Task<RowPage> Rows(HttpClient client, string query) =>
        (await client.GetFromJsonAsync<RowPage>("/api/rows?" + query, DocumentJson.Options))!;

    private static async Task<RowOffer[]> Offers(HttpClient client, Guid email) =>
        (await client.GetFromJsonAsync<RowOffer[]>($"/api/emails/{email}/offers?zone=beside", DocumentJson.Options))!;

    private static async Task Edit(HttpClient client, string access, DeskAnswer desk, object edit) =>
        (
            await client.PostAsJsonAsync(
                $"/api/{access}/{desk.Id}/edits",
                new
                {
                    @base = desk.Revision,
                    edits = new[]
                    {
                        new
                        {
                            id = Guid.CreateVersion7(),
                            step = Guid.CreateVersion7(),
                            edit,
                        },
                    },
                }
            )
        ).EnsureSuccessStatusCode();
}
