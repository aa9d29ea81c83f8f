using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.People;

/// <param name="Code">Of the authenticator app, or a recovery code; null: it was not asked for yet.</param>
public sealed record SignIn(string Email, string Password, string? Code = null);

/// <summary>Who is signed in.</summary>
/// <param name="Roles">Those that hold everywhere.</param>
/// <param name="InTeams">Those that hold for the campaign types of a team.</param>
public sealed record SessionAnswer(Guid Id, string Name, ImmutableArray<Role> Roles, ImmutableArray<TeamRole> InTeams);

/// <summary>What of this server is set up, for whoever is not signed in too.</summary>
/// <param name="Empty">Nobody is here yet: it waits for its first lead.</param>
/// <param name="Mail">It sends mail: people can be invited, and ask for a new password.</param>
/// <param name="OpenId">What the identity provider that people may sign in with is called; null: there is none.</param>
/// <param name="Mailroom">Its mail goes to a simulated mailbox that leads read here.</param>
public sealed record ServerAnswer(bool Empty, bool Mail, string? OpenId, bool Mailroom);

/// <summary>Somewhere that the person is signed in.</summary>
/// <param name="Id">By which it is ended.</param>
/// <param name="Browser">What it calls itself.</param>
/// <param name="Here">It is the one that asks.</param>
public sealed record OwnSession(string Id, string Browser, DateTime BegunAt, DateTime SeenAt, bool Here);

/// <summary>Someone who can be named in a reservation or answer for something.</summary>
public sealed record PersonEntry(Guid Id, string Name);

public static class Session
{
    /// <summary>Claim for each role in a team: the team's id, a space, the role.</summary>
    public const string TeamClaim = "team-role";

    public static void MapSession(this IEndpointRouteBuilder api)
    {
        api.MapPost("/session", SignInAsync).AllowAnonymous().WithName("signIn");
        api.MapGet(
                "/server",
                async (
                    Mail.Outbox outbox,
                    OpenIdSettings openId,
                    IConfiguration configuration,
                    GoldenRuleDb db,
                    CancellationToken cancel
                ) =>
                    new ServerAnswer(
                        !await db.Users.AnyAsync(cancel),
                        outbox.Sends,
                        openId.IsSet ? openId.Name : null,
                        configuration["Mailroom"] is { Length: > 0 }
                    )
            )
            .AllowAnonymous()
            .WithTags("People")
            .WithName("getServer");
        api.MapGet("/session", Current).AllowAnonymous().WithName("getSession");
        api.MapDelete("/session", SignOutAsync).WithName("signOut");
        api.MapGet("/sessions", ListAsync).WithTags("People").WithName("listSessions");
        api.MapDelete("/sessions", SignOutEverywhereAsync).WithName("signOutEverywhere");
        api.MapDelete("/sessions/{id}", EndAsync).WithTags("People").WithName("endSession");
        api.MapGet("/people", async (GoldenRuleDb db, CancellationToken cancel) =>
                (
                    await db
                        .Users.Where(u => u.DeactivatedAt == null && u.ErasedAt == null)
                        .OrderBy(u => u.Name)
                        .Select(u => new PersonEntry(u.Id, u.Name))
                        .ToListAsync(cancel)
                ).ToImmutableArray()
            )
            .WithTags("People")
            .WithName("listPeople");
    }

    /// <summary>The person behind a signed-in request, with the roles of the moment.</summary>
    public static Person Person(this ClaimsPrincipal user) =>
        new(
            Guid.Parse(user.FindFirstValue(ClaimTypes.NameIdentifier)!),
            user.FindFirstValue(ClaimTypes.GivenName) ?? user.Identity?.Name ?? "",
            [.. user.FindAll(ClaimTypes.Role).Select(c => Enum.Parse<Role>(c.Value))]
        )
        {
            InTeams =
            [
                .. user.FindAll(TeamClaim)
                    .Select(c => c.Value.Split(' '))
                    .Select(held => new TeamRole(Guid.Parse(held[0]), Enum.Parse<Role>(held[1]))),
            ],
        };

    private static async Task<SessionAnswer> SignInAsync(
        SignIn request,
        HttpContext http,
        SignInManager<Account> signIn,
        UserManager<Account> accounts,
        GoldenRuleDb db,
        SignInTries tries,
        TimeProvider clock
    )
    {
        await MustBeNobodyAsync(http, db);
        var sender = Sender(http);
        tries.Check(request.Email, sender);
        var account = await accounts.FindByEmailAsync(request.Email);
        // Who is not known is looked at as long as who is.
        var isRight = await accounts.CheckPasswordAsync(account ?? Nobody, request.Password) && account is not null;
        if (!isRight || await accounts.IsLockedOutAsync(account!))
        {
            throw await RefusedAsync("The email address or the password is not right.");
        }

        if (account!.TwoFactorEnabled && request.Code is null)
        {
            throw new ProblemException(401, "second-factor", "A code is needed", "Type the code that your authenticator app shows now.");
        }

        if (account.TwoFactorEnabled && !await TwoFactor.IsRightAsync(account, request.Code!, accounts, clock))
        {
            throw await RefusedAsync("The code is not right, or was used already. Wait for the next one, or type a recovery code.");
        }

        return await BeginAsync(account, signIn, accounts, db, clock);

        async Task<ProblemException> RefusedAsync(string detail)
        {
            tries.Failed(request.Email, sender);
            // An address that nobody has is nobody's business, not the log's either.
            db.Record(clock, LogKind.SignInRefused, null, ofPerson: account?.Id);
            await db.SaveChangesAsync();
            return new ProblemException(401, "sign-in", "Not signed in", detail);
        }
    }

