namespace GoldenRule.Data;

/// <summary>A mail that this server has to send. What it says is sealed: a copy of the database opens no links.</summary>
public sealed class OutgoingMail
{
    public required Guid Id { get; init; }

    /// <summary>Whom it is for; null: nobody who has an account.</summary>
    public Guid? AccountId { get; init; }

    /// <summary>The message by RFC 5322, sealed with the keys that cookies are sealed with; empty once it is sent.</summary>
    public required byte[] Sealed { get; set; }

    public required DateTime AskedAt { get; init; }

    public DateTime? SentAt { get; set; }

    /// <summary>Not tried before; null: not any more.</summary>
    public DateTime? NextTry { get; set; }

    public int Tries { get; set; }

    /// <summary>Why the last try failed; empty: it did not.</summary>
    public string Problem { get; set; } = "";
}
