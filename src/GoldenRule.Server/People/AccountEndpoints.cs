using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.People;

public enum AccountState
{
    /// <summary>The invitation is not accepted yet.</summary>
    Invited,
    Active,
    Deactivated,
}

/// <summary>A person as leads see them.</summary>
/// <param name="Roles">Those that hold everywhere.</param>
/// <param name="Version">Changes with the person: a change says what it was made of.</param>
/// <param name="InvitationExpires">Null: there is none that can be accepted.</param>
/// <param name="MailProblem">Why the last mail to them could not be sent; empty: it could.</param>
/// <param name="LastSeen">Null: they are signed in nowhere.</param>
public sealed record AccountEntry(
    Guid Id,
    string Name,
    string Email,
    AccountState State,
    ImmutableArray<Role> Roles,
    ImmutableArray<TeamRole> InTeams,
    bool TwoFactor,
    string Version,
    DateTime? InvitationExpires,
    string MailProblem,
    DateTime? LastSeen
);

/// <param name="Roles">Those that hold everywhere; none: only what they have in teams.</param>
/// <param name="Version">What the person was when this was chosen.</param>
public sealed record RolesChange(ImmutableArray<Role> Roles, string Version);

/// <param name="HandTo">Who answers for what they own from now on; null: it stays theirs.</param>
public sealed record Deactivation(Guid? HandTo = null);

/// <summary>Roles as the log tells them.</summary>
internal sealed record RolesTold(ImmutableArray<Role> Roles);

/// <summary>The people, for leads: their roles, whether they can sign in, and their erasure.</summary>
public static class AccountEndpoints
{
    public static void MapAccounts(this IEndpointRouteBuilder api)
    {
        var accounts = api.MapGroup("/accounts").WithTags("People");
        accounts
            .MapGet("", async (ClaimsPrincipal user, GoldenRuleDb db, TimeProvider clock, CancellationToken cancel) =>
            {
                _ = Leading(user);
                return await ListAsync(db, clock, cancel);
            })
            .WithName("listAccounts");
        accounts.MapPut("/{id:guid}/roles", SetRolesAsync).WithName("setRoles");
        accounts.MapPost("/{id:guid}/deactivation", DeactivateAsync).WithName("deactivateAccount");
        accounts.MapDelete("/{id:guid}/deactivation", ReactivateAsync).WithName("reactivateAccount");
        accounts.MapDelete("/{id:guid}", EraseAsync).WithName("eraseAccount");
    }

    internal static Person Leading(ClaimsPrincipal user)
    {
        var person = user.Person();
        person.MustBe("Leads of the whole library say who is here and what they are.", Role.Lead);
        return person;
    }

    internal static async Task<ImmutableArray<AccountEntry>> ListAsync(GoldenRuleDb db, TimeProvider clock, CancellationToken cancel)
    {
        var accounts = await db.Users.AsNoTracking().Where(u => u.ErasedAt == null).ToListAsync(cancel);
        var roles = (
            await db.UserRoles.Join(db.Roles, r => r.RoleId, r => r.Id, (held, role) => new { held.UserId, role.Name }).ToListAsync(cancel)
        ).ToLookup(r => r.UserId, r => Enum.Parse<Role>(r.Name!));
        var inTeams = (
            await db.TeamMembers.Where(m => db.Teams.Any(t => t.Id == m.TeamId && t.MergedInto == null)).ToListAsync(cancel)
        ).ToLookup(m => m.PersonId, m => new TeamRole(m.TeamId, m.Role));
        var seen = await db
            .Sessions.GroupBy(s => s.PersonId)
            .Select(g => new { g.Key, Seen = g.Max(s => s.SeenAt) })
            .ToDictionaryAsync(g => g.Key, g => (DateTime?)g.Seen, cancel);
        var mails = (
            await db
                .OutgoingMails.Where(m => m.AccountId != null)
                .GroupBy(m => m.AccountId!.Value)
                .Select(g => new { g.Key, g.OrderByDescending(m => m.AskedAt).First().Problem })
                .ToListAsync(cancel)
        ).ToDictionary(m => m.Key, m => m.Problem);
        var now = clock.GetUtcNow().UtcDateTime;
        return
        [
            .. accounts
                .OrderBy(a => a.Name, StringComparer.OrdinalIgnoreCase)
                .ThenBy(a => a.Id)
                .Select(a => new AccountEntry(
                    a.Id,
                    a.Name,
                    a.Email ?? "",
                    StateOf(a),
                    [.. roles[a.Id].Order()],
                    [.. inTeams[a.Id].OrderBy(r => r.Role)],
                    a.TwoFactorEnabled,
                    a.ConcurrencyStamp ?? "",
                    a.JoinedAt is null && a.InvitedAt is { } invited && invited + Invitations.Valid is var until && until > now
                        ? until
                        : null,
                    mails.GetValueOrDefault(a.Id, ""),
                    seen.GetValueOrDefault(a.Id)
                )),
        ];
    }

