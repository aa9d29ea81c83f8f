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

    private readonly Stretch[] stretches;
    private readonly Dictionary<(int Stretch, ulong Hidden), InspectedRow[]> variants = [];

    // Filled anew for each combination.
    private readonly bool[] hidden;
    private readonly List<InspectedRow> seen;

    private readonly CancellationToken cancel;
    private (int[] Asked, Reachable Reachable) solved = ([], null!);

    private ByReaders(Inspection whole, CancellationToken cancel)
    {
        (this.whole, this.cancel) = (whole, cancel);
        solver = whole.Email.Inline.Conditions;
        var known = new Dictionary<string, int>(StringComparer.Ordinal);
        var told = ImmutableArray.CreateBuilder<Condition>();
        stretches = [.. Stretches()];
        conditions = told.DrainToImmutable();
        (hidden, seen) = (new bool[conditions.Length], new(whole.Rows.Length));

        IEnumerable<Stretch> Stretches()
        {
            var always = new List<InspectedRow>();
            foreach (var row in whole.Rows)
            {
                if (row.Row.Condition is null && !row.Row.IsParted)
                {
                    always.Add(row);
                    continue;
                }

                if (always.Count > 0)
                {
                    yield return new(-1, [], [.. always]);
                    always.Clear();
                }

                yield return new(
                    row.Row.Condition is { } own ? Place(own) : -1,
                    row.Row.IsParted ? [.. row.Row.Blocks.Select(b => b.Condition).OfType<Condition>().Select(Place).Distinct()] : [],
                    [row]
                );
            }

            if (always.Count > 0)
            {
                yield return new(-1, [], [.. always]);
            }
        }

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
        var inTurn = (check as SeenRowsCheck)?.InTurn(Parts(asked), reachable.All, whole, cancel) ?? OneByOne();
        foreach (var (combination, findings) in inTurn)
        {
            cancel.ThrowIfCancellationRequested();
            foreach (var one in findings)
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

        IEnumerable<(ulong, IEnumerable<Finding>)> OneByOne() =>
            reachable.All.Select(combination => (combination, check.RunOn(Seen(asked, combination), whole)));
    }

    /// <summary>All rows, parted where what is asked makes a difference.</summary>
    private SeenPart[] Parts(int[] asked)
    {
        var parts = new List<SeenPart>();
        var alike = new List<InspectedRow>();
        foreach (var (at, stretch) in stretches.Index())
        {
            var bits = 0UL;
            for (var i = 0; i < asked.Length; i++)
            {
                bits |= stretch.Own == asked[i] || stretch.Blocks.Contains(asked[i]) ? 1UL << i : 0;
            }

            if (bits == 0)
            {
                alike.AddRange(stretch.Rows);
                continue;
            }

            Close();
            parts.Add(new SeenPart(bits, SeenIn(at)));
        }

        Close();
        return [.. parts];

        void Close()
        {
            if (alike.Count > 0)
            {
                var rows = alike.ToArray();
                parts.Add(new SeenPart(0, _ => rows));
                alike.Clear();
            }
        }

        Func<ulong, InspectedRow[]> SeenIn(int stretch) =>
            combination =>
            {
                Hide(asked, combination);
                return Seen(stretch) ?? [];
            };
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
        foreach (var stretch in stretches)
        {
            if (!stretch.IsAlways && check.Concerns(stretch.Rows[0], whole))
            {
                asked.UnionWith(stretch.Own >= 0 ? stretch.Blocks.Add(stretch.Own) : stretch.Blocks);
            }
        }

        return [.. asked];
    }

    // Most checks ask the same.
    private Reachable Solve(int[] asked)
    {
        if (!asked.SequenceEqual(solved.Asked))
        {
            solved = (asked, solver.Solve([.. asked.Select(i => conditions[i])]));
        }

        return solved.Reachable;
    }

    /// <param name="combination">Its bits are those that are asked, in their order.</param>
    /// <returns>The same list each time.</returns>
    private List<InspectedRow> Seen(int[] asked, ulong combination)
    {
        Hide(asked, combination);
        seen.Clear();
        for (var i = 0; i < stretches.Length; i++)
        {
            seen.AddRange(Seen(i) ?? []);
        }

        return seen;
    }

    // What is not asked makes no difference, seen or not.
    private void Hide(int[] asked, ulong combination)
    {
        Array.Clear(hidden);
        for (var i = 0; i < asked.Length; i++)
        {
            hidden[asked[i]] = i >= 64 || (combination >> i & 1) == 0;
        }
    }

    /// <returns>Of the same rows the same array; null: they are hidden.</returns>
    private InspectedRow[]? Seen(int index)
    {
        var stretch = stretches[index];
        if (stretch.Own >= 0 && hidden[stretch.Own])
        {
            return null;
        }

        var key = 0UL;
        for (var i = 0; i < stretch.Blocks.Length && i < 64; i++)
        {
            key |= hidden[stretch.Blocks[i]] ? 1UL << i : 0;
        }

        if (key == 0)
        {
            return stretch.Rows;
        }

        if (!variants.TryGetValue((index, key), out var variant))
        {
            variants[(index, key)] = variant = [whole.Seen(stretch.Rows[0], c => !hidden[places[c]])];
        }

        return variant;
    }

    /// <summary>The readers of some combinations in as few conditions as tell them from all others.</summary>
    private FoundFor WhoSees(Reachable reachable, List<ulong> combinations)
    {
        var of = combinations.ToHashSet();
        var others = reachable.All.RemoveAll(of.Contains);
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

    /// <summary>One row that some readers do not see, or not all of, or the rows between two such that every reader sees.</summary>
    /// <param name="Own">Where the row's own condition stands among all; negative: it has none.</param>
    /// <param name="Blocks">The same of its blocks' conditions, each once.</param>
    private sealed record Stretch(int Own, ImmutableArray<int> Blocks, InspectedRow[] Rows)
    {
        public bool IsAlways => Own < 0 && Blocks.IsEmpty;
    }
}
