using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using Hangfire;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Jobs;

/// <summary>Takes long work in: it is stored before it is handed out, and asked twice it is done once.</summary>
public sealed class JobDesk(GoldenRuleDb db, IBackgroundJobClient queue, TimeProvider clock)
{
    /// <summary>Of one person.</summary>
    private const int MostUnderWay = 8;

    /// <param name="subject">Which of what the document has it is about. Null: the document itself.</param>
    public async Task<JobEntry> AskAsync(
        Guid id,
        string work,
        Guid? document,
        Person person,
        CancellationToken cancel,
        Guid? subject = null
    )
    {
        if (
            await db
                .Jobs.AsNoTracking()
                .Where(j => j.Id == id)
                .Select(j => new
                {
                    j.Work,
                    j.Document,
                    j.Subject,
                    j.AskedBy,
                })
                .FirstOrDefaultAsync(cancel) is
            { } known
        )
        {
            return known.AskedBy == person.Id && known.Work == work && known.Document == document && known.Subject == subject
                ? await JobEndpoints.FindAsync(id, person, db, cancel)
                : throw ProblemException.Invalid("That id belongs to another job.");
        }

        var underWay = await db.Jobs.CountAsync(
            j => j.AskedBy == person.Id && (j.State == JobState.Waiting || j.State == JobState.Running),
            cancel
        );
        if (underWay >= MostUnderWay)
        {
            throw new ProblemException(
                429,
                "too-often",
                "Too much at once",
                $"You have asked for {underWay} things that are not done yet. Wait for one of them."
            );
        }

        var job = new StoredJob
        {
            Id = id,
            Work = work,
            Document = document,
            Subject = subject,
            AskedBy = person.Id,
            AskedAt = clock.GetUtcNow().UtcDateTime,
        };
        db.Jobs.Add(job);
        await db.SaveChangesAsync(cancel);
        queue.Enqueue<JobRunner>(r => r.RunAsync(id, CancellationToken.None));
        return await JobEndpoints.FindAsync(id, person, db, cancel);
    }
}
