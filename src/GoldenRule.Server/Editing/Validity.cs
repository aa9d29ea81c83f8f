using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Server.Editing;

/// <summary>Whether a document can be resolved after an edit. What cannot is refused before it is stored.</summary>
public static class Validity
{
    public static void Check(Document after, Kept kept)
    {
        switch (after)
        {
            case HouseStyle style:
                _ = Layers(style, kept);
                break;
            case Email email:
                _ = Resolver.Resolve(email, RunningOrder.Of(email, kept.Library.Masters), StyleOf(email, kept.Library), kept.Library.Pictures);
                break;
            default:
                break;
        }
    }

    /// <summary>A house style's draft on the releases it lies on.</summary>
    public static StyleLayers Layers(HouseStyle draft, Kept kept) => new(
        LibrarySnapshot.Chain(kept.Stored.Id, kept.Library.HouseStyles.SetItem(kept.Stored.Id, draft))
            .Select(id => id == kept.Stored.Id ? draft : kept.Library.HouseStyles[id]));

    public static StyleLayers StyleOf(Email email, LibrarySnapshot library) =>
        library.Style(library.Masters.Template(email.Template, email.TemplateRelease).HouseStyle);
}
