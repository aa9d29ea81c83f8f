using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Logs;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.OpenIdConnect;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.People;

/// <summary>
/// Signing in with an identity provider: OpenID Connect's code flow with PKCE (RFC 7636). Whose token it is, that it is for us, fresh
/// and of this sign-in, the framework's handler checks; here is who that is, and what they are.
/// </summary>
public static class OpenIdSignIn
{
    /// <summary>What the sign-in page is told where it failed.</summary>
    private const string Failed = "/#sign-in-failed";

    public static void Add(AuthenticationBuilder authentication, OpenIdSettings settings)
    {
        var roles = settings.ClaimedRoles();
        authentication.AddOpenIdConnect(OpenIdSettings.Scheme, o =>
        {
            o.Authority = settings.Authority;
            o.ClientId = settings.ClientId;
            o.ClientSecret = settings.ClientSecret;
            o.CallbackPath = OpenIdSettings.Callback;
            o.SignInScheme = IdentityConstants.ApplicationScheme;
            o.ResponseType = "code";
            // The answer comes as an address, so that its cookies need no SameSite=None.
            o.ResponseMode = "query";
            o.UsePkce = true;
            o.MapInboundClaims = false;
            o.GetClaimsFromUserInfoEndpoint = false;
            o.RequireHttpsMetadata = !new Uri(settings.Authority).IsLoopback;
            o.Scope.Clear();
            o.Scope.Add("openid");
            o.Scope.Add("profile");
            o.Scope.Add("email");
            o.CorrelationCookie.SameSite = o.NonceCookie.SameSite = SameSiteMode.Lax;
            o.CorrelationCookie.SecurePolicy = o.NonceCookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
            o.TokenValidationParameters.NameClaimType = "name";
            o.Events.OnTokenValidated = context => BeginAsync(context, settings, roles);
            o.Events.OnRemoteFailure = async context =>
            {
                var services = context.HttpContext.RequestServices;
                var db = services.GetRequiredService<GoldenRuleDb>();
                db.ChangeTracker.Clear();
                db.Record(services.GetRequiredService<TimeProvider>(), LogKind.SignInRefused, null, settings.Name);
                await db.SaveChangesAsync();
                context.Response.Redirect(Failed);
                context.HandleResponse();
            };
        });
    }

    public static void MapOpenId(this IEndpointRouteBuilder api, OpenIdSettings settings) =>
        api.MapGet("/session/openid", () =>
                settings.IsSet
                    ? Results.Challenge(new AuthenticationProperties { RedirectUri = "/" }, [OpenIdSettings.Scheme])
                    : Results.NotFound()
            )
            .AllowAnonymous()
            .WithTags("People")
            .WithName("signInByOpenId");

    private static async Task BeginAsync(
        TokenValidatedContext context,
        OpenIdSettings settings,
        ImmutableDictionary<string, ClaimedRole> mapped
    )
    {
        var services = context.HttpContext.RequestServices;
        var (db, clock) = (services.GetRequiredService<GoldenRuleDb>(), services.GetRequiredService<TimeProvider>());
        var accounts = services.GetRequiredService<UserManager<Account>>();
        var token = context.Principal!;
        var account = await FindAsync(token, settings, accounts, db, clock);
        if (account is null or { DeactivatedAt: not null } or { ErasedAt: not null } || await accounts.IsLockedOutAsync(account))
        {
            context.Fail("Nobody here is who the provider says.");
            return;
        }

        if (!mapped.IsEmpty)
        {
            await SetRolesAsync(account, [.. token.FindAll(settings.RolesClaim).Select(c => c.Value)], mapped, accounts, db, clock);
        }

        db.Record(clock, LogKind.SignedIn, account.Id, settings.Name, ofPerson: account.Id);
        await db.SaveChangesAsync();
        // Nobody signs in over a session that is there.
        SessionStore.ForgetBefore(context.HttpContext);
        var principal = await services.GetRequiredService<SignInManager<Account>>().CreateUserPrincipalAsync(account);
        ((ClaimsIdentity)principal.Identity!).AddClaim(new Claim(ClaimTypes.GivenName, account.Name));
        context.Principal = principal;
        context.Properties!.IsPersistent = true;
    }

