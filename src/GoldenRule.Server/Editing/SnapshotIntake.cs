using GoldenRule.Data;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Editing;

/// <summary>Gives long histories of a release without snapshots theirs, in the background of whichever servers run.</summary>
public sealed class SnapshotIntake(IServiceScopeFactory scopes, ILogger<SnapshotIntake> log) : BackgroundService
{
    private static readonly TimeSpan Pause = TimeSpan.FromMinutes(10);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await using var scope = scopes.CreateAsyncScope();
                await MakeAsync(scope.ServiceProvider.GetRequiredService<GoldenRuleDb>(), stoppingToken);
            }
            catch (Exception fault) when (fault is not OperationCanceledException)
            {
                log.LogWarning(fault, "Snapshots of long histories could not be made; trying again");
            }

            // A server of the release before may still run, and makes none.
            await Task.Delay(Pause, stoppingToken);
        }
    }

    private async Task MakeAsync(GoldenRuleDb db, CancellationToken cancel)
    {
        var lacking = await db
            .Documents.Where(d =>
                d.Revision >= 2 * StoredSnapshot.Every
                && !db.Snapshots.Any(s => s.DocumentId == d.Id && s.Sequence > d.Revision - (2 * StoredSnapshot.Every))
            )
            .Select(d => d.Id)
            .ToListAsync(cancel);
        foreach (var id in lacking)
        {
            try
            {
                await db.MakeSnapshotsAsync(await db.Documents.AsNoTracking().SingleAsync(d => d.Id == id, cancel), cancel);
            }
            catch (Exception fault) when (fault is not OperationCanceledException)
            {
                // It is replayed from further back.
                log.LogError(fault, "No snapshots could be made of document {Id}", id);
            }
        }
    }
}
