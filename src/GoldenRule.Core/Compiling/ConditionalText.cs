using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Compiling;

/// <summary>
/// An email's plain text as parts that an empty line parts from one another. Each carries its empty line on the side on which
/// something always stands, so that whoever leaves one out leaves the line out with it.
/// </summary>
internal sealed record ConditionalText(ImmutableArray<(Condition? Row, BlockText Part)> Parts)
{
    public static ConditionalText Of(CompiledEmail email)
    {
        var parts = ImmutableArray.CreateBuilder<(Condition? Row, BlockText Part)>(email.Rows.Length);
        foreach (var row in email.Rows)
        {
            if (row.Parted is { } parted)
            {
                parts.AddRange(parted.Text.Select(t => (row.Source.Condition, t)));
            }
            else if (row.Text.Length > 0)
            {
                parts.Add((row.Source.Condition, new(row.Text, null)));
            }
        }

        return new(parts.DrainToImmutable());
    }

    // The first part that everyone gets; negative: there is none.
    private int Anchor
    {
        get
        {
            for (var i = 0; i < Parts.Length; i++)
            {
                if (Parts[i] is { Row: null, Part.Condition: null })
                {
                    return i;
                }
            }

            return -1;
        }
    }

    /// <summary>With all of its parts.</summary>
    public string Seen => Parts.IsEmpty ? "" : string.Join('\n', Parts.Select(p => p.Part.Text)) + (Anchor < 0 ? "\n" : "");

    /// <summary>With each part in the words of whoever writes its conditions.</summary>
    /// <param name="write">Of a row's condition, a block's and the words between them.</param>
    public string Write(Func<Condition?, Condition?, string, string> write) =>
        string.Concat(Sections().Select(s => write(s.Row, s.Block, s.Words)));

    /// <summary>Its parts one after the other, each with the empty line that it carries.</summary>
    public IEnumerable<(Condition? Row, Condition? Block, string Words)> Sections()
    {
        var anchor = Anchor;
        for (var i = 0; i < Parts.Length; i++)
        {
            var (row, part) = Parts[i];
            var (before, after) = (anchor >= 0 && i > anchor ? "\n\n" : "", anchor < 0 || i < anchor ? "\n\n" : "");
            yield return (row, part.Condition, before + part.Text[..^1] + after);
        }

        if (anchor >= 0)
        {
            yield return (null, null, "\n");
        }
    }
}
