using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using MimeKit;
using MimeKit.Text;
using MimeKit.Utils;

namespace GoldenRule.Core.Interchange;

/// <summary>A file that goes out with a message.</summary>
/// <param name="MediaType">"application/pdf" for example (RFC 2046).</param>
public sealed record MessagePart(string Name, string MediaType, byte[] Content);

/// <summary>What a message needs beside the email.</summary>
/// <param name="To">Address of the one it is for; null: nobody yet, as in a file to look at.</param>
/// <param name="Pictures">The bytes of each picture by its name, to be carried inside; empty: they stay where they are linked.</param>
public sealed record MessageTerms(
    DateTimeOffset Date,
    string MessageId,
    string? To,
    ImmutableArray<MessagePart> Attachments,
    ImmutableDictionary<string, byte[]> Pictures
)
{
    /// <summary>What stands before the subject, "[Test]" for example; empty: nothing.</summary>
    public string SubjectMark { get; init; } = "";

    /// <summary>
    /// True: mail programs open it as a message that is still to be sent (the header "X-Unsent", common practice, no published source).
    /// </summary>
    public bool IsUnsent { get; init; }
}

/// <summary>What a message says.</summary>
/// <param name="Language">BCP 47 tag.</param>
/// <param name="FlowingText">For format=flowed (RFC 3676).</param>
/// <param name="Unsubscribe">The way out; empty: it offers none.</param>
/// <param name="Pictures">Names of the picture files it shows.</param>
/// <param name="PicturesAt">Address that they stand under.</param>
public sealed record MessageContent(
    string Language,
    string SenderName,
    string SenderAddress,
    string Subject,
    string Html,
    string FlowingText,
    string Unsubscribe,
    ImmutableArray<string> Pictures,
    string PicturesAt
)
{
    public static MessageContent From(CompiledEmail email) => From(email, email.FlowingText());

    /// <summary>With its fields and conditions written for a sending platform.</summary>
    public static MessageContent From(FieldExport export) => From(export.Email, export.FlowingText);

    private static MessageContent From(CompiledEmail email, string text)
    {
        var (source, details) = (email.Source.Email, email.Source.Email.Details);
        return new MessageContent(
            source.Language,
            details.SenderName,
            details.SenderAddress,
            details.Subject,
            email.HtmlText(),
            text,
            ListUnsubscribe.Find(email.Source, email.Context) ?? "",
            email.PictureNames(),
            email.Context.PicturesAt
        );
    }
}

/// <summary>
/// An email as a message file: RFC 5322 headers, MIME by RFC 2045 and 2046, encoded words by RFC 2047, text as
/// format=flowed (RFC 3676), the way out as headers (RFC 2369; one press by RFC 8058).
/// </summary>
public static class MessageFile
{
    public const string MediaType = "message/rfc822";

    /// <summary>The same email and terms give the same bytes.</summary>
    /// <exception cref="StructureException">The sending address is not one.</exception>
    public static byte[] Write(MessageContent content, MessageTerms terms)
    {
        using var stream = new MemoryStream(content.Html.Length + content.FlowingText.Length + 4_096);
        var format = FormatOptions.Default.Clone();
        format.NewLineFormat = NewLineFormat.Dos;
        Make(content, terms).WriteTo(format, stream);
        return stream.ToArray();
    }

