using System.Net;

namespace GoldenRule.Server.Mail;

/// <summary>What this server writes to people about their account and what waits for them.</summary>
public sealed record AccountMail(string Subject, string Text, string Html)
{
    public static AccountMail Invitation(string name, string by, string organisation, string link) =>
        Write(
            $"{by} invites you to Golden Rule",
            $"Hello {name},",
            $"{by} invites you to write the emails of {organisation} in Golden Rule. Choose a password to begin:",
            link,
            "The link works once, for a day. If you do not know what this is about, do nothing."
        );

    public static AccountMail Reset(string name, string link) =>
        Write(
            "A new password for Golden Rule",
            $"Hello {name},",
            "Someone, most likely you, asked for a new password. Choose it here:",
            link,
            "The link works once, for an hour. If it was not you, do nothing: the password stays as it is."
        );

    public static AccountMail PasswordChanged(string name) =>
        Write(
            "Your password for Golden Rule was changed",
            $"Hello {name},",
            "Your password was changed a moment ago, and every other session of yours has ended.",
            null,
            "If it was not you, ask for a new password now, and tell whoever leads your library."
        );

    /// <summary>What waits for somebody, gathered.</summary>
    /// <param name="settings">Where they choose what they are told of.</param>
    public static AccountMail Waiting(string name, IReadOnlyList<(string Name, string Text, string Link)> all, string settings)
    {
        var subject = all.Count == 1 ? $"{all[0].Name} waits for you" : $"{all.Count} things wait for you in Golden Rule";
        var (greeting, close) = ($"Hello {name},", "Under “Your account” you choose what you are told of by mail:");
        return new(
            subject,
            $"{greeting}\n\n{string.Join("\n\n", all.Select(w => $"{w.Name}\n{w.Text}\n{w.Link}"))}\n\n{close}\n{settings}\n",
            Page(
                subject,
                [
                    Paragraph(greeting),
                    .. all.SelectMany(w =>
                        new[] { $"<h2 style=\"font-size:18px\">{WebUtility.HtmlEncode(w.Name)}</h2>", Paragraph(w.Text), Linked(w.Link) }
                    ),
                    Paragraph(close),
                    Linked(settings),
                ]
            )
        );
    }

    private static AccountMail Write(string subject, string greeting, string what, string? link, string close) =>
        new(
            subject,
            $"{greeting}\n\n{what}\n{(link is null ? "" : $"\n{link}\n")}\n{close}\n",
            Page(subject, [Paragraph(greeting), Paragraph(what), .. link is null ? (string[])[] : [Linked(link)], Paragraph(close)])
        );

    private static string Page(string title, string[] parts) =>
        $"""
            <!doctype html><html lang="en"><head><meta charset="utf-8"><title>{WebUtility.HtmlEncode(title)}</title></head>
            <body style="margin:0;background:#fbf8f1;font:16px/1.5 Georgia,serif;color:#1e2430">
            <div style="max-width:560px;margin:0 auto;padding:32px">
            {string.Join('\n', parts)}
            </div></body></html>
            """;

    private static string Paragraph(string words) => $"<p>{WebUtility.HtmlEncode(words)}</p>";

    private static string Linked(string address)
    {
        var written = WebUtility.HtmlEncode(address);
        return $"<p><a href=\"{written}\" style=\"color:#7a5510;overflow-wrap:anywhere\">{written}</a></p>";
    }
}
