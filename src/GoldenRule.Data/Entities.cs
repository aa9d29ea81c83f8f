using GoldenRule.Core.Documents;
using Microsoft.AspNetCore.Identity;

namespace GoldenRule.Data;

/// <summary>Someone who signs in.</summary>
public sealed class Account : IdentityUser<Guid>
{
    public required string Name { get; set; }
}

/// <summary>The sorts of document that are stored; each has its own type in the core.</summary>
public enum DocumentKind
{
    Email,
    Template,
    Row,
    HouseStyle,
}

/// <summary>A document: what it began as and what it is now. Between the two stand its edits.</summary>
public sealed class StoredDocument
{
    public required Guid Id { get; init; }

    public required DocumentKind Kind { get; init; }

    public required string Name { get; set; }

    /// <summary>Key of the campaign type; null for rows and house styles.</summary>
    public string? CampaignType { get; set; }

    /// <summary>For emails only.</summary>
    public EmailState State { get; set; }

    /// <summary>JSON of the document before its first edit. Never changes.</summary>
    public required string Origin { get; init; }

    /// <summary>JSON of the document now: the origin with every edit applied.</summary>
    public required string Head { get; set; }

    /// <summary>Sequence number of the last edit; 0 where there is none.</summary>
    public long Revision { get; set; }

    public required Guid CreatedBy { get; init; }

    public required DateTime CreatedAt { get; init; }

    public required DateTime ChangedAt { get; set; }
}

/// <summary>An edit as it was made. Append-only: the database refuses to change or delete it.</summary>
public sealed class StoredEdit
{
    public required Guid DocumentId { get; init; }

    /// <summary>From 1, without gaps, within the document.</summary>
    public required long Sequence { get; init; }

    /// <summary>Given by the client, so that an edit sent twice is stored once.</summary>
    public required Guid Id { get; init; }

    public required Guid AuthorId { get; init; }

    public required DateTime At { get; init; }

    /// <summary>Edits of one step are undone together.</summary>
    public required Guid Step { get; init; }

    /// <summary>The step taken back by this one.</summary>
    public Guid? Undoes { get; init; }

    /// <summary>What it sets; see Edit.Target.</summary>
    public string? Target { get; init; }

    public required string Body { get; init; }

    public required string Inverse { get; init; }
}

/// <summary>A numbered version of a master. The database refuses to change or delete it.</summary>
public sealed class StoredRelease
{
    public required Guid DocumentId { get; init; }

    /// <summary>From 1 within the document.</summary>
    public required int Number { get; init; }

    public required DocumentKind Kind { get; init; }

    /// <summary>Revision of the draft it was made from.</summary>
    public required long Revision { get; init; }

    public required string Body { get; init; }

    public required string Note { get; init; }

    public required Guid AuthorId { get; init; }

    public required DateTime At { get; init; }
}

/// <summary>A picture of the library under the SHA-256 of its largest file, so that the same bytes are kept once.</summary>
public sealed class StoredPicture
{
    public required string Id { get; init; }

    public required string Name { get; set; }

    public required string Alt { get; set; }

    /// <summary>Readers lose nothing without it, so that it needs no alt text.</summary>
    public bool Decorative { get; set; }

    public List<string> Tags { get; set; } = [];

    /// <summary>What search looks through: name, alt text and tags, lower case.</summary>
    public string Words { get; set; } = "";

    /// <summary>The point that a crop keeps in sight, as shares of width and height from the top left.</summary>
    public double FocalX { get; set; } = 0.5;

    public double FocalY { get; set; } = 0.5;

    public required int Width { get; init; }

    public required int Height { get; init; }

    /// <summary>"png", "jpg" or "gif".</summary>
    public required string Extension { get; init; }

    public required int Weight { get; init; }

    /// <summary>Name of the largest file; see <see cref="StoredPictureFile"/>.</summary>
    public string WholeFile => $"{Id}.{Extension}";

    /// <summary>Smaller files, the widest first, as the core has them; JSON.</summary>
    public List<PictureFile> Smaller { get; set; } = [];

    public PictureFile? PhoneCrop { get; set; }

    /// <summary>The picture that took its place everywhere. Null: it stands for itself.</summary>
    public string? ReplacedBy { get; set; }

    public Guid? AddedBy { get; init; }

    public required DateTime AddedAt { get; init; }
}

/// <summary>The bytes of one file of a picture, by the name that mail clients fetch it under. Never changed, and kept for emails that were sent.</summary>
public sealed class StoredPictureFile
{
    /// <summary>SHA-256, a point, the extension.</summary>
    public required string Name { get; init; }

    public required byte[] Content { get; init; }
}

/// <summary>A sort of email that a team sends.</summary>
public sealed class CampaignType
{
    public required string Key { get; init; }

    public required string Name { get; set; }

    public required string Team { get; set; }

    /// <summary>Answers a reader's own act, so that the rules for marketing do not apply.</summary>
    public bool Transactional { get; set; }

    public int Position { get; set; }
}

/// <summary>One row that counts releases and pictures, so that servers know when what they keep is out of date.</summary>
public sealed class LibraryStamp
{
    public int Id { get; init; }

    public long Version { get; init; }
}
