using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using GoldenRule.Server.Mail;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.People;

/// <param name="Id">UUIDv7 made by the client: asked twice, one person is invited.</param>
/// <param name="Roles">Those that will hold everywhere; none: only what they have in teams.</param>
public sealed record Invitation(Guid Id, string Email, string Name, ImmutableArray<Role> Roles, ImmutableArray<TeamRole> InTeams);

/// <param name="Token">From the link.</param>
/// <param name="Password">At least 12 characters.</param>
public sealed record Acceptance(Guid Person, string Token, string Password, string? Name = null);

/// <summary>People are invited by email and come by the link in it, which works once and for a day.</summary>
public static class Invitations
{
    public const string Purpose = "invitation";

    public static readonly TimeSpan Valid = TimeSpan.FromDays(1);

    /// <summary>Far more than a company's authors.</summary>
    private const int MostPeople = 5000;

    public static void MapInvitations(this IEndpointRouteBuilder api)
    {
        var accounts = api.MapGroup("/accounts").WithTags("People");
        accounts.MapPost("", InviteAsync).WithName("invitePerson");
        accounts.MapPost("/{id:guid}/invitation", AgainAsync).WithName("inviteAgain");
        accounts.MapDelete("/{id:guid}/invitation", WithdrawAsync).WithName("withdrawInvitation");
        api.MapPost("/invitations/acceptance", AcceptAsync)
            .AllowAnonymous()
            .WithTags("People")
            .WithName("acceptInvitation")
            .RequireRateLimiting(RateLimits.Costly);
    }

    private static async Task<ImmutableArray<AccountEntry>> InviteAsync(
        Invitation request,
        HttpRequest http,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        UserManager<Account> accounts,
        Outbox outbox,
        PublicAddress address,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var by = AccountEndpoints.Leading(user);
        outbox.MustSend();
        var email = EmailAddress.Read(request.Email);
        var name = PersonName.Read(request.Name);
        await using var transaction = await db.TakeTurnAsync("people", cancel);
        if (await accounts.FindByIdAsync(request.Id.ToString()) is not null)
        {
            return await AccountEndpoints.ListAsync(db, clock, cancel);
        }

        if (await accounts.FindByEmailAsync(email) is { } taken)
        {
            throw new ProblemException(
                409,
                "address-taken",
                "The address is taken",
                taken.JoinedAt is null
                    ? $"{taken.Name} is invited at {email} already. Send the invitation again instead."
                    : $"{taken.Name} has the address {email} already."
            );
        }

        if (await db.Users.CountAsync(cancel) >= MostPeople)
        {
            throw ProblemException.Invalid($"There are at most {MostPeople:N0} people.");
        }

        var account = new Account
        {
            Id = request.Id,
            Name = name,
            UserName = email,
            Email = email,
            InvitedAt = clock.GetUtcNow().UtcDateTime,
        };
        AccountEndpoints.Expect(await accounts.CreateAsync(account));
        AccountEndpoints.Expect(await accounts.AddToRolesAsync(account, request.Roles.Distinct().Select(r => r.ToString())));
        var known = await db.Teams.Where(t => t.MergedInto == null).ToDictionaryAsync(t => t.Id, t => t.Name, cancel);
        if (request.InTeams.Any(held => !known.ContainsKey(held.Team)))
        {
            throw ProblemException.Invalid("One of the teams is not there any more. Look again, then choose.", "inTeams");
        }

        db.TeamMembers.AddRange(
            request
                .InTeams.Distinct()
                .Select(held => new TeamMember
                {
                    TeamId = held.Team,
                    PersonId = account.Id,
                    Role = held.Role,
                })
        );
        outbox.Add(db, account, await MailAsync(account, by, http, db, accounts, address));
        db.Record(
            clock,
            LogKind.PersonInvited,
            by.Id,
            "",
            null,
            new InvitedTold(request.Roles, [.. request.InTeams.Select(held => $"{held.Role} in {known[held.Team]}")]),
            account.Id
        );
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        outbox.Saved();
        return await AccountEndpoints.ListAsync(db, clock, cancel);
    }