    private static AccountState StateOf(Account account) =>
        account switch
        {
            { DeactivatedAt: not null } => AccountState.Deactivated,
            { JoinedAt: null } => AccountState.Invited,
            _ => AccountState.Active,
        };

    private static async Task<ImmutableArray<AccountEntry>> SetRolesAsync(
        Guid id,
        RolesChange change,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        UserManager<Account> accounts,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var by = Leading(user);
        await using var transaction = await db.TakeTurnAsync("people", cancel);
        var account = await FindAsync(id, accounts);
        if (account.ConcurrencyStamp != change.Version)
        {
            throw new ProblemException(
                412,
                "changed-since",
                "Someone changed it meanwhile",
                $"Someone else changed {account.Name} since you looked. Look at what they are now, then set it again."
            );
        }

        var before = (await accounts.GetRolesAsync(account)).Select(Enum.Parse<Role>).Order().ToImmutableArray();
        var after = change.Roles.Distinct().Order().ToImmutableArray();
        if (before.Contains(Role.Lead) && !after.Contains(Role.Lead))
        {
            await MustLeaveALeadAsync(id, db, cancel);
        }

        Expect(await accounts.RemoveFromRolesAsync(account, before.Except(after).Select(r => r.ToString())));
        Expect(await accounts.AddToRolesAsync(account, after.Except(before).Select(r => r.ToString())));
        db.Record(clock, LogKind.RolesSet, by.Id, "", new RolesTold(before), new RolesTold(after), id);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return await ListAsync(db, clock, cancel);
    }

    private static async Task<ImmutableArray<AccountEntry>> DeactivateAsync(
        Guid id,
        Deactivation how,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        UserManager<Account> accounts,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var by = Leading(user);
        await using var transaction = await db.TakeTurnAsync("people", cancel);
        var account = await FindAsync(id, accounts);
        if (account.DeactivatedAt is null)
        {
            await MustLeaveALeadAsync(id, db, cancel);
            var handed = 0;
            if (how.HandTo is { } next)
            {
                if (next == id || !await db.Users.AnyAsync(u => u.Id == next && u.DeactivatedAt == null && u.JoinedAt != null, cancel))
                {
                    throw ProblemException.Invalid("Choose someone who can sign in to answer for what they own.", "handTo");
                }

                handed = await db.Documents.Where(d => d.Owner == id).ExecuteUpdateAsync(d => d.SetProperty(x => x.Owner, next), cancel);
            }

            account.DeactivatedAt = clock.GetUtcNow().UtcDateTime;
            account.LockoutEnabled = true;
            account.LockoutEnd = DateTimeOffset.MaxValue;
            Expect(await accounts.UpdateSecurityStampAsync(account));
            await SessionStore.EndAllAsync(db, id, cancel);
            db.Record(clock, LogKind.PersonDeactivated, by.Id, "", null, new HandedOver(handed), id);
            await db.SaveChangesAsync(cancel);
            await transaction.CommitAsync(cancel);
        }

        return await ListAsync(db, clock, cancel);
    }

