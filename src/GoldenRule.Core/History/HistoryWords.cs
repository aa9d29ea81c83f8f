using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;

namespace GoldenRule.Core.History;

/// <summary>What an edit did, as a history tells it: "moved Story up", "changed the headline of Story".</summary>
public static class HistoryWords
{
    /// <param name="before">The running order of the document before the edit: names are those of then.</param>
    public static string Tell(Edit edit, RunningOrder before, ReleaseCatalog masters)
    {
        return edit switch
        {
            SetFill e => $"changed {Field(e.Row, e.Piece, e.Field)}",
            ClearFill e => $"put {Field(e.Row, e.Piece, e.Field)} back to the template's",
            SetLook e => $"chose {e.Value.Replace('-', ' ')} for {Piece(e.Row, e.Piece)}",
            ClearLook e => $"put the look of {Piece(e.Row, e.Piece)} back to the template's",
            SetShown { Shown: Visibility.PhoneOnly } e => $"showed {Piece(e.Row, e.Piece)} on phones only",
            SetShown { Shown: Visibility.DesktopOnly } e => $"showed {Piece(e.Row, e.Piece)} on desktops only",
            SetShown e => $"showed {Piece(e.Row, e.Piece)} everywhere",
            SetCondition { Condition: null } e => $"left who sees {Piece(e.Row, e.Piece)} to the layer beneath",
            SetCondition { Condition.IsEveryone: true } e => $"showed {Piece(e.Row, e.Piece)} to everyone",
            SetCondition e => $"said who sees {Piece(e.Row, e.Piece)}",
            SetDetail e => $"changed the {Detail(e.Field)}",
            SetName e => $"renamed it \"{e.Name}\"",
            SetLanguage e => $"set the language to {e.Language}",
            SetPlainText { Value: null } => "had the plain text made from the email again",
            SetPlainText => "wrote the plain text by hand",
            SetAttachments e => e.Files.Length == 1 ? "attached 1 file" : $"attached {e.Files.Length} files",
            SetRecipient { To: null } => "left open to whom it is written",
            SetRecipient { To: { } to } => $"wrote it to {to.Name}",
            ConfirmUnchanged { Right: true } e => $"said that {Place(e.Place)} still holds",
            ConfirmUnchanged e => $"marked {Place(e.Place)} to be renewed",
            TakeUpdate { Back.IsEmpty: false } e => $"went back to release {e.Template} of the template",
            TakeUpdate e when e.Rows.IsEmpty => $"took release {e.Template} of the template",
            TakeUpdate e => $"took an update of {(e.Rows.Count == 1 ? Row(e.Rows.Keys.First()) : $"{e.Rows.Count} rows")}",
            DiscardUnplaced => "discarded text that was not placed",
            RestoreUnplaced => "set something aside again",
            InsertRow e => $"added {masters.NameOf(e.Row)}",
            RemoveRow e => $"removed {Row(e.Row)}",
            MoveRow e => Moved(e),
            SwapRows e => $"let {Row(e.First)} and {Row(e.Second)} change places",
            DuplicateRow e => $"duplicated {Row(e.Row)}",
            DetachRow e => $"detached {Row(e.Row)} from its saved row",
            ReattachRow e => $"put {Row(e.Placed.Id)} back on its saved row",
            InsertBlock e => $"added a {Label(e.Block)} to {Row(e.Row)}",
            RemoveBlock e => $"took {Piece(e.Row, e.Piece)} out",
            MoveBlock e => $"moved {Piece(e.Row, e.Piece)}",
            SwapBlocks e => $"let {Piece(e.Row, e.First)} and {Piece(e.OtherRow, e.Second)} change places",
            DuplicateBlock e => $"duplicated {Piece(e.Row, e.Piece)}",
            SplitText e => $"split {Piece(e.Row, e.Piece)}",
            JoinTexts e => $"joined {Piece(e.Row, e.Piece)} with the text below",
            SetLayout or RestoreColumns => "set the columns of a row",
            SetBackground => "changed the background of a row",
            _ => "changed its rules",
        };

        string Row(string? id) => id is not null && before.Find(id) is { } row ? row.Name : "a row";

        string Piece(string? row, string piece)
        {
            var found = before.Find(row ?? "");
            return found?.FindBlock(piece) is { } block
                ? $"{(block.Name ?? Label(block)).ToLowerInvariant()} of {found.Name}"
                : found?.Name ?? "a block";
        }

        string Field(string? row, string piece, string field) =>
            before.Find(row ?? "")?.FindBlock(piece) is { } block
            && BlockKinds.For(block).Fields is var fields
            && fields.FirstOrDefault(f => f.Name == field) is { } of
            && fields.Length > 1
                ? $"{of.Label.ToLowerInvariant()} in {Piece(row, piece)}"
                : Piece(row, piece);

        string Place(string place) =>
            place.Split('/') switch
            {
                ["details", var field] => $"the {Detail(field)}",
                [var row, var piece, var field] => Field(row, piece, field),
                _ => "something",
            };

        string Moved(MoveRow e)
        {
            var zone = before.Find(e.Row)?.Zone;
            var index = before.Rows.Where(r => r.Zone?.Id == zone?.Id).Select((r, i) => (r.Id, i)).FirstOrDefault(r => r.Id == e.Row).i;
            return zone?.Id != e.Zone && e.Zone is not null
                ? $"moved {Row(e.Row)} to {before.FindZone(e.Zone)?.Name ?? "another place"}"
                : $"moved {Row(e.Row)} {(e.Index < index ? "up" : "down")}";
        }
    }

    /// <summary>Several edits of one step told together.</summary>
    public static string Tell(IReadOnlyList<string> told)
    {
        var different = told.Distinct(StringComparer.Ordinal).ToList();
        return different.Count switch
        {
            1 => different[0],
            2 => $"{different[0]} and {different[1]}",
            _ => $"{different[0]} and {different.Count - 1} more",
        };
    }

    private static string Label(Block block) => BlockKinds.For(block).Label.ToLowerInvariant();

    private static string Detail(string field) =>
        field switch
        {
            "senderName" => "sender",
            "senderAddress" => "sender's address",
            "sendDay" => "day it goes out",
            "campaignName" => "campaign name",
            _ => field,
        };
}
