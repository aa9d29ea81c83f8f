using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Emails;
using GoldenRule.Server.Home;
using GoldenRule.Server.HouseStyles;
using GoldenRule.Server.Jobs;
using GoldenRule.Server.Reviews;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;
using Npgsql;

namespace GoldenRule.Server.Tests;

/// <summary>
/// The server over a real PostgreSQL, in a database of its own with the demo loaded. ./test starts PostgreSQL and says where.
/// </summary>
public class Running : WebApplicationFactory<Program>
{
    private const string Password = "steam-and-cinders";

    private readonly string database = "test_" + Guid.NewGuid().ToString("N");

    private static readonly string Connection = Environment.GetEnvironmentVariable("GOLDEN_RULE_TEST_DATABASE")
        ?? throw new InvalidOperationException(
            "Run ./test: it starts the PostgreSQL that these tests need and sets GOLDEN_RULE_TEST_DATABASE."
        );

    public static string Root { get; } = Path.GetFullPath(Path.Combine(Path.GetDirectoryName(Here())!, "../.."));

    // What a class has left is closed soon: all of them together would have more connections than the database allows.
    public string Database =>
        new NpgsqlConnectionStringBuilder(Connection)
        {
            Database = database,
            ConnectionIdleLifetime = 5,
            ConnectionPruningInterval = 1,
        }.ConnectionString;

    /// <summary>Signed in, as lead, designer, author or reviewer by first name.</summary>
    public Task<HttpClient> As(string name) => SignIn(CreateClient(), name);

    public static async Task<HttpClient> SignIn(HttpClient client, string name)
    {
        using var answer = await Session(client, name);
        Assert.True(answer.IsSuccessStatusCode, $"{name} is not signed in: {answer.StatusCode} {await answer.Content.ReadAsStringAsync()}");
        return client;
    }

    /// <summary>What a browser would send along once signed in.</summary>
    public static async Task<string> Cookie(WebApplicationFactory<Program> server, string name)
    {
        using var client = server.CreateClient(new() { HandleCookies = false });
        return SessionCookie(await Session(client, name)).Split(';')[0];
    }

    /// <summary>The cookie of the session that an answer begins, with its attributes; another says which browser it is.</summary>
    public static string SessionCookie(HttpResponseMessage answer) =>
        answer.Headers.GetValues("Set-Cookie").Single(c => !c.StartsWith("golden-rule-browser=", StringComparison.Ordinal));

    private static Task<HttpResponseMessage> Session(HttpClient client, string name) =>
        client.PostAsJsonAsync("/api/session", new { email = $"{name}@larkfell.example.org", password = Password });

    /// <summary>Another server over the same database, with settings of its own.</summary>
    public WebApplicationFactory<Program> Second(params (string Name, string Value)[] settings)
    {
        _ = Services;
        return new Second(Database, settings);
    }

    /// <summary>Another server over the same database.</summary>
    public WebApplicationFactory<Program> Twin() => Second();

    public Guid EmailId(string name)
    {
        using var scope = Services.CreateScope();
        return scope
            .ServiceProvider.GetRequiredService<GoldenRuleDb>()
            .Documents.Single(d => d.Kind == DocumentKind.Email && d.Name.StartsWith(name))
            .Id;
    }

    public T Query<T>(Func<GoldenRuleDb, T> ask)
    {
        using var scope = Services.CreateScope();
        return ask(scope.ServiceProvider.GetRequiredService<GoldenRuleDb>());
    }

    /// <summary>Waits until what was edited is found by its words.</summary>
    public async Task WordsTakenIn()
    {
        while (Query(db => db.EmailsBehind.Any()))
        {
            await Task.Delay(50);
        }
    }

    /// <summary>The database as a further server would open it.</summary>
    public GoldenRuleDb Context()
    {
        _ = Services;
        var options = new DbContextOptionsBuilder<GoldenRuleDb>();
        options.UseGoldenRule(Database);
        return new GoldenRuleDb(options.Options);
    }

    /// <summary>Runs SQL past the server, as someone with the database's password could.</summary>
    public void Sql(string sql)
    {
        _ = Services;
        using var meddler = new NpgsqlConnection(Database);
        meddler.Open();
        using var command = new NpgsqlCommand(sql, meddler);
        command.ExecuteNonQuery();
    }

