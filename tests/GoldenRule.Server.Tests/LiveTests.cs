using System.Net.Http.Json;
using System.Text.Json;
using System.Threading.Channels;
using GoldenRule.Core.Documents;
using GoldenRule.Server.Hosting;
using Microsoft.AspNetCore.Http.Connections;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.AspNetCore.SignalR.Client;
using Microsoft.Extensions.DependencyInjection;

namespace GoldenRule.Server.Tests;

/// <summary>Windows on different servers over one database hear of one another.</summary>
public sealed class LiveTests(Running server) : IClassFixture<Running>
{
    [Fact]
    public async Task What_is_edited_on_one_server_is_told_on_every_other()
    {
        using var other = server.Twin();
        var author = await server.As("imran");
        var desk = await server.NewEmail(author);
        await using var there = await Window.Open(other, "bea", desk.Id);
        await using var elsewhere = await Window.Open(other, "bea", (await server.NewEmail(author)).Id);
        (await author.Edit(desk.Id, 0, Asking.SetWords("hero", "headline", "One"))).EnsureSuccessStatusCode();
        Assert.Equal((LiveHub.Edited, desk.Id, "1"), await there.Hears());
        // Taken back before it was stored, an edit is told of nowhere: the next thing heard is the one after it.
        await (await author.Edit(desk.Id, 1, Asking.SetWords("hero", "nothing", "Two"))).Problem(403, "refused");
        (await author.Edit(desk.Id, 1, Asking.SetWords("hero", "headline", "Three"))).EnsureSuccessStatusCode();
        Assert.Equal((LiveHub.Edited, desk.Id, "2"), await there.Hears());
        Assert.False(elsewhere.HasHeard);
    }

    [Fact]
    public async Task Releases_are_told_to_everyone()
    {
        using var other = server.Twin();
        var lead = await server.As("ruth");
        await using var there = await Window.Open(other, "imran", (await server.NewEmail(lead)).Id);
        var template = (await Running.Templates(lead)).First()!["id"];
        (await lead.PostAsJsonAsync($"/api/templates/{template}/releases", new { note = "Told" })).EnsureSuccessStatusCode();
        Assert.Equal(LiveHub.Released, (await there.Hears()).Name);
    }

    [Fact]
    public async Task People_on_two_servers_meet_and_part()
    {
        using var other = server.Twin();
        var desk = await server.NewEmail(await server.As("imran"));
        await using var here = await Window.Open(server, "imran", desk.Id);
        var there = await Window.Open(other, "bea", desk.Id);
        await there.Connection.InvokeAsync("At", desk.Id, "hero/headline", true);
        var (name, document, what) = await here.Hears();
        var present = JsonSerializer.Deserialize<Present>(what, DocumentJson.Options)!;
        Assert.Equal(
            (LiveHub.Here, desk.Id, "hero/headline", true, there.Connection.ConnectionId),
            (name, document, present.Place, present.Asks, present.Connection)
        );
        // Whoever said it is not told of it.
        await here.Connection.InvokeAsync("At", desk.Id, "hero", false);
        Assert.Equal(LiveHub.Here, (await there.Hears()).Name);
        Assert.False(here.HasHeard);
        await there.DisposeAsync();
        Assert.Equal((LiveHub.Gone, desk.Id, $"\"{present.Connection}\""), await here.Hears());
    }

    [Fact]
    public async Task When_nothing_could_be_told_for_a_while_everyone_looks_again()
    {
        var desk = await server.NewEmail(await server.As("imran"));
        await using var here = await Window.Open(server, "bea", desk.Id);
        server.Sql("select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and query like 'listen%'");
        Assert.Equal(LiveHub.Missed, (await here.Hears()).Name);
        (await (await server.As("imran")).Edit(desk.Id, 0, Asking.SetWords("hero", "headline", "After"))).EnsureSuccessStatusCode();
        Assert.Equal((LiveHub.Edited, desk.Id, "1"), await here.Hears());
    }

