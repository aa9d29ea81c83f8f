using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;

namespace GoldenRule.Core.Governance;

/// <summary>Who may change a snippet: the leads, and whomever they name.</summary>
public static class SnippetDecisions
{
    public static Decision Decide(Person person, Edit edit, Snippet snippet) =>
        edit switch
        {
            SetSnippetValue
            or AddSnippetValue
            or RemoveSnippetValue
            or RestoreFirstValue
            or SetSnippetFrom
            or SetSnippetExpiry
            or SetDescription
            or SetName => MayChange(person, snippet),
            SetSnippetEditors or SetCampaignTypes or ReplaceSnippet => person.Is(Role.Lead)
                ? Decision.Yes
                : Refusals.Refuse(Rules.Role, null, "Who may use and change a snippet is said by leads only."),
            _ => Governor.WrongType,
        };

    /// <summary>Whether a person may say what it says.</summary>
    public static Decision MayChange(Person person, Snippet snippet) =>
        Refusals.Ask(person, snippet.Editors.AsLock(), Rules.LockContent, null, "This snippet is not yours to change");
}
