using System.Text.RegularExpressions;

namespace GoldenRule.Core.Languages;

/// <summary>
/// Numbers of several groups and addresses within text that runs from right to left, isolated so that they read as they are written
/// (Unicode Standard Annex 9, 2.4: LRI U+2066 and PDI U+2069). Without it "01632 960 217" is shown from its last group on.
/// </summary>
public static partial class Isolated
{
    public static string Words(string text) =>
        MayHold(text) ? LeftToRight().Replace(text, m => m.Groups["bare"].Success ? $"\u2066{m.Value}\u2069" : m.Value) : text;

    private static bool MayHold(string text) => text.AsSpan().ContainsAnyInRange('0', '9') || text.AsSpan().IndexOfAny("@/") >= 0;

    // What is isolated already; an address with its scheme, an address of mail, a number of groups, each looked for where it can begin.
    [GeneratedRegex(
        @"\u2066[^\u2069]*|"
            + @"(?<bare>https?://[^\s\u2069]+|(?<![\w.+-])[\w.+-]+@[\w-]+(\.[\w-]+)+|"
            + @"([+(]|(?<![0-9]))[0-9][0-9()]*([ .,:/\u00a0\u202f-][0-9()]+)+)",
        RegexOptions.ExplicitCapture | RegexOptions.CultureInvariant
    )]
    private static partial Regex LeftToRight();
}
