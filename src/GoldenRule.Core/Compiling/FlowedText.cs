using System.Text;

namespace GoldenRule.Core.Compiling;

/// <summary>Plain text whose full lines end in a blank, as it is read and as a message carries it (RFC 3676, format=flowed).</summary>
public static class FlowedText
{
    /// <summary>As it is read: without the blanks.</summary>
    public static string Fixed(string text) => text.Replace(" \n", "\n", StringComparison.Ordinal);

    /// <summary>
    /// As a message carries it: what continues a line has no indent of its own, and what would be read as a quote or a sender's
    /// line is stuffed (4.4).
    /// </summary>
    public static string Stuffed(string text)
    {
        var stuffed = new StringBuilder(text.Length + 64);
        var continues = false;
        foreach (var line in text.Split('\n'))
        {
            var own = continues ? line.TrimStart(' ') : line;
            // "> " of a quote is what it says; anything else that looks like one is not.
            if (
                own.StartsWith(' ')
                || own.StartsWith("From ", StringComparison.Ordinal)
                || (own.StartsWith('>') && !own.StartsWith("> ", StringComparison.Ordinal))
            )
            {
                stuffed.Append(' ');
            }

            stuffed.Append(own).Append('\n');
            continues = line.EndsWith(' ') && line != "-- ";
        }

        stuffed.Length--;
        return stuffed.ToString();
    }
}
