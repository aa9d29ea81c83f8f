using System.Net.Http.Json;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.People;
using GoldenRule.Server.Search;
using Npgsql;

namespace GoldenRule.Server.Tests;

/// <summary>Going anywhere by typing, what someone new does first, and where a row may be put down.</summary>
public sealed class SearchTests(Running server) : IClassFixture<Running>
{
    private static async Task<SearchHit[]> Find(HttpClient client, string words) =>
        (await client.GetFromJsonAsync<SearchHit[]>($"/api/search?q={Uri.EscapeDataString(words)}", DocumentJson.Options))!;

    [Fact]
    public async Task Anything_is_found_by_its_name_by_whoever_may_open_it()
    {
        var (lead, author) = (await server.As("ruth"), await server.As("imran"));
        Assert.Contains(await Find(author, "viaduct reopens"), h =>
            (h.Kind, h.Id) == (SearchHitKind.Email, server.EmailId("March").ToString())
        );
        Assert.Contains(await Find(lead, "two facts"), h => h.Kind == SearchHitKind.Row);
        Assert.Contains(await Find(lead, "gazette"), h =>
            (h.Kind, h.Name, h.Note) == (SearchHitKind.Template, "Members’ gazette", "Members’ gazette")
        );
        Assert.Contains(await Find(lead, "buffer"), h =>
            (h.Kind, h.Id) == (SearchHitKind.Variable, "buffer-red") && h.HouseStyle is not null
        );
        Assert.Contains(await Find(author, "boiler"), h => h.Kind == SearchHitKind.Picture);
        await server.WordsTakenIn();
        // By what it says and not by its name, with some of the words around.
        var said = (await Find(author, "trestle"))[0];
        Assert.Equal(SearchHitKind.Email, said.Kind);
        Assert.Contains(said.Excerpt!.Value, p => p.Found && p.Text.Contains("trestles", StringComparison.OrdinalIgnoreCase));
        // What begins so comes before what only holds it.
        Assert.Equal("The Lamplighter, 14 November", (await Find(author, "the lamp")).First(h => h.Kind == SearchHitKind.Email).Name);
        // Drafts of the library are for those who make it.
        Assert.DoesNotContain(await Find(author, "two facts"), h => h.Kind is SearchHitKind.Row or SearchHitKind.Template);
        Assert.Empty(await Find(author, " "));
        Assert.Empty(await Find(author, "%"));
        foreach (var odd in (string[])["'", "\\", "example.com/a'b\\", "a:* | b", "'; select 1 --", "!(x) <-> &"])
        {
            _ = await Find(author, odd);
            (await author.GetAsync($"/api/emails?q={Uri.EscapeDataString(odd)}")).EnsureSuccessStatusCode();
        }

        await (await author.GetAsync("/api/search?q=" + new string('x', 300))).Problem(422, "invalid");
    }

    [Fact]
    public async Task What_is_private_archived_or_renamed_is_found_as_it_is_now()
    {
        var (lead, designer, author) = (await server.As("ruth"), await server.As("dana"), await server.As("imran"));
        var id = Guid.CreateVersion7();
        (
            await lead.PostAsJsonAsync(
                "/api/rows",
                new
                {
                    id,
                    name = "Quarry secrets",
                    rowKind = "main",
                }
            )
        ).EnsureSuccessStatusCode();
        Assert.Contains(await Find(designer, "quarry secrets"), h => h.Id == id.ToString());
        (await lead.PutAsJsonAsync($"/api/rows/{id}/status", new { @private = true })).EnsureSuccessStatusCode();
        Assert.Contains(await Find(lead, "quarry secrets"), h => h.Id == id.ToString());
        Assert.DoesNotContain(await Find(designer, "quarry secrets"), h => h.Id == id.ToString());

        var email = await server.NewEmail(author);
        (await author.Edit(email.Id, email.Revision, new { kind = "set-name", name = "Quite another name" })).EnsureSuccessStatusCode();
        Assert.Contains(await Find(author, "quite another"), h => h.Id == email.Id.ToString());
        (await author.PutAsJsonAsync($"/api/emails/{email.Id}/status", new { archived = true })).EnsureSuccessStatusCode();
        Assert.DoesNotContain(await Find(author, "quite another"), h => h.Id == email.Id.ToString());
    }

    [Fact]
    public async Task Emails_of_before_are_found_by_name_once_the_server_has_been_updated()
    {
        var author = await server.As("imran");
        // As the release before left them: only rows and templates had their names to search by.
        server.Sql("update documents set words = '' where kind = 'Email'");
        Assert.DoesNotContain(await Find(author, "viaduct reopens"), h => h.Kind == SearchHitKind.Email && h.Excerpt is null);
        var migration = Directory
            .EnumerateFiles(Path.Combine(Running.Root, "src/GoldenRule.Data/Migrations"), "*_NamesOfEmails.cs")
            .Single();
        var sql = (await File.ReadAllTextAsync(migration)).Split("migrationBuilder.Sql(\"")[1].Split("\");")[0];
        server.Sql(sql);
        Assert.Contains(await Find(author, "viaduct reopens"), h => h.Kind == SearchHitKind.Email);
    }

