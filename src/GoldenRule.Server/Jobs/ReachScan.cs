using System.Text.Json;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.HouseStyles;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Jobs;

/// <summary>
/// Looks at the emails that a release reaches and tells each that it would break as soon as it is found. A few hundred emails are
/// in memory at a time, however many there are.
/// </summary>
public static class ReachScan
{
    /// <summary>How many emails are looked at together.</summary>
    public const int Chunk = 200;

    /// <param name="total">How many there are, as far as is known.</param>
    /// <param name="chunks">Their ids, some at a time.</param>
    /// <param name="breaks">What would break in an email, each as a sentence; it may say that the email cannot be drawn.</param>
    /// <returns>How many were looked at, and how many would break.</returns>
    public static async Task<(int Done, int Found)> RunAsync(
        StoredJob job,
        int total,
        IAsyncEnumerable<List<Guid>> chunks,
        Func<Email, string, IReadOnlyCollection<string>> breaks,
        GoldenRuleDb db,
        Progress progress,
        CancellationToken cancel
    )
    {
        // A job that is begun anew, as its server ended, finds everything anew.
        await db.JobFindings.Where(f => f.JobId == job.Id).ExecuteDeleteAsync(cancel);
        var (done, found) = (0, 0);
        await foreach (var ids in chunks.WithCancellation(cancel))
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
                var one = chunk[at];
                findings[at] = Breaks(one.Head, one.CampaignType ?? "") is { Count: > 0 } broken
                    ? new ReachFinding(one.Id, one.Name, [.. broken])
                    : null;
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

        return (done, found);

        IReadOnlyCollection<string> Breaks(string head, string campaignType)
        {
            try
            {
                return breaks(DocumentJson.ReadDocument<Email>(head), campaignType);
            }
            catch (Exception fault) when (fault is StructureException or JsonException)
            {
                return [$"It cannot be drawn: {fault.Message}"];
            }
        }
    }
}
