using System.Diagnostics;
using System.Globalization;
using System.Net.Http.Headers;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Npgsql;

namespace GoldenRule.Server.Tests;

/// <summary>
/// Nothing that is small to send is dear to answer: no request of less than 100 KB takes more than a second of the
/// processor, the database's part included. Counted in processor time, so that it is the same on a machine busy with others.
/// </summary>
[Collection(Alone.Name)]
public sealed class CostTests(CostTests.Unlimited server) : IClassFixture<CostTests.Unlimited>
{
    private const int MostBytes = 99_000;

    // What this loop took where the second was set; a slower machine gets its own second.
    private static readonly TimeSpan Known = TimeSpan.FromMilliseconds(330);

    private static readonly string[] Texts = ["<div><b>", "a\n", "{a},1.", "https://larkfell.example.org/ ", "é\u0301"];

    public static TheoryData<string> Requests() => new(Hostile.Select(r => (string)r!["name"]!));

    private static JsonArray Hostile { get; } =
        JsonNode.Parse(File.ReadAllText(Path.Combine(Running.Root, "tests/hostile/requests.json")))!.AsArray();

    /// <summary>Each request of tests/hostile/requests.json is answered as it says there.</summary>
    [Theory]
    [MemberData(nameof(Requests))]
    public async Task What_was_made_to_be_dear_is_answered_soon(string name)
    {
        var client = server.Lead;
        var request = Hostile.Single(r => (string?)r!["name"] == name)!;
        var body = request switch
        {
            JsonObject { } r when r["raw"] is { } raw => (string?)raw,
            JsonObject { } r when r["edit"] is { } edit => Edit(edit.ToJsonString(Unescaped)),
            _ => request["body"]?.ToJsonString(Unescaped),
        };
        var (status, answer) = await Measured(client, (string)request["method"]!, Fill((string)request["path"]!), body, name);
        Assert.True((int)request["status"]! == status, $"{name}: {status} {answer}");
    }

    /// <summary>Every route that takes something, with each of its texts and lists as full as 99 KB allow.</summary>
    [Fact]
    public async Task No_route_is_dear()
    {
        var client = server.Lead;
        var api = JsonNode.Parse(await File.ReadAllTextAsync(Path.Combine(Running.Root, "docs/openapi.json")))!;
        var asked = 0;
        foreach (var (path, methods) in api["paths"]!.AsObject())
        {
            foreach (var (method, operation) in methods!.AsObject())
            {
                var at = Fill(path);
                // What ends the session would end the test.
                if (method == "delete" || operation!["operationId"]?.ToString() is "signIn" or "changePassword")
                {
                    continue;
                }

                if (operation!["requestBody"]?["content"]?["application/json"]?["schema"] is { } schema)
                {
                    foreach (var text in Texts)
                    {
                        asked++;
                        await Measured(
                            client,
                            method,
                            at,
                            new Filling(api, text).Make(schema).ToJsonString(),
                            $"{method} {path} of {text}"
                        );
                    }
                }
                else if (operation["requestBody"]?["content"]?["multipart/form-data"] is not null)
                {
                    foreach (var text in Texts)
                    {
                        asked++;
                        using var form = new MultipartFormDataContent();
                        form.Add(new ByteArrayContent(Encoding.UTF8.GetBytes(Full(text))), "file", "x.svg");
                        await Measured(client, method, at, form, $"{method} {path} of a file of {text}");
                    }
                }

                foreach (var parameter in operation["parameters"]?.AsArray() ?? [])
                {
                    if ((string?)parameter!["in"] == "query" && method == "get")
                    {
                        asked++;
                        var query = $"{at}?{parameter["name"]}={Uri.EscapeDataString(Full("a b,")[..4_000])}";
                        await Measured(client, method, query, (HttpContent?)null, $"{method} {path} by {parameter["name"]}");
                    }
                }
            }
        }

        Assert.True(asked > 200, $"{asked} requests were made.");
    }

