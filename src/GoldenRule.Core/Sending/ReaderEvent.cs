namespace GoldenRule.Core.Sending;

/// <summary>What a sending side tells of a message that it sent.</summary>
public enum ReaderEventKind
{
    /// <summary>It was handed to the reader's mailbox.</summary>
    Sent,

    /// <summary>The mailbox did not take it, at once or later.</summary>
    Bounced,

    /// <summary>Its pictures were fetched.</summary>
    Opened,
    Clicked,
    Unsubscribed,
}

/// <summary>One thing that happened. Whoever it happened to is not kept: events become counts.</summary>
/// <param name="Id">Of the sending side: told twice, it counts once.</param>
/// <param name="Message">By which events of one message are told to belong together; nothing is kept of it.</param>
/// <param name="Link">Of a click: the address as it stands in the email's HTML; empty: of anything else.</param>
/// <param name="Agent">What the program called itself that fetched it; empty: not known.</param>
/// <param name="SentAt">When the message was sent. Null: not known.</param>
public sealed record ReaderEvent(
    string Id,
    ReaderEventKind Kind,
    DateTime At,
    string Message = "",
    string Link = "",
    string Agent = "",
    DateTime? SentAt = null
);
