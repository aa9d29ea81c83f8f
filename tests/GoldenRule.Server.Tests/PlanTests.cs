using System.Net.Http.Json;
using GoldenRule.Core.Coverage;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Coverage;
using GoldenRule.Server.Emails;
using GoldenRule.Server.Plan;
using GoldenRule.Server.Rows;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql;

namespace GoldenRule.Server.Tests;

/// <summary>Row kinds and campaign types that leads make, rename, order, merge and retire.</summary>
public sealed class PlanTests(Running server) : IClassFixture<Running>
{
    private static async Task<T> Get<T>(HttpClient client, string path) => (await client.GetFromJsonAsync<T>(path, DocumentJson.Options))!;

    private static async Task<string> MakeKind(HttpClient lead, string name)
    {
        var key = $"k{Guid.NewGuid():n}"[..20];
        await (
            await lead.PostAsJsonAsync(
                "/api/row-kinds",
                new
                {
                    key,
                    name,
                    purpose = "message",
                }
            )
        ).Read<RowKindEntry[]>();
        return key;
    }

    private static async Task<RowEntry> MakeRow(HttpClient lead, string kind)
    {
        var row = await (
            await lead.PostAsJsonAsync(
                "/api/rows",
                new
                {
                    id = Guid.CreateVersion7(),
                    name = $"Of {kind}",
                    rowKind = kind,
                    campaignTypes = new[] { "shop-offer" },
                }
            )
        ).Read<RowEntry>();
        (await lead.PostAsJsonAsync($"/api/rows/{row.Id}/releases", new { note = "First" })).EnsureSuccessStatusCode();
        return row;
    }

    [Fact]
    public async Task A_row_kind_of_ones_own_is_made_renamed_and_merged_and_its_released_rows_follow()
    {
        var lead = await server.As("ruth");
        var (kind, heir) = (await MakeKind(lead, "Quiz"), await MakeKind(lead, "Game"));
        var row = await MakeRow(lead, kind);
        async Task<CoverageCell> Cell(string of) =>
            (await Get<CoverageAnswer>(lead, "/api/coverage")).Cells.Single(c => c.CampaignType == "shop-offer" && c.RowKind == of);
        Assert.Equal(CoverageState.Served, (await Cell(kind)).State);
        Assert.Equal(CoverageState.Unplanned, (await Cell(heir)).State);

        await (await lead.PutAsJsonAsync($"/api/row-kinds/{kind}", new { name = "GAME" })).Problem(422, "invalid");
        await (await lead.PostAsJsonAsync($"/api/row-kinds/{kind}/merge", new { into = kind })).Problem(422, "invalid");
        (await lead.PostAsJsonAsync($"/api/row-kinds/{kind}/merge", new { into = heir })).EnsureSuccessStatusCode();
        await (await lead.PutAsJsonAsync($"/api/row-kinds/{kind}", new { name = "Again" })).Problem(404, "not-found");

        Assert.Equal(row.Id, Assert.Single((await Cell(heir)).Rows).Id);
        Assert.DoesNotContain((await Get<CoverageAnswer>(lead, "/api/coverage")).Cells, c => c.RowKind == kind);
        Assert.Equal(row.Id, Assert.Single((await Get<RowPage>(lead, $"/api/rows?kind={heir}")).Rows).Id);
    }

