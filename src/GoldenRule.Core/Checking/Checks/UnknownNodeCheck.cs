using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

public sealed class UnknownNodeCheck : NodeCheck
{
    public override string Name => "unknown-reference";

    public override string Label => "Snippets and fields that are not there";

    public override CheckGroup Group => CheckGroup.Structure;

    public override Severity Usual => Severity.Stop;

    public override bool Fixed => true;

    public override string Why => "Nobody can say what readers would get in its place.";

    private protected override Finding? Judge(NodeUse use)
    {
        if (!use.IsKnown)
        {
            var what = use.Node.Kind == InlineKind.Snippet ? "snippet" : "field";
            return Found(use.Place, $"There is no {what} \"{use.Node.Key}\".", null, use.Remove("Remove it here"));
        }

        return use is { Snippet.Of.Snippet: var snippet, Block: { } block } && !Fits(snippet.Type, block.WrittenIn(use.Field))
            ? Found(
                use.Place,
                $"The snippet \"{snippet.Name}\" is {Article(snippet.Type)} and cannot stand here.",
                null,
                use.Remove("Remove it here")
            )
            : null;
    }

    // Fields of several parts are judged by what the parts come to: an empty link, a missing picture.
    private static bool Fits(SnippetType type, FieldValue place) =>
        place switch
        {
            FieldValue.Words or FieldValue.Prose => type != SnippetType.Picture,
            FieldValue.Link => type == SnippetType.Link,
            FieldValue.Image => type == SnippetType.Picture,
            _ => true,
        };

    private static string Article(SnippetType type) => $"a {type.ToString().ToLowerInvariant()}";
}
