using System.Security.Claims;
using System.Security.Cryptography;
using System.Text;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.WebUtilities;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.People;

/// <summary>
/// Sessions as the database holds them; the cookie only names one. So a session ends at once: signed out, a password
/// changed, an account locked or gone. Roles are read each time: one that was taken away is away with the next request.
/// </summary>
public sealed class SessionStore(TimeProvider clock, IServiceScopeFactory scopes) : ITicketStore
{
    /// <summary>Claim that names the session, by what the database knows it by.</summary>
    public const string SessionClaim = "session";

    private const string Stamp = "AspNet.Identity.SecurityStamp";

    /// <summary>When a session was seen is not stored with every request.</summary>
    private static readonly TimeSpan SeenWithin = TimeSpan.FromMinutes(5);

    private static readonly TimeSpan Longest = TimeSpan.FromDays(14);

    public Task<string> StoreAsync(AuthenticationTicket ticket) => WithDbAsync(db => StoreAsync(ticket, "", db, default));

    public async Task<string> StoreAsync(AuthenticationTicket ticket, HttpContext httpContext, CancellationToken cancellationToken)
    {
        var (db, person) = (Db(httpContext), Guid.Parse(ticket.Principal.FindFirstValue(ClaimTypes.NameIdentifier)!));
        await KnownBrowsers.MarkAsync(httpContext, person, clock.GetUtcNow().UtcDateTime, db, cancellationToken);
        return await StoreAsync(ticket, httpContext.Request.Headers.UserAgent.ToString(), db, cancellationToken);
    }

    public Task RenewAsync(string key, AuthenticationTicket ticket) => WithDbAsync(async db => await RenewAsync(key, ticket, db, default));

    public Task RenewAsync(string key, AuthenticationTicket ticket, HttpContext httpContext, CancellationToken cancellationToken) =>
        RenewAsync(key, ticket, Db(httpContext), cancellationToken);

    public Task<AuthenticationTicket?> RetrieveAsync(string key) => WithDbAsync(db => RetrieveAsync(key, db, default));

    public async Task<AuthenticationTicket?> RetrieveAsync(string key, HttpContext httpContext, CancellationToken cancellationToken)
    {
        if (!httpContext.Items.ContainsKey(nameof(ForgetBefore)))
        {
            return await RetrieveAsync(key, Db(httpContext), cancellationToken);
        }

        await RemoveAsync(key, Db(httpContext), cancellationToken);
        return null;
    }

    public Task RemoveAsync(string key) => WithDbAsync(async db => await RemoveAsync(key, db, default));

    public Task RemoveAsync(string key, HttpContext httpContext, CancellationToken cancellationToken) =>
        RemoveAsync(key, Db(httpContext), cancellationToken);

    /// <summary>Whatever session the request came with ends, and what begins in it has a key of its own.</summary>
    public static void ForgetBefore(HttpContext http) => http.Items[nameof(ForgetBefore)] = true;

    /// <summary>Ends every session of a person.</summary>
    public static Task EndAllAsync(GoldenRuleDb db, Guid person, CancellationToken cancel) =>
        db.Sessions.Where(s => s.PersonId == person).ExecuteDeleteAsync(cancel);

    private static GoldenRuleDb Db(HttpContext http) => http.RequestServices.GetRequiredService<GoldenRuleDb>();

    private async Task<T> WithDbAsync<T>(Func<GoldenRuleDb, Task<T>> use)
    {
        await using var scope = scopes.CreateAsyncScope();
        return await use(scope.ServiceProvider.GetRequiredService<GoldenRuleDb>());
    }

    private async Task<string> StoreAsync(AuthenticationTicket ticket, string browser, GoldenRuleDb db, CancellationToken cancel)
    {
        var now = clock.GetUtcNow().UtcDateTime;
        await db.Sessions.Where(s => s.ExpiresAt < now).ExecuteDeleteAsync(cancel);
        var key = WebEncoders.Base64UrlEncode(RandomNumberGenerator.GetBytes(32));
        var person = Guid.Parse(ticket.Principal.FindFirstValue(ClaimTypes.NameIdentifier)!);
        db.Sessions.Add(
            new StoredSession
            {
                Id = IdOf(key),
                PersonId = person,
                Ticket = TicketSerializer.Default.Serialize(ticket),
                BegunAt = now,
                ExpiresAt = now + Longest,
                SeenAt = now,
                Browser = browser.Length > 200 ? browser[..200] : browser,
            }
        );
        await db.SaveChangesAsync(cancel);
        return key;
    }