    [Fact]
    public async Task Ten_thousand_documents_are_searched_by_an_index()
    {
        server.Sql(
            """
            insert into documents (id, kind, name, campaign_type, state, owner, private, retired, serves,
                words, origin, head, revision, created_by, created_at, changed_at)
            select gen_random_uuid(), 'Email', 'Copy ' || n || ' of a notice', campaign_type, state, owner, false, false, serves,
                'copy ' || n || ' of a notice', origin, head, 0, created_by, created_at, changed_at
            from (select * from documents where kind = 'Email' limit 1) d, generate_series(1, 10000) n
            """
        );
        server.Sql("delete from emails_behind");
        server.Sql("analyze documents");
        using var data = new NpgsqlConnection(server.Database);
        await data.OpenAsync();
        await using var explain = new NpgsqlCommand(
            "explain select id from documents where kind = 'Email' and words like '%copy 4711%'",
            data
        );
        await using var plan = await explain.ExecuteReaderAsync();
        var lines = new List<string>();
        while (await plan.ReadAsync())
        {
            lines.Add(plan.GetString(0));
        }

        Assert.Contains(lines, l => l.Contains("ix_documents_words", StringComparison.Ordinal));
        var hits = await Find(await server.As("imran"), "copy 4711");
        Assert.Equal("Copy 4711 of a notice", Assert.Single(hits, h => h.Kind == SearchHitKind.Email).Name);
    }

    [Theory]
    [InlineData("ruth", FirstStepKey.SetChecks)]
    [InlineData("dana", FirstStepKey.MakeRow)]
    [InlineData("imran", FirstStepKey.StartEmail)]
    [InlineData("jonas", FirstStepKey.ReadFindings)]
    public async Task Whoever_is_new_is_told_what_to_do_first_by_their_role(string who, FirstStepKey step)
    {
        var client = await server.As(who);
        var steps = (await client.GetFromJsonAsync<FirstStep[]>("/api/first-steps", DocumentJson.Options))!;
        Assert.Contains(steps, s => s.Key == step);
        if (who == "imran")
        {
            Assert.True(steps.Single(s => s.Key == FirstStepKey.StartEmail).Done);
        }
        else if (who == "ruth")
        {
            Assert.False(steps.Single(s => s.Key == step).Done);
            var policy = (await client.GetAsync("/api/checks/policy")).Headers.ETag?.Tag ?? "\"0\"";
            var change = new HttpRequestMessage(HttpMethod.Put, "/api/checks/policy")
            {
                Content = JsonContent.Create(new { hosts = new[] { "larkfell.example.org" } }),
            };
            change.Headers.TryAddWithoutValidation("If-Match", policy);
            (await client.SendAsync(change)).EnsureSuccessStatusCode();
            steps = (await client.GetFromJsonAsync<FirstStep[]>("/api/first-steps", DocumentJson.Options))!;
            Assert.True(steps.Single(s => s.Key == step).Done);
        }
    }

    [Fact]
    public async Task Where_a_row_may_be_put_down_is_told_by_the_rules_that_decide_it()
    {
        var author = await server.As("imran");
        var desk = await Running.Desk(author, server.EmailId("March"));
        var advert = desk.Rows.Single(r => r.RowKind == RowKind.Advert);
        var places = (
            await author.GetFromJsonAsync<RowPlaceEntry[]>($"/api/emails/{desk.Id}/order/{advert.Id}/places", DocumentJson.Options)
        )!;
        var zones = desk.Order.Items.Where(i => i.Zone is not null).Select(i => i.Zone!).ToList();
        Assert.Equal(zones.Select(z => z.Id), places.Where(p => p.Zone is not null).Select(p => p.Zone!));
        foreach (var place in places)
        {
            var moved = await author.Edit(
                desk.Id,
                desk.Revision,
                new
                {
                    kind = "move-row",
                    row = advert.Id,
                    zone = place.Zone,
                    index = 0,
                }
            );
            Assert.Equal(place.Allowance.Allowed, moved.IsSuccessStatusCode);
            Assert.Equal(place.Allowance.Allowed, place.Allowance.Reason is null);
            if (moved.IsSuccessStatusCode)
            {
                (
                    await author.PostAsJsonAsync($"/api/emails/{desk.Id}/undo", new { id = Guid.CreateVersion7(), @base = desk.Revision })
                ).EnsureSuccessStatusCode();
            }
        }

        Assert.Contains(places, p => !p.Allowance.Allowed);
        Assert.Contains(places, p => p.Allowance.Allowed);
    }

    [Fact]
    public async Task How_much_of_an_email_is_filled_counts_what_its_author_fills()
    {
        var author = await server.As("imran");
        var desk = await server.NewEmail(author);
        int ToFill(DeskAnswer d) => d.Findings!.Now.Count(f => f.ToFill);
        var (total, open) = (desk.Email!.Fillable, ToFill(desk));
        Assert.True(total > open && open > 3, $"{open} of {total}");
        (
            await author.Edit(
                desk.Id,
                desk.Revision,
                new
                {
                    kind = "set-detail",
                    field = "subject",
                    value = "A subject",
                }
            )
        ).EnsureSuccessStatusCode();
        var filled = await Running.Desk(author, desk.Id);
        Assert.Equal((total, open - 1), (filled.Email!.Fillable, ToFill(filled)));
    }
}
