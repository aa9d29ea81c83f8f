using GoldenRule.Core.Edits;

namespace GoldenRule.Core.History;

/// <summary>What an edit of a snippet did, in words.</summary>
public static class SnippetHistory
{
    public static string Tell(Edit edit) =>
        edit switch
        {
            SetSnippetValue => "changed what it says",
            AddSnippetValue e => $"let another value hold from {Moment(e.Value.From)}",
            RemoveSnippetValue => "removed a value from the schedule",
            RestoreFirstValue => "put a value back into the schedule",
            SetSnippetFrom e => $"moved the beginning of a value to {Moment(e.From)}",
            SetSnippetExpiry { At.Length: 0 } => "let it hold without end",
            SetSnippetExpiry e => $"let it expire at {Moment(e.At)}",
            SetSnippetEditors => "said who may change it",
            SetCampaignTypes => "said which campaign types may use it",
            ReplaceSnippet { By: null } => "let it stand for itself again",
            ReplaceSnippet e => $"replaced it with {e.By}",
            SetName e => $"renamed it \"{e.Name}\"",
            SetDescription => "changed its description",
            _ => "changed it",
        };

    private static string Moment(string local) => local.Replace('T', ' ');
}
