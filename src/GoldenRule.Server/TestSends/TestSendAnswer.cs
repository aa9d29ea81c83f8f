using System.Collections.Immutable;
using GoldenRule.Data;
using GoldenRule.Server.Jobs;
using GoldenRule.Server.People;

namespace GoldenRule.Server.TestSends;

/// <param name="Seen">As whom it is sent, in words; empty: nobody in particular.</param>
/// <param name="Answer">What the mail server said, or why it was not asked.</param>
public sealed record TestMessageEntry(string Address, string Seen, SendState State, string Answer, DateTime? At);

/// <param name="Revision">Of the email.</param>
/// <param name="PicturesInside">True: pictures are carried inside.</param>
/// <param name="Job">How far it is.</param>
public sealed record TestSendEntry(
    Guid Id,
    PersonEntry AskedBy,
    DateTime AskedAt,
    long Revision,
    bool PicturesInside,
    JobState Job,
    ImmutableArray<TestMessageEntry> Messages
);

/// <summary>Somebody outside the library whom tests may be sent to.</summary>
public sealed record Tester(Guid Id, string Name, string Address);

/// <summary>The last tests of an email, and what another can be.</summary>
/// <param name="Sends">False: this server has no mail server to hand anything to.</param>
/// <param name="Left">Messages that whoever asks may still send within the hour.</param>
/// <param name="Combinations">Who they are that see it differently, as sentences; at most ten.</param>
/// <param name="AllCombinations">How many there are; null: more than are counted.</param>
/// <param name="ToOthers">Whether whoever asks may send it to others.</param>
/// <param name="Last">The newest first.</param>
public sealed record TestSends(
    bool Sends,
    int Left,
    ImmutableArray<string> Combinations,
    int? AllCombinations,
    Core.Governance.Allowance ToOthers,
    ImmutableArray<Tester> Testers,
    ImmutableArray<TestSendEntry> Last
);

/// <param name="Id">UUIDv7 made by the client: asked twice, it is one test.</param>
/// <param name="People">Ids of people of the library, oneself among them.</param>
/// <param name="Testers">Ids of testers.</param>
/// <param name="Readers">Ids of sample readers as whom it is sent, each in a message of its own.</param>
/// <param name="Combinations">True: one message for each of the combinations of conditions.</param>
public sealed record TestSendRequest(
    Guid Id,
    ImmutableArray<Guid> People,
    ImmutableArray<Guid>? Testers = null,
    ImmutableArray<Guid>? Readers = null,
    bool Combinations = false,
    bool PicturesInside = false
);
