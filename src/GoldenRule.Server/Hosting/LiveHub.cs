using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.SignalR;

namespace GoldenRule.Server.Hosting;

/// <summary>Tells open screens that something changed, and where; they then ask for it the ordinary way.</summary>
[Authorize]
public sealed class LiveHub : Hub
{
    public const string Path = "/live";

    /// <summary>Sent to who watches a document: its id and new revision.</summary>
    public const string Edited = "edited";

    /// <summary>Sent to everyone: something was released.</summary>
    public const string Released = "released";

    public Task Watch(Guid document) => Groups.AddToGroupAsync(Context.ConnectionId, Group(document), Context.ConnectionAborted);

    public Task Leave(Guid document) => Groups.RemoveFromGroupAsync(Context.ConnectionId, Group(document), Context.ConnectionAborted);

    public static string Group(Guid document) => document.ToString("N");
}
