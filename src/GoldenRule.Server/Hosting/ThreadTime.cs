using System.Runtime.InteropServices;

namespace GoldenRule.Server.Hosting;

/// <summary>Processor time of this process's threads, as Linux counts it (clock_gettime(2)). Elsewhere: none.</summary>
internal static class ThreadTime
{
    [ThreadStatic]
    private static int thread;

    /// <summary>The system's number of the thread that asks.</summary>
    public static int Thread => thread is not 0 || !OperatingSystem.IsLinux() ? thread : thread = CurrentThread();

    public static TimeSpan Of(int thread) =>
        // The clock of a thread by its number, as pthread_getcpuclockid(3) makes it.
        OperatingSystem.IsLinux()
        && ReadClock((~thread << 3) | 6, out var time) == 0
            ? TimeSpan.FromTicks((time.Seconds * TimeSpan.TicksPerSecond) + (time.Nanoseconds / TimeSpan.NanosecondsPerTick))
            : TimeSpan.Zero;

    [StructLayout(LayoutKind.Sequential)]
    private readonly struct Time
    {
        public readonly long Seconds;
        public readonly long Nanoseconds;
    }

    [DllImport("libc", EntryPoint = "gettid")]
    private static extern int CurrentThread();

    [DllImport("libc", EntryPoint = "clock_gettime")]
    private static extern int ReadClock(int clock, out Time time);
}