    [Fact]
    public async Task An_open_window_hears_nothing_after_its_session_ended()
    {
        var desk = await server.NewEmail(await server.As("imran"));
        await using var there = await Window.Open(server, "bea", desk.Id);
        await using var stays = await Window.Open(server, "imran", desk.Id);
        var closed = new TaskCompletionSource();
        there.Connection.Closed += _ =>
        {
            closed.TrySetResult();
            return Task.CompletedTask;
        };
        (await (await server.As("bea")).DeleteAsync("/api/sessions")).EnsureSuccessStatusCode();
        await server.Services.GetRequiredService<LiveSessions>().LookAsync(default);
        await closed.Task.WaitAsync(TimeSpan.FromSeconds(60));
        (await (await server.As("imran")).Edit(desk.Id, 0, Asking.SetWords("hero", "headline", "After"))).EnsureSuccessStatusCode();
        await stays.HearsOf(LiveHub.Edited);
        Assert.Equal(0, there.HasHeardOf(LiveHub.Edited));
    }

    [Fact]
    public async Task Whoever_may_not_see_a_template_any_more_hears_nothing_of_it()
    {
        var lead = await server.As("ruth");
        var template = Guid.Parse((string)(await Running.Templates(lead)).First()!["id"]!);
        server.Sql(
            $"update documents set owner = '{server.Query(db => db.Users.Single(u => u.Name == "Ruth Calder").Id)}' where id = '{template}'"
        );
        await using var there = await Window.Open(server, "dana", template);
        await using var stays = await Window.Open(server, "ruth", template);
        await server.Services.GetRequiredService<LiveSessions>().LookAsync(default);
        await Rename(lead, template, "Heard by both");
        await there.HearsOf(LiveHub.Edited);
        await stays.HearsOf(LiveHub.Edited);
        (await lead.PutAsJsonAsync($"/api/templates/{template}/status", new { @private = true })).EnsureSuccessStatusCode();
        await server.Services.GetRequiredService<LiveSessions>().LookAsync(default);
        await Rename(lead, template, "Heard by one");
        await stays.HearsOf(LiveHub.Edited);
        Assert.Equal(0, there.HasHeardOf(LiveHub.Edited));
    }

    private async Task Rename(HttpClient client, Guid template, string name)
    {
        var seen = server.Query(db => db.Documents.Single(d => d.Id == template).Revision);
        var edits = new[]
        {
            new
            {
                id = Guid.CreateVersion7(),
                step = Guid.CreateVersion7(),
                edit = new { kind = "set-name", name },
            },
        };
        (await client.PostAsJsonAsync($"/api/templates/{template}/edits", new { @base = seen, edits })).EnsureSuccessStatusCode();
    }

    /// <summary>A window that watches one document, and what it hears in order.</summary>
    private sealed class Window(HubConnection connection) : IAsyncDisposable
    {
        private readonly Channel<(string Name, Guid Document, string What)> heard = Channel.CreateUnbounded<(string, Guid, string)>();

        public HubConnection Connection { get; } = connection;

        public bool HasHeard => heard.Reader.TryPeek(out _);

        public static async Task<Window> Open(WebApplicationFactory<Program> server, string who, Guid document)
        {
            var cookie = await Running.Cookie(server, who);
            var window = new Window(
                new HubConnectionBuilder()
                    .WithUrl(new Uri(server.Server.BaseAddress, LiveHub.Path), HttpTransportType.LongPolling, o =>
                    {
                        o.HttpMessageHandlerFactory = _ => server.Server.CreateHandler();
                        o.Headers["Cookie"] = cookie;
                    })
                    .Build()
            );
            foreach (var name in (string[])[LiveHub.Edited, LiveHub.Here, LiveHub.Gone])
            {
                window.Connection.On<Guid, JsonElement>(name, (of, what) => window.heard.Writer.TryWrite((name, of, what.GetRawText())));
            }

            foreach (var name in (string[])[LiveHub.Released, LiveHub.Missed])
            {
                window.Connection.On(name, () => window.heard.Writer.TryWrite((name, Guid.Empty, "")));
            }

            await window.Connection.StartAsync();
            await window.Connection.InvokeAsync("Watch", document);
            return window;
        }

        public async Task<(string Name, Guid Document, string What)> Hears() =>
            await heard.Reader.ReadAsync().AsTask().WaitAsync(TimeSpan.FromSeconds(10));

        /// <summary>Goes on listening until it hears news of that name.</summary>
        public async Task HearsOf(string name)
        {
            while ((await Hears()).Name != name) { }
        }

        /// <summary>How many news of that name it has heard and not told of yet.</summary>
        public int HasHeardOf(string name)
        {
            var count = 0;
            while (heard.Reader.TryRead(out var news))
            {
                count += news.Name == name ? 1 : 0;
            }

            return count;
        }

        public ValueTask DisposeAsync() => Connection.DisposeAsync();
    }
}
