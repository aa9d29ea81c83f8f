using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Numerics;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Audiences;

/// <summary>
/// Which of some conditions can hold together, found by what the fields' types allow and not by trying readers. Conditions that
/// ask different fields are solved apart, and every combination of theirs can be reached.
/// </summary>
public sealed class Reachable
{
    /// <summary>More combinations than these are not looked at one by one.</summary>
    public const int Most = 1 << 16;

    // Looks at what is left of a condition: some tens of nanoseconds each. Twelve conditions that hang together take two millions.
    private const int MostSteps = 5_000_000;

    private readonly ImmutableArray<ReaderVariable> variables;
    private readonly ImmutableArray<Part> parts;
    private ImmutableArray<ulong> all;
    private ImmutableArray<ulong> largest;
    private ImmutableArray<ulong> smallest;

    private Reachable(
        ImmutableArray<Condition> conditions,
        ImmutableArray<ReaderVariable> variables,
        ImmutableArray<Part> parts,
        bool complete
    )
    {
        (Conditions, this.variables, this.parts) = (conditions, variables, parts);
        Count = parts.Aggregate(BigInteger.One, (count, part) => count * part.Found.Length);
        IsComplete = complete && conditions.Length <= 64 && Count <= Most;
    }

    public ImmutableArray<Condition> Conditions { get; }

    /// <summary>False: there are more than <see cref="Most"/>, and none is given.</summary>
    public bool IsComplete { get; }

    /// <summary>How many there are; of those that are not complete at least so many.</summary>
    public BigInteger Count { get; }

    /// <summary>Each combination, the bit of every condition that holds set; the first conditions change least often.</summary>
    public ImmutableArray<ulong> All
    {
        get
        {
            if (all.IsDefault)
            {
                all = IsComplete
                    ?
                    [
                        .. parts
                            .Aggregate((IEnumerable<ulong>)[0UL], (made, part) => made.SelectMany(m => part.Found.Select(f => m | f.Holds)))
                            .OrderByDescending(Reversed),
                    ]
                    : [];
            }

            return all;
        }
    }

    /// <summary>Combinations with more than which none is: what readers get who get most.</summary>
    public ImmutableArray<ulong> Largest => largest.IsDefault ? largest = Ends(All, (less, more) => (less & more) == less) : largest;

    /// <summary>Combinations with less than which none is.</summary>
    public ImmutableArray<ulong> Smallest => smallest.IsDefault ? smallest = Ends(All, (more, less) => (less & more) == less) : smallest;

    private static ulong Reversed(ulong bits)
    {
        var reversed = 0UL;
        for (var bit = 0; bit < 64; bit++)
        {
            reversed |= (bits >> bit & 1) << (63 - bit);
        }

        return reversed;
    }

    /// <param name="within">Whether the second takes the place of the first.</param>
    private static ImmutableArray<ulong> Ends(ImmutableArray<ulong> all, Func<ulong, ulong, bool> within)
    {
        var ends = new List<ulong>();
        foreach (var one in all)
        {
            if (!ends.Exists(end => within(one, end)))
            {
                ends.RemoveAll(end => within(end, one));
                ends.Add(one);
            }
        }

        return [.. ends];
    }

    /// <summary>A made-up reader of one of the combinations: values by field, as they are kept.</summary>
    public ImmutableSortedDictionary<string, string> ReaderOf(ulong combination)
    {
        var reader = new SortedDictionary<string, string>(StringComparer.Ordinal);
        foreach (var part in parts)
        {
            for (var at = part.Found.First(f => f.Holds == (combination & part.Mask)).Last; at.Before is not null; at = at.Before)
            {
                var variable = variables[at.Variable];
                var (field, value) = (variable.Field.Key, variable.Values[at.Value]);
                if (value.Length > 0)
                {
                    var said = variable.Tag is null ? value : NameOf(variable);
                    reader[field] = reader.TryGetValue(field, out var tags) ? $"{tags};{said}" : said;
                }
            }
        }

        return reader.ToImmutableSortedDictionary(StringComparer.Ordinal);
    }

    // A tag that no test names stands for any of those.
    private string NameOf(ReaderVariable variable) =>
        variable.Tag is { Length: > 0 } named
            ? named
            : variable.Field.Choices.Except(variables.Where(v => v.Field.Key == variable.Field.Key).Select(v => v.Tag!)).First();

