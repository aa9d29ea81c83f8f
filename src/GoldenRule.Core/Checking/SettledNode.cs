using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking;

/// <summary>Puts other words in the place of a snippet or field, or nothing; what else refers to something goes on doing so.</summary>
internal sealed class SettledNode(InlineNode node, Func<Run, IEnumerable<Run>> runs, string words) : FieldMap
{
    public override string Words(string text, FieldPart part) =>
        InlineNode.Replace(text, found => found == node ? words : found.ToString());

    public override string Address(string href, FieldPart part) => Words(href, part);

    public override string Picture(string picture, FieldPart part) => Words(picture, part);

    public override RichText Prose(RichText text, FieldPart part) =>
        text with
        {
            Paragraphs = [.. text.Paragraphs.Select(p => p with { Runs = [.. p.Runs.SelectMany(Part)] })],
        };

    private IEnumerable<Run> Part(Run run)
    {
        if (run.Href is { } href)
        {
            run = run with { Href = Words(href, default) };
        }

        if (!InlineNode.AreIn(run.Text))
        {
            return [run];
        }

        var made = new List<Run>();
        InlineNode.Visit(
            run.Text,
            between => made.Add(run with { Text = between }),
            found => made.AddRange(found == node ? runs(run) : [run with { Text = found.ToString() }])
        );
        return made;
    }
}
