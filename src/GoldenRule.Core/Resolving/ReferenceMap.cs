using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Languages;

namespace GoldenRule.Core.Resolving;

/// <summary>Puts what brand variables, snippets and fields say in the place of the references to them.</summary>
/// <param name="block">The block whose fields are read. Null: the row's own.</param>
internal sealed class ReferenceMap(StyleLayers style, InlineValues inline, string row, string? block) : FieldMap
{
    /// <summary>The field that is read.</summary>
    public string Field { get; set; } = "";

    /// <summary>The snippets and fields that stood in what was read, each with the field.</summary>
    public ImmutableArray<(string Field, InlineNode Node)> Nodes => nodes?.ToImmutable() ?? [];

    private ImmutableArray<(string, InlineNode)>.Builder? nodes;

    public override string Words(string text, FieldPart part) =>
        InDirection(HasNodes(text) ? InlineNode.Replace(text, inline.Words) : text);

    // What was stored into a list of links once was not asked for its type, and still opens.
    public override string Address(string href, FieldPart part) =>
        BrandVariable.Reference(href) is { } key
            ? style.Variable(key, Place(part), part is { Item: > 0, Name: null } ? null : VariableType.Link)
            : Followed(href);

    public override string Picture(string picture, FieldPart part) =>
        BrandVariable.Reference(picture) is { } key ? style.Variable(key, Place(part), VariableType.Picture) : Chosen(picture);

    public override RichText Prose(RichText text, FieldPart part) =>
        inline.Direction == Direction.Rtl || text.Paragraphs.Any(p => p.Runs.Any(Refers))
            ? text with
            {
                Paragraphs = [.. text.Paragraphs.Select(p => p with { Runs = Filled(p.Runs, part) })],
            }
            : text;

    private ImmutableArray<Run> Filled(ImmutableArray<Run> runs, FieldPart part)
    {
        var filled = ImmutableArray.CreateBuilder<Run>(runs.Length);
        foreach (var run in runs)
        {
            // The key stays beside the words, so that checks know an address from any other text.
            var dressed = run with
            {
                Text = run.Variable is null ? run.Text : style.Variable(run.Variable, Place(part)),
                Href = run.Href is null ? null : InProse(run.Href, part),
            };
            if (HasNodes(run.Text))
            {
                InlineNode.Visit(
                    run.Text,
                    words => filled.Add(dressed with { Text = InDirection(words) }),
                    node => filled.AddRange(inline.Runs(node, dressed).Select(r => r with { Text = InDirection(r.Text) }))
                );
            }
            else
            {
                filled.Add(inline.Direction == Direction.Rtl ? dressed with { Text = InDirection(dressed.Text) } : dressed);
            }
        }

        return filled.DrainToImmutable();
    }

    private string InProse(string href, FieldPart part) =>
        BrandVariable.Reference(href) is { } key ? style.Variable(key, Place(part)) : Followed(href);

    // Within text that runs from right to left, numbers and addresses keep their own direction.
    private string InDirection(string text) => inline.Direction == Direction.Rtl ? Isolated.Words(text) : text;

    private string Chosen(string picture) => HasNodes(picture) ? inline.Picture(picture) : picture;

    private string Followed(string href) => HasNodes(href) ? inline.Address(href) : href;

    private bool HasNodes(string text)
    {
        if (!InlineNode.AreIn(text))
        {
            return false;
        }

        foreach (var (node, _, _) in InlineNode.Find(text))
        {
            (nodes ??= ImmutableArray.CreateBuilder<(string, InlineNode)>()).Add((Field, node));
        }

        return true;
    }

    private static bool Refers(Run run) =>
        run.Variable is not null
        || InlineNode.AreIn(run.Text)
        || (run.Href is not null && (BrandVariable.Reference(run.Href) is not null || InlineNode.AreIn(run.Href)));

    // Put together only where there is a reference.
    private string Place(FieldPart part) => block is null ? $"{row}/{Field}" : $"{row}/{block}/{Field}{part}";
}
