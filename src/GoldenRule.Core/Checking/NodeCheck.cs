using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Validation;

namespace GoldenRule.Core.Checking;

/// <summary>A check that judges each snippet and field where it stands, in the rows and in what the inbox shows.</summary>
public abstract class NodeCheck : Check
{
    public sealed override IEnumerable<Finding> Run(Inspection inspection)
    {
        foreach (var use in inspection.Nodes)
        {
            if (Judge(use) is { } found)
            {
                yield return found;
            }
        }
    }

    private protected abstract Finding? Judge(NodeUse use);
}

/// <summary>A snippet or field where it stands.</summary>
/// <param name="Block">Null: it stands in what the inbox shows.</param>
internal sealed record NodeUse(InlineNode Node, Place Place, InspectedBlock? Block, string Field, Inspection Inspection)
{
    public static ImmutableArray<NodeUse> Find(Inspection inspection)
    {
        ImmutableArray<NodeUse>.Builder? found = null;
        // As they were written: those of the resolved email are filled in.
        var details = inspection.Email.Written;
        foreach (var (field, text) in (ReadOnlySpan<(string, string)>)[("subject", details.Subject), ("preheader", details.Preheader)])
        {
            foreach (var (node, _, _) in InlineNode.Find(text))
            {
                Add(new NodeUse(node, Place.Detail(field), null, field, inspection));
            }
        }

        foreach (var row in inspection.Rows)
        {
            foreach (var block in row.Blocks)
            {
                foreach (var (field, node) in block.Block.Nodes)
                {
                    Add(new NodeUse(node, block.At(field), block, field, inspection));
                }
            }
        }

        return found?.DrainToImmutable() ?? [];

        void Add(NodeUse use) => (found ??= ImmutableArray.CreateBuilder<NodeUse>()).Add(use);
    }

    private InlineValues Inline => Inspection.Email.Inline;

    /// <summary>Of whom all of these hold sees it; none: everyone does.</summary>
    public ImmutableArray<Condition> Conditions =>
        Block is { } block ? [.. new[] { block.Row.Condition, block.Block.Condition }.OfType<Condition>()] : [];

    public ShownSnippet? Snippet { get; } = Node.Kind == InlineKind.Snippet ? Inspection.Email.Inline.Snippets.Find(Node.Key) : null;

    public MergeField? MergeField { get; } = Node.Kind == InlineKind.Field ? Inspection.Email.Inline.Plan.FindField(Node.Key) : null;

    /// <summary>Whether what it names is there.</summary>
    public bool IsKnown => Snippet is not null || MergeField is not null;

    /// <summary>Its words stay, and it goes.</summary>
    public Remedy KeepWords(string label) => Settle(label, run => Inline.Runs(Node, run), Value());

    public Remedy Remove(string label) => Settle(label, _ => [], "");

    private string Value() =>
        Snippet?.Value switch
        {
            FieldValue.Link link => link.Href,
            FieldValue.Image image => image.Picture,
            _ => Inline.Words(Node),
        };

    private Remedy Settle(string label, Func<Run, IEnumerable<Run>> runs, string words) =>
        Block is { } block
            ? new Remedy(
                label,
                [new SetFill(block.Row.Id, block.Block.Id, Field, block.WrittenIn(Field).Map(new SettledNode(Node, runs, words)))]
            )
            : new Remedy(
                label,
                [
                    new SetDetail(
                        Field,
                        InlineNode.Replace(Inspection.Email.Written.Get(Field) ?? "", found => found == Node ? words : found.ToString())
                    ),
                ]
            );
}