    /// <summary>A copy of the demo's gala of one's own, complete and in no review.</summary>
    public async Task<Guid> NewGala(HttpClient author)
    {
        var id = Guid.CreateVersion7();
        (
            await author.PostAsJsonAsync(
                "/api/emails",
                new
                {
                    id,
                    name = $"Gala {id}",
                    email = EmailId("Winter steam gala"),
                }
            )
        ).EnsureSuccessStatusCode();
        // The words of the email before are its own.
        Sql(
            $"""
            update documents set state = 'Draft',
                head = (select head from documents where name = 'Winter steam gala') || jsonb_build_object('name', name)
            where id = '{id}'
            """
        );
        return id;
    }

    /// <summary>The same, asked about by its author and approved by everyone who has to.</summary>
    public async Task<Guid> ApprovedGala(HttpClient author)
    {
        var id = await NewGala(author);
        await Approve(author, id);
        return id;
    }

    public async Task Approve(HttpClient author, Guid id)
    {
        (await author.PostAsJsonAsync($"/api/emails/{id}/review/rounds", new { id = Guid.CreateVersion7() })).EnsureSuccessStatusCode();
        foreach (var name in new[] { "jonas", "ruth" })
        {
            var approver = await As(name);
            var review = (await approver.GetFromJsonAsync<ReviewAnswer>($"/api/emails/{id}/review", DocumentJson.Options))!;
            (
                await approver.PostAsJsonAsync($"/api/emails/{id}/review/decisions", new { verdict = "approve", hash = review.Hash })
            ).EnsureSuccessStatusCode();
        }
    }

    /// <summary>A new email of the author's own from the special train's template.</summary>
    public async Task<DeskAnswer> NewEmail(HttpClient author, string template = "Special train")
    {
        var templates = await Templates(author);
        var id = Guid.CreateVersion7();
        var answer = await author.PostAsJsonAsync(
            "/api/emails",
            new
            {
                id,
                template = templates.Single(t => (string?)t!["name"] == template)!["id"],
                name = "Test " + id,
            }
        );
        answer.EnsureSuccessStatusCode();
        return await Desk(author, id);
    }

    public static async Task<JsonArray> Templates(HttpClient client) =>
        (await client.GetFromJsonAsync<JsonObject>("/api/templates"))!["templates"]!.AsArray();

    public static async Task<DeskAnswer> Desk(HttpClient client, Guid id) =>
        (await client.GetFromJsonAsync<DeskAnswer>($"/api/emails/{id}/desk", DocumentJson.Options))!;

    public static async Task<HouseStyleAnswer> House(HttpClient client)
    {
        var all = await client.GetFromJsonAsync<HouseStyleEntry[]>("/api/house-styles", DocumentJson.Options);
        return (
            await client.GetFromJsonAsync<HouseStyleAnswer>(
                $"/api/house-styles/{all!.Single(s => s.Name == "Larkfell").Id}",
                DocumentJson.Options
            )
        )!;
    }

    /// <summary>A job once it has ended.</summary>
    public static async Task<JobEntry> Ended(HttpClient client, Guid id)
    {
        for (var i = 0; i < 3000; i++)
        {
            var job = (await client.GetFromJsonAsync<JobEntry>($"/api/jobs/{id}", DocumentJson.Options))!;
            if (job.State is JobState.Done or JobState.Failed)
            {
                return job;
            }

            await Task.Delay(200);
        }

        throw new TimeoutException("The job did not end.");
    }

    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        Admin($"create database {database} template {Demo.Value}");
        builder.UseSetting("ConnectionStrings:GoldenRule", Database);
        // Nobody listens there: what is mailed stays in the outbox.
        builder.UseSetting("Mail:Host", "127.0.0.1");
        builder.UseSetting("Mail:Port", "1");
        builder.UseSetting("Mail:From", "golden-rule@larkfell.example.org");
        foreach (var (name, value) in Settings)
        {
            builder.UseSetting(name, value);
        }

