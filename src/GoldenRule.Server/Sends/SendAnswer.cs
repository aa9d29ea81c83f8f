using System.Collections.Immutable;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Interchange;
using GoldenRule.Core.Sending;
using GoldenRule.Data;
using GoldenRule.Server.Destinations;
using GoldenRule.Server.People;

namespace GoldenRule.Server.Sends;

/// <summary>Whom to send to, and when.</summary>
/// <param name="Id">UUIDv7 made by the client: asked twice, it is one send.</param>
/// <param name="List">Id of a list that the destination keeps; empty: the file.</param>
/// <param name="File">CSV in Base64, see <see cref="RecipientFile"/>. Null: the list.</param>
/// <param name="FileName">What the file is called.</param>
/// <param name="Start">"2026-11-30T10:00" in the zone; empty: at once.</param>
/// <param name="Zone">IANA time zone: "Europe/London".</param>
public sealed record SendRequest(
    Guid Id,
    Guid Destination,
    BatchRule Rule,
    string Zone,
    string Start = "",
    string List = "",
    byte[]? File = null,
    string FileName = ""
);

/// <summary>A send as it would be, before anything is sent.</summary>
/// <param name="Recipients">How many would be sent to.</param>
/// <param name="Unsubscribed">Left out: they want no more mail.</param>
/// <param name="SentBefore">Left out: they got this hand-off already.</param>
/// <param name="Note">What the time zone makes of the start; empty: nothing out of the ordinary.</param>
/// <param name="Charset">What the file was written in. Null: it is no file.</param>
/// <param name="Columns">Which column of the file is which field.</param>
/// <param name="LeftOut">Lines of the file that are left out, the first of them.</param>
/// <param name="Counts">How many lines, by reason.</param>
public sealed record DrawnSend(
    int Recipients,
    int Unsubscribed,
    int SentBefore,
    ImmutableArray<PlannedBatch> Batches,
    string Note,
    string? Charset,
    ImmutableArray<MappedColumn> Columns,
    ImmutableArray<LeftOutLine> LeftOut,
    ImmutableSortedDictionary<LeftOutReason, int> Counts
);

/// <param name="At">UTC, by the sending clock.</param>
public sealed record BatchEntry(
    int Number,
    DateTime At,
    int Size,
    DateTime? BegunAt,
    DateTime? EndedAt,
    int Sent,
    int Refused,
    int LeftOut,
    int Unknown
);

/// <param name="Answer">Why it waits or has stopped; empty: nothing out of the ordinary.</param>
/// <param name="Waiting">How many are still to be sent to.</param>
public sealed record SendEntry(
    Guid Id,
    string Destination,
    string ListName,
    BatchRule Rule,
    string Zone,
    SendingState State,
    string Answer,
    PersonEntry By,
    DateTime AskedAt,
    int Waiting,
    ImmutableArray<BatchEntry> Batches
);

public sealed record PushEntry(
    Guid Destination,
    string Name,
    string KindTitle,
    string Kind,
    string Profile,
    PushState State,
    string Answer,
    string OtherId,
    PersonEntry By,
    DateTime AskedAt,
    DateTime? TakenAt,
    DateTime? NextTry
);

/// <summary>Where a hand-off went, and where it may go.</summary>
/// <param name="Now">UTC, by the sending clock.</param>
/// <param name="Sends">The newest first.</param>
public sealed record SendingAnswer(
    DateTime Now,
    double ClockSpeed,
    ImmutableArray<DestinationEntry> Destinations,
    ImmutableArray<PushEntry> Pushes,
    ImmutableArray<SendEntry> Sends,
    Allowance Push
);

/// <summary>Somebody who did not get it, and why.</summary>
public sealed record NotReached(string Address, SendState State, string Answer);

public enum SendAct
{
    Pause,
    Resume,
    StopAfterBatch,
}

public sealed record SendActRequest(SendAct Act);

public sealed record PushRequest(Guid Destination);
