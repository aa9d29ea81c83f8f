using System.Collections.Immutable;

namespace GoldenRule.Core.Reviews;

public enum ReviewVerdict
{
    Approve,
    AskForChanges,
}

/// <summary>What somebody decided about an email they were asked about.</summary>
/// <param name="Need">Name of the approval they gave, or would have.</param>
/// <param name="Reason">What is to be changed; an approval may have none.</param>
/// <param name="Hash">Of what they saw, see <see cref="SeenEmail"/>.</param>
public sealed record ReviewDecision(string Need, Guid Person, ReviewVerdict Verdict, string Reason, DateTime At, string Hash);

public enum RoundState
{
    Open,
    Approved,
    ChangesAsked,
    TakenBack,

    /// <summary>What was approved changed by itself, and the same people were asked again.</summary>
    Overtaken,
}

/// <summary>What there is of one approval.</summary>
/// <param name="Decision">The last that was given. Null: none yet.</param>
/// <param name="Holds">It was given for what there is now.</param>
public sealed record ApprovalStanding(ApprovalNeed Need, ReviewDecision? Decision, bool Holds);

/// <summary>An email that people were asked about, once.</summary>
/// <param name="Number">From 1, within the email.</param>
/// <param name="Revision">Of the email, when it was asked.</param>
public sealed record ReviewRound(
    int Number,
    Guid AskedBy,
    long Revision,
    ImmutableArray<ApprovalNeed> Needs,
    WhenOvertaken Overtaken,
    ImmutableArray<ReviewDecision> Decisions,
    RoundState State
)
{
    /// <summary>Each approval as it stands.</summary>
    /// <param name="hash">Of the email now.</param>
    public ImmutableArray<ApprovalStanding> Standing(string hash) =>
        [
            .. Needs.Select(need =>
            {
                var last = Decisions.LastOrDefault(d => d.Need == need.Name);
                return new ApprovalStanding(
                    need,
                    last,
                    last is { Verdict: ReviewVerdict.Approve } && (last.Hash == hash || Overtaken == WhenOvertaken.CarryOver)
                );
            }),
        ];

    /// <summary>The round with one decision more: one that asks for changes ends it, the last approval approves.</summary>
    public ReviewRound With(ReviewDecision decision)
    {
        var next = this with { Decisions = Decisions.Add(decision) };
        if (decision.Verdict == ReviewVerdict.AskForChanges)
        {
            return next with { State = RoundState.ChangesAsked };
        }

        return next.Standing(decision.Hash).All(s => s.Holds) ? next with { State = RoundState.Approved } : next;
    }
}
