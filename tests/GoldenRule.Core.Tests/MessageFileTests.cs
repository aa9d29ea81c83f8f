using System.Collections.Immutable;
using System.Text;
using System.Text.RegularExpressions;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Interchange;

namespace GoldenRule.Core.Tests;

/// <summary>
/// Message files against the RFCs' own rules, read here byte by byte without the library that writes them. A browser
/// test reads them back with the npm package "mailparser".
/// </summary>
public sealed class MessageFileTests
{
    private static readonly DateTimeOffset Date = new(2027, 3, 2, 9, 0, 0, TimeSpan.Zero);

    private static byte[] Write(Email email, bool embed = false, params MessagePart[] attachments)
    {
        var compiled = Larkfell.Compile(email);
        return MessageFile.Write(
            MessageContent.From(compiled),
            new MessageTerms(
                Date,
                "1.2@larkfell.example.org",
                "reader@example.org",
                [.. attachments],
                embed
                    ? compiled.PictureNames().ToImmutableDictionary(n => n, n => Encoding.UTF8.GetBytes(n))
                    : ImmutableDictionary<string, byte[]>.Empty
            )
        );
    }

    /// <summary>Headers of the message by name, unfolded (RFC 5322, 2.2.3).</summary>
    private static List<(string Name, string Value)> Headers(byte[] message) =>
        [
            .. Regex
                .Replace(Encoding.ASCII.GetString(message).Split("\r\n\r\n")[0], "\r\n(?=[ \t])", "")
                .Split("\r\n")
                .Select(h => (h[..h.IndexOf(':')], h[(h.IndexOf(':') + 1)..].Trim())),
        ];

    public static TheoryData<string> Hostile =>
        [
            "Plain",
            "Ünïcödé — £48,200 for the boiler",
            "Over\r\nBcc: everyone@example.org\r\n\r\nbody",
            "Line\nfeed",
            "Null\0and\u0007bell",
            "\u2028separator\u2029",
            "\u202eright to left",
            "👩‍🚒👩‍🚒 🏴󠁧󠁢󠁷󠁬󠁳󠁿",
            new string('x', 5_000),
            string.Join(' ', Enumerable.Repeat("wörd", 400)),
            "=?utf-8?B?aGVsbG8=?=",
            "\"quoted\" \\ <angle@example.org>",
        ];

    [Theory]
    [MemberData(nameof(Hostile))]
    public void Lines_and_headers_keep_to_the_RFCs_whatever_was_written(string text)
    {
        var email = (Email)
            new Edit[] { new SetDetail("subject", text), new SetDetail("senderName", text), new SetDetail("preheader", text) }.Aggregate(
                (Document)Larkfell.Gazette,
                (d, e) => e.Apply(d)
            );
        var message = Write(email, embed: true, new MessagePart(text, "application/pdf", Encoding.UTF8.GetBytes("%PDF-" + text)));
        // RFC 5322, 2.3: CR and LF only together; 2.1.1: at most 998 characters a line. RFC 2045, 2.7 and 6.7, 6.8: seven bits.
        Assert.All(message, b => Assert.True(b is > 0 and < 128));
        for (var i = 0; i < message.Length; i++)
        {
            Assert.True(message[i] != '\n' || message[i - 1] == '\r');
            Assert.True(message[i] != '\r' || message[i + 1] == '\n');
        }

        var lines = Encoding.ASCII.GetString(message).Split("\r\n");
        Assert.All(lines, l => Assert.InRange(l.Length, 0, 998));
        var headers = Headers(message);
        // One of each that may stand once (RFC 5322, 3.6), and nothing that the words would have added.
        Assert.Equal(
            [
                "From",
                "Date",
                "Subject",
                "Message-Id",
                "To",
                "Content-Language",
                "List-Unsubscribe",
                "List-Unsubscribe-Post",
                "MIME-Version",
                "Content-Type",
            ],
            headers.Select(h => h.Name)
        );
        Assert.All(headers, h => Assert.Matches("^[!-9;-~]+$", h.Name));
        // RFC 2047, 2: an encoded word has at most 75 characters.
        Assert.All(headers.SelectMany(h => Regex.Matches(h.Value, @"=\?[^?\s]+\?[BbQq]\?[^?\s]*\?=")), m =>
            Assert.InRange(m.Length, 10, 75)
        );
        // RFC 2046, 5.1.1: a boundary has at most 70 characters and stands in no part.
        var boundary = Regex.Match(headers[^1].Value, "boundary=\"(?<b>[^\"]+)\"").Groups["b"].Value;
        Assert.InRange(boundary.Length, 1, 70);
        Assert.Equal(1, lines.Count(l => l == $"--{boundary}--"));
    }

    [Fact]
    public void The_way_out_stands_in_the_headers()
    {
        var headers = Headers(Write(Larkfell.Gazette)).ToDictionary(h => h.Name, h => h.Value);
        // RFC 2369, 2: the address in angle brackets; RFC 8058, 3.1: exactly this field and value beside an https address.
        Assert.Equal("<https://larkfell.example.org/mail/unsubscribe>", headers["List-Unsubscribe"]);
        Assert.Equal("List-Unsubscribe=One-Click", headers["List-Unsubscribe-Post"]);
        Assert.Equal("Tue, 02 Mar 2027 09:00:00 +0000", headers["Date"]);
        Assert.Equal("<1.2@larkfell.example.org>", headers["Message-Id"]);
    }

