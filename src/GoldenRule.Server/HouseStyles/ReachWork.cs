using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Text.Json;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Releases;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Jobs;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.HouseStyles;

/// <summary>
/// Checks every email that follows a house style as it is and as its draft would have it, and tells each that would newly be
/// blocked as soon as it is found. A few hundred emails are in memory at a time, however many there are.
/// </summary>
public sealed class ReachWork(GoldenRuleDb db, EditPipeline pipeline, TimeProvider clock) : Work
{
    public const string WorkName = "reach";

    private const int Chunk = 200;

    public override string Name => WorkName;

    public override async Task<WorkResult> RunAsync(StoredJob job, Progress progress, CancellationToken cancel)
    {
        var style = job.Document ?? throw new WorkException("A check of the reach is of one house style.");
        // A job that is begun anew, as its server ended, finds everything anew.
        await db.JobFindings.Where(f => f.JobId == job.Id).ExecuteDeleteAsync(cancel);
        var loaded = await pipeline.LoadAsync(DocumentKind.HouseStyle, style, cancel);
        var today = DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime);
        var total = (await StyleReach.CountAsync(style, loaded.Library, db, cancel)).Sum(g => g.Follow);
        var (done, found) = (0, 0);
        var drafts = new ConcurrentDictionary<Guid, StyleLayers>();
        await foreach (var ids in StyleReach.ChunksAsync(style, loaded.Library, db, Chunk, cancel))
        {
            var chunk = await db
                .Documents.AsNoTracking()
                .Where(d => ids.Contains(d.Id) && d.State != EmailState.HandedOff)
                .OrderBy(d => d.Id)
                .Select(d => new
                {
                    d.Id,
                    d.Name,
                    d.CampaignType,
                    d.Head,
                })
                .ToListAsync(cancel);
            if (chunk.Count == 0)
            {
                continue;
            }

            var findings = new ReachFinding?[chunk.Count];
            Parallel.For(0, chunk.Count, new ParallelOptions { CancellationToken = cancel }, at =>
            {
                var (id, name, campaignType, head) = (chunk[at].Id, chunk[at].Name, chunk[at].CampaignType ?? "", chunk[at].Head);
                findings[at] = Check(id, name, campaignType, head);
            });
            foreach (var finding in findings.OfType<ReachFinding>())
            {
                db.JobFindings.Add(
                    new StoredJobFinding
                    {
                        JobId = job.Id,
                        Sequence = ++found,
                        Body = JsonSerializer.Serialize(finding, DocumentJson.Options),
                    }
                );
            }

            await db.SaveChangesAsync(cancel);
            db.ChangeTracker.Clear();
            done += chunk.Count;
            await progress(done, Math.Max(total, done), chunk[^1].Name);
        }

        return new WorkResult(
            "reach.json",
            "application/json",
            JsonSerializer.SerializeToUtf8Bytes(new { checkedEmails = done, stopped = found }, DocumentJson.Options)
        );

        ReachFinding? Check(Guid id, string name, string campaignType, string head)
        {
            try
            {
                var email = DocumentJson.ReadDocument<Email>(head);
                var order = RunningOrder.From(email, loaded.Library.Masters);
                var dressed = order.Template.HouseStyle;
                var blockers = Reach.NewBlockers(
                    new ReachedEmail(email, order, loaded.Library.CheckContextFor(campaignType, today), loaded.Library.InlineFor(email)),
                    loaded.Library.Styles.For(dressed),
                    drafts.GetOrAdd(dressed, s => new StyleLayers(loaded.Library.Styles.ChainWith(style, (HouseStyle)loaded.Document, s))),
                    loaded.Library.Pictures,
                    cancel
                );
                return blockers.IsEmpty
                    ? null
                    : new ReachFinding(id, name, [.. blockers.Select(b => b.Evidence is null ? b.Message : $"{b.Message} {b.Evidence}")]);
            }
            catch (Exception fault) when (fault is StructureException or JsonException)
            {
                return new ReachFinding(id, name, [$"It cannot be drawn: {fault.Message}"]);
            }
        }
    }
}
