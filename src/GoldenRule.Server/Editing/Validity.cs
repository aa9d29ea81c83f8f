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
    public static StyleLayers Layers(HouseStyle draft, Kept kept) => Layers(kept.Stored.Id, draft, kept);

    /// <summary>A house style as it would be if the draft of one that it lies on were released.</summary>
    public static StyleLayers Layers(Guid style, HouseStyle draft, Kept kept)
    {
        var styles = kept.Library.HouseStyles.SetItem(kept.Stored.Id, draft);
        return new StyleLayers(LibrarySnapshot.Chain(style, styles).Select(id => styles[id]));
    }

    public static StyleLayers StyleOf(Email email, LibrarySnapshot library) =>
        library.Style(library.Masters.Template(email.Template, email.TemplateRelease).HouseStyle);
}
