using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;

namespace GoldenRule.Core.Validation;

/// <summary>
/// An edit applied so that every block of the result is complete: the one way, when it is made and when it is made again.
/// </summary>
public static class EditApplication
{
    /// <param name="document">Complete itself.</param>
    /// <exception cref="StructureException">The edit does not fit the document; nothing is changed.</exception>
    public static Document Apply(Edit edit, Document document) => BlockKinds.Complete(edit.Apply(document), document);
}
