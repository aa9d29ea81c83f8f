using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;

namespace GoldenRule.Core.HandOffs;

/// <summary>Some of the conditions of an email hold, the others do not.</summary>
/// <param name="Holds">For each of the conditions, in their order.</param>
/// <param name="Readers">Who they are, as a sentence.</param>
public sealed record SeenCombination(ImmutableArray<bool> Holds, string Readers);

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
            : new Decision.Refused(Rules.Role, null, "A lead, designer or author sends a test to others. You can send one to yourself.");

    /// <summary>
    /// The combinations of conditions that readers can meet, the first <see cref="MostWays"/>; none: there are no conditions.
    /// </summary>
    public static ImmutableArray<SeenCombination> Combinations(ImmutableArray<Condition> conditions, AudiencePlan plan)
    {
        if (conditions.IsEmpty)
        {
            return [];
        }

        return
        [
            .. Reachable
                .Solve(plan, conditions)
                .All.Take(MostWays)
                .Select(bits =>
                {
                    var holds = conditions.Select((_, at) => (bits >> at & 1) == 1).ToImmutableArray();
                    return new SeenCombination(holds, ConditionWords.Both([.. conditions.Zip(holds)], plan));
                }),
        ];
    }
}