    /// <summary>
    /// Nobody signs in over a session that is there: whoever knows its key would be them. It ends, and they are asked to say it
    /// again without it.
    /// </summary>
    internal static async Task MustBeNobodyAsync(HttpContext http, GoldenRuleDb db)
    {
        if (http.User.FindFirstValue(SessionStore.SessionClaim) is { } before)
        {
            await db.Sessions.Where(s => s.Id == before).ExecuteDeleteAsync();
            throw new ProblemException(409, "session-before", "Someone was signed in here", "The session before has ended. Send it again.");
        }
    }

    /// <summary>Someone has shown who they are: a session begins here.</summary>
    internal static async Task<SessionAnswer> BeginAsync(
        Account account,
        SignInManager<Account> signIn,
        UserManager<Account> accounts,
        GoldenRuleDb db,
        TimeProvider clock
    )
    {
        db.Record(clock, LogKind.SignedIn, account.Id, ofPerson: account.Id);
        return await RenewAsync(account, signIn, accounts, db);
    }

    /// <summary>
    /// The session that is here goes on, under the same key: what the account is known by has changed, and sessions that were begun
    /// before it are not believed any more.
    /// </summary>
    internal static async Task<SessionAnswer> RenewAsync(
        Account account,
        SignInManager<Account> signIn,
        UserManager<Account> accounts,
        GoldenRuleDb db
    )
    {
        var roles = await accounts.GetRolesAsync(account);
        var inTeams = await db.TeamMembers.Where(m => m.PersonId == account.Id).Select(m => new TeamRole(m.TeamId, m.Role)).ToListAsync();
        await signIn.SignInWithClaimsAsync(account, isPersistent: true, [new Claim(ClaimTypes.GivenName, account.Name)]);
        await db.SaveChangesAsync();
        return new SessionAnswer(account.Id, account.Name, [.. roles.Select(r => Enum.Parse<Role>(r))], [.. inTeams]);
    }

    private static async Task<IResult> SignOutAsync(
        ClaimsPrincipal user,
        SignInManager<Account> signIn,
        GoldenRuleDb db,
        TimeProvider clock
    )
    {
        db.Record(clock, LogKind.SignedOut, user.Person().Id, ofPerson: user.Person().Id);
        await signIn.SignOutAsync();
        await db.SaveChangesAsync();
        return Results.NoContent();
    }

    private static async Task<IResult> SignOutEverywhereAsync(
        ClaimsPrincipal user,
        SignInManager<Account> signIn,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        await SessionStore.EndAllAsync(db, user.Person().Id, cancel);
        db.Record(clock, LogKind.SignedOut, user.Person().Id, "everywhere", ofPerson: user.Person().Id);
        await signIn.SignOutAsync();
        await db.SaveChangesAsync(cancel);
        return Results.NoContent();
    }

    private static async Task<ImmutableArray<OwnSession>> ListAsync(
        ClaimsPrincipal user,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var (person, here, now) = (user.Person().Id, user.FindFirstValue(SessionStore.SessionClaim), clock.GetUtcNow().UtcDateTime);
        return
        [
            .. await db
                .Sessions.Where(s => s.PersonId == person && s.ExpiresAt > now)
                .OrderByDescending(s => s.SeenAt)
                .Select(s => new OwnSession(s.Id, s.Browser, s.BegunAt, s.SeenAt, s.Id == here))
                .ToListAsync(cancel),
        ];
    }

    private static async Task<ImmutableArray<OwnSession>> EndAsync(
        string id,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var person = user.Person().Id;
        if (await db.Sessions.Where(s => s.Id == id && s.PersonId == person).ExecuteDeleteAsync(cancel) > 0)
        {
            db.Record(clock, LogKind.SessionEnded, person, ofPerson: person);
            await db.SaveChangesAsync(cancel);
        }

        return await ListAsync(user, db, clock, cancel);
    }

    /// <exception cref="ProblemException">It is another, or too many others were tried.</exception>
    internal static async Task MustKnowPasswordAsync(
        Account account,
        string password,
        HttpContext http,
        UserManager<Account> accounts,
        SignInTries tries
    )
    {
        tries.Check(account.Email!, Sender(http));
        if (!await accounts.CheckPasswordAsync(account, password))
        {
            tries.Failed(account.Email!, Sender(http));
            throw ProblemException.Invalid("The password that you have now is not right.", "old");
        }
    }

    internal static string Sender(HttpContext http) => http.Connection.RemoteIpAddress?.ToString() ?? "";

    internal static readonly Account Nobody = Unknown();

    private static Account Unknown()
    {
        var nobody = new Account
        {
            Id = Guid.NewGuid(),
            Name = "",
            SecurityStamp = Guid.NewGuid().ToString(),
        };
        nobody.PasswordHash = new PasswordHasher<Account>().HashPassword(nobody, Guid.NewGuid().ToString());
        return nobody;
    }

    // Nobody signed in is an answer, not an error.
    private static Results<Ok<SessionAnswer>, NoContent> Current(ClaimsPrincipal user)
    {
        if (user.Identity?.IsAuthenticated != true)
        {
            return TypedResults.NoContent();
        }

        var person = user.Person();
        return TypedResults.Ok(new SessionAnswer(person.Id, person.Name, person.Roles, person.InTeams));
    }
}