    [Fact]
    public void A_message_without_a_way_out_has_no_such_headers()
    {
        var resolved = Larkfell.Resolve(Larkfell.Gazette);
        var compiled = Compiler.Compile(resolved with { Rows = [.. resolved.Rows.Where(r => r.Id != "footer")] }, "", Purpose.Sending);
        var message = MessageFile.Write(
            MessageContent.From(compiled),
            new MessageTerms(Date, "1@example.org", null, [], ImmutableDictionary<string, byte[]>.Empty)
        );
        Assert.DoesNotContain(Headers(message), h => h.Name.StartsWith("List-", StringComparison.Ordinal) || h.Name == "To");
    }

    [Fact]
    public void The_same_email_gives_the_same_bytes() => Assert.Equal(Write(Larkfell.Gazette, true), Write(Larkfell.Gazette, true));

    // RFC 3676, 4.2: a line that ends in a blank goes on in the next. Joined again, the paragraphs are whole; 4.4: what
    // begins with a blank, ">" or "From " is stuffed with one.
    [Fact]
    public void Flowing_text_joins_to_whole_paragraphs()
    {
        var words = string.Join(' ', Enumerable.Range(1, 60).Select(i => $"word{i}"));
        var writer = new PlainTextWriter();
        writer.Prose(RichText.FromParagraphs(words, "From here on", " indented"));
        writer.Prose(new RichText { Paragraphs = [new Paragraph { List = ListStyle.Bullet, Runs = [new Run { Text = words }] }] });
        writer.Quote(RichText.FromParagraphs(words), "A reader");
        var flowing = FlowedText.Stuffed(writer.ToString());
        var lines = flowing.Split('\n');
        Assert.All(lines, l => Assert.InRange(l.Length, 0, 78));
        Assert.Contains(" From here on", lines);
        List<string> joined = [""];
        foreach (var line in lines)
        {
            var (quote, own) = line.StartsWith("> ", StringComparison.Ordinal) ? (">", line[1..]) : ("", line);
            own = own.StartsWith(' ') ? own[1..] : own;
            joined[^1] = joined[^1].EndsWith(' ') ? joined[^1] + own : joined[^1] + quote + own;
            if (!line.EndsWith(' '))
            {
                joined.Add("");
            }
        }

        Assert.Contains(words, joined);
        Assert.Contains("* " + words, joined);
        Assert.Contains(">" + words, joined);
        Assert.Contains("From here on", joined);
        Assert.DoesNotContain(FlowedText.Fixed(writer.ToString()).Split('\n'), l => l.EndsWith(' ') || l.Length > 72);
    }

    [Theory]
    [InlineData("minutes.pdf", "%PDF-1.7", "application/pdf", "")]
    [InlineData("walk.ICS", "BEGIN:VCALENDAR", "text/calendar", "")]
    [InlineData("prices.csv", "a,b", "text/csv", "")]
    [InlineData("virus.exe", "MZ", null, "not of a sort")]
    [InlineData("minutes.pdf", "MZ", null, "not what its name says")]
    [InlineData("prices.csv", "a\0b", null, "not what its name says")]
    [InlineData("prices.csv", "", null, "empty")]
    [InlineData("noname", "%PDF-", null, "not of a sort")]
    public void Only_files_that_are_what_they_say_are_taken(string name, string content, string? type, string refusal)
    {
        var (found, words) = AttachmentTypes.Judge(name, Encoding.ASCII.GetBytes(content));
        Assert.Equal(type, found?.MediaType);
        Assert.Contains(refusal, words ?? "", StringComparison.Ordinal);
    }

    [Fact]
    public void A_file_too_heavy_is_not_taken() =>
        Assert.Contains(
            "at most 5,120",
            AttachmentTypes.Judge("a.pdf", [.. "%PDF-"u8, .. new byte[AttachmentTypes.MostEach]]).Refusal,
            StringComparison.Ordinal
        );

    [Fact]
    public void A_bundle_holds_all_it_shows()
    {
        var email = Compiler.Compile(Larkfell.Resolve(Larkfell.Gazette), BundleFile.PicturesAt, Purpose.Sending);
        var bytes = BundleFile.Write(email, email.PictureNames().Select(n => (n, Encoding.UTF8.GetBytes(n))));
        Assert.Equal(bytes, BundleFile.Write(email, email.PictureNames().Select(n => (n, Encoding.UTF8.GetBytes(n)))));
        using var archive = new System.IO.Compression.ZipArchive(new MemoryStream(bytes));
        using var index = new StreamReader(archive.GetEntry("index.html")!.Open());
        var html = index.ReadToEnd();
        var shown = Regex.Matches(html, "src(set)?=\"(?<at>[^\"]+)\"").Select(m => m.Groups["at"].Value).ToList();
        Assert.NotEmpty(shown);
        Assert.All(shown, at => Assert.NotNull(archive.GetEntry(at)));
        Assert.NotNull(archive.GetEntry("plain.txt"));
    }
}
