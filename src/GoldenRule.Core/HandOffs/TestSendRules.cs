using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;

namespace GoldenRule.Core.HandOffs;

/// <summary>Who may send an email to look at, and in how many ways.</summary>
public static class TestSendRules
{
    /// <summary>Sample readers, or combinations, of one test.</summary>
    public const int MostWays = 10;

    /// <summary>Addresses of one test.</summary>
    public const int MostAddresses = 20;

    /// <param name="others">It goes to anybody but whoever asks.</param>
    public static Decision MaySend(Person person, bool others) =>
        !others || person.Is(Role.Lead, Role.Designer, Role.Author)
            ? Decision.Yes
            : Refusals.Refuse(Rules.Role, "A lead, designer or author sends a test to others. You can send one to yourself.");

    /// <summary>
    /// The combinations of conditions that readers can meet, the first <see cref="MostWays"/>; none: there are no conditions.
    /// </summary>
    public static ImmutableArray<SeenCombination> Combinations(ImmutableArray<Condition> conditions, AudiencePlan plan) =>
        conditions.IsEmpty
            ? []
            : [.. Reachable.Solve(plan, conditions).All.Take(MostWays).Select(bits => SeenCombination.From(bits, conditions, plan))];
}
