using System.Security.Cryptography;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using SkiaSharp;

namespace GoldenRule.Server.Pictures;

/// <summary>
/// Takes in a picture file: judged by its content, never by its name; drawn anew, which leaves all metadata behind;
/// no wider than twice the widest place in an email.
/// </summary>
public static class PictureIntake
{
    public const int MostBytes = 5 * 1024 * 1024;

    /// <summary>Twice 640 px.</summary>
    public const int MostWidth = 1280;

    /// <summary>Beyond this the pixels would fill the server's memory, however small the file.</summary>
    private const int MostPixels = 40_000_000;

    public static StoredPicture Take(byte[] file, string name, DateTime now)
    {
        if (file.Length > MostBytes)
        {
            throw Unfit($"The file has {file.Length / 1048576.0:0.0} MB; pictures have at most 5.");
        }

        using var codec = SKCodec.Create(new SKMemoryStream(file));
        var extension = codec?.EncodedFormat switch
        {
            SKEncodedImageFormat.Png => "png",
            SKEncodedImageFormat.Jpeg => "jpg",
            _ => throw Unfit("The file is not a PNG or JPEG picture, whatever its name says."),
        };
        if ((long)codec.Info.Width * codec.Info.Height > MostPixels)
        {
            throw Unfit($"The picture has {codec.Info.Width} by {codec.Info.Height} pixels; at most 40 million fit.");
        }

        using var read = SKBitmap.Decode(codec) ?? throw Unfit("The picture is broken: it cannot be read to its end.");
        using var drawn = read.Width > MostWidth
            ? read.Resize(new SKImageInfo(MostWidth, Math.Max(1, (int)Math.Round((double)read.Height * MostWidth / read.Width))), new SKSamplingOptions(SKCubicResampler.Mitchell))
            : read.Copy();
        using var data = drawn.Encode(extension == "png" ? SKEncodedImageFormat.Png : SKEncodedImageFormat.Jpeg, 88);
        return Of(data.ToArray(), name, "", drawn.Width, drawn.Height, extension, now);
    }

    public static StoredPicture Of(byte[] content, string name, string alt, int width, int height, string extension, DateTime now) => new()
    {
        Id = Convert.ToHexStringLower(SHA256.HashData(content)),
        Name = name,
        Alt = alt,
        Width = width,
        Height = height,
        Extension = extension,
        Content = content,
        Weight = content.Length,
        AddedAt = now,
    };

    private static ProblemException Unfit(string detail) => new(422, "picture", "The picture was not taken", detail);
}
