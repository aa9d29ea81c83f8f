using System.Text.Json.Nodes;
using GoldenRule.Data;
using GoldenRule.Scale;
using Npgsql;

namespace GoldenRule.Server.Tests;

/// <summary>
/// That lists, searches, where-used and reach go by an index and read no more than they tell of, by PostgreSQL's own account of each
/// query (EXPLAIN ANALYZE): over 500 and over 2,000 emails, so that it shows what grows with the library. ./bench scale has the times.
/// </summary>
public sealed class ScaleTests(Running server) : IClassFixture<Running>
{
    /// <summary>What the list of emails counts up to, and a page or two.</summary>
    private const int Flat = 1300;

    private static readonly string[] Large = ["documents", "document_references", "email_words", "edits"];

    [Fact]
    public async Task What_is_read_is_what_is_told_however_large_the_library()
    {
        // So that what is asked for a request is told from what the server does by itself.
        server.Server.PreserveExecutionContext = true;
        var lead = await server.As("ruth");
        var library = new LargeLibrary(server.Database, 7);
        await library.FillAsync(500, (_, _) => { });
        var (style, row, picture) = server.Query(db =>
            (
                db.Documents.First(d => d.Kind == DocumentKind.HouseStyle && d.Name == "Larkfell").Id,
                db.Documents.First(d => d.Kind == DocumentKind.Row && d.Name == "Footer").Id,
                db.Pictures.OrderBy(p => p.Id).First().Id
            )
        );
        string[] flat =
        [
            "emails",
            "emails?campaignType=shop-offer",
            "emails?state=approved",
            "emails?mine=true",
            "emails?archived=true",
            "emails?mine=true&campaignType=shop-offer&state=draft",
            "emails?q=ptarmigan",
            "search?q=ptarmigan",
            "search?q=viaduct",
        ];
        string[] linear =
        [
            $"rows/{row}/uses",
            $"pictures/{picture}/uses",
            $"house-styles/{style}/variables/accent/uses",
            $"house-styles/{style}/reach",
        ];
        await server.WordsTakenIn();
        var few = await ReadAsync([.. flat, .. linear]);
        await library.FillAsync(2000, (_, _) => { });
        await server.WordsTakenIn();
        var many = await ReadAsync([.. flat, .. linear]);
        Assert.All(flat, path => Assert.True(many[path] <= Flat, $"{path} reads {many[path]} rows of 2,000 emails"));
        Assert.All(linear, path =>
            Assert.True(many[path] <= (few[path] * 4.5) + 200, $"{path} reads {few[path]} rows of 500 emails and {many[path]} of 2,000")
        );

        // And the table says of 2,000 what a walk by the database itself finds.
        foreach (var one in server.Query(db => db.Pictures.OrderBy(p => p.Id).Select(p => p.Id).ToList()))
        {
            var said = server.Query(db =>
                db.References.Where(r =>
                        r.Kind == Core.Releases.ReferenceKind.Picture && r.Key == one && r.Release == StoredReference.OfHead
                    )
                    .Select(r => r.DocumentId)
                    .Distinct()
                    .ToHashSet()
            );
            Assert.True(said.SetEquals(server.Query(db => ReferenceTableTests.SayingPicture(db, one))), one);
        }

        async Task<Dictionary<string, long>> ReadAsync(string[] paths)
        {
            server.Sql("vacuum (analyze) documents, document_references, email_words, edits");
            var read = new Dictionary<string, long>(StringComparer.Ordinal);
            foreach (var path in paths)
            {
                var heard = await server.Statements.DuringAsync(async () =>
                    (await lead.GetAsync("/api/" + path)).EnsureSuccessStatusCode()
                );
                Assert.NotEmpty(heard);
                read[path] = 0;
                foreach (var query in heard.Where(q => q.CommandText.Contains("SELECT", StringComparison.OrdinalIgnoreCase)))
                {
                    read[path] += await RowsAsync(path, query);
                }
            }

            return read;
        }
    }

    private async Task<long> RowsAsync(string path, NpgsqlCommand query)
    {
        await using var open = new NpgsqlConnection(server.Database);
        await open.OpenAsync();
        // So small a table is read faster whole; what is asked is whether it can be done otherwise.
        await using (var small = new NpgsqlCommand("set enable_seqscan = off", open))
        {
            await small.ExecuteNonQueryAsync();
        }

        await using var explain = query.Clone();
        explain.Connection = open;
        explain.CommandText = "explain (analyze, format json) " + query.CommandText;
        var plan = JsonNode.Parse((string)(await explain.ExecuteScalarAsync())!)![0]!["Plan"]!;
        return Nodes(plan).Sum(node => Rows(path, query, node));
    }

    private static long Rows(string path, NpgsqlCommand query, JsonNode node)
    {
        if (!Large.Contains((string?)node["Relation Name"]))
        {
            return 0;
        }

        Assert.False(
            ((string)node["Node Type"]!).Contains("Seq Scan", StringComparison.Ordinal),
            $"{path} reads all of {node["Relation Name"]}: {query.CommandText}"
        );
        double Count(string of) => (double?)node[of] ?? 0;
        return (long)(
            (Count("Actual Rows") + Count("Rows Removed by Filter") + Count("Rows Removed by Index Recheck")) * Count("Actual Loops")
        );
    }

    private static IEnumerable<JsonNode> Nodes(JsonNode plan) =>
        (plan["Plans"]?.AsArray() ?? []).SelectMany(inner => Nodes(inner!)).Prepend(plan);
}
