using GoldenRule.Data;

namespace GoldenRule.Server.Logs;

/// <summary>What each entry of the log tells, in words.</summary>
public static class LogWords
{
    public static string Of(LogKind kind) =>
        kind switch
        {
            LogKind.SignedIn => "Signed in",
            LogKind.SignInRefused => "Sign-in refused",
            LogKind.SignedOut => "Signed out",
            LogKind.SessionEnded => "Ended a session",
            LogKind.PasswordChanged => "Changed the password",
            LogKind.PasswordReset => "Chose a new password by mail",
            LogKind.TwoFactorOn => "Turned on two-factor sign-in",
            LogKind.TwoFactorOff => "Turned off two-factor sign-in",
            LogKind.PersonInvited => "Invited",
            LogKind.InvitationWithdrawn => "Withdrew the invitation",
            LogKind.PersonJoined => "Accepted the invitation",
            LogKind.RolesSet => "Set the roles",
            LogKind.PersonDeactivated => "Deactivated",
            LogKind.PersonReactivated => "Reactivated",
            LogKind.PersonErased => "Erased",
            LogKind.TeamMade => "Created the team",
            LogKind.TeamChanged => "Changed the team",
            LogKind.TeamMerged => "Merged the team",
            LogKind.TeamRemoved => "Removed the team",
            LogKind.TeamRolesSet => "Set the roles in the team",
            LogKind.CampaignTypeMade => "Created the campaign type",
            LogKind.CampaignTypeChanged => "Changed the campaign type",
            LogKind.CampaignTypeMerged => "Merged the campaign type",
            LogKind.RowKindMade => "Created the row kind",
            LogKind.RowKindChanged => "Changed the row kind",
            LogKind.RowKindMerged => "Merged the row kind",
            LogKind.ChecksSet => "Set the checks",
            LogKind.LinkTrackingSet => "Set link tracking",
            LogKind.CoverageSet => "Set what is needed",
            LogKind.ReviewRuleSet => "Set who approves",
            LogKind.ReviewAsked => "Asked for approval of",
            LogKind.ReviewTakenBack => "Took back from review",
            LogKind.Approved => "Approved",
            LogKind.ChangesAsked => "Asked for changes of",
            LogKind.ApprovalOvertaken => "An approval was overtaken",
            LogKind.Released => "Released",
            LogKind.ReleasePlanned => "Planned a release of",
            LogKind.ReleaseWithdrawn => "Withdrew the planned release of",
            LogKind.ReleaseNotMade => "A planned release was not made",
            LogKind.ApprovedFromWritersBrowser => "Approved from a browser that a writer uses",
            LogKind.Exported => "Exported",
            LogKind.HandedOff => "Handed off",
            LogKind.CorrectionBegun => "Began a correction of",
            LogKind.HandOffWithdrawn => "Withdrew the hand-off of",
            LogKind.BrowserPageSet => "Set how long the page for browsers stays, of",
            LogKind.PersonalMessageSent => "Sent to one person:",
            LogKind.TestSent => "Sent a test of",
            LogKind.TestersSet => "Set the testers",
            LogKind.LogKeptFor => "Set how long the log is kept",
            _ => throw new ArgumentOutOfRangeException(nameof(kind)),
        };
}
