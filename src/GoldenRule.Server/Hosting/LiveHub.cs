using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.People;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.SignalR;

namespace GoldenRule.Server.Hosting;

/// <summary>Someone who has a document open.</summary>
/// <param name="Connection">One window of theirs.</param>
public sealed record Present(string Connection, Guid Person, string Name, string Place, bool Asks);

/// <summary>Tells open screens that something changed, and where; they then ask for it the ordinary way. See <see cref="LiveNews"/>.</summary>
[Authorize]
public sealed class LiveHub(Room room, GoldenRuleDb db) : Hub
{
    public const string Path = "/live";

    /// <summary>Sent to who watches a document: its id and new revision.</summary>
    public const string Edited = "edited";

    /// <summary>Sent to everyone: something was released, or what else the library says of every email changed.</summary>
    public const string Released = "released";

    /// <summary>Sent to who watches a document: someone else is there, and at what place. They answer in kind when they are asked.</summary>
    public const string Here = "here";

    /// <summary>Sent to who watches a document: someone has left it.</summary>
    public const string Gone = "gone";

    /// <summary>Sent to everyone: for a while nothing could be told; whoever shows something looks again.</summary>
    public const string Missed = "missed";

    private HashSet<Guid> Watched => (HashSet<Guid>)(Context.Items[nameof(Watched)] ??= new HashSet<Guid>());

    public async Task Watch(Guid document)
    {
        await room.MustSeeAsync(document, Context.User!.Person(), Context.ConnectionAborted);
        Watched.Add(document);
        await Groups.AddToGroupAsync(Context.ConnectionId, Group(document), Context.ConnectionAborted);
    }

    /// <summary>Tells the others who is here.</summary>
    /// <param name="place">As an edit's target, or a row's id.</param>
    /// <param name="asks">The others are asked to say where they are.</param>
    public Task At(Guid document, string place, bool asks)
    {
        var person = Context.User!.Person();
        return Watched.Contains(document) && place.Length <= 300
            ? LiveNews.TellAsync(db, document, Here, new Present(Context.ConnectionId, person.Id, person.Name, place, asks), Context.ConnectionId, Context.ConnectionAborted)
            : Task.CompletedTask;
    }

    public async Task Leave(Guid document)
    {
        Watched.Remove(document);
        await Groups.RemoveFromGroupAsync(Context.ConnectionId, Group(document), Context.ConnectionAborted);
        await LiveNews.TellAsync(db, document, Gone, Context.ConnectionId, Context.ConnectionId, Context.ConnectionAborted);
    }

    public override async Task OnDisconnectedAsync(Exception? exception)
    {
        foreach (var document in Watched)
        {
            await LiveNews.TellAsync(db, document, Gone, Context.ConnectionId, Context.ConnectionId);
        }
    }

    public static string Group(Guid document) => document.ToString("N");
}