    [Fact]
    public async Task What_the_release_before_stored_is_brought_up()
    {
        var name = $"former_{Guid.NewGuid():n}";
        server.Sql($"create database {name}");
        var connection = new NpgsqlConnectionStringBuilder(server.Database) { Database = name, Pooling = false }.ConnectionString;
        try
        {
            var options = new DbContextOptionsBuilder<GoldenRuleDb>();
            options.UseGoldenRule(connection);
            await using var db = new GoldenRuleDb(options.Options);
            var migrator = db.GetService<IMigrator>();
            await migrator.MigrateAsync("20261130045704_Mail");
            await db.Database.ExecuteSqlRawAsync(
                """
                insert into campaign_types (key, name, teams, transactional, retired, position)
                    values ('notice', 'Notice', '{{}}', false, false, 0);
                insert into coverage_needs (campaign_type, row_kind, needed) values ('notice', 'SignOff', true), ('notice', 'Main', false);
                """
            );
            await migrator.MigrateAsync();
            Assert.Equal(["main", "sign-off"], await db.CoverageNeeds.Select(n => n.RowKind).OrderBy(k => k).ToListAsync());
            Assert.Equal(
                RowKindPlan.Usual.Kinds.Select(k => k.Key),
                await db.RowKinds.OrderBy(k => k.Position).Select(k => k.Key).ToListAsync()
            );
            // One of the leads approves, where nobody has said otherwise.
            Assert.Equal("Lead", Assert.Single((await db.CampaignTypes.SingleAsync()).ReviewRule.Needs).Name);
        }
        finally
        {
            server.Sql($"drop database {name} with (force)");
        }
    }

    [Fact]
    public async Task No_document_names_a_row_kind_that_is_not_there()
    {
        var lead = await server.As("ruth");
        using var refused = await lead.PostAsJsonAsync(
            "/api/rows",
            new
            {
                id = Guid.CreateVersion7(),
                name = "Nowhere",
                rowKind = "nowhere",
            }
        );
        Assert.Contains("no row kind", await refused.Content.ReadAsStringAsync(), StringComparison.OrdinalIgnoreCase);
        await (
            await lead.PutAsJsonAsync(
                "/api/coverage/needs",
                new
                {
                    campaignType = "shop-offer",
                    rowKind = "nowhere",
                    needed = true,
                }
            )
        ).Problem(404, "not-found");
    }

    [Fact]
    public async Task Two_leads_who_merge_into_each_other_at_once_leave_one()
    {
        var lead = await server.As("ruth");
        for (var round = 0; round < 5; round++)
        {
            var (one, other) = (await MakeKind(lead, $"One {round}"), await MakeKind(lead, $"Other {round}"));
            await Task.WhenAll(
                lead.PostAsJsonAsync($"/api/row-kinds/{one}/merge", new { into = other }),
                lead.PostAsJsonAsync($"/api/row-kinds/{other}/merge", new { into = one })
            );
            Assert.Single(await Get<RowKindEntry[]>(lead, "/api/row-kinds"), k => (k.Key == one || k.Key == other) && k.MergedInto is null);
        }
    }

    [Fact]
    public async Task Emails_templates_and_rows_of_a_merged_campaign_type_are_the_others()
    {
        var lead = await server.As("ruth");
        (
            await lead.PostAsJsonAsync(
                "/api/campaign-types",
                new
                {
                    key = "outings",
                    name = "Outings",
                    teams = Array.Empty<Guid>(),
                }
            )
        ).EnsureSuccessStatusCode();
        var before = await Get<EmailPage>(lead, "/api/emails?campaignType=special-train");
        Assert.NotEqual(0, before.Count);
        (await lead.PostAsJsonAsync("/api/campaign-types/special-train/merge", new { into = "outings" })).EnsureSuccessStatusCode();

        Assert.Equal(before.Count, (await Get<EmailPage>(lead, "/api/emails?campaignType=outings")).Count);
        var coverage = await Get<CoverageAnswer>(lead, "/api/coverage");
        Assert.DoesNotContain(coverage.CampaignTypes, t => t.Key == "special-train");
        Assert.NotEqual(0, coverage.CampaignTypes.Single(t => t.Key == "outings").Templates);
        // What is for the former one is still drawn, edited and started from.
        var template = (await Get<Templates.TemplatePage>(lead, "/api/templates?campaignType=outings")).Templates.First();
        await (
            await lead.PostAsJsonAsync(
                "/api/emails",
                new
                {
                    id = Guid.CreateVersion7(),
                    name = "After the merge",
                    template = template.Id,
                }
            )
        ).Read<EmailEntry>();
        await (await lead.PostAsJsonAsync("/api/campaign-types/special-train/merge", new { into = "shop-offer" })).Problem(
            404,
            "not-found"
        );
    }
}
