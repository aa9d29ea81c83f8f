namespace GoldenRule.Data;

/// <summary>One row that counts releases and pictures, so that servers know when what they keep is out of date.</summary>
public sealed class LibraryStamp
{
    public int Id { get; init; }

    public long Version { get; init; }
}

/// <summary>Counts the changes of one part of the library, so that what did not change is not read again.</summary>
public sealed class LibraryPart
{
    public required string Name { get; init; }

    public long Version { get; init; }
}

/// <summary>A made-up reader to look at proofs by; see the core's SampleReader.</summary>
public sealed class StoredReader
{
    public required Guid Id { get; init; }

    public required string Name { get; set; }

    /// <summary>By the field's key; JSON.</summary>
    public Dictionary<string, string> Values { get; set; } = [];

    /// <summary>Their place among the others.</summary>
    public int Position { get; set; }
}

/// <summary>A file that emails may carry, under the SHA-256 of its bytes, so that the same bytes are kept once.</summary>
public sealed class StoredFile
{
    public required string Id { get; init; }

    public required string Name { get; init; }

    /// <summary>"application/pdf" for example.</summary>
    public required string MediaType { get; init; }

    public required int Bytes { get; init; }

    public required byte[] Content { get; init; }

    public required Guid AddedBy { get; init; }

    public required DateTime AddedAt { get; init; }
}
