using System.Collections.Immutable;
using Microsoft.AspNetCore.Authorization;

namespace GoldenRule.Server.Tokens;

/// <summary>What a program with a token may do.</summary>
public static class TokenScopes
{
    public const string ReadHandOffs = "hand-offs:read";
    public const string ReportEvents = "events:write";

    /// <summary>The claim that says a scope.</summary>
    public const string Claim = "scope";

    public static ImmutableArray<(string Scope, string Words)> All { get; } =
    [(ReadHandOffs, "Find and fetch hand-offs"), (ReportEvents, "Report what readers did")];

    public static void AddPolicies(AuthorizationOptions options)
    {
        foreach (var (scope, _) in All)
        {
            options.AddPolicy(scope, p => p.AddAuthenticationSchemes(TokenSignIn.Scheme).RequireClaim(Claim, scope));
        }
    }
}