    public static Reachable Solve(AudiencePlan plan, ImmutableArray<Condition> conditions)
    {
        var written = conditions.Select(c => Audiences.Conditions.Expand(c, plan)).ToList();
        var graph = new ConditionGraph(plan, written);
        var roots = written.Select(graph.Add).ToList();
        var always = graph.AlwaysKnown().ToList();
        var (parts, complete, steps) = (ImmutableArray.CreateBuilder<Part>(), true, MostSteps);
        foreach (var group in Apart(graph, [.. roots, .. always]))
        {
            var here = Enumerable.Range(0, roots.Count).Where(i => group.Nodes.Contains(i)).ToList();
            var needed = group.Nodes.Where(i => i >= roots.Count).Select(i => always[i - roots.Count]).ToList();
            if (here.Any(i => i >= 64) || Part.Solve(graph, roots, here, needed, group.Variables, ref steps) is not { } part)
            {
                complete = false;
                continue;
            }

            parts.Add(part);
        }

        return new Reachable(conditions, graph.Variables, parts.ToImmutable(), complete);
    }

    // Nodes that ask a variable in common, directly or over others, belong together.
    private static IEnumerable<(HashSet<int> Nodes, List<int> Variables)> Apart(ConditionGraph graph, IReadOnlyList<int> roots)
    {
        var groups = new List<(HashSet<int> Nodes, HashSet<int> Variables)>();
        for (var i = 0; i < roots.Count; i++)
        {
            (HashSet<int> Nodes, HashSet<int> Variables) mine = ([i], [.. graph.VariablesOf(roots[i])]);
            foreach (var met in groups.Where(g => g.Variables.Overlaps(mine.Variables)).ToList())
            {
                groups.Remove(met);
                mine.Nodes.UnionWith(met.Nodes);
                mine.Variables.UnionWith(met.Variables);
            }

            groups.Add(mine);
        }

        return groups.Select(g => (g.Nodes, g.Variables.Order().ToList()));
    }

    /// <summary>Conditions that belong together, with every combination of them.</summary>
    private sealed record Part(ulong Mask, ImmutableArray<Found> Found)
    {
        // One variable after the other gets each of its values; what is left of the conditions by then is all that counts, so that
        // readers of whom the same is left go on as one. Null: there are too many.
        public static Part? Solve(
            ConditionGraph graph,
            IReadOnlyList<int> roots,
            IReadOnlyList<int> here,
            IReadOnlyList<int> needed,
            IReadOnlyList<int> variables,
            ref int steps
        )
        {
            var states = new List<State> { new([.. here.Select(i => roots[i]), .. needed], null, -1, 0) };
            foreach (var variable in variables)
            {
                var next = new Dictionary<int[], State>(SameNumbers.Instance);
                foreach (var state in states)
                {
                    steps -= graph.Variables[variable].Values.Length * state.Left.Length;
                    if (steps < 0 || next.Count > Most)
                    {
                        return null;
                    }

                    for (var value = 0; value < graph.Variables[variable].Values.Length; value++)
                    {
                        var left = Array.ConvertAll(state.Left, node => graph.With(node, variable, value));
                        if (left.AsSpan(here.Count).IndexOf(ConditionGraph.False) < 0)
                        {
                            next.TryAdd(left, new State(left, state, variable, value));
                        }
                    }
                }

                states = [.. next.Values];
            }

            var found = states.Select(state => new Found(
                here.Select((bit, i) => state.Left[i] == ConditionGraph.True ? 1UL << bit : 0UL).Aggregate(0UL, (a, b) => a | b),
                state
            ));
            return new Part(here.Aggregate(0UL, (mask, bit) => mask | (1UL << bit)), [.. found]);
        }
    }

    private sealed record Found(ulong Holds, State Last);

    /// <param name="Left">What is left of each condition, then of what always holds.</param>
    private sealed record State(int[] Left, State? Before, int Variable, int Value);

    private sealed class SameNumbers : IEqualityComparer<int[]>
    {
        public static SameNumbers Instance { get; } = new();

        public bool Equals(int[]? a, int[]? b) => a.AsSpan().SequenceEqual(b);

        public int GetHashCode(int[] numbers)
        {
            var hash = default(HashCode);
            hash.AddBytes(System.Runtime.InteropServices.MemoryMarshal.AsBytes(numbers.AsSpan()));
            return hash.ToHashCode();
        }
    }
}

/// <summary>What conditions come to with one plan's fields and audiences; each question is solved once.</summary>
public sealed class ConditionSolver(AudiencePlan plan)
{
    private const int Kept = 500;

    private readonly ConcurrentDictionary<string, Reachable> solved = new(StringComparer.Ordinal);

    public AudiencePlan Plan => plan;

    /// <summary>As long as it is kept, the same answer is the same object.</summary>
    public Reachable Solve(ImmutableArray<Condition> conditions)
    {
        if (solved.Count > Kept)
        {
            solved.Clear();
        }

        return solved.GetOrAdd(DocumentJson.Write(conditions), _ => Reachable.Solve(plan, conditions));
    }

    /// <summary>Whether all of these can hold of one reader, as one condition.</summary>
    public Reachable Together(params IEnumerable<Condition> conditions) => Solve([new Condition.Group(Matching.All, [.. conditions])]);
}
