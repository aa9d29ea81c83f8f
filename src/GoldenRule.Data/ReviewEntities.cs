using GoldenRule.Core.Reviews;

namespace GoldenRule.Data;

/// <summary>People asked to approve an email, once. One is open at a time.</summary>
public sealed class StoredReviewRound
{
    public required Guid Id { get; init; }

    public required Guid DocumentId { get; init; }

    /// <summary>From 1, within the email.</summary>
    public required int Number { get; init; }

    public required Guid AskedBy { get; init; }

    public required DateTime AskedAt { get; init; }

    /// <summary>True: nobody asked; what was approved changed by itself.</summary>
    public bool ByItself { get; init; }

    /// <summary>What the asker says with it.</summary>
    public string Note { get; init; } = "";

    /// <summary>Of the email, when it was asked.</summary>
    public required long Revision { get; init; }

    /// <summary>Of what was to be seen then, see <see cref="StoredSeenEmail"/>.</summary>
    public required string Hash { get; init; }

    /// <summary>JSON: the rule as it was then.</summary>
    public required ReviewRule Rule { get; init; }

    /// <summary>People the asker named; they are told first, whoever meets the rule may decide.</summary>
    public List<Guid> Asked { get; init; } = [];

    /// <summary>JSON: why each warning stays, by its key.</summary>
    public Dictionary<string, string> Answers { get; init; } = [];

    public RoundState State { get; set; }

    public DateTime? ClosedAt { get; set; }

    public List<StoredReviewDecision> Decisions { get; } = [];
}

/// <summary>What somebody decided. Append-only: the database refuses to change it.</summary>
public sealed class StoredReviewDecision
{
    public required Guid RoundId { get; init; }

    /// <summary>From 1, within the round.</summary>
    public required int Sequence { get; init; }

    public required string Need { get; init; }

    public required Guid PersonId { get; init; }

    public required ReviewVerdict Verdict { get; init; }

    public required string Reason { get; init; }

    public required DateTime At { get; init; }

    /// <summary>Of what they saw.</summary>
    public required string Hash { get; init; }

    /// <summary>People who wrote in the email and use the browser that it was decided in: one person with two accounts, perhaps.</summary>
    public List<Guid> SameBrowserAs { get; init; } = [];
}

/// <summary>An email as people saw it when they were asked, or decided. Never changes.</summary>
public sealed class StoredSeenEmail
{
    public required Guid DocumentId { get; init; }

    public required string Hash { get; init; }

    /// <summary>JSON of a <see cref="SeenEmail"/>.</summary>
    public required string Body { get; init; }

    public required DateTime At { get; init; }
}

/// <summary>What somebody says about an email, at a place of it or as a whole.</summary>
public sealed class StoredComment
{
    public required Guid Id { get; init; }

    public required Guid DocumentId { get; init; }

    /// <summary>The comment that this one answers. Null: it begins a thread.</summary>
    public Guid? ThreadId { get; init; }

    public required Guid AuthorId { get; init; }

    public required DateTime At { get; init; }

    public required string Text { get; set; }

    public List<Guid> Mentions { get; set; } = [];

    /// <summary>Row id; empty: the whole email, or with a field what the inbox shows.</summary>
    public string Row { get; init; } = "";

    public string Block { get; init; } = "";

    public string Field { get; init; } = "";

    /// <summary>What the place was called.</summary>
    public string PlaceName { get; init; } = "";

    /// <summary>What stood in the field then; empty: it is pinned to no words.</summary>
    public string FieldText { get; init; } = "";

    /// <summary>Characters of it before the words that are meant.</summary>
    public int Start { get; init; }

    public int Length { get; init; }

    public Guid? ResolvedBy { get; set; }

    public DateTime? ResolvedAt { get; set; }
}
