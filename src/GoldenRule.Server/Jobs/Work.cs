using GoldenRule.Data;

namespace GoldenRule.Server.Jobs;

/// <summary>What a job made.</summary>
public sealed record WorkResult(string Name, string MediaType, byte[] Content);

/// <summary>Says how far a job is: steps done, of how many, and what is being done.</summary>
/// <exception cref="JobStoppedException">Nobody needs it any more.</exception>
public delegate Task Progress(int done, int total, string step);

/// <summary>Whoever asked for a job has stopped it.</summary>
public sealed class JobStoppedException : Exception;

/// <summary>A sort of long work. A new one is one class and one line in <see cref="JobSetup"/>.</summary>
public abstract class Work
{
    /// <summary>Stable name, as it stands in jobs.</summary>
    public abstract string Name { get; }

    public abstract Task<WorkResult> RunAsync(StoredJob job, Progress progress, CancellationToken cancel);
}

/// <summary>Work that cannot be done, in words for whoever asked for it.</summary>
public sealed class WorkException(string message, Exception? inner = null) : Exception(message, inner);
