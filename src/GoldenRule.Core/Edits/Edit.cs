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
[JsonDerivedType(typeof(SetDetail), "set-detail")]
[JsonDerivedType(typeof(SetLock), "set-lock")]
[JsonDerivedType(typeof(SetLimit), "set-limit")]
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
public abstract record Edit
{
    /// <summary>
    /// What the edit sets, as a path. Two edits of the same target made at the same time are a conflict;
    /// others go side by side. Null: it arranges rows, which is decided by whether it still applies.
    /// </summary>
    [JsonIgnore]
    public abstract string? Target { get; }

    public abstract Document Apply(Document document);

    /// <summary>The edit that takes this one back, given the document before it.</summary>
    public abstract Edit Invert(Document before);

    private protected static T Expect<T>(Document document)
        where T : Document =>
        document as T ?? throw new StructureException($"This edit is for {typeof(T).Name} documents, not for {document.GetType().Name}.");
}
