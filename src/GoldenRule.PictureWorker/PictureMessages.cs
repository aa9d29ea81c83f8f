using System.Text.Json.Serialization;

namespace GoldenRule.PictureWorker;

/// <summary>What is made of a file.</summary>
public enum PictureTask
{
    /// <summary>Everything the library keeps of it: the whole, smaller sizes, the crop for phones.</summary>
    Files,

    /// <summary>Only the crop for phones, around a focal point.</summary>
    Crop,

    /// <summary>Its pixels, made small without mixing colours.</summary>
    Pixels,

    /// <summary>A drawn page of tiles, six in a line, cut into them; each as wide and tall as what is painted on it.</summary>
    Tiles,
}

/// <param name="Count">How many tiles there are.</param>
/// <param name="Width">Of each, in pixels.</param>
/// <param name="Height">Of each, in pixels.</param>
public sealed record PictureTiles(int Count, int Width, int Height)
{
    public const int InLine = 6;

    /// <summary>Where one of them begins.</summary>
    public (int Left, int Top) At(int tile) => (tile % InLine * Width, tile / InLine * Height);

    public int Lines => (Count + InLine - 1) / InLine;
}

/// <param name="Tiles">For that task only.</param>
/// <param name="Name">Only to be named where it is refused.</param>
/// <param name="FocalX">Share of the width from the left that the crop keeps in sight.</param>
public sealed record PictureRequest(
    byte[] File,
    string Name,
    PictureTask Task,
    double FocalX = 0.5,
    double FocalY = 0.5,
    PictureTiles? Tiles = null
);

/// <summary>A file that was drawn; its pixels as RGBA, four bytes each, where those were asked for.</summary>
/// <param name="Extension">"png", "jpg" or "gif"; "rgba" for pixels, "webp" for tiles.</param>
public sealed record DrawnFile(byte[] Content, string Extension, int Width, int Height);

/// <param name="Refused">Why the file was not taken. Null: it was.</param>
/// <param name="TooLarge">It was refused for its bytes.</param>
/// <param name="Files">The widest first. A crop alone has none.</param>
/// <param name="Crop">Null: its shape suits a phone as it is, or it moves.</param>
public sealed record PictureAnswer(IReadOnlyList<DrawnFile> Files, DrawnFile? Crop = null, string? Refused = null, bool TooLarge = false)
{
    public static PictureAnswer Unfit(string reason, bool tooLarge = false) => new([], null, reason, tooLarge);
}

/// <summary>A file that is not taken; the message says why and what to do.</summary>
public sealed class UnfitException(string reason, bool tooLarge = false) : Exception(reason)
{
    public bool TooLarge { get; } = tooLarge;
}

[JsonSerializable(typeof(PictureRequest))]
[JsonSerializable(typeof(PictureAnswer))]
public sealed partial class PictureMessages : JsonSerializerContext;
