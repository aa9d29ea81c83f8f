using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Releases;
using GoldenRule.Core.Validation;

namespace GoldenRule.Server.Editing;

/// <summary>
/// A document as it stands, and once asked for how it is laid out: both stay the same objects as long as it is kept, by
/// which what is worked out from them knows what need not be done again.
/// </summary>
/// <param name="former">How the document was laid out before its last edits, where that is known: what stands is taken over.</param>
public sealed class DocumentHead(Document document, RunningOrder? former = null)
{
    private DocumentLayout? layout;
    private IReadOnlySet<Reference>? references;

    private (ImmutableArray<HouseStyle> Chain, StyleLayers Layers)? dressed;

    public Document Document => document;

    /// <summary>What it refers to.</summary>
    public IReadOnlySet<Reference> References => references ??= Core.Releases.References.Find(document);

    /// <summary>Releases never change, so that emails and templates are always laid out alike.</summary>
    public DocumentLayout LayOut(LibrarySnapshot library) =>
        document switch
        {
            Email or Template => layout ??= DocumentLayout.LayOut(document, library, former),
            _ => DocumentLayout.LayOut(document, library),
        };

    /// <summary>A house style on the releases that it lies on; made once as long as those are the same.</summary>
    /// <exception cref="StructureException">They cannot be resolved.</exception>
    public StyleLayers StyleLayers(Guid id, LibrarySnapshot library)
    {
        var chain = library.Styles.ChainWith(id, (HouseStyle)document);
        if (dressed is not var (known, layers) || !known.SequenceEqual(chain, ReferenceEquals))
        {
            layers = new StyleLayers(chain);
            dressed = (chain, layers);
        }

        return layers;
    }

    /// <summary>What it is after an edit.</summary>
    public DocumentHead Then(Document after) => ReferenceEquals(after, document) ? this : new DocumentHead(after, layout?.Order ?? former);
}
