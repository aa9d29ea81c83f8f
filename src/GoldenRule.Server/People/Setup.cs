using System.Security.Cryptography;
using System.Text;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using GoldenRule.Server.Plan;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.People;

/// <param name="Code">As the start command printed it.</param>
/// <param name="Organisation">Whose library it is.</param>
/// <param name="Password">At least 12 characters.</param>
public sealed record FirstLead(string Code, string Organisation, string Name, string Email, string Password);

/// <summary>
/// Where nobody is here yet, whoever has the code that the start command printed says whose library this is and becomes its first
/// lead. The setting "Setup:Code" gives the code; without it one is made and written to the server's log.
/// </summary>
public sealed partial class Setup(IConfiguration configuration, ILogger<Setup> log)
{
    private readonly string code = configuration["Setup:Code"] is { Length: > 0 } given
        ? given
        : RandomNumberGenerator.GetString("abcdefghjkmnpqrstuvwxyz23456789", 12);

    /// <summary>Writes the code where the operator looks, if nobody is here yet.</summary>
    public async Task TellAsync(GoldenRuleDb db, CancellationToken cancel)
    {
        if (configuration["Setup:Code"] is not { Length: > 0 } && !await db.Users.AnyAsync(cancel))
        {
            LogCode(log, code);
        }
    }

    public bool IsCode(string typed) =>
        CryptographicOperations.FixedTimeEquals(
            SHA256.HashData(Encoding.UTF8.GetBytes(typed.Trim())),
            SHA256.HashData(Encoding.UTF8.GetBytes(code))
        );

    [LoggerMessage(Level = LogLevel.Warning, Message = "Nobody is here yet. The code for the first lead is {Code}")]
    private static partial void LogCode(ILogger log, string code);
}

public static class SetupEndpoints
{
    public static void MapSetup(this IEndpointRouteBuilder api) =>
        api.MapPost("/setup", BeginAsync).AllowAnonymous().WithTags("People").WithName("setUp").RequireRateLimiting(RateLimits.Costly);

    private static async Task<SessionAnswer> BeginAsync(
        FirstLead request,
        HttpContext http,
        Setup setup,
        GoldenRuleDb db,
        UserManager<Account> accounts,
        SignInManager<Account> signIn,
        SignInTries tries,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.TakeTurnAsync("people", cancel);
        if (await db.Users.AnyAsync(cancel))
        {
            throw new ProblemException(
                410,
                "set-up-already",
                "Set up already",
                "This library has its first lead. Sign in, or ask to be invited."
            );
        }

        tries.Check("setup", Session.Sender(http));
        if (!setup.IsCode(request.Code))
        {
            tries.Failed("setup", Session.Sender(http));
            throw ProblemException.Invalid("That is not the code that the start command printed.", "code");
        }

        var email = EmailAddress.Read(request.Email);
        var account = new Account
        {
            Id = Guid.CreateVersion7(),
            Name = PersonName.Read(request.Name),
            UserName = email,
            Email = email,
            EmailConfirmed = true,
            JoinedAt = clock.GetUtcNow().UtcDateTime,
        };
        (await db.Organisations.SingleAsync(cancel)).Name = PlanName.Read(request.Organisation, "organisation");
        Passwords.Expect(await accounts.CreateAsync(account, request.Password), "password");
        AccountEndpoints.Expect(await accounts.AddToRoleAsync(account, nameof(Role.Lead)));
        db.Record(clock, LogKind.PersonJoined, account.Id, ofPerson: account.Id);
        var session = await Session.BeginAsync(account, signIn, accounts, db, clock);
        await transaction.CommitAsync(cancel);
        return session;
    }
}