    /// <summary>Another mail with another link; the one before does not work any more.</summary>
    private static async Task<ImmutableArray<AccountEntry>> AgainAsync(
        Guid id,
        HttpRequest http,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        UserManager<Account> accounts,
        Outbox outbox,
        PublicAddress address,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var by = AccountEndpoints.Leading(user);
        var account = await WaitingAsync(id, accounts);
        account.InvitedAt = clock.GetUtcNow().UtcDateTime;
        AccountEndpoints.Expect(await accounts.UpdateSecurityStampAsync(account));
        outbox.Add(db, account, await MailAsync(account, by, http, db, accounts, address));
        db.Record(clock, LogKind.PersonInvited, by.Id, ofPerson: id);
        await db.SaveChangesAsync(cancel);
        outbox.Saved();
        return await AccountEndpoints.ListAsync(db, clock, cancel);
    }

    private static async Task<ImmutableArray<AccountEntry>> WithdrawAsync(
        Guid id,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        UserManager<Account> accounts,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var by = AccountEndpoints.Leading(user);
        var account = await WaitingAsync(id, accounts);
        await db.OutgoingMails.Where(m => m.AccountId == id).ExecuteDeleteAsync(cancel);
        db.Record(clock, LogKind.InvitationWithdrawn, by.Id, ofPerson: id);
        AccountEndpoints.Expect(await accounts.DeleteAsync(account));
        return await AccountEndpoints.ListAsync(db, clock, cancel);
    }

    private static async Task<SessionAnswer> AcceptAsync(
        Acceptance request,
        HttpContext http,
        GoldenRuleDb db,
        UserManager<Account> accounts,
        SignInManager<Account> signIn,
        TimeProvider clock
    )
    {
        await Session.MustBeNobodyAsync(http, db);
        var account = await accounts.FindByIdAsync(request.Person.ToString());
        if (
            account is not { ErasedAt: null, JoinedAt: null, DeactivatedAt: null }
            || !await accounts.VerifyUserTokenAsync(account, accounts.Options.Tokens.EmailConfirmationTokenProvider, Purpose, request.Token)
        )
        {
            throw LinkIsOver("Ask whoever invited you to send the invitation again.");
        }

        if (request.Name is { } name)
        {
            account.Name = PersonName.Read(name);
        }

        // Once: whoever has a password has come, and the token was of the account as it was before.
        account.JoinedAt = clock.GetUtcNow().UtcDateTime;
        account.EmailConfirmed = true;
        db.Record(clock, LogKind.PersonJoined, account.Id, ofPerson: account.Id);
        Passwords.Expect(await accounts.AddPasswordAsync(account, request.Password), "password");
        return await Session.BeginAsync(account, signIn, accounts, db, clock);
    }

    internal static ProblemException LinkIsOver(string then) =>
        new(410, "link-over", "The link does not work any more", $"It was used already, or is too old, or another was sent since. {then}");

    private static async Task<Account> WaitingAsync(Guid id, UserManager<Account> accounts) =>
        await AccountEndpoints.FindAsync(id, accounts) is { JoinedAt: null } waiting
            ? waiting
            : throw ProblemException.Invalid("They have accepted the invitation already.");

    private static async Task<AccountMail> MailAsync(
        Account account,
        Person by,
        HttpRequest http,
        GoldenRuleDb db,
        UserManager<Account> accounts,
        PublicAddress address
    )
    {
        var token = await accounts.GenerateUserTokenAsync(account, accounts.Options.Tokens.EmailConfirmationTokenProvider, Purpose);
        return AccountMail.Invitation(
            account.Name,
            by.Name,
            await db.Organisations.Select(o => o.Name).SingleAsync(),
            Link(address, http, "join", account, token)
        );
    }

    /// <summary>What comes after # no server on the way sees.</summary>
    internal static string Link(PublicAddress address, HttpRequest http, string page, Account account, string token) =>
        $"{address.Base(http)}/{page}#person={account.Id}&token={Uri.EscapeDataString(token)}";

    private sealed record InvitedTold(ImmutableArray<Role> Roles, ImmutableArray<string> InTeams);
}
