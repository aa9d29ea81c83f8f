using System.Collections.Immutable;

namespace GoldenRule.Core.Documents;

/// <summary>Whoever asks to change something.</summary>
public sealed record Person(Guid Id, string Name, ImmutableArray<Role> Roles)
{
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
}
