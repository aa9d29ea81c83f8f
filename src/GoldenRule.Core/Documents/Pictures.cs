using System.Collections.Immutable;

namespace GoldenRule.Core.Documents;

/// <summary>A file of a picture at one size.</summary>
/// <param name="Name">SHA-256 of its bytes, a point and the extension: its name under the address of pictures.</param>
/// <param name="Width">Pixels.</param>
/// <param name="Height">Pixels.</param>
/// <param name="Bytes">Weight.</param>
public sealed record PictureFile(string Name, int Width, int Height, int Bytes);

/// <summary>What the core needs to know of a picture; its bytes stay outside.</summary>
/// <param name="Id">SHA-256 of the bytes, lower-case hexadecimal.</param>
/// <param name="Width">Pixels of the file.</param>
/// <param name="Height">Pixels of the file.</param>
/// <param name="Bytes">Weight of the file.</param>
/// <param name="Extension">"png", "jpg" or "gif".</param>
public sealed record Picture(string Id, string Name, int Width, int Height, int Bytes, string Extension, string Alt)
{
    /// <summary>Smaller files of the same picture, the widest first.</summary>
    public ImmutableArray<PictureFile> Smaller { get; init; } = [];

    /// <summary>The part around the focal point, for phones. Null: its shape suits them as it is.</summary>
    public PictureFile? PhoneCrop { get; init; }

    public PictureFile Whole { get; } = new($"{Id}.{Extension}", Width, Height, Bytes);

    /// <summary>The lightest file that is at least twice as wide as it is shown, or the widest there is.</summary>
    /// <param name="shownWidth">CSS pixels.</param>
    public PictureFile FileFor(int shownWidth)
    {
        for (var i = Smaller.Length - 1; i >= 0; i--)
        {
            if (Smaller[i].Width >= 2 * shownWidth)
            {
                return Smaller[i];
            }
        }

        return Whole;
    }
}

/// <summary>A picture that another has taken the place of, everywhere.</summary>
public sealed record Replacement(string Picture, string By);

/// <summary>The pictures a document may show.</summary>
/// <param name="replacements">Followed from one to the next; they never lead in a circle.</param>
public sealed class PictureCatalog(IEnumerable<Picture> pictures, IEnumerable<Replacement> replacements)
{
    private readonly ImmutableDictionary<string, Picture> byId = pictures.ToImmutableDictionary(p => p.Id, StringComparer.Ordinal);

    private readonly ImmutableDictionary<string, string> replaced = replacements.ToImmutableDictionary(
        r => r.Picture,
        r => r.By,
        StringComparer.Ordinal
    );

    public PictureCatalog(IEnumerable<Picture> pictures)
        : this(pictures, []) { }

    /// <summary>Any one, the same each time. Null: there is none.</summary>
    public Picture? First { get; } = pictures.OrderByDescending(p => p.Width).ThenBy(p => p.Id, StringComparer.Ordinal).FirstOrDefault();

    /// <summary>All of them, in no order.</summary>
    public IEnumerable<Picture> All => byId.Values;

    public static PictureCatalog Empty { get; } = new([]);

    /// <summary>The picture of that id, or the one that took its place. Null: there is none.</summary>
    public Picture? Find(string id)
    {
        for (var steps = 0; replaced.TryGetValue(id, out var by) && steps < replaced.Count; steps++)
        {
            id = by;
        }

        return byId.GetValueOrDefault(id);
    }
}
