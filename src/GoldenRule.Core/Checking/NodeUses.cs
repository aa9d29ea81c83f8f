using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking;

/// <summary>Finds the snippets and fields in what was written, and puts other words in their place.</summary>
internal static class NodeUses
{
    public static ImmutableArray<(string Field, InlineNode Node)> In(IEnumerable<KeyValuePair<string, FieldValue>> content)
    {
        var found = new Found();
        foreach (var (field, value) in content)
        {
            found.Field = field;
            value.Visit(found);
        }

        return found.All?.DrainToImmutable() ?? [];
    }

    /// <summary>The value with one node's words in its place, or with nothing; what else refers to something goes on doing so.</summary>
    public static FieldValue Without(FieldValue value, InlineNode node, Func<Run, IEnumerable<Run>> runs, string words) =>
        value.Map(new Settled(node, runs, words));

    private sealed class Found : FieldVisitor
    {
        public string Field { get; set; } = "";

        public ImmutableArray<(string, InlineNode)>.Builder? All { get; private set; }

        public override void Words(string text, FieldPart part)
        {
            if (!InlineNode.AreIn(text))
            {
                return;
            }

            foreach (var (node, _, _) in InlineNode.Find(text))
            {
                (All ??= ImmutableArray.CreateBuilder<(string, InlineNode)>()).Add((Field, node));
            }
        }

        public override void Address(string href, FieldPart part) => Words(href, part);

        public override void Picture(string picture, FieldPart part) => Words(picture, part);

        public override void Prose(RichText text, FieldPart part)
        {
            foreach (var paragraph in text.Paragraphs)
            {
                foreach (var run in paragraph.Runs)
                {
                    Words(run.Text, part);
                    Words(run.Href ?? "", part);
                }
            }
        }
    }

    private sealed class Settled(InlineNode node, Func<Run, IEnumerable<Run>> runs, string words) : FieldMap
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
}
