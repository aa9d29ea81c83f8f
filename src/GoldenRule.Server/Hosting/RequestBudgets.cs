using System.Collections.Concurrent;

namespace GoldenRule.Server.Hosting;

/// <summary>
/// Bounds what a request that changes or works something out takes of the processor. Reading is not bounded: what is
/// stored was bounded when it was stored, and can always be opened.
/// </summary>
public sealed class RequestBudgets : IDisposable
{
    private static readonly TimeSpan Between = TimeSpan.FromMilliseconds(100);

    private readonly ConcurrentDictionary<RequestBudget, bool> open = new();
    private readonly TimeSpan most;
    private readonly ManualResetEventSlim ended = new();

    public RequestBudgets(IConfiguration configuration)
    {
        most = TimeSpan.FromSeconds(configuration.GetValue("Limits:ProcessorSeconds", 2.0));
        // A thread of its own: what it watches may hold every other.
        new Thread(Watch) { IsBackground = true, Name = "request budgets" }.Start();
    }

    /// <exception cref="ProblemException">It took too much and was ended.</exception>
    public async Task BoundAsync(HttpContext http, RequestDelegate next)
    {
        if (HttpMethods.IsGet(http.Request.Method) || HttpMethods.IsHead(http.Request.Method))
        {
            await next(http);
            return;
        }

        var gone = http.RequestAborted;
        using var budget = new RequestBudget(most, gone);
        open[budget] = true;
        try
        {
            http.RequestAborted = budget.Token;
            budget.Begin();
            await next(http);
        }
        catch (OperationCanceledException) when (budget.IsOverdrawn && !gone.IsCancellationRequested)
        {
            throw ProblemException.TooCostly();
        }
        finally
        {
            open.TryRemove(budget, out _);
            http.RequestAborted = gone;
        }
    }

    public void Dispose()
    {
        ended.Set();
        ended.Dispose();
    }

    private void Watch()
    {
        try
        {
            while (!ended.Wait(Between))
            {
                foreach (var (budget, _) in open)
                {
                    Check(budget);
                }
            }
        }
        catch (ObjectDisposedException)
        {
            // The server ended.
        }
    }

    private static void Check(RequestBudget budget)
    {
        try
        {
            budget.Check();
        }
        catch (ObjectDisposedException)
        {
            // It was answered meanwhile.
        }
    }
}
