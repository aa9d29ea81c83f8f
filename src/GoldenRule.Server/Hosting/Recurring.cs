namespace GoldenRule.Server.Hosting;

/// <summary>Something that is done again and again beside all requests. What fails is logged, and done at the next turn.</summary>
public abstract partial class Recurring(TimeSpan every, IServiceScopeFactory scopes, ILogger log) : BackgroundService
{
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(every);
        while (await timer.WaitForNextTickAsync(stoppingToken))
        {
            try
            {
                await using var scope = scopes.CreateAsyncScope();
                await RunAsync(scope.ServiceProvider, stoppingToken);
            }
            catch (Exception fault) when (!stoppingToken.IsCancellationRequested)
            {
                LogFailed(log, GetType().Name, fault);
            }
        }
    }

    protected abstract Task RunAsync(IServiceProvider services, CancellationToken cancel);

    [LoggerMessage(Level = LogLevel.Warning, Message = "{Work} failed and is tried again")]
    private static partial void LogFailed(ILogger log, string work, Exception fault);
}
