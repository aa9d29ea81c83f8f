using GoldenRule.Core.Audiences;

namespace GoldenRule.Core.Checking.Checks;

/// <summary>A snippet that says one thing in the morning of the day it goes out and another in the evening.</summary>
public sealed class SnippetChangesCheck : NodeCheck
{
    public override string Name => "snippet-changes";

    public override string Label => "Snippets that change on the day";

    public override CheckGroup Group => CheckGroup.Brand;

    public override Severity Usual => Severity.Advise;

    public override string Why => "What readers get depends on the hour at which it goes out. The proof shows what holds at noon.";

    public override Inspection.Subject From => Inspection.Subject.Email;

    private protected override Finding? Judge(NodeUse use)
    {
        if (use.Snippet is not { Of.Snippet: var snippet } || use.Inspection.Email.Written.SendDay is not { Length: > 0 } day)
        {
            return null;
        }

        var moment = snippet
            .Values.Select(v => v.From)
            .Append(snippet.Expires)
            .FirstOrDefault(m => m.StartsWith(day, StringComparison.Ordinal) && Snippet.Moment(m) is { TimeOfDay.Ticks: > 0 });
        return moment is null
            ? null
            : Found(use.Place, $"The snippet \"{snippet.Name}\" changes on the day this goes out.", $"at {moment[11..]}");
    }
}
