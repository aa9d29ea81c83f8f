using System.Security.Claims;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using GoldenRule.Server.Mail;
using Microsoft.AspNetCore.Identity;

namespace GoldenRule.Server.People;

/// <param name="Old">The password that holds now.</param>
/// <param name="New">At least 12 characters.</param>
public sealed record PasswordChange(string Old, string New);

public sealed record ResetRequest(string Email);

/// <param name="Token">From the link.</param>
/// <param name="Password">At least 12 characters.</param>
public sealed record PasswordReset(Guid Person, string Token, string Password);

/// <summary>Passwords are changed with the one before, or anew by a link that comes by mail.</summary>
public static class Passwords
{
    public static void MapPasswords(this IEndpointRouteBuilder api)
    {
        api.MapPost("/session/password", ChangeAsync).WithTags("People").WithName("changePassword");
        api.MapPost("/password-resets", AskAsync)
            .AllowAnonymous()
            .WithTags("People")
            .WithName("askForPasswordReset")
            .RequireRateLimiting(RateLimits.Costly);
        api.MapPost("/password-resets/acceptance", ResetAsync)
            .AllowAnonymous()
            .WithTags("People")
            .WithName("resetPassword")
            .RequireRateLimiting(RateLimits.Costly);
    }

    /// <summary>Every other session of the person ends; this one goes on.</summary>
    private static async Task<SessionAnswer> ChangeAsync(
        PasswordChange request,
        ClaimsPrincipal user,
        HttpContext http,
        SignInManager<Account> signIn,
        UserManager<Account> accounts,
        GoldenRuleDb db,
        SignInTries tries,
        Outbox outbox,
        TimeProvider clock
    )
    {
        var account = await accounts.FindByIdAsync(user.Person().Id.ToString())
            ?? throw ProblemException.NotFound("There is no such account any more.");
        await Session.MustKnowPasswordAsync(account, request.Old, http, accounts, tries);
        if (request.New == request.Old)
        {
            throw ProblemException.Invalid("The new password is the one that you have. Choose another.", "new");
        }

        db.Record(clock, LogKind.PasswordChanged, account.Id, ofPerson: account.Id);
        Tell(db, account, outbox);
        Expect(await accounts.ChangePasswordAsync(account, request.Old, request.New), "new");
        outbox.Saved();
        return await Session.RenewAsync(account, signIn, accounts, db);
    }

    /// <summary>The same answer whether there is such an address or not.</summary>
    private static async Task<IResult> AskAsync(
        ResetRequest request,
        HttpContext http,
        UserManager<Account> accounts,
        GoldenRuleDb db,
        SignInTries tries,
        Outbox outbox,
        PublicAddress address
    )
    {
        outbox.MustSend();
        // One address gets no more mails than one may try passwords.
        tries.Check(request.Email, Session.Sender(http));
        tries.Failed(request.Email, Session.Sender(http));
        var account = await accounts.FindByEmailAsync(request.Email.Trim());
        // Whoever is not known costs as much as who is.
        var token = await accounts.GeneratePasswordResetTokenAsync(account ?? Session.Nobody);
        if (account is { JoinedAt: not null, DeactivatedAt: null, ErasedAt: null })
        {
            outbox.Add(db, account, AccountMail.Reset(account.Name, Invitations.Link(address, http.Request, "reset", account, token)));
            await db.SaveChangesAsync();
            outbox.Saved();
        }

        return Results.Accepted();
    }

    /// <summary>Every session of the person ends; they sign in with the new password, and with their second factor.</summary>
    private static async Task<IResult> ResetAsync(
        PasswordReset request,
        UserManager<Account> accounts,
        GoldenRuleDb db,
        Outbox outbox,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var account = await accounts.FindByIdAsync(request.Person.ToString());
        if (
            account is not { JoinedAt: not null, DeactivatedAt: null, ErasedAt: null }
            || !await accounts.VerifyUserTokenAsync(
                account,
                accounts.Options.Tokens.PasswordResetTokenProvider,
                UserManager<Account>.ResetPasswordTokenPurpose,
                request.Token
            )
        )
        {
            throw Invitations.LinkIsOver("Ask for a new password once more.");
        }

        db.Record(clock, LogKind.PasswordReset, account.Id, ofPerson: account.Id);
        Tell(db, account, outbox);
        Expect(await accounts.ResetPasswordAsync(account, request.Token, request.Password), "password");
        await SessionStore.EndAllAsync(db, account.Id, cancel);
        outbox.Saved();
        return Results.NoContent();
    }

    // Where this server sends mail, its owner hears of it.
    private static void Tell(GoldenRuleDb db, Account account, Outbox outbox)
    {
        if (outbox.Sends)
        {
            outbox.Add(db, account, AccountMail.PasswordChanged(account.Name));
        }
    }

    internal static void Expect(IdentityResult result, string field)
    {
        if (!result.Succeeded)
        {
            throw ProblemException.Invalid(string.Join(' ', result.Errors.Select(e => e.Description)), field);
        }
    }
}
