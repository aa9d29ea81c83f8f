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
    public string MarkHtml(string html)
    {
        const string Opens = "<title>";
        var at = html.IndexOf(Opens, StringComparison.Ordinal);
        if (at < 0)
        {
            return html;
        }

        var (doctype, title) = (html.IndexOf('\n') + 1, at + Opens.Length);
        return $"{html[..doctype]}<!-- {Words} -->\n{html[doctype..title]}{Short}: {html[title..]}";
    }

    /// <summary>Before the text.</summary>
    public string MarkText(string text) => $"[{Words}]\n\n{text}";

    /// <summary>A file of an export by its name: HTML and text are marked, all else stays as it is.</summary>
    public byte[] MarkFile(string name, byte[] content) =>
        Path.GetExtension(name) switch
        {
            ".html" => Encoding.UTF8.GetBytes(MarkHtml(Encoding.UTF8.GetString(content))),
            ".txt" => Encoding.UTF8.GetBytes(MarkText(Encoding.UTF8.GetString(content))),
            _ => content,
        };
}
