namespace GoldenRule.Core.Checking.Checks;

public sealed class SnippetExpiredCheck : NodeCheck
{
    public override string Name => "snippet-expired";

    public override string Label => "Snippets that have expired";

    public override CheckGroup Group => CheckGroup.Brand;

    public override Severity Usual => Severity.Stop;

    public override string Why => "Whoever answers for the snippet said until when it holds. After that nobody may send it unknowingly.";

    public override Inspection.Subject From => Inspection.Subject.Email;

    private protected override Finding? Judge(NodeUse use) =>
        use.Snippet is { Expired: true, Of.Snippet: var snippet }
            ? Found(
                use.Place,
                $"The snippet \"{snippet.Name}\" has expired by the day this goes out.",
                $"until {snippet.Expires.Replace('T', ' ')}",
                use.Remove("Remove it here")
            )
            : null;
}