    // By what the provider knows them by; at the first time by an address that the provider has verified.
    private static async Task<Account?> FindAsync(
        ClaimsPrincipal token,
        OpenIdSettings settings,
        UserManager<Account> accounts,
        GoldenRuleDb db,
        TimeProvider clock
    )
    {
        var subject = token.FindFirstValue("sub")!;
        if (await accounts.FindByLoginAsync(OpenIdSettings.Scheme, subject) is { } known)
        {
            return known;
        }

        if (
            token.FindFirstValue("email") is not { Length: > 0 } said
            || !string.Equals(token.FindFirstValue("email_verified"), "true", StringComparison.OrdinalIgnoreCase)
        )
        {
            return null;
        }

        var email = EmailAddress.Read(said);
        var account = await accounts.FindByEmailAsync(email);
        if (account is null && settings.MakePeople)
        {
            account = new Account
            {
                Id = Guid.CreateVersion7(),
                Name = PersonName.Read(token.FindFirstValue("name") ?? email),
                UserName = email,
                Email = email,
                EmailConfirmed = true,
            };
            AccountEndpoints.Expect(await accounts.CreateAsync(account));
        }

        if (account is null)
        {
            return null;
        }

        if (account.JoinedAt is null)
        {
            account.JoinedAt = clock.GetUtcNow().UtcDateTime;
            db.Record(clock, LogKind.PersonJoined, account.Id, ofPerson: account.Id);
        }

        AccountEndpoints.Expect(await accounts.AddLoginAsync(account, new UserLoginInfo(OpenIdSettings.Scheme, subject, settings.Name)));
        return account;
    }

    // What the provider does not say any more is not so any more, but for the last lead.
    private static async Task SetRolesAsync(
        Account account,
        ImmutableArray<string> claimed,
        ImmutableDictionary<string, ClaimedRole> mapped,
        UserManager<Account> accounts,
        GoldenRuleDb db,
        TimeProvider clock
    )
    {
        var wanted = claimed.Select(c => mapped.GetValueOrDefault(c)).OfType<ClaimedRole>().Distinct().ToList();
        await using var transaction = await db.TakeTurnAsync("people", default);
        var before = (await accounts.GetRolesAsync(account)).Select(Enum.Parse<Role>).Order().ToImmutableArray();
        var after = wanted.Where(w => w.Team is null).Select(w => w.Role).Distinct().Order().ToImmutableArray();
        if (before.Contains(Role.Lead) && !after.Contains(Role.Lead) && !await AccountEndpoints.LeadsBesideAsync(account.Id, db, default))
        {
            after = [.. after.Add(Role.Lead).Order()];
        }

        var teams = await db.Teams.Where(t => t.MergedInto == null).ToListAsync();
        var held = await db.TeamMembers.Where(m => m.PersonId == account.Id).ToListAsync();
        HashSet<(Guid Team, Role Role)> inTeams =
        [
            .. from one in wanted
            from team in teams
            where string.Equals(team.Name, one.Team, StringComparison.OrdinalIgnoreCase)
            select (team.Id, one.Role),
        ];
        var isOther = !before.SequenceEqual(after) || !inTeams.SetEquals(held.Select(m => (m.TeamId, m.Role)));
        if (!isOther)
        {
            return;
        }

        AccountEndpoints.Expect(await accounts.RemoveFromRolesAsync(account, before.Except(after).Select(r => r.ToString())));
        AccountEndpoints.Expect(await accounts.AddToRolesAsync(account, after.Except(before).Select(r => r.ToString())));
        db.TeamMembers.RemoveRange(held.Where(m => !inTeams.Contains((m.TeamId, m.Role))));
        db.TeamMembers.AddRange(
            inTeams
                .Except(held.Select(m => (m.TeamId, m.Role)))
                .Select(
                    ((Guid Team, Role Role) r) =>
                        new TeamMember
                        {
                            TeamId = r.Team,
                            PersonId = account.Id,
                            Role = r.Role,
                        }
                )
        );
        db.Record(clock, LogKind.RolesSet, null, "by the identity provider", new RolesTold(before), new RolesTold(after), account.Id);
        await db.SaveChangesAsync();
        await transaction.CommitAsync();
    }
}
