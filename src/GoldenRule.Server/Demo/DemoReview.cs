using GoldenRule.Core.Documents;
using GoldenRule.Core.Reviews;
using GoldenRule.Data;
using GoldenRule.Server.HandOffs;
using GoldenRule.Server.People;
using GoldenRule.Server.Reviews;

namespace GoldenRule.Server.Demo;

/// <summary>An email of the demo that its author has asked about, by the same road as everyone, and how far it came.</summary>
/// <param name="At">Scheme and host that what was handed off is written with.</param>
internal sealed record DemoReview(Guid Email, Guid Author, EmailState State, int HoursAgo, string At)
{
    public static async Task PlayAsync(DemoReview review, IServiceProvider services, TimeProvider clock, CancellationToken cancel)
    {
        var then = new EarlierClock(clock, TimeSpan.FromHours(review.HoursAgo));
        var desk = ActivatorUtilities.CreateInstance<ReviewDesk>(services, then);
        var everyone = await Everyone.ListAsync(services.GetRequiredService<GoldenRuleDb>(), cancel);
        var author = everyone.Single(p => p.Id == review.Author);
        var asked = await desk.AskAsync(review.Email, new AskForReview(Guid.CreateVersion7()), author, cancel);
        while (review.State != EmailState.InReview && asked.State == EmailState.InReview)
        {
            var open = asked.Rounds[0].Approvals.First(a => !a.Holds);
            var approver = everyone.Single(p => p.Id == open.May[0].Id);
            asked = await desk.DecideAsync(review.Email, new Decide(ReviewVerdict.Approve, asked.Hash), approver, null, cancel);
        }

        if (review.State == EmailState.HandedOff)
        {
            await ActivatorUtilities
                .CreateInstance<HandOffDesk>(services, then)
                .HandOffAsync(review.Email, new HandOffRequest(Guid.CreateVersion7(), asked.Hash), author, review.At, cancel);
        }
    }

    private sealed class EarlierClock(TimeProvider clock, TimeSpan by) : TimeProvider
    {
        public override DateTimeOffset GetUtcNow() => clock.GetUtcNow() - by;
    }
}
