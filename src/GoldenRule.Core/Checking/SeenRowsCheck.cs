using System.Collections.Immutable;
using System.Numerics;
using System.Runtime.InteropServices;
using System.Threading;

namespace GoldenRule.Core.Checking;

/// <summary>
/// A check that asks the rows that are seen, one after the other, and nothing else. What many combinations begin with is counted
/// once, so that thousands of them cost little.
/// </summary>
public abstract class SeenRowsCheck : Check
{
    public sealed override Asked Asked => Asked.OfEachReader;

    /// <param name="parts">All rows, in their order.</param>
    /// <param name="combinations">In the order of <see cref="Audiences.Reachable.All"/>: bits of earlier rows change less often.</param>
    /// <returns>Those in which something is found.</returns>
    internal abstract IEnumerable<(ulong Combination, IEnumerable<Finding> Found)> InTurn(
        SeenPart[] parts,
        ImmutableArray<ulong> combinations,
        Inspection whole,
        CancellationToken cancel
    );
}

/// <summary>Rows that stand one after the other.</summary>
/// <param name="Bits">Of a combination those that make a difference to them; 0: all see them alike.</param>
/// <param name="Seen">Those of them that are seen in a combination.</param>
internal sealed record SeenPart(ulong Bits, Func<ulong, InspectedRow[]> Seen);

/// <typeparam name="TCount">What it knows of rows that stand one after the other. Never changed: others begin with the same.</typeparam>
public abstract class SeenRowsCheck<TCount> : SeenRowsCheck
{
    /// <summary>Of no rows.</summary>
    private protected abstract TCount None { get; }

    private protected abstract TCount Count(InspectedRow row, CheckContext context);

    /// <summary>Of some rows, and of those that come after them.</summary>
    private protected abstract TCount Together(TCount first, TCount then);

    private protected abstract ImmutableArray<Finding> Found(TCount counted, Inspection whole);

    public sealed override IEnumerable<Finding> Run(Inspection inspection) =>
        Found(Counted(inspection.Rows.AsSpan(), inspection.Context), inspection);

    internal sealed override IEnumerable<Finding> RunOn(List<InspectedRow> seen, Inspection whole) =>
        Found(Counted(CollectionsMarshal.AsSpan(seen), whole.Context), whole);

    internal sealed override IEnumerable<(ulong Combination, IEnumerable<Finding> Found)> InTurn(
        SeenPart[] parts,
        ImmutableArray<ulong> combinations,
        Inspection whole,
        CancellationToken cancel
    )
    {
        // Of each part by what is seen of it, and of all that stands before each.
        var known = Array.ConvertAll(parts, _ => new Dictionary<ulong, TCount>());
        var before = new TCount[parts.Length + 1];
        before[0] = None;
        // The part at which each bit first makes a difference.
        var first = Enumerable.Range(0, 64).Select(bit => Array.FindIndex(parts, p => (p.Bits >> bit & 1) != 0)).ToArray();
        ulong? former = null;
        foreach (var combination in combinations)
        {
            cancel.ThrowIfCancellationRequested();
            var from = former is { } last ? first[BitOperations.TrailingZeroCount(last ^ combination)] : 0;
            former = combination;
            for (var i = from; i < parts.Length; i++)
            {
                ref var here = ref CollectionsMarshal.GetValueRefOrAddDefault(known[i], combination & parts[i].Bits, out var isKnown);
                if (!isKnown)
                {
                    here = Counted(parts[i].Seen(combination), whole.Context);
                }

                before[i + 1] = Together(before[i], here!);
            }

            if (Found(before[^1], whole) is { IsEmpty: false } found)
            {
                yield return (combination, found);
            }
        }
    }

    private TCount Counted(ReadOnlySpan<InspectedRow> rows, CheckContext context)
    {
        var counted = None;
        foreach (var row in rows)
        {
            counted = Together(counted, Count(row, context));
        }

        return counted;
    }
}
