using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Reviews;

namespace GoldenRule.Data;

/// <summary>A sort of email that teams send.</summary>
public sealed class CampaignType
{
    public required string Key { get; init; }

    public required string Name { get; set; }

    /// <summary>Teams that send it; none: it is nobody's in particular.</summary>
    public List<Guid> Teams { get; set; } = [];

    /// <summary>Answers a reader's own act, so that the rules for marketing do not apply.</summary>
    public bool Transactional { get; set; }

    /// <summary>What the addresses of links get when an email goes out; JSON.</summary>
    public LinkTags LinkTags { get; set; } = LinkTags.None;

    /// <summary>How its emails are approved; JSON.</summary>
    public ReviewRule ReviewRule { get; set; } = ReviewRule.Usual;

    /// <summary>Nothing new is made for it; what there is goes on.</summary>
    public bool Retired { get; set; }

    /// <summary>Key of the campaign type that took its place; null: it stands for itself.</summary>
    public string? MergedInto { get; set; }

    public int Position { get; set; }
}

/// <summary>What rows of the library are for in an email.</summary>
public sealed class StoredRowKind
{
    public required string Key { get; init; }

    public required string Name { get; set; }

    public RowPurpose Purpose { get; set; }

    /// <summary>Nothing new is made for it; what there is goes on.</summary>
    public bool Retired { get; set; }

    /// <summary>Key of the row kind that took its place; null: it stands for itself.</summary>
    public string? MergedInto { get; set; }

    public int Position { get; set; }
}

/// <summary>Whose library this is; one row.</summary>
public sealed class Organisation
{
    public int Id { get; init; } = 1;

    /// <summary>Empty: nobody has said yet.</summary>
    public string Name { get; set; } = "";
}

/// <summary>People who send emails of some campaign types together.</summary>
public sealed class StoredTeam
{
    public required Guid Id { get; init; }

    public required string Name { get; set; }

    /// <summary>What people outside it see of its emails.</summary>
    public ForOthers ForOthers { get; set; }

    /// <summary>The team that took its place; null: it stands for itself.</summary>
    public Guid? MergedInto { get; set; }

    public int Position { get; set; }
}

/// <summary>A role that someone has in one team.</summary>
public sealed class TeamMember
{
    public required Guid TeamId { get; init; }

    public required Guid PersonId { get; init; }

    public required Role Role { get; init; }
}

/// <summary>Whether a campaign type needs rows of a kind. No entry: nobody has said.</summary>
public sealed class CoverageNeed
{
    public required string CampaignType { get; init; }

    public required string RowKind { get; init; }

    public bool Needed { get; set; }
}

/// <summary>What the lead says about the checks; one row.</summary>
public sealed class StoredCheckPolicy
{
    public int Id { get; init; } = 1;

    /// <summary>The core's CheckPolicy; JSON.</summary>
    public required string Body { get; set; }

    /// <summary>Counts its changes.</summary>
    public long Revision { get; set; }

    public Guid? ChangedBy { get; set; }

    public DateTime? ChangedAt { get; set; }
}