    /// <inheritdoc cref="Write"/>
    public static MimeMessage Make(MessageContent content, MessageTerms terms)
    {
        var (sender, subject) = (Line(content.SenderAddress), Line($"{terms.SubjectMark} {content.Subject}"));
        if (sender.Length > 0 && !MailAddresses.IsOne(sender))
        {
            throw new StructureException(
                $"The sending address \"{content.SenderAddress}\" is not one, so no message can be written. Write it "
                    + "like post@larkfell.example.org.",
                "details/senderAddress"
            );
        }

        var message = new MimeMessage
        {
            Date = terms.Date,
            MessageId = terms.MessageId,
            Subject = subject,
        };
        message.From.Add(new MailboxAddress(Encoding.UTF8, Line(content.SenderName), sender));
        if (terms.To is { } to)
        {
            message.To.Add(MailboxAddress.Parse(to));
        }

        message.Headers[message.Headers.IndexOf(HeaderId.Subject)].SetRawValue(HeaderText.Line("Subject", subject));
        message.Headers[message.Headers.IndexOf(HeaderId.From)].SetRawValue(HeaderText.Mailbox(Line(content.SenderName), sender));
        message.Headers.Add(HeaderId.ContentLanguage, Line(content.Language));
        if (terms.IsUnsent)
        {
            message.Headers.Add("X-Unsent", "1");
        }

        if (content.Unsubscribe is { Length: > 0 } way && Documents.Links.IsSafe(way))
        {
            message.Headers.Add(HeaderId.ListUnsubscribe, $"<{new Uri(way).AbsoluteUri}>");
            if (way.StartsWith("https://", StringComparison.OrdinalIgnoreCase))
            {
                message.Headers.Add("List-Unsubscribe-Post", "List-Unsubscribe=One-Click");
            }
        }

        var text = new TextPart(TextFormat.Flowed) { ContentTransferEncoding = ContentEncoding.QuotedPrintable };
        text.SetText(Encoding.UTF8, content.FlowingText.ReplaceLineEndings("\r\n"));
        var html = new TextPart(TextFormat.Html) { ContentTransferEncoding = ContentEncoding.QuotedPrintable };
        html.SetText(Encoding.UTF8, WithPicturesInside(content, terms));

        MimeEntity shown = html;
        if (!terms.Pictures.IsEmpty)
        {
            var related = new MultipartRelated { Root = html };
            foreach (var name in content.Pictures.Where(terms.Pictures.ContainsKey))
            {
                related.Add(
                    new MimePart(AttachmentTypes.MediaTypeOf(name))
                    {
                        Content = new MimeContent(new MemoryStream(terms.Pictures[name])),
                        ContentTransferEncoding = ContentEncoding.Base64,
                        ContentId = IdOf(name),
                        ContentDisposition = new ContentDisposition(ContentDisposition.Inline) { FileName = name },
                    }
                );
            }

            shown = related;
        }

        // The last of alternatives is the richest (RFC 2046, 5.1.4).
        MimeEntity body = new MultipartAlternative { text, shown };
        if (!terms.Attachments.IsEmpty)
        {
            var mixed = new Multipart("mixed") { body };
            foreach (var file in terms.Attachments)
            {
                mixed.Add(
                    new MimePart(ContentType.Parse(file.MediaType))
                    {
                        Content = new MimeContent(new MemoryStream(file.Content)),
                        ContentTransferEncoding = ContentEncoding.Base64,
                        ContentDisposition = new ContentDisposition(ContentDisposition.Attachment) { FileName = Line(file.Name) },
                    }
                );
            }

            body = mixed;
        }

        message.Body = body;
        Bound(body, terms.MessageId, 0);
        return message;
    }

    /// <summary>
    /// A message that was written, as one that mail programs open as still to be sent; see <see cref="MessageTerms.IsUnsent"/>.
    /// </summary>
    public static byte[] AsUnsent(byte[] message) => [.. "X-Unsent: 1\r\n"u8, .. message];

    /// <summary>
    /// What a header may hold: one line. What would begin another header is a blank; what turns the reading direction,
    /// so that an address reads as another one, is left out.
    /// </summary>
    private static string Line(string text) =>
        string.Concat(
                text.Where(c => c is not ((>= '\u202a' and <= '\u202e') or (>= '\u2066' and <= '\u2069')))
                    .Select(c => char.IsControl(c) || c is '\u2028' or '\u2029' ? ' ' : c)
            )
            .Trim();

    private static string WithPicturesInside(MessageContent content, MessageTerms terms)
    {
        var html = content.Html;
        foreach (var name in terms.Pictures.Keys)
        {
            html = html.Replace($"{content.PicturesAt}{name}", $"cid:{IdOf(name)}", StringComparison.Ordinal);
        }

        return html;
    }

    private static string IdOf(string picture) => $"{picture}@pictures.invalid";

    // Boundaries come from the message's own id: nothing in Base64 or quoted-printable begins with "=_".
    private static int Bound(MimeEntity part, string id, int count)
    {
        if (part is Multipart several)
        {
            several.Boundary =
                $"=_{count}_{Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(Encoding.UTF8.GetBytes(id)))[..24]}";
            count++;
            foreach (var inner in several)
            {
                count = Bound(inner, id, count);
            }
        }

        return count;
    }
}
