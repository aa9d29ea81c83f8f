using GoldenRule.Core.Documents;

namespace GoldenRule.Data;

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

/// <summary>
/// The bytes of one file of a picture, by the name that mail clients fetch it under. Never changed, and kept for emails that were
/// sent.
/// </summary>
public sealed class StoredPictureFile
{
    /// <summary>SHA-256, a point, the extension.</summary>
    public required string Name { get; init; }

    public required byte[] Content { get; init; }
}

/// <summary>A small picture of a document as it looks, under the hash of what it was drawn from. Can be drawn anew at any time.</summary>
public sealed class StoredThumbnail
{
    public required string Id { get; init; }

    /// <summary>A WebP file.</summary>
    public required byte[] Content { get; init; }

    /// <summary>Pixels.</summary>
    public required int Width { get; init; }

    /// <summary>Pixels.</summary>
    public required int Height { get; init; }

    public required DateTime MadeAt { get; init; }
}
