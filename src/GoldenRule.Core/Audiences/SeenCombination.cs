using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Audiences;

/// <summary>Some of the conditions of an email hold, the others do not.</summary>
/// <param name="Conditions">In their order.</param>
/// <param name="Readers">Who they are, as a sentence.</param>
public sealed record SeenCombination(ImmutableArray<(Condition Condition, bool Holds)> Conditions, string Readers)
{
    private readonly ImmutableHashSet<string> holding = [.. Conditions.Where(c => c.Holds).Select(c => DocumentJson.Write(c.Condition))];

    /// <param name="bits">The bit of every condition that holds set, see <see cref="Reachable.All"/>.</param>
    public static SeenCombination From(ulong bits, ImmutableArray<Condition> conditions, AudiencePlan plan)
    {
        var said = conditions.Select((c, at) => (c, (bits >> at & 1) == 1)).ToImmutableArray();
        return new SeenCombination(said, ConditionWords.Both(said, plan));
    }

    /// <summary>Whether one of the conditions does.</summary>
    public bool Holds(Condition condition) => holding.Contains(DocumentJson.Write(condition));
}
