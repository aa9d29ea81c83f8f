using System.Diagnostics;

/// <summary>What one work costs: the median of its turns, and what it allocates.</summary>
internal sealed record Cost(double Nanoseconds, long Bytes);

/// <summary>
/// Works measured in turns, some milliseconds each, so that a slower moment of the machine falls on all of them alike
/// and their ratios hold.
/// </summary>
internal static class InTurns
{
    private const int Turns = 600;

    public static Dictionary<string, Cost> Measure(params (string Name, Func<int> Work)[] works)
    {
        foreach (var (_, work) in works)
        {
            // Until it is compiled with what its first thousands of runs have shown.
            for (var warm = Stopwatch.StartNew(); warm.Elapsed < TimeSpan.FromSeconds(3); )
            {
                work();
            }
        }

        var times = works.Select(_ => new double[Turns]).ToList();
        for (var turn = 0; turn < Turns; turn++)
        {
            for (var i = 0; i < works.Length; i++)
            {
                times[i][turn] = Time(works[i].Work);
            }
        }

        return works.Select((w, i) => (w.Name, new Cost(times[i].Order().ElementAt(Turns / 2), Allocated(w.Work)))).ToDictionary();
    }

    private static double Time(Func<int> work)
    {
        var (start, runs) = (Stopwatch.GetTimestamp(), 0);
        do
        {
            work();
            runs++;
        } while (Stopwatch.GetElapsedTime(start) < TimeSpan.FromMilliseconds(2));

        return Stopwatch.GetElapsedTime(start).TotalNanoseconds / runs;
    }

    private static long Allocated(Func<int> work)
    {
        var before = GC.GetAllocatedBytesForCurrentThread();
        work();
        return GC.GetAllocatedBytesForCurrentThread() - before;
    }
}
