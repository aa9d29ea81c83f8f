namespace GoldenRule.Data;

/// <summary>How the pictures of an email reach whoever reads it.</summary>
public enum PicturePolicy
{
    /// <summary>They stay on this server, and are linked.</summary>
    Linked,

    /// <summary>They are handed over, and linked where they are then.</summary>
    Uploaded,

    /// <summary>They are carried inside.</summary>
    Inside,
}

/// <summary>Where what was handed off goes.</summary>
public sealed class StoredDestination
{
    public required Guid Id { get; init; }

    public required string Name { get; set; }

    /// <summary>Name of a DestinationKind.</summary>
    public required string Kind { get; init; }

    /// <summary>Key of the export profile it is written for.</summary>
    public required string Profile { get; set; }

    public required PicturePolicy Pictures { get; set; }

    /// <summary>Empty: the kind has none, or takes this server's own.</summary>
    public required string Address { get; set; }

    public required string User { get; set; }

    /// <summary>Encrypted; empty: there is none. It never leaves the server again.</summary>
    public required byte[] Secret { get; set; }

    /// <summary>When it was last tried. Null: never.</summary>
    public DateTime? TriedAt { get; set; }

    public bool Works { get; set; }

    /// <summary>What it said when it was tried.</summary>
    public string TriedAnswer { get; set; } = "";

    /// <summary>It is not offered any more. Null: it is.</summary>
    public DateTime? RetiredAt { get; set; }
}

public enum PushState
{
    Waiting,
    Taken,

    /// <summary>It was tried often enough, or cannot be taken as it is.</summary>
    GivenUp,
    Stopped,
}

/// <summary>A hand-off on its way to a destination: once for each, however often it is asked for.</summary>
public sealed class StoredPush
{
    public required Guid Id { get; init; }

    public required Guid HandOffId { get; init; }

    public required Guid DestinationId { get; init; }

    public required Guid AskedBy { get; set; }

    public required DateTime AskedAt { get; set; }

    /// <summary>Scheme and host that pictures are linked under.</summary>
    public required string Base { get; set; }

    public required PushState State { get; set; }

    public int Tries { get; set; }

    /// <summary>Null: it is not tried again.</summary>
    public DateTime? NextTry { get; set; }

    /// <summary>What was said the last time.</summary>
    public string Answer { get; set; } = "";

    /// <summary>What the destination calls it.</summary>
    public string OtherId { get; set; } = "";

    public DateTime? TakenAt { get; set; }

    /// <summary>How far what came back was fetched from there.</summary>
    public string EventsUpTo { get; set; } = "";

    /// <summary>When that was looked for last. Null: never.</summary>
    public DateTime? LookedAt { get; set; }
}

public enum SendingState
{
    Running,
    Paused,

    /// <summary>The batch that is under way is the last.</summary>
    Stopping,
    Stopped,
    Done,
}

/// <summary>A hand-off sent to a list in batches.</summary>
public sealed class StoredSend
{
    public required Guid Id { get; init; }

    public required Guid HandOffId { get; init; }

    public required Guid DestinationId { get; init; }

    public required Guid AskedBy { get; init; }

    public required DateTime AskedAt { get; init; }

    public required string ListName { get; init; }

    /// <summary>JSON of a BatchRule.</summary>
    public required string Rule { get; init; }

    /// <summary>IANA time zone that the plan is drawn in.</summary>
    public required string Zone { get; init; }

    /// <summary>Scheme and host that readers' addresses are written with.</summary>
    public required string Base { get; init; }

    public required SendingState State { get; set; }

    /// <summary>Why it waits or has stopped; empty: nothing out of the ordinary.</summary>
    public string Answer { get; set; } = "";

    /// <summary>By the sending clock, when there is something to do. Null: nothing is.</summary>
    public DateTime? DueAt { get; set; }

    public List<StoredBatch> Batches { get; } = [];
}

/// <summary>A part of a list that is sent to together.</summary>
public sealed class StoredBatch
{
    public required Guid SendId { get; init; }

    /// <summary>From 1, within the send.</summary>
    public required int Number { get; init; }

    /// <summary>When it is to begin, by the sending clock.</summary>
    public required DateTime At { get; set; }

    public required int Size { get; set; }

    public DateTime? BegunAt { get; set; }

    public DateTime? EndedAt { get; set; }

    public int Sent { get; set; }

    public int Refused { get; set; }

    public int LeftOut { get; set; }

    public int Unknown { get; set; }

