namespace GoldenRule.Core.Checking.Checks;

public sealed class SnippetScopeCheck : NodeCheck
{
    public override string Name => "snippet-scope";

    public override string Label => "Snippets of other campaign types";

    public override CheckGroup Group => CheckGroup.Brand;

    public override Severity Usual => Severity.Stop;

    public override string Why => "The lead said for which campaign types the snippet is written; here it may say what is not so.";

    public override Inspection.Subject From => Inspection.Subject.Template;

    private protected override Finding? Judge(NodeUse use) =>
        use.Snippet is { Of.Snippet: { CampaignTypes.IsEmpty: false } snippet }
        && !snippet.CampaignTypes.Any(t => use.Inspection.Context.CampaignTypes.Same(t, use.Inspection.Context.CampaignType))
            ? Found(
                use.Place,
                $"The snippet \"{snippet.Name}\" is not for this campaign type.",
                null,
                use.KeepWords("Keep its words without the snippet")
            )
            : null;
}