    private static async Task<ImmutableArray<AccountEntry>> ReactivateAsync(
        Guid id,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        UserManager<Account> accounts,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var by = Leading(user);
        var account = await FindAsync(id, accounts);
        if (account.DeactivatedAt is not null)
        {
            (account.DeactivatedAt, account.LockoutEnd) = (null, null);
            db.Record(clock, LogKind.PersonReactivated, by.Id, ofPerson: id);
            Expect(await accounts.UpdateAsync(account));
        }

        return await ListAsync(db, clock, cancel);
    }

    /// <summary>Name and address go; what they did stays, as a former colleague's.</summary>
    private static async Task<ImmutableArray<AccountEntry>> EraseAsync(
        Guid id,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        UserManager<Account> accounts,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var by = Leading(user);
        await using var transaction = await db.TakeTurnAsync("people", cancel);
        var account = await FindAsync(id, accounts);
        if (account.DeactivatedAt is null)
        {
            throw ProblemException.Invalid($"{account.Name} can still sign in. Deactivate them first, and hand over what they own.");
        }

        account.Name = "A former colleague";
        account.UserName = account.Email = $"erased-{id}@invalid";
        account.PasswordHash = null;
        account.PhoneNumber = null;
        account.TwoFactorEnabled = false;
        account.ErasedAt = clock.GetUtcNow().UtcDateTime;
        Expect(await accounts.UpdateAsync(account));
        await db.UserTokens.Where(t => t.UserId == id).ExecuteDeleteAsync(cancel);
        await db.UserLogins.Where(l => l.UserId == id).ExecuteDeleteAsync(cancel);
        await db.UserRoles.Where(r => r.UserId == id).ExecuteDeleteAsync(cancel);
        await db.TeamMembers.Where(m => m.PersonId == id).ExecuteDeleteAsync(cancel);
        await db.OutgoingMails.Where(m => m.AccountId == id).ExecuteDeleteAsync(cancel);
        await db.KnownBrowsers.Where(b => b.PersonId == id).ExecuteDeleteAsync(cancel);
        await db.Notices.Where(n => n.PersonId == id).ExecuteDeleteAsync(cancel);
        db.Record(clock, LogKind.PersonErased, by.Id, ofPerson: id);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return await ListAsync(db, clock, cancel);
    }

    private static async Task MustLeaveALeadAsync(Guid id, GoldenRuleDb db, CancellationToken cancel)
    {
        var isLead = await db
            .UserRoles.Where(r => r.UserId == id)
            .AnyAsync(r => db.Roles.Any(role => role.Id == r.RoleId && role.Name == nameof(Role.Lead)), cancel);
        if (isLead && !await LeadsBesideAsync(id, db, cancel))
        {
            throw ProblemException.Invalid("Someone has to lead the library. Make another person a lead first.", "roles");
        }
    }

    /// <summary>Whether someone else leads who can sign in.</summary>
    internal static Task<bool> LeadsBesideAsync(Guid id, GoldenRuleDb db, CancellationToken cancel) =>
        db
            .UserRoles.Where(r => r.UserId != id)
            .Join(db.Roles.Where(r => r.Name == nameof(Role.Lead)), r => r.RoleId, r => r.Id, (held, _) => held.UserId)
            .Join(db.Users.Where(u => u.DeactivatedAt == null && u.JoinedAt != null), held => held, u => u.Id, (_, u) => u.Id)
            .AnyAsync(cancel);

    internal static async Task<Account> FindAsync(Guid id, UserManager<Account> accounts) =>
        await accounts.FindByIdAsync(id.ToString()) is { ErasedAt: null } found
            ? found
            : throw ProblemException.NotFound("There is no such person any more.");

    internal static void Expect(IdentityResult result)
    {
        if (!result.Succeeded)
        {
            throw result.Errors.Any(e => e.Code == nameof(IdentityErrorDescriber.ConcurrencyFailure))
                ? new ProblemException(
                    412,
                    "changed-since",
                    "Someone changed it meanwhile",
                    "Someone else changed this person. Look again."
                )
                : ProblemException.Invalid(string.Join(' ', result.Errors.Select(e => e.Description)));
        }
    }

    private sealed record HandedOver(int Documents);
}
