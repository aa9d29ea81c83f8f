using MimeKit;

namespace GoldenRule.Server.Mail;

/// <summary>Where mail is handed in (RFC 6409), as the settings under "Mail" say.</summary>
public sealed record MailSettings
{
    /// <summary>Name or address of the server. Empty: this server sends no mail.</summary>
    public string Host { get; init; } = "";

    public int Port { get; init; } = 587;

    /// <summary>Empty: without signing in.</summary>
    public string User { get; init; } = "";

    public string Password { get; init; } = "";

    /// <summary>"Golden Rule &lt;golden-rule@larkfell.example.org&gt;".</summary>
    public string From { get; init; } = "";

    /// <summary>False: for a mailbox on this machine, whose certificate nobody has signed.</summary>
    public bool CheckCertificate { get; init; } = true;

    /// <summary>How long the server may take for one message.</summary>
    public int Seconds { get; init; } = 20;

    public bool IsSet => Host.Length > 0 && MailboxAddress.TryParse(From, out _);
}
