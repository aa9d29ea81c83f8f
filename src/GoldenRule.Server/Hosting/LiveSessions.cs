using System.Collections.Concurrent;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.People;
using Microsoft.AspNetCore.SignalR;

namespace GoldenRule.Server.Hosting;

/// <summary>
/// Holds open windows to what holds for requests: the connection of one whose session has ended is closed, and one whose
/// person may not see a document any more hears nothing of it.
/// </summary>
public sealed partial class LiveSessions(
    IServiceScopeFactory scopes,
    IHubContext<LiveHub> live,
    SessionStore sessions,
    TimeProvider clock,
    ILogger<LiveSessions> log
) : BackgroundService
{
    private static readonly TimeSpan Every = TimeSpan.FromSeconds(15);

    private readonly ConcurrentDictionary<string, HubCallerContext> windows = new(StringComparer.Ordinal);

    public void Add(HubCallerContext window) => windows[window.ConnectionId] = window;

    public void Remove(HubCallerContext window) => windows.TryRemove(window.ConnectionId, out _);

    /// <summary>
    /// Who a window's session belongs to, with their roles as they are now; null: it has ended, and the window is closed.
    /// </summary>
    public async Task<Person?> PersonAsync(HubCallerContext window, GoldenRuleDb db, CancellationToken cancel)
    {
        var session = window.User?.FindFirstValue(SessionStore.SessionClaim);
        var ticket = session is null ? null : await sessions.FindAsync(db, session, cancel);
        if (ticket is null)
        {
            window.Abort();
        }

        return ticket?.Principal.Person();
    }

    /// <summary>Looks at every window once.</summary>
    public async Task LookAsync(CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<GoldenRuleDb>();
        var access = scope.ServiceProvider.GetRequiredService<DocumentAccess>();
        foreach (var window in windows.Values)
        {
            if (await PersonAsync(window, db, cancel) is { } person)
            {
                await LookAsync(window, person, access, cancel);
            }
        }
    }

    private async Task LookAsync(HubCallerContext window, Person person, DocumentAccess access, CancellationToken cancel)
    {
        foreach (var document in LiveHub.WatchedBy(window).Keys)
        {
            try
            {
                await access.MustSeeAsync(document, person, cancel);
            }
            catch (ProblemException)
            {
                LiveHub.WatchedBy(window).TryRemove(document, out _);
                await live.Groups.RemoveFromGroupAsync(window.ConnectionId, LiveHub.Group(document), cancel);
            }
        }
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Every, clock);
        while (await timer.WaitForNextTickAsync(stoppingToken))
        {
            try
            {
                await LookAsync(stoppingToken);
            }
            catch (Exception fault) when (!stoppingToken.IsCancellationRequested)
            {
                // The database is away; so is all that could be told.
                LogFault(log, fault.Message);
            }
        }
    }

    [LoggerMessage(Level = LogLevel.Warning, Message = "Open windows could not be looked at: {Message}")]
    private static partial void LogFault(ILogger log, string message);
}
