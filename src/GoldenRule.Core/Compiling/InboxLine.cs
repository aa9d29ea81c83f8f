using System.Globalization;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Compiling;

/// <summary>What an inbox shows of a text, and whether it cut it.</summary>
public sealed record CutText(string Text, bool Cut);

/// <summary>An email in the list of an inbox.</summary>
/// <param name="Preheader">Without a preheader: the first words of the body, which inboxes take in its place.</param>
/// <param name="FromBody">True: so it is.</param>
public sealed record InboxLine(CutText Sender, CutText Subject, CutText Preheader, bool FromBody)
{
    /// <summary>Sender, subject and preheader one below the other: about 26, 38 and 80 characters (common practice, no source).</summary>
    public static InboxLine OnPhone(EmailDetails details, string body) => Cut(details, body, 26, 38, _ => 80);

    /// <summary>
    /// All in one line, of which subject and preheader share about 105 characters beside 22 of the sender (common practice, no
    /// source).
    /// </summary>
    public static InboxLine OnDesktop(EmailDetails details, string body) =>
        Cut(details, body, 22, 72, subject => Math.Max(0, 105 - subject));

    private static InboxLine Cut(EmailDetails details, string body, int sender, int subject, Func<int, int> rest)
    {
        var fromBody = string.IsNullOrWhiteSpace(details.Preheader);
        var shown = Cut(details.Subject, subject);
        return new InboxLine(
            Cut(details.SenderName.Length > 0 ? details.SenderName : details.SenderAddress, sender),
            shown,
            Cut(
                fromBody
                    ? string.Join(' ', body.Split([' ', '\n', '='], StringSplitOptions.RemoveEmptyEntries).Take(40))
                    : details.Preheader,
                rest(Measuring.Characters(shown.Text))
            ),
            fromBody
        );
    }

    private static CutText Cut(string text, int most)
    {
        var characters = new StringInfo(text.Trim());
        return characters.LengthInTextElements <= most
            ? new CutText(characters.String, false)
            : new CutText(most < 2 ? "" : characters.SubstringByTextElements(0, most - 1).TrimEnd() + "…", true);
    }
}
