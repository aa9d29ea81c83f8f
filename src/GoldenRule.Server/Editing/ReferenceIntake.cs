using GoldenRule.Core.Documents;
using GoldenRule.Data;

namespace GoldenRule.Server.Editing;

/// <summary>
/// Reads what documents of an older release refer to, in the background of whichever servers run, until none is left. Broken
/// off, it goes on where it was: each batch is a transaction.
/// </summary>
public sealed class ReferenceIntake(IServiceScopeFactory scopes, ILogger<ReferenceIntake> log) : BackgroundService
{
    private const int AtOnce = 500;

    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(1);

    private static readonly TimeSpan Seldom = TimeSpan.FromMinutes(1);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await using var scope = scopes.CreateAsyncScope();
                var db = scope.ServiceProvider.GetRequiredService<GoldenRuleDb>();
                if (await db.TakeInReferencesAsync(AtOnce, Read, stoppingToken) > 0)
                {
                    continue;
                }

                if (await db.CountUnreadAsync(stoppingToken) == 0)
                {
                    // A server of the release before may still run, and store such.
                    await Task.Delay(Seldom, stoppingToken);
                    continue;
                }
            }
            catch (Exception fault) when (fault is not OperationCanceledException)
            {
                log.LogWarning(fault, "What former documents refer to could not be read; trying again");
            }

            await Task.Delay(Pause, stoppingToken);
        }
    }

    private Document? Read(DocumentKind kind, string json)
    {
        try
        {
            return StoredForm.Read(kind, json);
        }
        catch (Exception fault)
        {
            log.LogError(fault, "A stored {Kind} cannot be read", kind);
            return null;
        }
    }
}
