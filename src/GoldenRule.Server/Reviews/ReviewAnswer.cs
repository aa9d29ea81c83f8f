using System.Collections.Immutable;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Reviews;
using GoldenRule.Server.People;

namespace GoldenRule.Server.Reviews;

/// <param name="Verdict">Null: nothing was decided yet.</param>
/// <param name="Holds">It was given for what there is now.</param>
/// <param name="May">Who may give it and did not write in it.</param>
/// <param name="SameBrowserAs">For leads: those who wrote in the email and use the browser that it was given in.</param>
public sealed record ApprovalEntry(
    string Name,
    ReviewVerdict? Verdict,
    PersonEntry? By,
    DateTime? At,
    string Reason,
    bool Holds,
    ImmutableArray<PersonEntry> May,
    ImmutableArray<PersonEntry> SameBrowserAs
);

/// <param name="ByItself">Nobody asked: what was approved changed by itself.</param>
/// <param name="Asked">People the asker named.</param>
public sealed record RoundEntry(
    int Number,
    RoundState State,
    PersonEntry AskedBy,
    DateTime AskedAt,
    bool ByItself,
    string Note,
    ImmutableArray<PersonEntry> Asked,
    DateTime? ClosedAt,
    ImmutableArray<ApprovalEntry> Approvals
);

/// <summary>A warning, and why it stays.</summary>
/// <param name="Key">By which it is answered.</param>
/// <param name="Answer">Empty: nobody has said.</param>
public sealed record WarningEntry(string Key, string Message, string Answer);

/// <summary>What an email can be compared with.</summary>
public enum ReviewAgainst
{
    /// <summary>As it was last approved.</summary>
    Approval,

    /// <summary>As people were last asked about it.</summary>
    Asked,

    /// <summary>As it was handed off, the last time or the one that is named.</summary>
    HandOff,

    /// <summary>The last approved email from the same template.</summary>
    Earlier,

    /// <summary>What the template begins with.</summary>
    Template,
}

/// <summary>How an email stands with those who approve it.</summary>
/// <param name="Hash">Of what there is to be seen now; a decision says which it was made for.</param>
/// <param name="Overtaken">It was approved, and changed by itself since, so that the approval holds no longer.</param>
/// <param name="CarriedOver">It was approved and changed by itself since; by the rule the approval holds all the same.</param>
/// <param name="Needs">Approvals that are asked for, where nobody is asked yet.</param>
/// <param name="Rounds">The newest first.</param>
/// <param name="Advice">How many findings are advice.</param>
/// <param name="DecidesAs">The approval that whoever asks would give; null: none.</param>
/// <param name="Against">What it can be compared with.</param>
public sealed record ReviewAnswer(
    Guid Id,
    string Name,
    string CampaignType,
    string CampaignTypeName,
    EmailState State,
    long Revision,
    string Hash,
    bool Overtaken,
    bool CarriedOver,
    AskObstacles Obstacles,
    ImmutableArray<WarningEntry> Warnings,
    int Advice,
    bool AnswerWarnings,
    ImmutableArray<ApprovalEntry> Needs,
    ImmutableArray<RoundEntry> Rounds,
    Allowance Ask,
    Allowance TakeBack,
    Allowance Decide,
    string? DecidesAs,
    ImmutableArray<ReviewAgainst> Against
);

/// <param name="Id">UUIDv7 made by the client: asked twice, it is one round.</param>
/// <param name="Note">What the asker says with it.</param>
/// <param name="People">Whom to tell first; none: whoever may decide.</param>
/// <param name="Answers">Why each warning stays, by its key.</param>
public sealed record AskForReview(
    Guid Id,
    string Note = "",
    ImmutableArray<Guid>? People = null,
    ImmutableSortedDictionary<string, string>? Answers = null
);

/// <param name="Hash">Of what was looked at: a decision about something else is not taken.</param>
/// <param name="Reason">What is to be changed; an approval may go without.</param>
public sealed record Decide(ReviewVerdict Verdict, string Hash, string Reason = "");

/// <param name="Html">As a proof, a document of its own.</param>
public sealed record ComparedSide(string Label, string Html);

/// <summary>A text that a comment can be pinned to.</summary>
/// <param name="Row">Empty: what the inbox shows.</param>
public sealed record CommentableField(string Row, string Block, string Field, string Name, string Words);

/// <param name="Hash">Of what there is now.</param>
/// <param name="Text">The plain texts as one, marked.</param>
public sealed record ReviewComparison(
    string Hash,
    ReviewAgainst Against,
    ComparedSide Before,
    ComparedSide After,
    ImmutableArray<MarkedWords> Text,
    ImmutableArray<SeenChange> Changes,
    ImmutableArray<CommentableField> Fields
);
