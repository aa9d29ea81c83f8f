using SkiaSharp;

namespace GoldenRule.PictureWorker;

/// <summary>A file that was taken for a picture: its pixels, upright and in sRGB, and what it is to be kept as.</summary>
/// <param name="Animation">The stripped bytes of an animated GIF, which is kept as it is.</param>
public sealed record PictureSource(SKBitmap Bitmap, SKEncodedImageFormat Format, byte[]? Animation) : IDisposable
{
    public const int MostBytes = 5 * 1024 * 1024;

    /// <summary>Twice 640 px, the widest that is shown.</summary>
    public const int MostWidth = 1280;

    /// <summary>Beyond this the pixels would fill the server's memory, however small the file.</summary>
    internal const int MostPixels = 24_000_000;

    /// <summary>Half a minute at ten a second, which no reader waits for.</summary>
    private const int MostFrames = 300;

    /// <summary>Of all frames together.</summary>
    private const long MostAnimatedPixels = 150_000_000;

    // What people often call a picture and mail clients do not show.
    private static readonly (byte[] Start, int At, string What)[] Others =
    [
        ("%PDF"u8.ToArray(), 0, "a PDF"),
        ("PK\u0003\u0004"u8.ToArray(), 0, "a ZIP archive or an office document"),
        ("MZ"u8.ToArray(), 0, "a program"),
        ("\u007fELF"u8.ToArray(), 0, "a program"),
        ("ftyp"u8.ToArray(), 4, "a HEIC or AVIF picture or a film"),
        ("WEBP"u8.ToArray(), 8, "a WebP picture"),
        ("BM"u8.ToArray(), 0, "a BMP picture"),
        ("II*\0"u8.ToArray(), 0, "a TIFF picture"),
        ("MM\0*"u8.ToArray(), 0, "a TIFF picture"),
        ("<!doctype html"u8.ToArray(), 0, "a web page"),
        ("<html"u8.ToArray(), 0, "a web page"),
    ];

    /// <summary>Judges a file by its content, never by its name.</summary>
    /// <param name="name">Only to be named where it is refused.</param>
    /// <exception cref="UnfitException">Too large, a bomb, broken, or no picture; it says which.</exception>
    public static PictureSource Open(byte[] file, string name)
    {
        if (file.Length == 0)
        {
            throw new UnfitException("The file is empty.");
        }

        RefuseTooLarge(file.Length);
        using var codec = SKCodec.Create(new SKMemoryStream(file));
        if (codec?.EncodedFormat is not (SKEncodedImageFormat.Png or SKEncodedImageFormat.Jpeg or SKEncodedImageFormat.Gif))
        {
            return SvgReader.Is(file)
                ? new PictureSource(SvgSource.Draw(file, MostWidth), SKEncodedImageFormat.Png, null)
                : throw new UnfitException(
                    Others.FirstOrDefault(o => Starts(file, o.Start, o.At)).What is { } what
                        ? $"\"{name}\" is {what}, whatever its name says. Pictures are PNG, JPEG or GIF, or SVG as a source."
                        : $"\"{name}\" is no picture, or so broken that it cannot be read. "
                            + "Pictures are PNG, JPEG or GIF, or SVG as a source."
                );
        }

        var size = Decoded(codec);
        if ((long)size.Width * size.Height > MostPixels)
        {
            throw new UnfitException(
                $"The picture has {codec.Info.Width:N0} by {codec.Info.Height:N0} pixels, too many to open safely; at "
                    + "most 24 million fit. Make it smaller first."
            );
        }

        if ((long)size.Width * size.Height * codec.FrameCount > MostAnimatedPixels || codec.FrameCount > MostFrames)
        {
            throw new UnfitException(
                $"The animation has {codec.FrameCount:N0} frames, too many to be shown by mail clients. Keep it to {MostFrames}."
            );
        }

        var moves = codec is { EncodedFormat: SKEncodedImageFormat.Gif, FrameCount: > 1 };
        if (moves && codec.Info.Width > MostWidth)
        {
            throw new UnfitException(
                $"The animation is {codec.Info.Width:N0} pixels wide. Animations are kept as they are, so at most {MostWidth:N0} fit."
            );
        }

        var bitmap = new SKBitmap(Pixels(size.Width, size.Height));
        var stripped = codec.EncodedFormat == SKEncodedImageFormat.Gif ? GifSource.Strip(file) : file;
        if (codec.GetPixels(bitmap.Info, bitmap.GetPixels()) != SKCodecResult.Success || stripped is null)
        {
            bitmap.Dispose();
            throw new UnfitException($"\"{name}\" is broken: it cannot be read to its end.");
        }

        return new PictureSource(
            Upright(bitmap, codec.EncodedOrigin),
            codec.EncodedFormat == SKEncodedImageFormat.Jpeg ? SKEncodedImageFormat.Jpeg : SKEncodedImageFormat.Png,
            moves ? stripped : null
        );
    }

