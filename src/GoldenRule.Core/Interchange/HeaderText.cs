using System.Globalization;
using System.Text;

namespace GoldenRule.Core.Interchange;

/// <summary>
/// Words in a header: as they are where a header holds them, else as encoded words of at most 75 characters that never
/// part a character (RFC 2047, 2 and 5), which the message library overruns by one.
/// </summary>
internal static class HeaderText
{
    /// <summary>UTF-8 bytes in one encoded word: 60 characters of Base64 in 12 of frame.</summary>
    private const int BytesInWord = 45;

    private const int LineLength = 76;

    /// <summary>Unstructured text, a subject for example, with the line end.</summary>
    public static byte[] Line(string name, string text) =>
        Encoding.ASCII.GetBytes($" {(IsPlain(text) ? Folded(text, name.Length + 2) : Encoded(text))}\r\n");

    /// <summary>A mailbox, with the line end.</summary>
    public static byte[] Mailbox(string name, string address) =>
        Encoding.ASCII.GetBytes(
            name switch
            {
                "" => $" {address}\r\n",
                { Length: < 60 } when IsPlain(name) && !name.AsSpan().ContainsAny("()<>[]:;@\\,.\"") => $" {name} <{address}>\r\n",
                _ => $" {Encoded(name)}\r\n <{address}>\r\n",
            }
        );

    private static bool IsPlain(string text) =>
        text.All(c => c is >= ' ' and < '\u007f')
        && !text.Contains("=?", StringComparison.Ordinal)
        && text.Split(' ').All(w => w.Length < 60);

    private static string Folded(string text, int used)
    {
        var folded = new StringBuilder();
        foreach (var word in text.Split(' '))
        {
            // A line of blanks alone would not be one (RFC 5322, 3.2.2).
            if (folded.Length > 0 && used + word.Length >= LineLength && word.Length > 0)
            {
                folded.Append("\r\n");
                used = 0;
            }

            folded.Append(folded.Length > 0 ? " " : "").Append(word);
            used += word.Length + 1;
        }

        return folded.ToString();
    }

    private static string Encoded(string text)
    {
        var (words, bytes) = (new List<string>(), new List<byte>());
        for (var characters = StringInfo.GetTextElementEnumerator(text); characters.MoveNext(); )
        {
            // A character longer than a word, a flag of letters for example, is parted at its code points.
            foreach (
                var rune in Encoding.UTF8.GetByteCount(characters.GetTextElement()) > BytesInWord
                    ? characters.GetTextElement().EnumerateRunes().Select(r => r.ToString())
                    : [characters.GetTextElement()]
            )
            {
                var own = Encoding.UTF8.GetBytes(rune);
                if (bytes.Count + own.Length > BytesInWord)
                {
                    words.Add($"=?utf-8?B?{Convert.ToBase64String([.. bytes])}?=");
                    bytes.Clear();
                }

                bytes.AddRange(own);
            }
        }

        words.Add($"=?utf-8?B?{Convert.ToBase64String([.. bytes])}?=");
        return string.Join("\r\n ", words);
    }
}
