using System.Text.Json.Serialization;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Edits;

/// <summary>
/// The only way to change a document: immutable, serialisable, applied to an immutable tree, with an exact inverse.
/// An edit that does not fit the document throws <see cref="StructureException"/> and changes nothing.
/// </summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(SetFill), "set-fill")]
[JsonDerivedType(typeof(ClearFill), "clear-fill")]
[JsonDerivedType(typeof(SetLook), "set-look")]
[JsonDerivedType(typeof(ClearLook), "clear-look")]
[JsonDerivedType(typeof(InsertRow), "insert-row")]
[JsonDerivedType(typeof(RemoveRow), "remove-row")]
[JsonDerivedType(typeof(MoveRow), "move-row")]
[JsonDerivedType(typeof(SwapRows), "swap-rows")]
[JsonDerivedType(typeof(DuplicateRow), "duplicate-row")]
[JsonDerivedType(typeof(DetachRow), "detach-row")]
[JsonDerivedType(typeof(ReattachRow), "reattach-row")]
[JsonDerivedType(typeof(InsertZone), "insert-zone")]
[JsonDerivedType(typeof(RemoveZone), "remove-zone")]
[JsonDerivedType(typeof(SetZone), "set-zone")]
[JsonDerivedType(typeof(InsertBlock), "insert-block")]
[JsonDerivedType(typeof(RemoveBlock), "remove-block")]
[JsonDerivedType(typeof(MoveBlock), "move-block")]
[JsonDerivedType(typeof(SwapBlocks), "swap-blocks")]
[JsonDerivedType(typeof(DuplicateBlock), "duplicate-block")]
[JsonDerivedType(typeof(SplitText), "split-text")]
[JsonDerivedType(typeof(JoinTexts), "join-texts")]
[JsonDerivedType(typeof(SetLayout), "set-layout")]
[JsonDerivedType(typeof(RestoreColumns), "restore-columns")]
[JsonDerivedType(typeof(SetBackground), "set-background")]
[JsonDerivedType(typeof(SetShown), "set-shown")]
[JsonDerivedType(typeof(SetCondition), "set-condition")]
[JsonDerivedType(typeof(SetDetail), "set-detail")]
[JsonDerivedType(typeof(SetLanguage), "set-language")]
[JsonDerivedType(typeof(ConfirmUnchanged), "set-still-right")]
[JsonDerivedType(typeof(TakeUpdate), "take-update")]
[JsonDerivedType(typeof(DiscardUnplaced), "put-away")]
[JsonDerivedType(typeof(RestoreUnplaced), "keep-aside")]
[JsonDerivedType(typeof(SetPlainText), "set-plain-text")]
[JsonDerivedType(typeof(SetAttachments), "set-attachments")]
[JsonDerivedType(typeof(SetPlainTextOpen), "set-plain-text-open")]
[JsonDerivedType(typeof(SetRecipient), "set-recipient")]
[JsonDerivedType(typeof(SetForOnePerson), "set-for-one-person")]
[JsonDerivedType(typeof(SetLock), "set-lock")]
[JsonDerivedType(typeof(SetLimit), "set-limit")]
[JsonDerivedType(typeof(SetOffer), "set-offer")]
[JsonDerivedType(typeof(SetInstruction), "set-instruction")]
[JsonDerivedType(typeof(SetPlaceholder), "set-placeholder")]
[JsonDerivedType(typeof(SetPieceName), "set-piece-name")]
[JsonDerivedType(typeof(SetRowKind), "set-row-kind")]
[JsonDerivedType(typeof(SetCampaignTypes), "set-campaign-types")]
[JsonDerivedType(typeof(SetDescription), "set-description")]
[JsonDerivedType(typeof(SetTags), "set-tags")]
[JsonDerivedType(typeof(SetVaries), "set-varies")]
[JsonDerivedType(typeof(SetHouseStyle), "set-house-style")]
[JsonDerivedType(typeof(SetVariable), "set-variable")]
[JsonDerivedType(typeof(RemoveVariable), "remove-variable")]
[JsonDerivedType(typeof(RenameVariable), "rename-variable")]
[JsonDerivedType(typeof(MoveVariable), "move-variable")]
[JsonDerivedType(typeof(ReplaceVariable), "replace-variable")]
[JsonDerivedType(typeof(ReinstateVariable), "reinstate-variable")]
[JsonDerivedType(typeof(SetStyle), "set-style")]
[JsonDerivedType(typeof(RestoreHouseStyle), "restore-house-style")]
[JsonDerivedType(typeof(NarrowVariable), "narrow-variable")]
[JsonDerivedType(typeof(SetName), "set-name")]
[JsonDerivedType(typeof(SetSnippetValue), "set-snippet-value")]
[JsonDerivedType(typeof(AddSnippetValue), "add-snippet-value")]
[JsonDerivedType(typeof(RemoveSnippetValue), "remove-snippet-value")]
[JsonDerivedType(typeof(RestoreFirstValue), "restore-first-value")]
[JsonDerivedType(typeof(SetSnippetFrom), "set-snippet-from")]
[JsonDerivedType(typeof(SetSnippetExpiry), "set-snippet-expiry")]
[JsonDerivedType(typeof(SetSnippetEditors), "set-snippet-editors")]
[JsonDerivedType(typeof(ReplaceSnippet), "replace-snippet")]
[JsonDerivedType(typeof(SetMergeField), "set-merge-field")]
[JsonDerivedType(typeof(RemoveMergeField), "remove-merge-field")]
[JsonDerivedType(typeof(SetAudience), "set-audience")]
[JsonDerivedType(typeof(RemoveAudience), "remove-audience")]
[JsonDerivedType(typeof(SetExportProfile), "set-export-profile")]
[JsonDerivedType(typeof(RemoveExportProfile), "remove-export-profile")]
public abstract record Edit
{
    /// <summary>In place of an index: after all that stands there when the edit is made.</summary>
    public const int AtEnd = -1;

    /// <summary>
    /// What the edit sets, as a path. Two edits of the same target made at the same time are a conflict;
    /// others go side by side. Null: it arranges rows, which is decided by whether it still applies.
    /// </summary>
    [JsonIgnore]
    public abstract string? Target { get; }

    /// <summary>
    /// The piece that it takes away or puts back as a whole, as a path of ids: whatever was said there goes. Empty: the
    /// whole document. Null: it sets its target and no more.
    /// </summary>
    private protected virtual string? Whole => null;

    /// <summary>Whether what others said may go with it; else it sets its target and no more.</summary>
    [JsonIgnore]
    public bool RemovesBlocks => Whole is not null;

    /// <summary>Whether what another edit said would go with it.</summary>
    /// <param name="stored">The other edit as it is stored.</param>
    public bool TakesAway(string stored) =>
        Whole is { } whole
        && whole.Split('/', StringSplitOptions.RemoveEmptyEntries).All(id => stored.Contains($"\"{id}\"", StringComparison.Ordinal));

    public abstract Document Apply(Document document);

    /// <summary>The edit that takes this one back, given the document before it.</summary>
    public abstract Edit Invert(Document before);

    private protected static T Expect<T>(Document document)
        where T : Document =>
        document as T ?? throw new StructureException($"This edit is for {typeof(T).Name} documents, not for {document.GetType().Name}.");
}
