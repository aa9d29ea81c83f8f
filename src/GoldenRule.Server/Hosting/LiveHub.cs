using System.Collections.Concurrent;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.People;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.SignalR;

namespace GoldenRule.Server.Hosting;

/// <summary>Someone who has a document open.</summary>
/// <param name="Connection">One window of theirs.</param>
public sealed record Present(string Connection, Guid Person, string Name, string Place, bool Asks);

/// <summary>
/// Tells open screens that something changed, and where; they then ask for it the ordinary way. See <see cref="LiveNews"/>.
/// </summary>
[Authorize]
public sealed class LiveHub(DocumentAccess access, GoldenRuleDb db, LiveSessions sessions, LiveNews news) : Hub
{
    public const string Path = "/live";

    /// <summary>Sent to who watches a document: its id and new revision.</summary>
    public const string Edited = "edited";

    /// <summary>Sent to everyone: something was released, or what else the library says of every email changed.</summary>
    public const string Released = "released";

    /// <summary>
    /// Sent to who watches a document: someone else is there, and at what place. They answer in kind when they are asked.
    /// </summary>
    public const string Here = "here";

    /// <summary>Sent to who watches a document: someone has left it.</summary>
    public const string Gone = "gone";

    /// <summary>Sent to who watches an email: somebody asked, decided or commented.</summary>
    public const string Reviewed = "reviewed";

    /// <summary>Sent to everyone: what waits for people may be another now.</summary>
    public const string Waits = "waits";

    /// <summary>Sent to everyone: for a while nothing could be told; whoever shows something looks again.</summary>
    public const string Missed = "missed";

    private ConcurrentDictionary<Guid, bool> Watched => WatchedBy(Context);

    /// <summary>The documents that a window watches.</summary>
    internal static ConcurrentDictionary<Guid, bool> WatchedBy(HubCallerContext window) =>
        (ConcurrentDictionary<Guid, bool>)(window.Items[nameof(Watched)] ??= new ConcurrentDictionary<Guid, bool>());

    public override Task OnConnectedAsync()
    {
        // Made here, where nobody else looks at the window yet.
        WatchedBy(Context).Clear();
        sessions.Add(Context);
        return Task.CompletedTask;
    }

    public async Task Watch(Guid document)
    {
        if (await sessions.PersonAsync(Context, db, Context.ConnectionAborted) is not { } person)
        {
            return;
        }

        await access.MustSeeAsync(document, person, Context.ConnectionAborted);
        if (Watched.Count >= MostWatched)
        {
            throw new HubException($"One window watches at most {MostWatched} documents.");
        }

        // Whoever watches hears all that comes after.
        await news.Listening.WaitAsync(Context.ConnectionAborted);
        Watched[document] = true;
        await Groups.AddToGroupAsync(Context.ConnectionId, Group(document), Context.ConnectionAborted);
    }

    /// <summary>Tells the others who is here.</summary>
    /// <param name="place">As an edit's target, or a row's id.</param>
    /// <param name="asks">The others are asked to say where they are.</param>
    public Task At(Guid document, string place, bool asks)
    {
        var person = Context.User!.Person();
        return Watched.ContainsKey(document) && place.Length <= 300
            ? LiveNews.TellAsync(
                db,
                document,
                Here,
                new Present(Context.ConnectionId, person.Id, person.Name, place, asks),
                Context.ConnectionId,
                Context.ConnectionAborted
            )
            : Task.CompletedTask;
    }

    public async Task Leave(Guid document)
    {
        Watched.TryRemove(document, out _);
        await Groups.RemoveFromGroupAsync(Context.ConnectionId, Group(document), Context.ConnectionAborted);
        await LiveNews.TellAsync(db, document, Gone, Context.ConnectionId, Context.ConnectionId, Context.ConnectionAborted);
    }

    public override async Task OnDisconnectedAsync(Exception? exception)
    {
        sessions.Remove(Context);
        foreach (var document in Watched.Keys)
        {
            await LiveNews.TellAsync(db, document, Gone, Context.ConnectionId, Context.ConnectionId);
        }
    }

    /// <summary>Far more than one window shows.</summary>
    private const int MostWatched = 100;

    public static string Group(Guid document) => document.ToString("N");
}
