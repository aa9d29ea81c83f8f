using System.Runtime.CompilerServices;
using System.Text.Json;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Jobs;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Desks;

/// <summary>Checks every email that would take the release of a template or saved row, for what it would break.</summary>
public sealed class MasterReachWork(GoldenRuleDb db, EditPipeline pipeline, TimeProvider clock) : Work
{
    public const string WorkName = "master-reach";

    public override string Name => WorkName;

    public override async Task<WorkResult> RunAsync(StoredJob job, Progress progress, CancellationToken cancel)
    {
        var id = job.Document ?? throw new WorkException("A check of the reach is of one template or saved row.");
        var kind = await db.Documents.Where(d => d.Id == id).Select(d => d.Kind).SingleAsync(cancel);
        var reach = MasterReach.Of(await pipeline.LoadAsync(kind, id, cancel));
        var today = DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime);
        var emails = MasterReach.Emails(kind, id, db);
        var (done, found) = await ReachScan.RunAsync(
            job,
            await emails.CountAsync(cancel),
            ChunksAsync(emails, cancel),
            (email, campaignType) => reach.Breaks(email, campaignType, today, cancel),
            db,
            progress,
            cancel
        );
        return new WorkResult(
            "reach.json",
            "application/json",
            JsonSerializer.SerializeToUtf8Bytes(new { checkedEmails = done, broken = found }, DocumentJson.Options)
        );
    }

    private static async IAsyncEnumerable<List<Guid>> ChunksAsync(
        IQueryable<StoredDocument> emails,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        var last = Guid.Empty;
        List<Guid> ids;
        do
        {
            var from = last;
            ids = await emails.Where(d => d.Id > from).OrderBy(d => d.Id).Take(ReachScan.Chunk).Select(d => d.Id).ToListAsync(cancel);
            if (ids.Count > 0)
            {
                last = ids[^1];
                yield return ids;
            }
        } while (ids.Count == ReachScan.Chunk);
    }
}
