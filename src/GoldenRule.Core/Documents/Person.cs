using System.Collections.Immutable;

namespace GoldenRule.Core.Documents;

/// <summary>A role that someone has in one team.</summary>
public sealed record TeamRole(Guid Team, Role Role);

/// <summary>Whoever asks to change something.</summary>
/// <param name="Roles">Those that hold everywhere.</param>
public sealed record Person(Guid Id, string Name, ImmutableArray<Role> Roles)
{
    /// <summary>What they are within teams; see the core's TeamPlan for where it holds.</summary>
    public ImmutableArray<TeamRole> InTeams { get; init; } = [];

    /// <summary>Whether they have one of the roles everywhere.</summary>
    public bool Is(params ReadOnlySpan<Role> roles)
    {
        foreach (var role in roles)
        {
            if (Roles.Contains(role))
            {
                return true;
            }
        }

        return false;
    }

    /// <summary>Whether they have one of the roles everywhere or in any team: for what all share.</summary>
    public bool IsAnywhere(params ReadOnlySpan<Role> roles)
    {
        foreach (var held in InTeams)
        {
            if (roles.Contains(held.Role))
            {
                return true;
            }
        }

        return Is(roles);
    }
}
