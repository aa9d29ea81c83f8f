using System.Diagnostics;

namespace GoldenRule.PictureWorker;

/// <summary>Ends the process where opening a file takes more of the processor than any honest one does.</summary>
public sealed class ProcessorBudget : IDisposable
{
    private static readonly TimeSpan Most = TimeSpan.FromSeconds(2);
    private static readonly TimeSpan Between = TimeSpan.FromMilliseconds(25);

    private readonly TimeSpan _until = Used() + Most;
    private volatile bool _kept;

    private ProcessorBudget(Action overdrawn)
    {
        // A thread of its own: the file may hold every other.
        var watch = new Thread(() =>
        {
            while (!_kept)
            {
                if (Used() > _until)
                {
                    overdrawn();
                    return;
                }

                Thread.Sleep(Between);
            }
        })
        {
            IsBackground = true,
        };
        watch.Start();
    }

    /// <summary>From now until it is disposed.</summary>
    public static ProcessorBudget Start(Action overdrawn) => new(overdrawn);

    public void Dispose() => _kept = true;

    private static TimeSpan Used()
    {
        using var process = Process.GetCurrentProcess();
        return process.TotalProcessorTime;
    }
}
