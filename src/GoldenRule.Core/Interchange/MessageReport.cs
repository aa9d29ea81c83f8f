using System.Collections.Immutable;
using System.Globalization;
using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using MimeKit;

namespace GoldenRule.Core.Interchange;

/// <summary>Something about a message that mail filters look at.</summary>
/// <param name="Name">"Links", for example.</param>
/// <param name="Found">What there is.</param>
/// <param name="IsSound">False: it counts against the message.</param>
/// <param name="Why">What it is good for, and who says so.</param>
public sealed record MessageSign(string Name, string Found, bool IsSound, string Why);

/// <summary>
/// What filters look at in a message as it arrived. It judges what can be seen in the message alone: who sends it from where, which
/// counts most, only the receiving side knows.
/// </summary>
public static class MessageReport
{
    /// <summary>Bytes of HTML from which a large webmail cuts an email off (common practice, no source).</summary>
    private const int Clipped = 102 * 1024;

    /// <summary>Fewer words than these for each picture read as a picture with nothing to say (common practice, no source).</summary>
    private const int WordsAPicture = 20;

    private static readonly string[] Authentication =
    [
        "Authentication-Results",
        "ARC-Authentication-Results",
        "DKIM-Signature",
        "Received-SPF",
    ];

    /// <param name="message">As a file (RFC 5322).</param>
    public static ImmutableArray<MessageSign> Read(byte[] message)
    {
        using var stream = new MemoryStream(message);
        var read = MimeMessage.Load(stream);
        var html = read.HtmlBody ?? "";
        var page = new HtmlParser().ParseDocument(html);
        return
        [
            Authenticated(read),
            Unsubscribing(read),
            Alternatives(read),
            Size(message, html),
            Links(read, page),
            Pictures(page),
            Subject(read),
        ];
    }

    private static MessageSign Authenticated(MimeMessage message)
    {
        var there = Authentication.Where(name => message.Headers.Contains(name)).ToList();
        return new MessageSign(
            "Authentication",
            there.Count == 0 ? "No header of it" : string.Join(", ", there),
            there.Count > 0,
            "Whoever sends signs the message (DKIM, RFC 6376), and whoever receives it writes down whether that holds "
                + "(RFC 8601). A test handed in here has neither: the sending platform adds them."
        );
    }

    private static MessageSign Unsubscribing(MimeMessage message)
    {
        var (way, press) = (message.Headers.Contains(HeaderId.ListUnsubscribe), message.Headers.Contains("List-Unsubscribe-Post"));
        return new MessageSign(
            "Unsubscribe headers",
            (way, press) switch
            {
                (false, _) => "None",
                (_, false) => "A link",
                _ => "A link, and one press",
            },
            way && press,
            "Mail programs show their own way out where there is one (RFC 2369), and large ones ask for one press (RFC 8058)."
        );
    }

    private static MessageSign Alternatives(MimeMessage message)
    {
        var (text, html) = (message.TextBody is { Length: > 0 }, message.HtmlBody is { Length: > 0 });
        return new MessageSign(
            "Parts",
            (text, html) switch
            {
                (true, true) => "Text and HTML",
                (true, false) => "Text",
                (false, true) => "HTML alone",
                _ => "Nothing to read",
            },
            text,
            "A message says the same in plain text (RFC 2046, 5.1.4)."
        );
    }

    private static MessageSign Size(byte[] message, string html)
    {
        var bytes = System.Text.Encoding.UTF8.GetByteCount(html);
        return new MessageSign(
            "Size",
            $"{Kilobytes(message.Length)} KB, of it {Kilobytes(bytes)} KB of HTML",
            bytes <= Clipped,
            "A large webmail cuts HTML off at about 102 KB (common practice, no source)."
        );
    }

    private static MessageSign Links(MimeMessage message, IDocument page)
    {
        var links = page.QuerySelectorAll("a[href]").Select(a => a.GetAttribute("href")!).Where(h => !h.StartsWith('#')).ToList();
        var hosts = links.Select(Documents.Links.HostOf).OfType<string>().Where(h => h.Length > 0).Distinct().Order().ToList();
        var plain = links.Count(h => h.StartsWith("http:", StringComparison.OrdinalIgnoreCase));
        var sender = message.From.Mailboxes.FirstOrDefault()?.Domain ?? "";
        var others = hosts.Count(h => !Belongs(h, sender));
        return new MessageSign(
            "Links",
            $"{Count(links.Count, "link")}, to {Count(hosts.Count, "host")}"
                + (hosts.Count == 0 ? "" : $": {string.Join(", ", hosts.Take(6))}{(hosts.Count > 6 ? " …" : "")}")
                + (others == 0 ? "" : $"; {others} not of {sender}")
                + (plain == 0 ? "" : $"; {plain} not encrypted"),
            plain == 0,
            "Links that are not encrypted, and many that lead away from the sender, count against a message (common practice, no source)."
        );
    }

    private static bool Belongs(string host, string sender) =>
        sender.Length > 0 && (host == sender || host.EndsWith("." + sender, StringComparison.OrdinalIgnoreCase));

    private static MessageSign Pictures(IDocument page)
    {
        var pictures = page.QuerySelectorAll("img").Length;
        var words = (page.Body?.TextContent ?? "")
            .Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)
            .Count(w => w.Any(char.IsLetterOrDigit));
        return new MessageSign(
            "Pictures and words",
            pictures == 0
                ? $"No picture, {Count(words, "word")}"
                : $"{Count(pictures, "picture")}, {Count(words, "word")}: {words / pictures} for each picture",
            words >= pictures * WordsAPicture,
            "What is said in pictures alone cannot be read, and filters know it (common practice, no source)."
        );
    }

    private static MessageSign Subject(MimeMessage message)
    {
        var subject = message.Subject ?? "";
        var letters = subject.Where(char.IsLetter).ToList();
        var shouts = letters.Count > 8 && letters.Count(char.IsUpper) * 2 > letters.Count;
        var marks = subject.Count(c => c == '!');
        return new MessageSign(
            "Subject",
            $"{Count(Documents.Measuring.Characters(subject), "character")}"
                + (shouts ? ", mostly capitals" : "")
                + (marks > 1 ? $", {marks} exclamation marks" : ""),
            !shouts && marks <= 1,
            "Capitals and exclamation marks read as shouting (common practice, no source)."
        );
    }

    private static string Kilobytes(int bytes) => ((bytes + 1023) / 1024).ToString("N0", CultureInfo.InvariantCulture);

    private static string Count(int count, string one) =>
        string.Create(CultureInfo.InvariantCulture, $"{count:N0} {one}{(count == 1 ? "" : "s")}");
}
