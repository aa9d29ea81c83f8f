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

/// <summary>Who is signed in.</summary>
public sealed record SessionAnswer(Guid Id, string Name, ImmutableArray<Role> Roles);

/// <summary>Someone who can be named in a reservation or answer for something.</summary>
public sealed record PersonEntry(Guid Id, string Name);

public static class Session
{
    public static void MapSession(this IEndpointRouteBuilder api)
    {
        api.MapPost("/session", SignInAsync).AllowAnonymous().WithName("signIn");
        api.MapGet("/session", Current).AllowAnonymous().WithName("getSession");
        api.MapDelete("/session", SignOutAsync).WithName("signOut");
        api.MapGet("/people", async (GoldenRuleDb db, CancellationToken cancel) =>
            (await db.Users.OrderBy(u => u.Name).Select(u => new PersonEntry(u.Id, u.Name)).ToListAsync(cancel)).ToImmutableArray()).WithTags("People").WithName("listPeople");
    }

    /// <summary>The person behind a signed-in request, with the roles of the sign-in.</summary>
    public static Person Person(this ClaimsPrincipal user) => new(
        Guid.Parse(user.FindFirstValue(ClaimTypes.NameIdentifier)!),
        user.FindFirstValue(ClaimTypes.GivenName) ?? user.Identity?.Name ?? "",
        [.. user.FindAll(ClaimTypes.Role).Select(c => Enum.Parse<Role>(c.Value))]);

    private static async Task<SessionAnswer> SignInAsync(SignIn request, SignInManager<Account> signIn, UserManager<Account> accounts)
    {
        var account = await accounts.FindByEmailAsync(request.Email);
        var result = account is null
            ? SignInResult.Failed
            : await signIn.CheckPasswordSignInAsync(account, request.Password, lockoutOnFailure: true);
        if (result.IsLockedOut)
        {
            throw new ProblemException(429, "locked-out", "Too many tries", "Too many wrong passwords. Try again in five minutes.");
        }

        if (account is null || !result.Succeeded)
        {
            throw new ProblemException(401, "sign-in", "Not signed in", "The email address or the password is not right.");
        }

        var roles = await accounts.GetRolesAsync(account);
        await signIn.SignInWithClaimsAsync(account, isPersistent: true, [new Claim(ClaimTypes.GivenName, account.Name)]);
        return new SessionAnswer(account.Id, account.Name, [.. roles.Select(r => Enum.Parse<Role>(r))]);
    }

    private static async Task<IResult> SignOutAsync(SignInManager<Account> signIn)
    {
        await signIn.SignOutAsync();
        return Results.NoContent();
    }

    // Nobody signed in is an answer, not an error.
    private static Results<Ok<SessionAnswer>, NoContent> Current(ClaimsPrincipal user)
    {
        if (user.Identity?.IsAuthenticated != true)
        {
            return TypedResults.NoContent();
        }

        var person = user.Person();
        return TypedResults.Ok(new SessionAnswer(person.Id, person.Name, person.Roles));
    }
}
