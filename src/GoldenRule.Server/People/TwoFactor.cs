using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using Microsoft.AspNetCore.Identity;
using QRCoder;

namespace GoldenRule.Server.People;

/// <summary>How someone signs in.</summary>
/// <param name="RecoveryCodes">How many are left.</param>
public sealed record TwoFactorState(bool On, int RecoveryCodes);

/// <param name="Secret">To be typed where no camera is.</param>
/// <param name="QrCode">An SVG file.</param>
public sealed record TwoFactorBegun(string Secret, string QrCode);

/// <param name="Code">What the app shows.</param>
public sealed record TwoFactorCode(string Code);

/// <param name="Password">The one that holds now.</param>
public sealed record TwoFactorPassword(string Password);

/// <param name="Codes">Each opens once, where the app is not at hand. They are not shown again.</param>
public sealed record RecoveryCodes(ImmutableArray<string> Codes);

/// <summary>A second factor by an authenticator app: begun, confirmed by a code of it, ended with the password.</summary>
public static class TwoFactor
{
    private const int CodesGiven = 10;

    public static void MapTwoFactor(this IEndpointRouteBuilder api)
    {
        var factor = api.MapGroup("/session/two-factor").WithTags("People");
        factor.MapGet("", StateAsync).WithName("getTwoFactor");
        factor.MapPost("", BeginAsync).WithName("beginTwoFactor");
        factor.MapPost("/confirmation", ConfirmAsync).WithName("confirmTwoFactor");
        factor.MapPost("/recovery-codes", RenewCodesAsync).WithName("renewRecoveryCodes");
        factor.MapPost("/end", EndAsync).WithName("endTwoFactor");
    }

    /// <summary>Whether what was typed is the account's second factor: a code of the app, or one of the recovery codes.</summary>
    internal static async Task<bool> IsRightAsync(Account account, string typed, UserManager<Account> accounts, TimeProvider clock)
    {
        var secret = await accounts.GetAuthenticatorKeyAsync(account);
        if (secret is not null && OneTimeCode.Step(secret, typed, clock.GetUtcNow().UtcDateTime, account.LastCodeStep) is { } step)
        {
            account.LastCodeStep = step;
            // Two windows that send the same code at once: one of them is told that it is used.
            return (await accounts.UpdateAsync(account)).Succeeded;
        }

        return (await accounts.RedeemTwoFactorRecoveryCodeAsync(account, typed.Trim().ToUpperInvariant())).Succeeded;
    }

    private static async Task<TwoFactorState> StateAsync(ClaimsPrincipal user, UserManager<Account> accounts)
    {
        var account = await OwnAsync(user, accounts);
        return new TwoFactorState(account.TwoFactorEnabled, await accounts.CountRecoveryCodesAsync(account));
    }

    /// <summary>A new secret; it counts once a code of it was typed.</summary>
    private static async Task<TwoFactorBegun> BeginAsync(
        TwoFactorPassword request,
        ClaimsPrincipal user,
        HttpContext http,
        GoldenRuleDb db,
        SignInManager<Account> signIn,
        UserManager<Account> accounts,
        SignInTries tries
    )
    {
        var account = await OwnAsync(user, accounts);
        await Session.MustKnowPasswordAsync(account, request.Password, http, accounts, tries);
        if (account.TwoFactorEnabled)
        {
            throw ProblemException.Invalid("You sign in with an app already. End that first, then set up another.");
        }

        AccountEndpoints.Expect(await accounts.ResetAuthenticatorKeyAsync(account));
        await Session.RenewAsync(account, signIn, accounts, db);
        var secret = (await accounts.GetAuthenticatorKeyAsync(account))!;
        using var generator = new QRCodeGenerator();
        using var data = generator.CreateQrCode(OneTimeCode.Address(secret, account.Email!), QRCodeGenerator.ECCLevel.M);
        using var svg = new SvgQRCode(data);
        return new TwoFactorBegun(secret, svg.GetGraphic(4));
    }

    private static async Task<RecoveryCodes> ConfirmAsync(
        TwoFactorCode request,
        ClaimsPrincipal user,
        HttpContext http,
        GoldenRuleDb db,
        SignInManager<Account> signIn,
        UserManager<Account> accounts,
        SignInTries tries,
        TimeProvider clock
    )
    {
        var account = await OwnAsync(user, accounts);
        tries.Check(account.Email!, Session.Sender(http));
        if (
            account.TwoFactorEnabled
            || await accounts.GetAuthenticatorKeyAsync(account) is not { } secret
            || OneTimeCode.Step(secret, request.Code, clock.GetUtcNow().UtcDateTime, null) is not { } step
        )
        {
            tries.Failed(account.Email!, Session.Sender(http));
            throw ProblemException.Invalid(
                "That is not the code that the app shows now. Wait for the next one and type it; check that the phone's clock is right.",
                "code"
            );
        }

        account.LastCodeStep = step;
        db.Record(clock, LogKind.TwoFactorOn, account.Id, ofPerson: account.Id);
        AccountEndpoints.Expect(await accounts.SetTwoFactorEnabledAsync(account, true));
        var codes = await accounts.GenerateNewTwoFactorRecoveryCodesAsync(account, CodesGiven);
        // Sessions that were begun with one factor end with it.
        await Session.RenewAsync(account, signIn, accounts, db);
        return new RecoveryCodes([.. codes!]);
    }

    private static async Task<RecoveryCodes> RenewCodesAsync(
        TwoFactorPassword request,
        ClaimsPrincipal user,
        HttpContext http,
        UserManager<Account> accounts,
        SignInTries tries
    )
    {
        var account = await OwnAsync(user, accounts);
        await Session.MustKnowPasswordAsync(account, request.Password, http, accounts, tries);
        return account.TwoFactorEnabled
            ? new RecoveryCodes([.. (await accounts.GenerateNewTwoFactorRecoveryCodesAsync(account, CodesGiven))!])
            : throw ProblemException.Invalid("You sign in with a password alone. Set up an app first.");
    }

    private static async Task<TwoFactorState> EndAsync(
        TwoFactorPassword request,
        ClaimsPrincipal user,
        HttpContext http,
        GoldenRuleDb db,
        SignInManager<Account> signIn,
        UserManager<Account> accounts,
        SignInTries tries,
        TimeProvider clock
    )
    {
        var account = await OwnAsync(user, accounts);
        await Session.MustKnowPasswordAsync(account, request.Password, http, accounts, tries);
        if (account.TwoFactorEnabled)
        {
            db.Record(clock, LogKind.TwoFactorOff, account.Id, ofPerson: account.Id);
            AccountEndpoints.Expect(await accounts.SetTwoFactorEnabledAsync(account, false));
            AccountEndpoints.Expect(await accounts.ResetAuthenticatorKeyAsync(account));
            await Session.RenewAsync(account, signIn, accounts, db);
        }

        return new TwoFactorState(false, 0);
    }

    private static async Task<Account> OwnAsync(ClaimsPrincipal user, UserManager<Account> accounts) =>
        await accounts.FindByIdAsync(user.Person().Id.ToString()) ?? throw ProblemException.NotFound("There is no such account any more.");
}
