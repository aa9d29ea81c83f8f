using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.HandOffs;
using GoldenRule.Data;
using GoldenRule.Server.Emails;
using GoldenRule.Server.People;

namespace GoldenRule.Server.HandOffs;

/// <param name="Reason">Why.</param>
public sealed record WithdrawalEntry(PersonEntry By, DateTime At, string Reason);

/// <summary>What became of a message to one person.</summary>
/// <param name="Answer">What the mail server said, or why it was not asked.</param>
public sealed record PersonalSendEntry(SendState State, string Answer, PersonEntry By, DateTime At);

/// <summary>A hand-off as lists show it.</summary>
/// <param name="Number">From 1 within the email; each corrects the one before.</param>
/// <param name="Withdrawal">Null: it holds.</param>
public sealed record HandOffMark(Guid Id, int Number, PersonEntry By, DateTime At, WithdrawalEntry? Withdrawal);

/// <summary>The hand-offs of an email, and whether it can be handed off now.</summary>
/// <param name="Hash">Of what there is to be seen now; a hand-off says which it is of.</param>
/// <param name="Profiles">All there are, the usual one first.</param>
/// <param name="HasFields">False: the profile makes no difference.</param>
/// <param name="All">The newest first.</param>
public sealed record EmailHandOffs(
    EmailState State,
    string Hash,
    Allowance HandOff,
    Allowance Correct,
    ImmutableArray<ProfileChoice> Profiles,
    bool HasFields,
    ImmutableArray<HandOffMark> All
);

/// <summary>A hand-off: what was frozen, and how it stands now.</summary>
/// <param name="Seal">SHA-256 of the record.</param>
/// <param name="Page">Address of the page for browsers, as readers reach it.</param>
/// <param name="PageUntil">The last day that it is there. Null: as long as it is not withdrawn.</param>
/// <param name="PageIsOpen">Whether it is there today.</param>
/// <param name="State">Of the email.</param>
/// <param name="Sending">Of one that is written to one person. Null: nobody has sent it from here.</param>
/// <param name="All">Every hand-off of the email, the newest first.</param>
public sealed record HandOffAnswer(
    HandOffRecord Record,
    string Seal,
    string Page,
    DateOnly? PageUntil,
    bool PageIsOpen,
    EmailState State,
    WithdrawalEntry? Withdrawal,
    PersonalSendEntry? Sending,
    ImmutableArray<HandOffMark> All,
    Allowance Send,
    Allowance Withdraw,
    Allowance Correct,
    Allowance SetPage
);

/// <param name="Id">UUIDv7 made by the client: asked twice, it is one hand-off.</param>
/// <param name="Hash">Of what was looked at: nothing else is handed off.</param>
/// <param name="Profile">Technical name of the export profile.</param>
/// <param name="PageUntil">The last day that the page for browsers is there. Null: as long as it is not withdrawn.</param>
public sealed record HandOffRequest(Guid Id, string Hash, string Profile = "mustache", string Note = "", DateOnly? PageUntil = null);

public sealed record WithdrawalRequest(string Reason);

public sealed record BrowserPageRequest(DateOnly? Until);

/// <param name="Sample">Id of the sample reader whose values it carries.</param>
public sealed record ReaderAddressRequest(Guid Sample);

/// <param name="Address">Opens the page with these values, for as long as it says.</param>
public sealed record ReaderAddress(string Address, DateTime Until);

/// <param name="At">When it was looked at.</param>
public sealed record HandOffVerified(bool Holds, ImmutableArray<string> Faults, int Files, long Bytes, DateTime At);
