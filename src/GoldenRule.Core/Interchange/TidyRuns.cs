using System.Collections.Immutable;
using System.Text.RegularExpressions;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Interchange;

/// <summary>Runs as they were gathered, made such as a person would have written them.</summary>
internal static partial class TidyRuns
{
    /// <summary>
    /// Neighbours of one emphasis are one run; blanks are single, and there are none at either end or around a line break.
    /// </summary>
    public static ImmutableArray<Run> Tidy(List<Run> runs)
    {
        var tidy = new List<Run>();
        foreach (var run in runs)
        {
            // A break and a blank have no emphasis of their own.
            var dressed = string.IsNullOrWhiteSpace(run.Text) && tidy.Count > 0 ? tidy[^1] with { Text = run.Text } : run;
            if (tidy.Count > 0 && tidy[^1] is var last && last.GoesOnWith(dressed))
            {
                tidy[^1] = last with { Text = last.Text + dressed.Text };
            }
            else
            {
                tidy.Add(dressed);
            }
        }

        for (var i = 0; i < tidy.Count; i++)
        {
            var text = AroundBreak().Replace(Blanks().Replace(tidy[i].Text, " "), "\n");
            tidy[i] = tidy[i] with { Text = i > 0 && tidy[i - 1].Text.EndsWith(' ') ? text.TrimStart(' ') : text };
        }

        tidy.RemoveAll(r => r.Text.Length == 0);
        while (tidy.Count > 0 && tidy[0].Text.TrimStart() is var first && first.Length < tidy[0].Text.Length)
        {
            Put(0, first);
        }

        while (tidy.Count > 0 && tidy[^1].Text.TrimEnd() is var end && end.Length < tidy[^1].Text.Length)
        {
            Put(tidy.Count - 1, end);
        }

        return [.. tidy];

        void Put(int at, string text)
        {
            if (text.Length == 0)
            {
                tidy.RemoveAt(at);
            }
            else
            {
                tidy[at] = tidy[at] with { Text = text };
            }
        }
    }

    [GeneratedRegex(" {2,}", RegexOptions.CultureInvariant)]
    private static partial Regex Blanks();

    [GeneratedRegex(" *\n *", RegexOptions.CultureInvariant)]
    private static partial Regex AroundBreak();
}
