using System.Runtime.InteropServices;

namespace GoldenRule.Core.Checking;

/// <summary>
/// A check that asks the rows that are seen, one after the other, and nothing else. What many combinations begin with is counted
/// once, so that thousands of them cost little.
/// </summary>
public abstract class SeenRowsCheck : Check
{
    public sealed override Asked Asked => Asked.OfEachReader;

    internal abstract ISeenRows Begin(CheckContext context);
}

/// <summary>What a check has counted of the stretches of rows it was given.</summary>
internal interface ISeenRows
{
    /// <summary>Forgets all stretches after the first so many.</summary>
    void Keep(int stretches);

    /// <param name="rows">Given again, they are not counted again.</param>
    void Add(InspectedRow[] rows);

    IEnumerable<Finding> Found(Inspection whole);
}

/// <typeparam name="TCount">What it knows of rows that stand one after the other. Never changed: others begin with the same.</typeparam>
public abstract class SeenRowsCheck<TCount> : SeenRowsCheck
{
    /// <summary>Of no rows.</summary>
    private protected abstract TCount None { get; }

    private protected abstract TCount Count(InspectedRow row, CheckContext context);

    /// <summary>Of some rows, and of those that come after them.</summary>
    private protected abstract TCount Together(TCount first, TCount then);

    private protected abstract IEnumerable<Finding> Found(TCount counted, Inspection whole);

    public sealed override IEnumerable<Finding> Run(Inspection inspection) =>
        Found(Counted(inspection.Rows.AsSpan(), inspection.Context), inspection);

    internal sealed override IEnumerable<Finding> RunOn(List<InspectedRow> seen, Inspection whole) =>
        Found(Counted(CollectionsMarshal.AsSpan(seen), whole.Context), whole);

    internal sealed override ISeenRows Begin(CheckContext context) => new SeenRows(this, context);

    private TCount Counted(ReadOnlySpan<InspectedRow> rows, CheckContext context)
    {
        var counted = None;
        foreach (var row in rows)
        {
            counted = Together(counted, Count(row, context));
        }

        return counted;
    }

    private sealed class SeenRows(SeenRowsCheck<TCount> check, CheckContext context) : ISeenRows
    {
        // After none of the stretches, after the first, after the second …
        private readonly List<TCount> counted = [check.None];
        private readonly Dictionary<InspectedRow[], TCount> known = new(ReferenceEqualityComparer.Instance);

        public void Keep(int stretches) => counted.RemoveRange(stretches + 1, counted.Count - stretches - 1);

        public void Add(InspectedRow[] rows)
        {
            if (!known.TryGetValue(rows, out var here))
            {
                known[rows] = here = check.Counted(rows, context);
            }

            counted.Add(check.Together(counted[^1], here));
        }

        public IEnumerable<Finding> Found(Inspection whole) => check.Found(counted[^1], whole);
    }
}
