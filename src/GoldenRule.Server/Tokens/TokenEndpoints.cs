using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Data;
using GoldenRule.Server.Destinations;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using GoldenRule.Server.People;
using GoldenRule.Server.Plan;
using Microsoft.AspNetCore.Authentication;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Tokens;

/// <param name="Beginning">Its first characters.</param>
/// <param name="UsedAt">To the minute. Null: never.</param>
public sealed record TokenEntry(
    Guid Id,
    string Name,
    string Beginning,
    ImmutableArray<string> Scopes,
    PersonEntry By,
    DateTime MadeAt,
    DateTime? UsedAt,
    DateTime? RevokedAt
);

public sealed record ScopeEntry(string Scope, string Words);

public sealed record TokenList(ImmutableArray<TokenEntry> All, ImmutableArray<ScopeEntry> Scopes);

/// <param name="Id">UUIDv7 made by the client.</param>
public sealed record TokenRequest(Guid Id, string Name, ImmutableArray<string> Scopes);

/// <param name="Token">Shown once: only a hash of it is kept.</param>
public sealed record TokenMade(string Token, TokenList List);

/// <summary>Tokens for programs: made, shown once, revoked.</summary>
public static class TokenEndpoints
{
    private const int Most = 100;

    public static void AddTokens(this AuthenticationBuilder authentication) =>
        authentication.AddScheme<AuthenticationSchemeOptions, TokenSignIn>(TokenSignIn.Scheme, null);

    public static void MapTokens(this IEndpointRouteBuilder api)
    {
        var all = api.MapGroup("/tokens").WithTags("API tokens").OnlyWhoSetsUp();
        all.MapGet("", (GoldenRuleDb db, CancellationToken cancel) => ListAsync(db, cancel)).WithName("listTokens");
        all.MapPost("", MakeAsync).WithName("makeToken");
        all.MapDelete("/{id:guid}", RevokeAsync).WithName("revokeToken");
    }

    private static async Task<TokenList> ListAsync(GoldenRuleDb db, CancellationToken cancel)
    {
        var stored = await db.Tokens.AsNoTracking().OrderByDescending(t => t.MadeAt).ToListAsync(cancel);
        var people = stored.Select(t => t.MadeBy).Distinct().ToList();
        var names = await db.Users.Where(u => people.Contains(u.Id)).ToDictionaryAsync(u => u.Id, u => u.Name, cancel);
        return new(
            [
                .. stored.Select(t => new TokenEntry(
                    t.Id,
                    t.Name,
                    t.Beginning,
                    [.. t.Scopes],
                    new(t.MadeBy, names.GetValueOrDefault(t.MadeBy, "")),
                    t.MadeAt,
                    t.UsedAt,
                    t.RevokedAt
                )),
            ],
            [.. TokenScopes.All.Select(s => new ScopeEntry(s.Scope, s.Words))]
        );
    }

    private static async Task<TokenMade> MakeAsync(
        TokenRequest request,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var person = user.Person();
        var name = PlanName.Read(request.Name, "token");
        if (request.Scopes.FirstOrDefault(s => TokenScopes.All.All(k => k.Scope != s)) is { } unknown)
        {
            throw ProblemException.Invalid($"There is no scope \"{unknown}\".", "scopes");
        }

        if (request.Scopes.IsEmpty)
        {
            throw ProblemException.Invalid("Choose what the token may be used for.", "scopes");
        }

        if (await db.Tokens.AnyAsync(t => t.Id == request.Id, cancel))
        {
            throw ProblemException.Invalid("It was created already, and shown then. Revoke it and create another one.");
        }

        if (await db.Tokens.CountAsync(t => t.RevokedAt == null, cancel) >= Most)
        {
            throw ProblemException.Invalid($"There are at most {Most} tokens. Revoke one that is not used.");
        }

        var token = TokenSignIn.Make();
        var stored = new StoredToken
        {
            Id = request.Id,
            Name = name,
            Hash = TokenSignIn.HashOf(token),
            Beginning = token[..8],
            Scopes = [.. request.Scopes.Distinct(StringComparer.Ordinal)],
            MadeBy = person.Id,
            MadeAt = clock.GetUtcNow().UtcDateTime,
        };
        db.Tokens.Add(stored);
        db.Record(clock, LogKind.TokenMade, person.Id, name, null, new TokenTold(stored.Beginning, stored.Scopes));
        await db.SaveChangesAsync(cancel);
        return new(token, await ListAsync(db, cancel));
    }

    private static async Task<TokenList> RevokeAsync(
        Guid id,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var person = user.Person();
        var token = await db.Tokens.FirstOrDefaultAsync(t => t.Id == id, cancel)
            ?? throw ProblemException.NotFound("There is no such token.");
        if (token.RevokedAt is null)
        {
            token.RevokedAt = clock.GetUtcNow().UtcDateTime;
            db.Record(clock, LogKind.TokenRevoked, person.Id, token.Name, new TokenTold(token.Beginning, token.Scopes));
            await db.SaveChangesAsync(cancel);
        }

        return await ListAsync(db, cancel);
    }

    private sealed record TokenTold(string Beginning, string[] Scopes);
}
