using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.People;

public sealed record SignIn(string Email, string Password);

/// <param name="Old">The password that holds now.</param>
/// <param name="New">At least 12 characters.</param>
public sealed record PasswordChange(string Old, string New);

/// <summary>Who is signed in.</summary>
/// <param name="Roles">Those that hold everywhere.</param>
/// <param name="InTeams">Those that hold for the campaign types of a team.</param>
public sealed record SessionAnswer(Guid Id, string Name, ImmutableArray<Role> Roles, ImmutableArray<TeamRole> InTeams);

/// <summary>Someone who can be named in a reservation or answer for something.</summary>
public sealed record PersonEntry(Guid Id, string Name);

public static class Session
{
    /// <summary>Claim for each role in a team: the team's id, a space, the role.</summary>
    public const string TeamClaim = "team-role";

    public static void MapSession(this IEndpointRouteBuilder api)
    {
        api.MapPost("/session", SignInAsync).AllowAnonymous().WithName("signIn");
        api.MapGet("/session", Current).AllowAnonymous().WithName("getSession");
        api.MapDelete("/session", SignOutAsync).WithName("signOut");
        api.MapDelete("/sessions", SignOutEverywhereAsync).WithName("signOutEverywhere");
        api.MapPost("/session/password", ChangePasswordAsync).WithName("changePassword");
        api.MapGet("/people", async (GoldenRuleDb db, CancellationToken cancel) =>
                (await db.Users.OrderBy(u => u.Name).Select(u => new PersonEntry(u.Id, u.Name)).ToListAsync(cancel)).ToImmutableArray()
            )
            .WithTags("People")
            .WithName("listPeople");
    }

    /// <summary>The person behind a signed-in request, with the roles of the sign-in.</summary>
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
        SignInTries tries
    )
    {
        var sender = Sender(http);
        tries.Check(request.Email, sender);
        var account = await accounts.FindByEmailAsync(request.Email);
        // Who is not known is looked at as long as who is.
        var isRight = await accounts.CheckPasswordAsync(account ?? Nobody, request.Password) && account is not null;
        if (!isRight || await accounts.IsLockedOutAsync(account!))
        {
            tries.Failed(request.Email, sender);
            throw new ProblemException(401, "sign-in", "Not signed in", "The email address or the password is not right.");
        }

        return await BeginAsync(account!, signIn, accounts, db);
    }

    private static async Task<SessionAnswer> BeginAsync(
        Account account,
        SignInManager<Account> signIn,
        UserManager<Account> accounts,
        GoldenRuleDb db
    )
    {
        var roles = await accounts.GetRolesAsync(account);
        var inTeams = await db.TeamMembers.Where(m => m.PersonId == account.Id).Select(m => new TeamRole(m.TeamId, m.Role)).ToListAsync();
        await signIn.SignInWithClaimsAsync(account, isPersistent: true, [new Claim(ClaimTypes.GivenName, account.Name)]);
        return new SessionAnswer(account.Id, account.Name, [.. roles.Select(r => Enum.Parse<Role>(r))], [.. inTeams]);
    }

    private static async Task<IResult> SignOutAsync(SignInManager<Account> signIn)
    {
        await signIn.SignOutAsync();
        return Results.NoContent();
    }

    private static async Task<IResult> SignOutEverywhereAsync(
        ClaimsPrincipal user,
        SignInManager<Account> signIn,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        await SessionStore.EndAllAsync(db, user.Person().Id, cancel);
        await signIn.SignOutAsync();
        return Results.NoContent();
    }

    /// <summary>Every other session of the person ends; this one goes on.</summary>
    private static async Task<SessionAnswer> ChangePasswordAsync(
        PasswordChange request,
        ClaimsPrincipal user,
        HttpContext http,
        SignInManager<Account> signIn,
        UserManager<Account> accounts,
        GoldenRuleDb db,
        SignInTries tries
    )
    {
        var account = await accounts.FindByIdAsync(user.Person().Id.ToString())
            ?? throw ProblemException.NotFound("There is no such account any more.");
        tries.Check(account.Email!, Sender(http));
        if (!await accounts.CheckPasswordAsync(account, request.Old))
        {
            tries.Failed(account.Email!, Sender(http));
            throw ProblemException.Invalid("The password that you have now is not right.", "old");
        }

        if (request.New == request.Old)
        {
            throw ProblemException.Invalid("The new password is the one that you have. Choose another.", "new");
        }

        if (await accounts.ChangePasswordAsync(account, request.Old, request.New) is { Succeeded: false } refused)
        {
            throw ProblemException.Invalid(string.Join(' ', refused.Errors.Select(e => e.Description)), "new");
        }

        // What the account is known by has changed, and no session that was begun before it is believed: this one is renewed.
        return await BeginAsync(account, signIn, accounts, db);
    }

    private static string Sender(HttpContext http) => http.Connection.RemoteIpAddress?.ToString() ?? "";

    private static readonly Account Nobody = Unknown();

    private static Account Unknown()
    {
        var nobody = new Account { Name = "" };
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
