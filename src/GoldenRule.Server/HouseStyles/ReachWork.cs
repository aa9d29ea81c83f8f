using System.Collections.Concurrent;
using System.Text.Json;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Releases;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Jobs;

namespace GoldenRule.Server.HouseStyles;

/// <summary>Checks every email that follows a house style as it is and as its draft would have it, for blockers that would come.</summary>
public sealed class ReachWork(GoldenRuleDb db, EditPipeline pipeline, TimeProvider clock) : Work
{
    public const string WorkName = "reach";

    public override string Name => WorkName;

    public override async Task<WorkResult> RunAsync(StoredJob job, Progress progress, CancellationToken cancel)
    {
        var style = job.Document ?? throw new WorkException("A check of the reach is of one house style.");
        var loaded = await pipeline.LoadAsync(DocumentKind.HouseStyle, style, cancel);
        var today = DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime);
        var drafts = new ConcurrentDictionary<Guid, StyleLayers>();
        var (done, found) = await ReachScan.RunAsync(
            job,
            (await StyleReach.CountAsync(style, loaded.Library, db, cancel)).Sum(g => g.Follow),
            StyleReach.ChunksAsync(style, loaded.Library, db, ReachScan.Chunk, cancel),
            Blockers,
            db,
            progress,
            cancel
        );
        return new WorkResult(
            "reach.json",
            "application/json",
            JsonSerializer.SerializeToUtf8Bytes(new { checkedEmails = done, stopped = found }, DocumentJson.Options)
        );

        IReadOnlyCollection<string> Blockers(Email email, string campaignType)
        {
            var order = RunningOrder.From(email, loaded.Library.Masters);
            var dressed = order.Template.HouseStyle;
            return
            [
                .. Reach
                    .NewBlockers(
                        new ReachedEmail(
                            email,
                            order,
                            loaded.Library.CheckContextFor(campaignType, today),
                            loaded.Library.InlineFor(email)
                        ),
                        loaded.Library.Styles.For(dressed),
                        drafts.GetOrAdd(dressed, s => new StyleLayers(
                            loaded.Library.Styles.ChainWith(style, (HouseStyle)loaded.Document, s)
                        )),
                        loaded.Library.Pictures,
                        cancel
                    )
                    .Select(ReachFinding.Sentence),
            ];
        }
    }
}
