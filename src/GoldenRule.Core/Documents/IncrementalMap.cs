using System.Collections.Immutable;
using System.Threading;

namespace GoldenRule.Core.Documents;

/// <summary>
/// Rows worked out from other rows, one from one. An edit changes a stretch of them: what stands before and after it is
/// taken over whole from the former result, so that one row's edit costs the same however many rows there are.
/// </summary>
internal static class IncrementalMap
{
    /// <param name="from">What they are worked out from: an object that was there before stands for the same result.</param>
    /// <param name="former">What the former result was worked out from, and the result. Default: there is none.</param>
    /// <param name="make">Works out one, given its place.</param>
    /// <param name="cancel">Looked at before each.</param>
    public static ImmutableArray<TRow> Rows<TFrom, TRow>(
        ImmutableArray<TFrom> from,
        (ImmutableArray<TFrom> From, ImmutableArray<TRow> Rows) former,
        Func<TFrom, int, TRow> make,
        CancellationToken cancel = default
    )
        where TFrom : class
        where TRow : class
    {
        var rows = ImmutableArray.CreateBuilder<TRow>(from.Length);
        Add(rows, from.AsSpan(), former.From.AsSpan(), former.Rows.AsSpan(), make, cancel);
        return rows.MoveToImmutable();
    }

    /// <summary>Adds them to others.</summary>
    /// <param name="now">What they are worked out from.</param>
    /// <param name="then">What the former ones were worked out from.</param>
    public static void Add<TFrom, TRow>(
        ImmutableArray<TRow>.Builder rows,
        ReadOnlySpan<TFrom> now,
        ReadOnlySpan<TFrom> then,
        ReadOnlySpan<TRow> former,
        Func<TFrom, int, TRow> make,
        CancellationToken cancel = default
    )
        where TFrom : class
        where TRow : class
    {
        var (before, end, thenEnd) = Stretch(now, then);
        rows.AddRange(former[..before]);
        for (var i = before; i < end; i++)
        {
            cancel.ThrowIfCancellationRequested();
            // What moved within the stretch is still known.
            rows.Add(IndexOf(then[before..thenEnd], now[i]) is >= 0 and var at ? former[before + at] : make(now[i], i));
        }

        rows.AddRange(former[thenEnd..]);
    }

    /// <summary>Those of now that were not there then.</summary>
    public static IEnumerable<T> New<T>(ImmutableArray<T> now, ImmutableArray<T> then)
        where T : class
    {
        var (before, end, thenEnd) = Stretch(now.AsSpan(), then.AsSpan());
        for (var i = before; i < end; i++)
        {
            if (IndexOf(then.AsSpan()[before..thenEnd], now[i]) < 0)
            {
                yield return now[i];
            }
        }
    }

    // Where they begin to differ, and where each ceases to.
    private static (int Before, int End, int ThenEnd) Stretch<T>(ReadOnlySpan<T> now, ReadOnlySpan<T> then)
        where T : class
    {
        var before = 0;
        while (before < now.Length && before < then.Length && ReferenceEquals(now[before], then[before]))
        {
            before++;
        }

        var (end, thenEnd) = (now.Length, then.Length);
        while (end > before && thenEnd > before && ReferenceEquals(now[end - 1], then[thenEnd - 1]))
        {
            end--;
            thenEnd--;
        }

        return (before, end, thenEnd);
    }

    private static int IndexOf<T>(ReadOnlySpan<T> rows, T row)
        where T : class
    {
        for (var i = 0; i < rows.Length; i++)
        {
            if (ReferenceEquals(rows[i], row))
            {
                return i;
            }
        }

        return -1;
    }
}
