namespace GoldenRule.Core.Checking.Checks;

public sealed class SnippetRetiredCheck : NodeCheck
{
    public override string Name => "snippet-retired";

    public override string Label => "Retired snippets and fields";

    public override CheckGroup Group => CheckGroup.Brand;

    public override Severity Usual => Severity.Warn;

    public override string Why => "It is not looked after any more: what it says may be out of date.";

    private protected override Finding? Judge(NodeUse use) =>
        (use.Snippet, use.MergeField) switch
        {
            ({ Of: { Retired: true, Snippet: var snippet } }, _) => Found(
                use.Place,
                $"The snippet \"{snippet.Name}\" is retired.",
                null,
                use.KeepWords("Keep its words without the snippet")
            ),
            (_, { Retired: true } field) => Found(
                use.Place,
                $"The field \"{field.Label}\" is retired.",
                null,
                use.Remove("Remove it here")
            ),
            _ => null,
        };
}