    private async Task<int> RenewAsync(string key, AuthenticationTicket ticket, GoldenRuleDb db, CancellationToken cancel)
    {
        var bytes = TicketSerializer.Default.Serialize(ticket);
        var until = clock.GetUtcNow().UtcDateTime + Longest;
        var id = IdOf(key);
        return await db
            .Sessions.Where(s => s.Id == id)
            .ExecuteUpdateAsync(s => s.SetProperty(x => x.Ticket, bytes).SetProperty(x => x.ExpiresAt, until), cancel);
    }

    private async Task<AuthenticationTicket?> RetrieveAsync(string key, GoldenRuleDb db, CancellationToken cancel)
    {
        var (id, now) = (IdOf(key), clock.GetUtcNow());
        if (await Found(db, id, cancel) is not { } found)
        {
            return null;
        }

        if (now.UtcDateTime - found.SeenAt > SeenWithin)
        {
            await db.Sessions.Where(s => s.Id == id).ExecuteUpdateAsync(s => s.SetProperty(x => x.SeenAt, now.UtcDateTime), cancel);
        }

        return Ticket(found, id, now);
    }

    /// <summary>A session with its person's roles as they are now; null: it has ended.</summary>
    /// <param name="id">As <see cref="SessionClaim"/> names it.</param>
    public async Task<AuthenticationTicket?> FindAsync(GoldenRuleDb db, string id, CancellationToken cancel)
    {
        return await Found(db, id, cancel) is { } found ? Ticket(found, id, clock.GetUtcNow()) : null;
    }

    private static AuthenticationTicket? Ticket(FoundSession found, string id, DateTimeOffset now)
    {
        if (found.ExpiresAt < now.UtcDateTime || found.LockedUntil > now)
        {
            return null;
        }

        var ticket = TicketSerializer.Default.Deserialize(found.Ticket);
        return ticket is not null && ticket.Principal.FindFirstValue(Stamp) == found.Stamp
            ? Completed(ticket, id, found.Roles, found.InTeams)
            : null;
    }

    private static async Task<int> RemoveAsync(string key, GoldenRuleDb db, CancellationToken cancel)
    {
        var id = IdOf(key);
        return await db.Sessions.Where(s => s.Id == id).ExecuteDeleteAsync(cancel);
    }

    // Whoever reads the database cannot sign in with what it holds.
    private static string IdOf(string key) => Convert.ToHexStringLower(SHA256.HashData(Encoding.ASCII.GetBytes(key)));

    private static AuthenticationTicket Completed(
        AuthenticationTicket ticket,
        string id,
        IReadOnlyList<string> roles,
        IReadOnlyList<TeamRole> inTeams
    )
    {
        var identity = (ClaimsIdentity)ticket.Principal.Identity!;
        identity.FindAll(Session.TeamClaim).ToList().ForEach(identity.RemoveClaim);
        identity.AddClaims(inTeams.Select(held => new Claim(Session.TeamClaim, $"{held.Team} {held.Role}")));
        if (!identity.HasClaim(SessionClaim, id))
        {
            identity.AddClaim(new Claim(SessionClaim, id));
        }

        var known = identity.FindAll(identity.RoleClaimType).ToList();
        if (known.Count == roles.Count && known.TrueForAll(k => roles.Contains(k.Value)))
        {
            return ticket;
        }

        known.ForEach(identity.RemoveClaim);
        identity.AddClaims(roles.Select(role => new Claim(identity.RoleClaimType, role)));
        return ticket;
    }

    // Asked with every request: compiled once.
    private static readonly Func<GoldenRuleDb, string, CancellationToken, Task<FoundSession?>> Found = EF.CompileAsyncQuery(
        (GoldenRuleDb db, string id, CancellationToken _) =>
            db
                .Sessions.Where(s => s.Id == id)
                .Join(
                    db.Users,
                    s => s.PersonId,
                    u => u.Id,
                    (s, u) =>
                        new FoundSession(
                            s.Ticket,
                            s.ExpiresAt,
                            s.SeenAt,
                            u.SecurityStamp,
                            u.LockoutEnd,
                            db.UserRoles.Where(r => r.UserId == u.Id)
                                .Join(db.Roles, r => r.RoleId, r => r.Id, (_, role) => role.Name!)
                                .ToList(),
                            db.TeamMembers.Where(m => m.PersonId == u.Id).Select(m => new TeamRole(m.TeamId, m.Role)).ToList()
                        )
                )
                .FirstOrDefault()
    );

    private sealed record FoundSession(
        byte[] Ticket,
        DateTime ExpiresAt,
        DateTime SeenAt,
        string? Stamp,
        DateTimeOffset? LockedUntil,
        List<string> Roles,
        List<TeamRole> InTeams
    );
}
