using System.Collections.Immutable;

namespace GoldenRule.Core.Documents;

/// <summary>What the core needs to know of a picture; its bytes stay outside.</summary>
/// <param name="Id">SHA-256 of the bytes, lower-case hexadecimal.</param>
/// <param name="Width">Pixels of the file.</param>
/// <param name="Height">Pixels of the file.</param>
/// <param name="Bytes">Weight of the file.</param>
/// <param name="Extension">"png", "jpg" or "gif".</param>
public sealed record Picture(string Id, string Name, int Width, int Height, int Bytes, string Extension, string Alt);

/// <summary>The pictures a document may show.</summary>
public sealed class PictureShelf(IEnumerable<Picture> pictures)
{
    private readonly ImmutableDictionary<string, Picture> byId = pictures.ToImmutableDictionary(p => p.Id, StringComparer.Ordinal);

    public static PictureShelf Empty { get; } = new([]);

    public Picture? Find(string id) => byId.GetValueOrDefault(id);
}
