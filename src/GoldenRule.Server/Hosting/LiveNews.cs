using System.Globalization;
using System.Text.Json;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using Microsoft.AspNetCore.SignalR;
using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace GoldenRule.Server.Hosting;

/// <summary>
/// What any server or the database itself has to tell open screens, told by every server to its own: the notifications
/// of PostgreSQL are what servers hear of one another by. Triggers tell of edits and of the library as they are stored.
/// </summary>
public sealed partial class LiveNews(IConfiguration configuration, IHubContext<LiveHub> live, ILogger<LiveNews> log) : BackgroundService
{
    /// <summary>Channels. The first two are notified by triggers, see the migration LiveNews.</summary>
    private const string Edited = "document_edited",
        Library = "library_moved",
        Presence = "presence";

    private readonly TaskCompletionSource listening = new(TaskCreationOptions.RunContinuationsAsynchronously);

    /// <summary>Ends when the database's news are first listened to.</summary>
    public Task Listening => listening.Task;

    private static readonly TimeSpan BeforeTryingAgain = TimeSpan.FromSeconds(1);

    /// <summary>Tells those who watch a document, but for one window, wherever they are connected.</summary>
    public static Task TellAsync(
        GoldenRuleDb db,
        Guid document,
        string name,
        object said,
        string except,
        CancellationToken cancel = default
    )
    {
        var news = JsonSerializer.Serialize(
            new Said(document, name, JsonSerializer.SerializeToElement(said, said.GetType(), DocumentJson.Options), except),
            DocumentJson.Options
        );
        return db.Database.ExecuteSqlAsync($"select pg_notify({Presence}, {news})", cancel);
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        var connection = configuration.GetConnectionString("GoldenRule");
        for (var again = false; !stoppingToken.IsCancellationRequested; again = true)
        {
            try
            {
                await ListenAsync(
                    new NpgsqlConnectionStringBuilder(connection) { Pooling = false, KeepAlive = 30 }.ConnectionString,
                    again,
                    stoppingToken
                );
            }
            catch (Exception fault) when (fault is NpgsqlException or IOException && !stoppingToken.IsCancellationRequested)
            {
                LogLost(log, fault.Message);
                await Task.Delay(BeforeTryingAgain, stoppingToken);
            }
        }
    }

    private async Task ListenAsync(string connection, bool again, CancellationToken cancel)
    {
        await using var database = new NpgsqlConnection(connection);
        var heard = new Queue<NpgsqlNotificationEventArgs>();
        database.Notification += (_, news) => heard.Enqueue(news);
        await database.OpenAsync(cancel);
        await using (var listen = new NpgsqlCommand($"listen {Edited}; listen {Library}; listen {Presence}", database))
        {
            await listen.ExecuteNonQueryAsync(cancel);
        }

        listening.TrySetResult();
        if (again)
        {
            // What was told meanwhile nobody here has heard.
            await live.Clients.All.SendAsync(LiveHub.Missed, cancel);
        }

        while (true)
        {
            await database.WaitAsync(cancel);
            while (heard.TryDequeue(out var news))
            {
                await PassOnAsync(news, cancel);
            }
        }
    }

    private Task PassOnAsync(NpgsqlNotificationEventArgs news, CancellationToken cancel)
    {
        switch (news.Channel)
        {
            case Edited:
                var parts = news.Payload.Split(' ');
                var document = Guid.Parse(parts[0]);
                return live
                    .Clients.Group(LiveHub.Group(document))
                    .SendAsync(LiveHub.Edited, document, long.Parse(parts[1], CultureInfo.InvariantCulture), cancel);
            case Library:
                return live.Clients.All.SendAsync(LiveHub.Released, cancel);
            default:
                return PassOnAsync(JsonSerializer.Deserialize<Said>(news.Payload, DocumentJson.Options)!, cancel);
        }
    }

    private async Task PassOnAsync(Said said, CancellationToken cancel)
    {
        await live.Clients.GroupExcept(LiveHub.Group(said.Document), said.Except).SendAsync(said.Name, said.Document, said.What, cancel);
        if (said.Name == LiveHub.Reviewed)
        {
            // Something may wait for somebody who has another room open: each looks for themselves.
            await live.Clients.All.SendAsync(LiveHub.Waits, cancel);
        }
    }

    [LoggerMessage(Level = LogLevel.Warning, Message = "The database does not tell what changes: {Message}")]
    private static partial void LogLost(ILogger log, string message);

    /// <param name="Except">The window that said it.</param>
    private sealed record Said(Guid Document, string Name, JsonElement What, string Except);
}
