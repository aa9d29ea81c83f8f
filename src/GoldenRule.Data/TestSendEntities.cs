namespace GoldenRule.Data;

/// <summary>An email sent to look at: to whom, as whom, and what came of each message. Its job has the same id.</summary>
public sealed class StoredTestSend
{
    public required Guid Id { get; init; }

    public required Guid DocumentId { get; init; }

    public required Guid AskedBy { get; init; }

    public required DateTime AskedAt { get; init; }

    /// <summary>Of the email.</summary>
    public required long Revision { get; init; }

    /// <summary>True: pictures are carried inside.</summary>
    public required bool PicturesInside { get; init; }

    /// <summary>Scheme and host that pictures and links to this server are written with.</summary>
    public required string Base { get; init; }

    public List<StoredTestMessage> Messages { get; } = [];
}

public enum SendState
{
    Waiting,

    /// <summary>It is being handed in. Whoever finds it so later cannot know whether it was.</summary>
    Sending,
    Sent,
    Refused,

    /// <summary>The connection ended before the server said whether it has it. It is not sent again.</summary>
    Unknown,

    /// <summary>They unsubscribed before it was their turn.</summary>
    Unsubscribed,
}

/// <summary>One message of a test.</summary>
public sealed class StoredTestMessage
{
    public required Guid TestSendId { get; init; }

    /// <summary>From 1, within the test.</summary>
    public required int Number { get; init; }

    public required string Address { get; init; }

    /// <summary>The sample reader as whom it is sent. Null: fields say their samples.</summary>
    public Guid? Reader { get; init; }

    /// <summary>Which of the reachable combinations it is, from 0. Null: none in particular.</summary>
    public int? Combination { get; init; }

    /// <summary>As whom, in words: the reader's name, or who gets the combination; empty: nobody in particular.</summary>
    public required string Seen { get; init; }

    public SendState State { get; set; }

    /// <summary>What the server said, or why it was not asked.</summary>
    public string Answer { get; set; } = "";

    public DateTime? At { get; set; }
}

/// <summary>Somebody outside the library whom tests may be sent to, as a lead has named them.</summary>
public sealed class StoredTester
{
    public required Guid Id { get; init; }

    public required string Name { get; set; }

    public required string Address { get; set; }
}