    /// <summary>What the destination calls it.</summary>
    public string OtherId { get; set; } = "";
}

/// <summary>Somebody on the list of a send. It is deleted a while after the last batch; counts stay.</summary>
public sealed class StoredRecipient
{
    public required Guid SendId { get; init; }

    /// <summary>From 0, within the send.</summary>
    public required int Position { get; init; }

    public required string Address { get; init; }

    /// <summary>What the destination calls them; empty: it knows them by their address.</summary>
    public string OtherId { get; set; } = "";

    /// <summary>JSON of the fields' values.</summary>
    public required string Values { get; init; }

    /// <summary>0: none yet.</summary>
    public int Batch { get; set; }

    public SendState State { get; set; }

    public int Tries { get; set; }

    public string Answer { get; set; } = "";
}

/// <summary>Somebody who does not want any more mail: a hash of the address, which is all that is needed to leave them out.</summary>
public sealed class UnsubscribedAddress
{
    public required string Hash { get; init; }

    public required DateTime At { get; init; }
}

/// <summary>What came back of a hand-off, counted.</summary>
public sealed class ReturnedCount
{
    public required Guid HandOffId { get; init; }

    /// <summary>Name of a ReaderEventKind.</summary>
    public required string Kind { get; init; }

    /// <summary>Of clicks: the address; empty: another that the email does not have, or no click.</summary>
    public required string Link { get; init; }

    /// <summary>True: by programs that look for malware.</summary>
    public required bool Scanner { get; init; }

    /// <summary>Of clicks: the saved row that has the link first; empty: none.</summary>
    public required string Row { get; init; }

    public required string RowName { get; init; }

    public int Count { get; set; }
}

/// <summary>What a hand-off that something came back of was made from, to add counts up by.</summary>
public sealed class ReturnedHandOff
{
    public required Guid HandOffId { get; init; }

    public required string Template { get; init; }

    public required string TemplateName { get; init; }

    public required string CampaignType { get; init; }

    public required string CampaignTypeName { get; init; }

    /// <summary>The first day of the month that it was handed off in.</summary>
    public required DateOnly Month { get; init; }
}

/// <summary>An event that was counted, by the SHA-256 of what the sending side calls it.</summary>
public sealed class CountedEvent
{
    public required Guid HandOffId { get; init; }

    public required byte[] Hash { get; init; }

    public required DateTime At { get; init; }
}

/// <summary>What a program shows to fetch hand-offs or tell of events.</summary>
public sealed class StoredToken
{
    public required Guid Id { get; init; }

    public required string Name { get; init; }

    /// <summary>SHA-256 of the token: what is stored here opens nothing.</summary>
    public required byte[] Hash { get; init; }

    /// <summary>Its first characters, to tell it from others.</summary>
    public required string Beginning { get; init; }

    public required string[] Scopes { get; init; }

    public required Guid MadeBy { get; init; }

    public required DateTime MadeAt { get; init; }

    public DateTime? UsedAt { get; set; }

    public DateTime? RevokedAt { get; set; }
}

/// <summary>An address that is told of what happens to emails.</summary>
public sealed class StoredWebhook
{
    public required Guid Id { get; init; }

    public required string Name { get; set; }

    public required string Address { get; set; }

    /// <summary>What it is told of, as Standard Webhooks name events: "hand-off.made".</summary>
    public required string[] Kinds { get; set; }

    /// <summary>Encrypted.</summary>
    public required byte[] Secret { get; set; }

    /// <summary>The secret before, which signs beside the new one until <see cref="FormerUntil"/>; empty: there is none.</summary>
    public byte[] FormerSecret { get; set; } = [];

    public DateTime? FormerUntil { get; set; }

    /// <summary>It is told of nothing any more. Null: it is.</summary>
    public DateTime? RetiredAt { get; set; }
}

public enum DeliveryState
{
    Waiting,
    Delivered,
    GivenUp,
}

/// <summary>One thing that a webhook is told of.</summary>
public sealed class StoredDelivery
{
    /// <summary>The message's id: the same however often it is tried.</summary>
    public required Guid Id { get; init; }

    public required Guid WebhookId { get; init; }

    public required string Kind { get; init; }

    /// <summary>JSON, character for character as it is signed.</summary>
    public required string Body { get; init; }

    public required DateTime At { get; init; }

    public required DeliveryState State { get; set; }

    public int Tries { get; set; }

    public DateTime? NextTry { get; set; }

    public string Answer { get; set; } = "";
}
