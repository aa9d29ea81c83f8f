using System.Text;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Interchange;

/// <summary>
/// What a file says of itself that was exported before the hand-off, so that nobody takes it for what was approved. It shows in the
/// title, the subject and the text, and changes nothing of how the email looks.
/// </summary>
/// <param name="Words">In one line: "Draft, revision 12".</param>
/// <param name="Short">"Draft".</param>
public sealed record DraftMark(string Words, string Short)
{
    public static DraftMark For(EmailState state, long revision)
    {
        var (words, brief) = state switch
        {
            EmailState.Draft => ("Draft, not approved", "Draft"),
            EmailState.InReview => ("In review, not approved", "In review"),
            EmailState.Approved => ("Approved, not handed off", "Not handed off"),
            _ => ("Made anew after the hand-off, not what was handed off", "Not what was handed off"),
        };
        return new DraftMark($"{words}, revision {revision}", brief);
    }

    /// <summary>What stands before the subject of a message.</summary>
    public string Subject => $"[{Short}]";

    /// <summary>A file's name with it: "March (draft).html".</summary>
    public string FileName(string name, string ending) => $"{name} ({Short.ToLowerInvariant()}){ending}";

    /// <summary>In the first line, as a comment, and in the title.</summary>
    public byte[] Mark(byte[] html)
    {
        var written = Encoding.UTF8.GetString(html);
        var (doctype, title) = (written.IndexOf('\n') + 1, written.IndexOf("<title>", StringComparison.Ordinal));
        return title < 0
            ? html
            : Encoding.UTF8.GetBytes(
                $"{written[..doctype]}<!-- {Words} -->\n{written[doctype..(title + "<title>".Length)]}{Short}: "
                    + written[(title + "<title>".Length)..]
            );
    }

    /// <summary>Before the text.</summary>
    public string Mark(string text) => $"[{Words}]\n\n{text}";

    /// <summary>A file of an export by its name: HTML and text are marked, all else stays as it is.</summary>
    public byte[] Mark(string name, byte[] content) =>
        Path.GetExtension(name) switch
        {
            ".html" => Mark(content),
            ".txt" => Encoding.UTF8.GetBytes(Mark(Encoding.UTF8.GetString(content))),
            _ => content,
        };
}
