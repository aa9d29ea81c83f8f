using System.Collections.Immutable;
using System.Threading;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking;

/// <summary>Asks checks of what each reader can see, and not only of all rows at once.</summary>
internal sealed class ByReaders
{
    private readonly Inspection whole;
    private readonly ConditionSolver solver;
    private readonly ImmutableArray<Condition> conditions;

    // Where each condition stands among those that are told apart.
    private readonly Dictionary<Condition, int> places = new(ReferenceEqualityComparer.Instance);

    // For each row: its own condition, negative where it has none, and those of its blocks, each once.
    private readonly (int Own, ImmutableArray<int> Blocks)[] rows;
    private readonly ImmutableArray<InspectedRow> all;
    private readonly Dictionary<(int Row, ulong Hidden), InspectedRow> variants = [];

    // Filled anew for each combination.
    private readonly bool[] hidden;
    private readonly List<InspectedRow> seen;

    private readonly CancellationToken cancel;

    private ByReaders(Inspection whole, CancellationToken cancel)
    {
        (this.whole, this.cancel) = (whole, cancel);
        solver = whole.Email.Inline.Conditions;
        var known = new Dictionary<string, int>(StringComparer.Ordinal);
        var told = ImmutableArray.CreateBuilder<Condition>();
        rows =
        [
            .. whole.Rows.Select(r =>
                (
                    r.Row.Condition is { } own ? Place(own) : -1,
                    r.Row.IsParted
                        ? r.Row.Blocks.Select(b => b.Condition).OfType<Condition>().Select(Place).Distinct().ToImmutableArray()
                        : []
                )
            ),
        ];
        conditions = told.DrainToImmutable();
        (all, hidden, seen) = (whole.Rows, new bool[conditions.Length], new(rows.Length));

        int Place(Condition condition)
        {
            if (!places.TryGetValue(condition, out var at))
            {
                var written = DocumentJson.Write(condition);
                if (!known.TryGetValue(written, out at))
                {
                    known[written] = at = told.Count;
                    told.Add(condition);
                }

                places[condition] = at;
            }

            return at;
        }
    }

    /// <summary>Null: every reader sees all of it.</summary>
    public static ByReaders? Of(Inspection inspection, CancellationToken cancel) =>
        inspection.HasConditions ? new(inspection, cancel) : null;

    public IEnumerable<Finding> Run(Check check) =>
        check switch
        {
            MeasuredCheck measured => OfTheMost(measured),
            { Asked: Asked.OfEachReader } => OfEach(check),
            _ => check.Run(whole),
        };

    private IEnumerable<Finding> OfEach(Check check)
    {
        var asked = Concerning(check);
        if (asked.Length == 0)
        {
            return check.Run(whole);
        }

        var reachable = Solve(asked);
        if (!reachable.IsComplete)
        {
            // What stands where it always does is proven; whether anything else helps everyone is not.
            return check.Necessary ? check.RunOn(Seen(asked, 0), whole) : check.Run(whole);
        }

        var found = new Dictionary<(Place, string, Severity), (Finding Finding, List<ulong> In)>();
        foreach (var combination in reachable.All)
        {
            cancel.ThrowIfCancellationRequested();
            foreach (var one in check.RunOn(Seen(asked, combination), whole))
            {
                var key = (one.Place, one.Message, one.Severity);
                if (found.TryGetValue(key, out var known))
                {
                    known.In.Add(combination);
                }
                else
                {
                    found[key] = (one, [combination]);
                }
            }
        }

        return found.Values.Select(f =>
            f.In.Count == reachable.All.Length ? f.Finding : f.Finding with { Readers = WhoSees(reachable, f.In) }
        );
    }

    private IEnumerable<Finding> OfTheMost(MeasuredCheck check)
    {
        var asked = Concerning(check);
        if (asked.Length == 0 || Solve(asked) is not { IsComplete: true } reachable)
        {
            return check.Run(whole);
        }

        var least = reachable.Smallest.Min(Measured);
        var (most, combination) = reachable.Largest.Select(c => (Measured(c), c)).Max();
        var found = check.RunOn(Seen(asked, combination), whole).ToList();
        return least == most
            ? found
            : found.Select(f =>
                f with
                {
                    Evidence = $"{f.Evidence}; the least that a reader gets is {check.Say(least)}",
                    Readers = WhoSees(reachable, [combination]),
                }
            );

        double Measured(ulong of) => check.Measure(whole.Seen([.. Seen(asked, of)]));
    }

    /// <summary>Which of the conditions make a difference to a check, by their places.</summary>
    private int[] Concerning(Check check)
    {
        var asked = new SortedSet<int>();
        for (var i = 0; i < rows.Length; i++)
        {
            if ((rows[i].Own >= 0 || !rows[i].Blocks.IsEmpty) && check.Concerns(whole.Rows[i]))
            {
                asked.UnionWith(rows[i].Own >= 0 ? rows[i].Blocks.Add(rows[i].Own) : rows[i].Blocks);
            }
        }

        return [.. asked];
    }

    private Reachable Solve(int[] asked) => solver.Solve([.. asked.Select(i => conditions[i])]);

    /// <param name="combination">Its bits are those that are asked, in their order.</param>
    /// <returns>The same list each time.</returns>
    private List<InspectedRow> Seen(int[] asked, ulong combination)
    {
        // What is not asked makes no difference, seen or not.
        Array.Clear(hidden);
        for (var i = 0; i < asked.Length; i++)
        {
            hidden[asked[i]] = i >= 64 || (combination >> i & 1) == 0;
        }

        seen.Clear();
        for (var i = 0; i < rows.Length; i++)
        {
            var (own, blocks) = rows[i];
            if (own < 0 || !hidden[own])
            {
                seen.Add(blocks.IsEmpty ? all[i] : Variant(i, blocks));
            }
        }

        return seen;
    }

    private InspectedRow Variant(int row, ImmutableArray<int> blocks)
    {
        var key = 0UL;
        for (var i = 0; i < blocks.Length && i < 64; i++)
        {
            key |= hidden[blocks[i]] ? 1UL << i : 0;
        }

        if (key == 0)
        {
            return all[row];
        }

        if (!variants.TryGetValue((row, key), out var variant))
        {
            variants[(row, key)] = variant = whole.Seen(all[row], c => !hidden[places[c]]);
        }

        return variant;
    }

    /// <summary>The readers of some combinations in as few conditions as tell them from all others.</summary>
    private FoundFor WhoSees(Reachable reachable, List<ulong> combinations)
    {
        var others = reachable.All.Except(combinations).ToArray();
        var (one, told) = (combinations[0], Mask(reachable.Conditions.Length));
        for (var bit = reachable.Conditions.Length - 1; bit >= 0; bit--)
        {
            var fewer = told & ~(1UL << bit);
            if (!others.Any(o => (o & fewer) == (one & fewer)))
            {
                told = fewer;
            }
        }

        var who = ConditionWords.Both(
            reachable
                .Conditions.Select((c, bit) => (Condition: c, Bit: 1UL << bit))
                .Where(c => (told & c.Bit) != 0)
                .Select(c => (c.Condition, (one & c.Bit) != 0)),
            solver.Plan
        );
        var rest = combinations.Exists(c => (c & told) != (one & told));
        return new FoundFor(rest ? who + ", and others" : who, reachable.ReaderOf(one));
    }

    private static ulong Mask(int bits) => bits == 64 ? ulong.MaxValue : (1UL << bits) - 1;
}
