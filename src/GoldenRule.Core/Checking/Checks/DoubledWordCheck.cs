using System.Text.RegularExpressions;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;

namespace GoldenRule.Core.Checking.Checks;

public sealed partial class DoubledWordCheck : RowCheck
{
    public override string Name => "doubled-word";

    public override string Label => "Doubled words";

    public override CheckGroup Group => CheckGroup.Copy;

    public override Severity Usual => Severity.Warn;

    public override string Why => "The eye of whoever wrote it skips a word that stands twice; readers trip over it.";

    public override Inspection.Subject From => Inspection.Subject.Email;

    public override void Run(InspectedRow row, Inspection inspection, List<Finding> found)
    {
        foreach (var entry in row.Blocks)
        {
            foreach (var (field, text) in entry.Words)
            {
                // Most texts have no such pair, and a match costs far more than a look.
                if (text.Length > 4 && Wording.MayRepeat(text) && Twice().Match(text) is { Success: true } twice)
                {
                    found.Add(
                        Found(entry.At(field), $"\"{twice.Groups["word"].Value}\" stands twice.", Around(text, twice), Mend(entry, field))
                    );
                }
            }
        }
    }

    private static string Around(string text, Match twice)
    {
        var (start, end) = (Math.Max(0, twice.Index - 20), Math.Min(text.Length, twice.Index + twice.Length + 20));
        return $"…{text[start..end].Trim()}…";
    }

    private static Remedy? Mend(InspectedBlock entry, string field)
    {
        // As written: what refers to something goes on doing so.
        var standing = entry.Row.Source.ContentOf(entry.Block.Master)[field];
        var once = standing.Map(new KeptOnce());
        return ReferenceEquals(once, standing)
            ? null
            : new Remedy("Keep it once", [new SetFill(entry.Row.Id, entry.Block.Id, field, once)]);
    }

    private sealed class KeptOnce : FieldMap
    {
        public override string Words(string text, FieldPart part) => Once(text);

        public override RichText Prose(RichText text, FieldPart part) =>
            text.Paragraphs.Any(p => p.Runs.Any(r => Twice().IsMatch(r.Text)))
                ? text with
                {
                    Paragraphs = [.. text.Paragraphs.Select(p => p with { Runs = [.. p.Runs.Select(InRun)] })],
                }
                : text;

        private static Run InRun(Run run) => run.Variable is null ? run with { Text = Once(run.Text) } : run;
    }

    private static string Once(string text) => InlineNode.Between(text, words => Twice().Replace(words, "${word}"));

    // "had had" and "that that" can be right.
    [GeneratedRegex(
        @"\b(?<word>(?!had\b|that\b)\p{L}+)[ \t\n]+\k<word>\b",
        RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture | RegexOptions.CultureInvariant
    )]
    private static partial Regex Twice();
}
