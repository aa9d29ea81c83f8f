using GoldenRule.Data;
using Hangfire;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Jobs;

/// <summary>Runs one job: keeps its progress and what came out where every server and screen can read it.</summary>
public sealed class JobRunner(GoldenRuleDb db, IEnumerable<Work> works, TimeProvider clock, ILogger<JobRunner> log)
{
    private static readonly TimeSpan Between = TimeSpan.FromMilliseconds(200);

    // Hangfire starts a job anew whose server died; what it had done is done again.
    [AutomaticRetry(Attempts = 0)]
    public async Task RunAsync(Guid id, CancellationToken cancel)
    {
        var job = await db.Jobs.SingleAsync(j => j.Id == id, cancel);
        if (job.State == JobState.Stopped)
        {
            return;
        }

        var work = works.Single(w => w.Name == job.Work);
        var said = DateTimeOffset.MinValue;
        try
        {
            await KeepAsync(j => j.SetProperty(x => x.State, JobState.Running));
            var result = await work.RunAsync(job, SayAsync, cancel);
            await KeepAsync(j =>
                j.SetProperty(x => x.State, JobState.Done)
                    .SetProperty(x => x.Done, x => x.Total)
                    .SetProperty(x => x.Step, "")
                    .SetProperty(x => x.Result, result.Content)
                    .SetProperty(x => x.ResultName, result.Name)
                    .SetProperty(x => x.ResultType, result.MediaType)
                    .SetProperty(x => x.EndedAt, clock.GetUtcNow().UtcDateTime)
            );
        }
        catch (JobStoppedException)
        {
            log.LogInformation("Job {Job}, {Work}, was stopped", id, job.Work);
        }
        catch (Exception e) when (e is not OperationCanceledException)
        {
            log.LogError(e, "Job {Job}, {Work}, failed", id, job.Work);
            var words = e is WorkException ? e.Message : "Something went wrong here. Nothing was changed; ask for it again.";
            await KeepAsync(j =>
                j.SetProperty(x => x.State, JobState.Failed)
                    .SetProperty(x => x.Step, words)
                    .SetProperty(x => x.EndedAt, clock.GetUtcNow().UtcDateTime)
            );
        }

        async Task SayAsync(int done, int total, string step)
        {
            // Of few steps each is told; of many as many as anyone can read.
            if (total <= 10 || clock.GetUtcNow() - said >= Between)
            {
                said = clock.GetUtcNow();
                if (
                    await KeepAsync(j => j.SetProperty(x => x.Done, done).SetProperty(x => x.Total, total).SetProperty(x => x.Step, step))
                    == 0
                )
                {
                    throw new JobStoppedException();
                }
            }
        }

        // What was stopped stays so, whatever comes of it.
        Task<int> KeepAsync(Action<Microsoft.EntityFrameworkCore.Query.UpdateSettersBuilder<StoredJob>> set) =>
            db.Jobs.Where(j => j.Id == id && j.State != JobState.Stopped).ExecuteUpdateAsync(set, CancellationToken.None);
    }
}
