using System.Net.Http.Json;
using System.Text.Json.Nodes;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.HouseStyles;
using GoldenRule.Server.Jobs;
using Npgsql;

namespace GoldenRule.Server.Tests;

/// <summary>Releases, what the database itself protects, and lists.</summary>
public sealed class LibraryTests(Running server) : IClassFixture<Running>
{
    [Theory]
    [InlineData("update releases set note = 'x'")]
    [InlineData("delete from releases")]
    [InlineData("truncate releases")]
    [InlineData("update edits set author_id = gen_random_uuid()")]
    [InlineData("delete from edits")]
    [InlineData("update documents set origin = '{}'")]
    public async Task The_database_itself_refuses_to_rewrite_history(string sql)
    {
        var author = await server.As("imran");
        var desk = await server.NewEmail(author);
        (await author.Edit(desk.Id, 0, Asking.SetWords("hero", "headline", "Said"))).EnsureSuccessStatusCode();
        var refused = Assert.Throws<PostgresException>(() => server.Sql(sql));
        Assert.Contains("append-only", refused.MessageText, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_released_colour_is_in_the_next_proof_and_a_stale_release_is_refused()
    {
        var (lead, author) = (await server.As("ruth"), await server.As("imran"));
        var desk = await server.NewEmail(author);
        var house = await Running.House(lead);
        var red = house.Variables.Single(v => v.Variable.Key == "buffer-red").Variable;
        var edited = await (
            await lead.PostAsJsonAsync(
                $"/api/house-styles/{house.Id}/edits",
                new
                {
                    @base = house.Revision,
                    edits = new[]
                    {
                        new
                        {
                            id = Guid.CreateVersion7(),
                            step = Guid.CreateVersion7(),
                            edit = new { kind = "set-variable", variable = red with { Value = "#d99a6c" } },
                        },
                    },
                },
                DocumentJson.Options
            )
        ).Read<HouseStyleAnswer>();
        Assert.Equal(1, edited.Changes);
        Assert.Contains(edited.Contrast, c => !c.Passes && c.Background == "Primary button" && Math.Abs(c.Ratio - 1.98) < 0.001);
        // A draft changes no email.
        Assert.DoesNotContain(
            "#d99a6c",
            (await Running.Desk(author, desk.Id)).Rows.Single(r => r.Id == "hero").Html,
            StringComparison.Ordinal
        );

        var reach = (await lead.GetFromJsonAsync<ReachAnswer>($"/api/house-styles/{house.Id}/reach", DocumentJson.Options))!;
        Assert.Equal(
            server.Query(db => db.Documents.Count(d => d.Kind == DocumentKind.Email && d.State == EmailState.HandedOff)),
            reach.Frozen
        );
        Assert.Equal(reach.Follow + reach.Frozen, reach.Groups.Sum(g => g.Follow + g.Frozen));
        var job = await (
            await lead.PostAsJsonAsync($"/api/house-styles/{house.Id}/reach/checks", new { id = Guid.CreateVersion7() })
        ).Read<JobEntry>();
        _ = await Running.Ended(lead, job.Id);
        var found = (
            await lead.GetFromJsonAsync<ReachFindings>($"/api/house-styles/{house.Id}/reach/checks/{job.Id}", DocumentJson.Options)
        )!;
        Assert.Equal((JobState.Done, reach.Follow), (found.Job.State, found.Job.Total));
        Assert.True(found.Stopped >= 5);
        Assert.All(found.Findings, f => Assert.NotEmpty(f.Blockers));

        await (await Release(lead, house.Id, house.Revision, "Stale")).Problem(412, "changed-since");
        Assert.Equal(2, (await (await Release(lead, house.Id, edited.Revision, "A lighter red")).Read<ReleaseAnswer>()).Release);
        var answer = await author.PostAsJsonAsync(
            $"/api/emails/{desk.Id}/edits",
            new
            {
                @base = 0,
                styleVersion = desk.Proof.StyleVersion,
                edits = new[]
                {
                    new
                    {
                        id = Guid.CreateVersion7(),
                        step = Guid.CreateVersion7(),
                        edit = new
                        {
                            kind = "set-detail",
                            field = "subject",
                            value = "x",
                        },
                    },
                },
            }
        );
        var next = await answer.Read<Desks.DeskAnswer>();
        Assert.True(next.Whole);
        Assert.Contains("#d99a6c", next.Rows.Single(r => r.Id == "hero").Html, StringComparison.Ordinal);
        Assert.Contains(next.Findings!.Now, f => f.Check == "contrast" && f.Evidence!.StartsWith("1.98", StringComparison.Ordinal));

        // What cannot be resolved is refused before it is stored.
        await (
            await lead.PostAsJsonAsync(
                $"/api/house-styles/{house.Id}/edits",
                new
                {
                    @base = edited.Revision,
                    edits = new[]
                    {
                        new
                        {
                            id = Guid.CreateVersion7(),
                            step = Guid.CreateVersion7(),
                            edit = new { kind = "set-variable", variable = red with { Value = "{accent}" } },
                        },
                    },
                },
                DocumentJson.Options
            )
        ).Problem(422, "invalid");
    }

    [Fact]
    public async Task Lists_are_paged_by_key_without_gaps_or_repeats()
    {
        var author = await server.As("imran");
        for (var i = 0; i < 50; i++)
        {
            await server.NewEmail(author);
        }

        var (seen, after) = (new List<string>(), "");
        do
        {
            var page = (await author.GetFromJsonAsync<JsonObject>($"/api/emails?{after}"))!;
            seen.AddRange(page["emails"]!.AsArray().Select(e => (string)e!["id"]!));
            after = page["next"] is { } next ? $"after={next}" : null;
        } while (after is not null);
        Assert.Equal(server.Query(db => db.Documents.Count(d => d.Kind == DocumentKind.Email)), seen.Count);
        Assert.Equal(seen.Count, seen.Distinct(StringComparer.Ordinal).Count());
    }

    private static async Task<HttpResponseMessage> Release(HttpClient client, Guid id, long seen, string note)
    {
        var request = new HttpRequestMessage(HttpMethod.Post, $"/api/house-styles/{id}/releases")
        {
            Content = JsonContent.Create(new { note }),
        };
        request.Headers.IfMatch.ParseAdd($"\"{seen}\"");
        return await client.SendAsync(request);
    }
}
