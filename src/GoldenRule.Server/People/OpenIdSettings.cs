using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Server.People;

/// <summary>What a claim of the identity provider comes to here.</summary>
/// <param name="Team">Name of the team it holds in; null: everywhere.</param>
public sealed record ClaimedRole(Role Role, string? Team)
{
    /// <summary>"Author" or "Author in Events".</summary>
    public static ClaimedRole? Read(string written)
    {
        if (written.Length == 0)
        {
            return null;
        }

        var parts = written.Split(" in ", 2, StringSplitOptions.TrimEntries);
        return Enum.TryParse<Role>(parts[0], ignoreCase: true, out var role) && Enum.IsDefined(role) && !char.IsDigit(written[0])
            ? new ClaimedRole(role, parts.Length == 2 ? parts[1] : null)
            : null;
    }
}

/// <summary>Signing in with an identity provider by OpenID Connect, as the settings under "OpenIdConnect" say.</summary>
public sealed record OpenIdSettings
{
    /// <summary>The scheme's name, and the provider's in the table of logins.</summary>
    public const string Scheme = "openid";

    /// <summary>Where the provider sends people back to; the provider has to know it.</summary>
    public const string Callback = "/signin-openid";

    /// <summary>Address of the provider (its issuer). Empty: nobody signs in by it.</summary>
    public string Authority { get; init; } = "";

    public string ClientId { get; init; } = "";

    public string ClientSecret { get; init; } = "";

    /// <summary>What the sign-in page calls it.</summary>
    public string Name { get; init; } = "your company's sign-in";

    /// <summary>True: whoever signs in for the first time gets an account. False: only those who were invited sign in.</summary>
    public bool MakePeople { get; init; }

    /// <summary>The claim that holds groups or roles.</summary>
    public string RolesClaim { get; init; } = "groups";

    /// <summary>
    /// "Author" or "Author in Events" by the claim's value. None: roles are set here. Any: they are set with each sign-in, and a value that
    /// is not here says nothing.
    /// </summary>
    public Dictionary<string, string> Roles { get; init; } = [];

    public bool IsSet => Authority.Length > 0;

    /// <exception cref="InvalidOperationException">A setting names a role that there is not.</exception>
    public ImmutableDictionary<string, ClaimedRole> ClaimedRoles() =>
        Roles.ToImmutableDictionary(
            r => r.Key,
            r =>
                ClaimedRole.Read(r.Value)
                ?? throw new InvalidOperationException(
                    $"OpenIdConnect:Roles:{r.Key} is \"{r.Value}\", which is no role. "
                        + "Write Lead, Designer, Author or Reviewer, or \"Author in Events\"."
                ),
            StringComparer.Ordinal
        );
}