    private static readonly JsonSerializerOptions Unescaped = new()
    {
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    private static string Full(string text) => new StringBuilder().Insert(0, text, MostBytes / Encoding.UTF8.GetByteCount(text)).ToString();

    private static string Edit(string edit) =>
        $$"""{"base":0,"edits":[{"id":"{{Guid.CreateVersion7()}}","step":"{{Guid.CreateVersion7()}}","edit":{{edit}}}]}""";

    private string Fill(string path) =>
        Regex
            .Replace(path, @"⟦(?<what>[^×]*)×(?<times>\d+)⟧", Repeated, RegexOptions.ExplicitCapture, TimeSpan.FromSeconds(1))
            .Replace("/emails/{id}", $"/emails/{server.Email}", StringComparison.Ordinal)
            .Replace("/house-styles/{id}", $"/house-styles/{server.House}", StringComparison.Ordinal)
            .Replace("{email}", server.Email.ToString(), StringComparison.Ordinal)
            .Replace("{house}", server.House.ToString(), StringComparison.Ordinal)
            .Replace("{id}", Guid.NewGuid().ToString(), StringComparison.Ordinal)
            .Replace("{revision}", "0", StringComparison.Ordinal)
            .Replace("{number}", "1", StringComparison.Ordinal)
            .Replace("{key}", "members-gazette", StringComparison.Ordinal)
            .Replace("{name}", "newsletter", StringComparison.Ordinal)
            .Replace("{row}", "hero", StringComparison.Ordinal)
            .Replace("{picture}", "none", StringComparison.Ordinal)
            .Replace("{file}", "none", StringComparison.Ordinal);

    // "#" is the number of the repetition, "#+" of the next.
    private static string Repeated(Match match)
    {
        var what = match.Groups["what"].Value;
        var repeated = new StringBuilder();
        for (var i = 0; i < int.Parse(match.Groups["times"].ValueSpan, CultureInfo.InvariantCulture); i++)
        {
            repeated.Append(what.Replace("#+", $"{i + 1}", StringComparison.Ordinal).Replace("#", $"{i}", StringComparison.Ordinal));
        }

        return repeated.ToString();
    }

    private Task<(int Status, string Answer)> Measured(HttpClient client, string method, string path, string? body, string name)
    {
        var text = body is null ? null : Fill(body);
        Assert.True((text?.Length ?? 0) <= 100_000, $"{name} has {text?.Length} characters.");
        return Measured(
            client,
            method,
            path,
            text is null ? null : new StringContent(text, Encoding.UTF8, MediaTypeHeaderValue.Parse("application/json")),
            name
        );
    }

    private async Task<(int Status, string Answer)> Measured(HttpClient client, string method, string path, HttpContent? body, string name)
    {
        var content = body is null ? [] : await body.ReadAsByteArrayAsync();
        var least = TimeSpan.MaxValue;
        // The first pays for being the first.
        for (var i = 0; ; i++)
        {
            using var request = new HttpRequestMessage(new HttpMethod(method), path);
            if (body is not null)
            {
                request.Content = new ByteArrayContent(content);
                request.Content.Headers.ContentType = body.Headers.ContentType;
            }

            var before = Taken();
            using var answer = await client.SendAsync(request);
            var said = await answer.Content.ReadAsStringAsync();
            var took = Taken() - before;
            least = took < least ? took : least;
            Assert.True((int)answer.StatusCode < 500, $"{name}: {answer.StatusCode} {said[..Math.Min(said.Length, 400)]}");
            if (least < Second.Value)
            {
                return ((int)answer.StatusCode, said[..Math.Min(said.Length, 400)]);
            }

            Assert.True(i < 2, $"{name} took {least.TotalMilliseconds:0} ms of the processor.");
        }
    }

    // Of this process, in which the server runs, and of the processes of PostgreSQL that answer for its database.
    private TimeSpan Taken()
    {
        using var here = Process.GetCurrentProcess();
        return here.TotalProcessorTime + Backends().Aggregate(TimeSpan.Zero, (sum, one) => sum + one);
    }

    private List<TimeSpan> Backends()
    {
        using var data = new NpgsqlConnection(server.Database);
        data.Open();
        using var ask = new NpgsqlCommand(
            "select pid from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()",
            data
        );
        using var reader = ask.ExecuteReader();
        var times = new List<TimeSpan>();
        while (reader.Read())
        {
            // proc_pid_stat(5): fields 14 and 15, of 100 to a second; what stands in brackets may hold blanks.
            if (File.Exists($"/proc/{reader.GetInt32(0)}/stat"))
            {
                var fields = File.ReadAllText($"/proc/{reader.GetInt32(0)}/stat").Split(')')[^1].Split(' ');
                times.Add(
                    TimeSpan.FromSeconds(
                        (long.Parse(fields[12], CultureInfo.InvariantCulture) + long.Parse(fields[13], CultureInfo.InvariantCulture))
                            / 100.0
                    )
                );
            }
        }

        return times;
    }

    private static readonly Lazy<TimeSpan> Second = new(() =>
    {
        var bytes = new byte[1 << 20];
        using var here = Process.GetCurrentProcess();
        var before = here.TotalProcessorTime;
        for (var i = 0; i < 150; i++)
        {
            SHA512.HashData(bytes);
        }

        here.Refresh();
        var slower = (here.TotalProcessorTime - before) / Known;
        return TimeSpan.FromSeconds(Math.Max(1, slower));
    });

    /// <summary>A body that a schema allows, as full of one text as it may be.</summary>
    private sealed class Filling(JsonNode api, string text)
    {
        private int room = MostBytes;

        public JsonNode Make(JsonNode schema) => Make(schema, 0) ?? new JsonObject();

        private JsonNode? Make(JsonNode schema, int depth)
        {
            if ((string?)schema["$ref"] is { } reference)
            {
                return Make(api["components"]!["schemas"]![reference.Split('/')[^1]]!, depth);
            }

            if ((schema["oneOf"] ?? schema["anyOf"])?.AsArray() is { } several)
            {
                // Of edits there are many kinds; the one that takes words is as good as any to fill.
                return Make(
                    several.FirstOrDefault(s => s!.ToJsonString().Contains("SetDetail", StringComparison.Ordinal)) ?? several[^1]!,
                    depth
                );
            }

            return Type(schema) switch
            {
                _ when schema["enum"] is JsonArray { Count: > 0 } names => names[0]!.DeepClone(),
                "object" => Object(schema, depth),
                "array" => Items(schema, depth),
                "integer" or "number" => 0,
                "boolean" => true,
                "string" => Word(schema),
                _ => null,
            };
        }

        private static string? Type(JsonNode schema) =>
            schema["type"] switch
            {
                JsonArray several => several.Select(t => (string?)t).FirstOrDefault(t => t != "null"),
                { } one => (string?)one,
                null => schema["properties"] is null ? null : "object",
            };

        private JsonObject Object(JsonNode schema, int depth)
        {
            var made = new JsonObject();
            if (depth < 8)
            {
                foreach (var (name, property) in schema["properties"]?.AsObject() ?? [])
                {
                    made[name] = Make(property!, depth + 1);
                }
            }

            return made;
        }

        private JsonArray Items(JsonNode schema, int depth)
        {
            var made = new JsonArray();
            var share = room / 2;
            while (depth < 6 && room > share && made.Count < 5_000 && schema["items"] is { } item)
            {
                var before = room;
                var one = Make(item, depth + 1);
                made.Add(one);
                room = Math.Min(room, before - 40 - (one?.ToJsonString().Length ?? 0));
            }

            return made;
        }

        private string Word(JsonNode schema)
        {
            if ((string?)schema["format"] is "uuid")
            {
                return Guid.CreateVersion7().ToString();
            }

            // In JSON a sign may take six bytes.
            var times = Math.Max(1, room / 2 / (6 * text.Length));
            room -= times * 6 * text.Length;
            return new StringBuilder().Insert(0, text, times).ToString();
        }
    }

    /// <summary>A server without a bound on how often it is asked: what is measured is each request.</summary>
    public sealed class Unlimited : IAsyncLifetime
    {
        private readonly Running first = new();
        private Second? second;

        public HttpClient Lead { get; private set; } = null!;

        public Guid Email { get; private set; }

        public Guid House { get; private set; }

        public string Database => first.Database;

        public async Task InitializeAsync()
        {
            // The first makes the database.
            var lead = await first.As("ruth");
            (Email, House) = ((await first.NewEmail(lead, "Timetable notice")).Id, (await Running.House(lead)).Id);
            second = new Second(first.Database, ("Limits:RequestsASecond", "100000"), ("Limits:CostlyAMinute", "100000"));
            Lead = await Running.SignIn(second.CreateClient(), "ruth");
        }

        public async Task DisposeAsync()
        {
            if (second is not null)
            {
                await second.DisposeAsync();
            }

            await first.DisposeAsync();
        }
    }
}
