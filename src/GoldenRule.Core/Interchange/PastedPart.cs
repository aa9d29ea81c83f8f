using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Interchange;

/// <summary>A paragraph that was pasted.</summary>
/// <param name="Heading">1 to 6 where it was a heading; 0: it was not.</param>
public sealed record PastedPart(int Heading, Paragraph Paragraph)
{
    /// <summary>Characters that are read; what is longer is no copy for an email.</summary>
    public const int Most = 400_000;

    /// <summary>As it goes into one text: a heading becomes a paragraph in bold.</summary>
    public static RichText ToText(IEnumerable<PastedPart> parts) =>
        new()
        {
            Paragraphs =
            [
                .. parts.Select(p =>
                    p.Heading == 0 ? p.Paragraph : p.Paragraph with { Runs = [.. p.Paragraph.Runs.Select(r => r with { Bold = true })] }
                ),
            ],
        };
}
