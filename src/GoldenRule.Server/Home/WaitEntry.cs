using System.Globalization;
using GoldenRule.Core.Documents;
using GoldenRule.Data;

namespace GoldenRule.Server.Home;

/// <summary>What somebody waits for another person to do.</summary>
public enum WaitKind
{
    /// <summary>One is asked to approve an email.</summary>
    Approve,

    /// <summary>What one had approved changed by itself, and one is asked again.</summary>
    ApproveAgain,

    /// <summary>A fault has paused a send that one asked for: some readers have the email, others do not.</summary>
    SendPaused,

    /// <summary>Changes of one's own email are asked for.</summary>
    Change,

    /// <summary>One is called by name in a comment.</summary>
    Mention,

    /// <summary>A comment on one's own email is not answered.</summary>
    Comment,

    /// <summary>A newer release has to be taken into one's own email.</summary>
    TakeUpdate,

    /// <summary>One's own email goes out soon and has fields to fill.</summary>
    Fill,

    /// <summary>A snippet that one may change says nothing any more soon.</summary>
    SnippetExpires,

    /// <summary>A release that one planned was not made.</summary>
    ReleaseNotMade,

    /// <summary>For leads: somebody approved from a browser that a writer of the email uses.</summary>
    SameBrowser,

    /// <summary>All who were asked have approved one's own email.</summary>
    Approved,
}

/// <param name="Key">The same as long as it is the same thing that waits.</param>
/// <param name="Document">What Id is of.</param>
/// <param name="Text">In words, what waits.</param>
/// <param name="At">Since when; for what is still to come, until when.</param>
/// <param name="Day">The day the email goes out; empty: that is not settled.</param>
/// <param name="Comment">The comment it is about. Null: none.</param>
/// <param name="Notable">It waits until whoever it is for says that they know.</param>
/// <param name="Tell">Whoever it is for wants to be told of it in the application.</param>
public sealed record WaitEntry(
    WaitKind Kind,
    string Key,
    DocumentKind Document,
    Guid Id,
    string Name,
    string CampaignType,
    string Text,
    DateTime At,
    string Day,
    Guid? Comment,
    long Revision,
    bool Notable = false,
    bool Tell = true
)
{
    /// <summary>What waits about an email.</summary>
    public static WaitEntry For(WaitKind kind, StoredDocument email, string text, DateTime at) =>
        new(
            kind,
            // What goes on while one writes is the same all along.
            KeyOf(kind, email.Id, kind is WaitKind.TakeUpdate or WaitKind.Fill ? default : at),
            DocumentKind.Email,
            email.Id,
            email.Name,
            email.CampaignType ?? "",
            text,
            at,
            "",
            null,
            email.Revision
        );

    public static string KeyOf(WaitKind kind, Guid id, DateTime at) =>
        string.Create(CultureInfo.InvariantCulture, $"{kind}/{id:N}/{at.Ticks}");
}
