using System.Collections.Concurrent;
using System.Runtime;

namespace GoldenRule.Server.Hosting;

/// <summary>
/// How much of the processor one request may take. What it takes is counted on whichever threads it goes on; waiting, for
/// the database or for its turn, costs nothing, and neither does the runtime's compiling of what runs for the first time.
/// Over its bound its token is cancelled, at which code that computes looks.
/// </summary>
public sealed class RequestBudget : IDisposable
{
    private static readonly AsyncLocal<RequestBudget?> Current = new(Follow);

    private readonly TimeSpan most;
    private readonly CancellationTokenSource source;

    // By thread: how much of the processor it had taken when it took this up.
    private readonly ConcurrentDictionary<int, TimeSpan> working = new();
    private readonly DateTime began = DateTime.UtcNow;
    private readonly TimeSpan compiled = JitInfo.GetCompilationTime();
    private readonly Lock turn = new();
    private long taken;
    private bool lifted;

    /// <param name="gone">Cancelled where nobody waits for the answer any more.</param>
    public RequestBudget(TimeSpan most, CancellationToken gone)
    {
        this.most = most;
        source = CancellationTokenSource.CreateLinkedTokenSource(gone);
        Token = source.Token;
    }

    // Kept by itself: what a request began may outlive it, and still look here.
    public CancellationToken Token { get; }

    public bool IsOverdrawn { get; private set; }

    /// <summary>Processor time taken so far.</summary>
    public TimeSpan Taken =>
        TimeSpan.FromTicks(Interlocked.Read(ref taken) + working.Sum(thread => (ThreadTime.Of(thread.Key) - thread.Value).Ticks));

    /// <summary>From here on what is done is counted, until whoever called has done what it does.</summary>
    public void Begin() => Current.Value = this;

    /// <summary>
    /// What the request that goes on here asks for is stored now, and nothing ends it any more: its answer says that it is.
    /// </summary>
    /// <exception cref="OperationCanceledException">It was over its bound before.</exception>
    public static void Lift()
    {
        if (Current.Value is { } budget)
        {
            lock (budget.turn)
            {
                budget.lifted = budget.IsOverdrawn ? throw new OperationCanceledException(budget.Token) : true;
            }
        }
    }

    /// <summary>Ends what has taken too much. Cheap for what has not been there long enough to have done so.</summary>
    public void Check()
    {
        if (DateTime.UtcNow - began <= most || Taken - (JitInfo.GetCompilationTime() - compiled) <= most)
        {
            return;
        }

        lock (turn)
        {
            IsOverdrawn = !lifted;
        }

        if (IsOverdrawn)
        {
            source.Cancel();
        }
    }

    public void Dispose() => source.Dispose();

    // Called wherever a thread takes up or leaves what a request does.
    private static void Follow(AsyncLocalValueChangedArgs<RequestBudget?> change)
    {
        var thread = ThreadTime.Thread;
        if (change.PreviousValue is { } left && left.working.TryRemove(thread, out var since))
        {
            Interlocked.Add(ref left.taken, (ThreadTime.Of(thread) - since).Ticks);
        }

        if (change.CurrentValue is { } taking)
        {
            taking.working[thread] = ThreadTime.Of(thread);
        }
    }
}
