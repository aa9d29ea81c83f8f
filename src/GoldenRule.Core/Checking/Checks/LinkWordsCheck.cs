using System.Collections.Frozen;

namespace GoldenRule.Core.Checking.Checks;

public sealed class LinkWordsCheck : RowCheck
{
    private static readonly FrozenSet<string> Empty = FrozenSet.ToFrozenSet(
        [
            "click",
            "click here",
            "here",
            "link",
            "this link",
            "this",
            "more",
            "read more",
            "learn more",
            "find out more",
            "see more",
            "continue",
            "go",
            "download",
            "details",
        ],
        StringComparer.OrdinalIgnoreCase
    );

    /// <summary>Characters, with blanks and marks around them.</summary>
    private const int Longest = 24;

    public override string Name => "link-words";

    public override string Label => "Links that do not say where they lead";

    public override CheckGroup Group => CheckGroup.Reading;

    public override Severity Usual => Severity.Advise;

    public override string Why => "Who jumps from link to link hears only the words of the links (WCAG 2.2, 2.4.4).";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override void Run(InspectedRow row, Inspection inspection, List<Finding> found)
    {
        foreach (var entry in row.Blocks)
        {
            if (entry.Links.IsEmpty)
            {
                continue;
            }

            foreach (var (field, words) in entry.Kind.LinkWords(entry.View))
            {
                if (words.Length < Longest && Empty.Contains(words.AsSpan().Trim(" .…»>→").ToString()))
                {
                    found.Add(Found(entry.At(field), "The link does not say where it leads.", $"\"{words.Trim()}\""));
                }
            }
        }
    }
}
