using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Data;

namespace GoldenRule.Server.Editing;

/// <summary>A document at one revision, and everything released at that moment.</summary>
/// <param name="CompiledRevision">Of a document just edited: what it was compiled to before it was stored.</param>
public sealed record LoadedDocument(
    StoredDocument Stored,
    DocumentHead Head,
    LibrarySnapshot Library,
    CompiledRevision? CompiledRevision = null
)
{
    public LoadedDocument(StoredDocument stored, Document document, LibrarySnapshot library)
        : this(stored, new DocumentHead(document), library) { }

    public Document Document => Head.Document;

    /// <summary>Laid out as the email that it is or would begin as.</summary>
    public DocumentLayout Layout => Head.LayOut(Library);

    /// <summary>A house style on the releases that it lies on.</summary>
    public StyleLayers StyleLayers => Head.StyleLayers(Stored.Id, Library);

    public LoadedDocument With(Document document) => this with { Head = Head.Then(document) };
}
