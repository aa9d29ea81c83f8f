using System.Text;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Audiences;

/// <summary>
/// A field that is left open while an email is compiled, for whoever writes it in a sending platform's way: in words, or within an
/// address, where its value is encoded. It stands between noncharacters of its own and is never stored.
/// </summary>
/// <param name="InAddress">True: the value is percent-encoded (RFC 3986, 2.1).</param>
public readonly record struct KeptField(string Key, bool InAddress)
{
    private const char Words = '\uFDD2';
    private const char Address = '\uFDD3';
    private const char Closes = '\uFDD4';

    public override string ToString() => $"{(InAddress ? Address : Words)}{Key}{Closes}";

    /// <summary>The text with something else in the place of each; the same object where there is none.</summary>
    public static string Replace(string text, Func<KeptField, string> with) => Replace(text, with, words => words);

    /// <param name="words">What becomes of what stands between them.</param>
    public static string Replace(string text, Func<KeptField, string> with, Func<string, string> words)
    {
        if (text.AsSpan().IndexOfAny(Words, Address) < 0)
        {
            return words(text);
        }

        var made = new StringBuilder(text.Length);
        var at = 0;
        for (var open = Next(text, 0); open >= 0; open = Next(text, at))
        {
            var end = text.IndexOf(Closes, open);
            if (end < 0)
            {
                break;
            }

            made.Append(open > at ? words(text[at..open]) : "").Append(with(new KeptField(text[(open + 1)..end], text[open] == Address)));
            at = end + 1;
        }

        return made.Append(at < text.Length ? words(text[at..]) : "").ToString();
    }

    private static int Next(string text, int from) => text.AsSpan(from).IndexOfAny(Words, Address) is >= 0 and var at ? from + at : -1;
}
