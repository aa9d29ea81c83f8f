namespace GoldenRule.Data;

/// <summary>An email as it was handed off. The database refuses to change or delete it, its files and their bytes.</summary>
public sealed class StoredHandOff
{
    public required Guid Id { get; init; }

    public required Guid DocumentId { get; init; }

    /// <summary>From 1, within the email.</summary>
    public required int Number { get; init; }

    public required DateTime At { get; init; }

    public required Guid By { get; init; }

    /// <summary>Which page for browsers is its own: what nobody can guess.</summary>
    public required string Address { get; init; }

    /// <summary>JSON of a HandOffRecord, character for character.</summary>
    public required string Record { get; init; }

    /// <summary>SHA-256 of the record, in lower-case hexadecimal.</summary>
    public required string Seal { get; init; }

    public List<StoredHandOffFile> Files { get; } = [];

    public StoredHandOffPage Page { get; set; } = null!;

    public StoredWithdrawal? Withdrawal { get; set; }

    public StoredPersonalSend? Sending { get; set; }
}

/// <summary>A file of a hand-off.</summary>
public sealed class StoredHandOffFile
{
    public required Guid HandOffId { get; init; }

    public required string Name { get; init; }

    /// <summary>Of its bytes, in lower-case hexadecimal: where they are kept, once for all hand-offs.</summary>
    public required string Sha256 { get; init; }
}

/// <summary>Bytes under their SHA-256.</summary>
public sealed class FrozenContent
{
    public required string Sha256 { get; init; }

    public required byte[] Content { get; init; }
}

/// <summary>The page for browsers of a hand-off: the one thing about it that may change.</summary>
public sealed class StoredHandOffPage
{
    public required Guid HandOffId { get; init; }

    /// <summary>The last day that it is there. Null: as long as the hand-off is not withdrawn.</summary>
    public DateOnly? Until { get; set; }
}

/// <summary>A hand-off that was taken back. Append-only: the database refuses to change it.</summary>
public sealed class StoredWithdrawal
{
    public required Guid HandOffId { get; init; }

    public required Guid By { get; init; }

    public required DateTime At { get; init; }

    public required string Reason { get; init; }
}

/// <summary>A hand-off that is written to one person, handed in to the mail server.</summary>
public sealed class StoredPersonalSend
{
    public required Guid HandOffId { get; init; }

    public required Guid By { get; set; }

    public required DateTime At { get; set; }

    public required SendState State { get; set; }

    /// <summary>What the server said, or why it was not asked.</summary>
    public string Answer { get; set; } = "";
}
