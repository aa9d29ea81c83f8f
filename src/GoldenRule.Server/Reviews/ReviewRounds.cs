using GoldenRule.Core.Documents;
using GoldenRule.Core.Reviews;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Reviews;

/// <summary>What acts, answers and comparisons read alike: the rule, the rounds as the core knows them, and whom they concern.</summary>
internal static class ReviewRounds
{
    public static ReviewRule RuleOf(LoadedDocument loaded) =>
        loaded.Library.Plan.Find(loaded.Stored.CampaignType)?.ReviewRule ?? ReviewRule.Usual;

    public static ReviewRound Round(StoredReviewRound stored) =>
        new(
            stored.Number,
            stored.AskedBy,
            stored.Revision,
            stored.Rule.Needs,
            stored.Rule.Overtaken,
            [
                .. stored
                    .Decisions.OrderBy(d => d.Sequence)
                    .Select(d => new ReviewDecision(d.Need, d.PersonId, d.Verdict, d.Reason, d.At, d.Hash)),
            ],
            stored.State
        );

    /// <summary>What was approved last: of the last decision, or where nobody decides of the asking.</summary>
    /// <param name="round">With its decisions.</param>
    public static string ApprovedHash(StoredReviewRound round) => round.Decisions.MaxBy(d => d.Sequence)?.Hash ?? round.Hash;

    /// <summary>Everyone who may sign in, with the roles that hold for the email.</summary>
    public static async Task<List<Person>> PeopleAsync(LoadedDocument loaded, GoldenRuleDb db, CancellationToken cancel)
    {
        var open = EditPipeline.Open(loaded);
        return [.. (await Everyone.ListAsync(db, cancel)).Select(open.As)];
    }

    /// <summary>Whoever wrote in it, began it or asked: none of them approves it.</summary>
    public static async Task<HashSet<Guid>> WritersAsync(StoredDocument stored, Guid asker, GoldenRuleDb db, CancellationToken cancel) =>
        [
            .. await db.Edits.Where(e => e.DocumentId == stored.Id).Select(e => e.AuthorId).Distinct().ToListAsync(cancel),
            stored.CreatedBy,
            asker,
        ];
}