    public void Dispose() => Bitmap.Dispose();

    /// <summary>A file that is too large is refused before it is read.</summary>
    public static void RefuseTooLarge(long bytes)
    {
        if (bytes > MostBytes)
        {
            throw new UnfitException($"The file has {bytes / 1048576.0:0.0} MB; pictures have at most 5.", tooLarge: true);
        }
    }

    /// <summary>Eight bits a channel, sRGB: what mail clients show.</summary>
    internal static SKImageInfo Pixels(int width, int height) =>
        new(width, height, SKColorType.Rgba8888, SKAlphaType.Unpremul, SKColorSpace.CreateSrgb());

    // A large JPEG is opened at the smallest of its eighths that is still wide enough.
    private static SKSizeI Decoded(SKCodec codec)
    {
        var whole = new SKSizeI(codec.Info.Width, codec.Info.Height);
        return codec.EncodedFormat == SKEncodedImageFormat.Jpeg && Math.Min(whole.Width, whole.Height) > MostWidth
            ? Enumerable.Range(1, 8).Select(i => codec.GetScaledDimensions(i / 8f)).First(s => Math.Min(s.Width, s.Height) >= MostWidth)
            : whole;
    }

    // Cameras say which way up a picture is; what said so is left behind with the rest of the metadata (EXIF 2.32, orientation).
    private static SKBitmap Upright(SKBitmap bitmap, SKEncodedOrigin origin)
    {
        if (origin is SKEncodedOrigin.TopLeft or SKEncodedOrigin.Default)
        {
            return bitmap;
        }

        var (w, h) = (bitmap.Width, bitmap.Height);
        var turned = (int)origin >= 5;
        var upright = new SKBitmap(Pixels(turned ? h : w, turned ? w : h));
        using (var canvas = new SKCanvas(upright))
        {
            canvas.SetMatrix(
                origin switch
                {
                    SKEncodedOrigin.TopRight => new SKMatrix(-1, 0, w, 0, 1, 0, 0, 0, 1),
                    SKEncodedOrigin.BottomRight => new SKMatrix(-1, 0, w, 0, -1, h, 0, 0, 1),
                    SKEncodedOrigin.BottomLeft => new SKMatrix(1, 0, 0, 0, -1, h, 0, 0, 1),
                    SKEncodedOrigin.LeftTop => new SKMatrix(0, 1, 0, 1, 0, 0, 0, 0, 1),
                    SKEncodedOrigin.RightTop => new SKMatrix(0, -1, h, 1, 0, 0, 0, 0, 1),
                    SKEncodedOrigin.RightBottom => new SKMatrix(0, -1, h, -1, 0, w, 0, 0, 1),
                    SKEncodedOrigin.LeftBottom => new SKMatrix(0, 1, 0, -1, 0, w, 0, 0, 1),
                    _ => SKMatrix.Identity,
                }
            );
            canvas.DrawBitmap(bitmap, 0, 0, SKSamplingOptions.Default);
        }

        bitmap.Dispose();
        return upright;
    }

    private static bool Starts(byte[] file, byte[] start, int at) =>
        file.Length >= at + start.Length
        && System.Text.Ascii.EqualsIgnoreCase(file.AsSpan(at, start.Length), start) | file.AsSpan(at, start.Length).SequenceEqual(start);
}
