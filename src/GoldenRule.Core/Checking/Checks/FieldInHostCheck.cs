using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

/// <summary>A field within an address before its path: it would say where the link leads.</summary>
public sealed class FieldInHostCheck : RowCheck
{
    public override string Name => "field-in-host";

    public override string Label => "Fields that say where a link leads";

    public override CheckGroup Group => CheckGroup.LawAndDelivery;

    public override Severity Usual => Severity.Stop;

    public override bool Fixed => true;

    public override string Why => "What is known of a reader would decide which site opens. A field may stand after the site's name only.";

    public override void Run(InspectedRow row, Inspection inspection, List<Finding> found)
    {
        foreach (var block in row.Blocks)
        {
            var last = "";
            foreach (var (field, node) in block.Block.Nodes)
            {
                // One field's nodes stand together.
                if (node.Kind != InlineKind.Field || field == last)
                {
                    continue;
                }

                last = field;
                var addresses = new Addresses();
                block.WrittenIn(field).Visit(addresses);
                if (addresses.Wrong is { } wrong)
                {
                    found.Add(Found(block.At(field), "A field stands before the end of the site's name.", InlineNode.ToTokens(wrong)));
                }
            }
        }
    }

    private sealed class Addresses : FieldVisitor
    {
        public string? Wrong { get; private set; }

        public override void Address(string href, FieldPart part)
        {
            if (!InlineNode.AreIn(href))
            {
                return;
            }

            foreach (var (node, start, _) in InlineNode.Find(href))
            {
                if (node.Kind == InlineKind.Field && !EndsHost(href[..start]))
                {
                    Wrong = href;
                }
            }
        }

        public override void Prose(RichText text, FieldPart part)
        {
            foreach (var paragraph in text.Paragraphs)
            {
                foreach (var run in paragraph.Runs)
                {
                    Address(run.Href ?? "", part);
                }
            }
        }

        private static bool EndsHost(string before) =>
            before.IndexOf("://", StringComparison.Ordinal) is > 0 and var scheme && before.AsSpan(scheme + 3).IndexOfAny("/?#") > 0;
    }
}