        builder.ConfigureServices(services =>
            services.AddSingleton(LastingLog).ConfigureDbContext<GoldenRuleDb>(o => o.AddInterceptors(Statements))
        );
    }

    // Hangfire logs for the whole process to where the server that began last does: that has to outlive it.
    internal static readonly ILoggerFactory LastingLog = LoggerFactory.Create(log => log.AddConsole().SetMinimumLevel(LogLevel.Warning));

    /// <summary>What this server is set to otherwise.</summary>
    protected virtual IEnumerable<(string Name, string Value)> Settings => [];

    /// <summary>What the server asks its database for.</summary>
    internal HeardStatements Statements { get; } = new();

    // The demo is loaded once, and each class of tests has a copy of it: loading draws every picture.
    private static readonly Lazy<string> Demo = new(() =>
    {
        var demo = "demo_" + Guid.NewGuid().ToString("N");
        Admin($"create database {demo}");
        using (
            var loading = new Second(
                new NpgsqlConnectionStringBuilder(Connection) { Database = demo }.ConnectionString,
                ("Demo:Folder", Path.Combine(Root, "demo/larkfell"))
            )
        )
        {
            _ = loading.Services;
        }

        // What somebody is on cannot be copied.
        NpgsqlConnection.ClearAllPools();
        Admin($"select pg_terminate_backend(pid) from pg_stat_activity where datname = '{demo}'");
        return demo;
    });

    private static void Admin(string sql)
    {
        using var admin = new NpgsqlConnection(Connection);
        admin.Open();
        using var command = new NpgsqlCommand(sql, admin);
        command.ExecuteNonQuery();
    }

    private static string Here([System.Runtime.CompilerServices.CallerFilePath] string path = "") => path;
}

/// <summary>What measures the time of the whole process has it to itself.</summary>
[CollectionDefinition(Name, DisableParallelization = true)]
public sealed class Alone
{
    public const string Name = "alone";
}

/// <summary>A server over a database that is there already.</summary>
internal sealed class Second(string database, params (string Name, string Value)[] settings) : WebApplicationFactory<Program>
{
    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        builder.UseSetting("ConnectionStrings:GoldenRule", database);
        foreach (var (name, value) in settings)
        {
            builder.UseSetting(name, value);
        }

        builder.ConfigureServices(services => services.AddSingleton(Running.LastingLog));
    }
}

internal static class Asking
{
    /// <summary>Sends edits as the desk does. The base is the revision seen.</summary>
    public static Task<HttpResponseMessage> Edit(this HttpClient client, Guid email, long seen, params object[] edits) =>
        client.PostAsJsonAsync(
            $"/api/emails/{email}/edits",
            new
            {
                @base = seen,
                edits = edits.Select(e => new
                {
                    id = Guid.CreateVersion7(),
                    step = Guid.CreateVersion7(),
                    edit = e,
                }),
            }
        );

    public static object SetWords(string row, string piece, string text, string field = "text") =>
        new
        {
            kind = "set-fill",
            row,
            piece,
            field,
            value = new { kind = "words", text },
        };

    public static object SetLink(string row, string piece, string href) =>
        new
        {
            kind = "set-fill",
            row,
            piece,
            field = "link",
            value = new { kind = "link", href },
        };

    /// <summary>What waits at Home.</summary>
    public static async Task<IReadOnlyList<WaitEntry>> Waits(this HttpClient client) =>
        (await client.GetFromJsonAsync<HomeAnswer>("/api/home", DocumentJson.Options))!.Waits;

    public static async Task<T> Read<T>(this HttpResponseMessage answer)
    {
        var text = await answer.Content.ReadAsStringAsync();
        Assert.True(answer.IsSuccessStatusCode, text);
        return JsonSerializer.Deserialize<T>(text, DocumentJson.Options)!;
    }

    /// <summary>An error in the form of RFC 9457: its media type, and the members of section 3.1.</summary>
    public static async Task<JsonObject> Problem(this HttpResponseMessage answer, int status, string type)
    {
        Assert.Equal(status, (int)answer.StatusCode);
        Assert.Equal("application/problem+json", answer.Content.Headers.ContentType?.MediaType);
        var problem = (await answer.Content.ReadFromJsonAsync<JsonObject>())!;
        Assert.Equal(status, (int)problem["status"]!);
        Assert.Equal("/problems/" + type, (string?)problem["type"]);
        Assert.NotEmpty((string)problem["title"]!);
        Assert.NotEmpty((string)problem["detail"]!);
        Assert.Equal(answer.RequestMessage!.RequestUri!.AbsolutePath, (string?)problem["instance"]);
        return problem;
    }
}
