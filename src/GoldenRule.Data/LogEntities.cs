namespace GoldenRule.Data;

/// <summary>What the log tells of.</summary>
public enum LogKind
{
    SignedIn,
    SignInRefused,
    SignedOut,
    SessionEnded,
    PasswordChanged,
    PasswordReset,
    TwoFactorOn,
    TwoFactorOff,
    PersonInvited,
    InvitationWithdrawn,
    PersonJoined,
    RolesSet,
    PersonDeactivated,
    PersonReactivated,
    PersonErased,
    TeamMade,
    TeamChanged,
    TeamMerged,
    TeamRemoved,
    TeamRolesSet,
    CampaignTypeMade,
    CampaignTypeChanged,
    CampaignTypeMerged,
    RowKindMade,
    RowKindChanged,
    RowKindMerged,
    ChecksSet,
    LinkTrackingSet,
    CoverageSet,
    ReviewRuleSet,
    ReviewAsked,
    ReviewTakenBack,
    Approved,
    ApprovedFromWritersBrowser,
    ChangesAsked,
    ApprovalOvertaken,
    Released,
    ReleasePlanned,
    ReleaseWithdrawn,
    ReleaseNotMade,
    Exported,
    HandedOff,
    CorrectionBegun,
    HandOffWithdrawn,
    BrowserPageSet,
    PersonalMessageSent,
    TestSent,
    TestersSet,
    DestinationSet,
    DestinationRetired,
    Pushed,
    SendPlanned,
    SendPaused,
    SendResumed,
    SendStopped,
    SendEnded,
    TokenMade,
    TokenRevoked,
    WebhookSet,
    WebhookRetired,
    WebhookSecretRolled,
    LogKeptFor,
}

/// <summary>
/// Something that was done or refused. Append-only: the database refuses to change an entry, and to delete one before its time.
/// It names people by their ids, so that the name of one who is erased goes and what they did stays.
/// </summary>
public sealed class LogEntry
{
    public long Sequence { get; init; }

    public required DateTime At { get; init; }

    public required LogKind Kind { get; init; }

    /// <summary>Who did it; null: nobody who is signed in.</summary>
    public Guid? PersonId { get; init; }

    /// <summary>The person it was done to; null: it is about something else.</summary>
    public Guid? OfPersonId { get; init; }

    /// <summary>What it was done to, in words; empty: a person, or nothing in particular.</summary>
    public required string Subject { get; init; }

    /// <summary>JSON; null: there was nothing.</summary>
    public string? Before { get; init; }

    /// <summary>JSON; null: there is nothing any more.</summary>
    public string? After { get; init; }
}

/// <summary>How long the log is kept; one row.</summary>
public sealed class LogSetting
{
    public int Id { get; init; } = 1;

    /// <summary>Days after which entries are deleted.</summary>
    public int KeptDays { get; set; } = 730;
}
