using SkiaSharp;

namespace GoldenRule.PictureWorker;

/// <summary>
/// Draws a picture file anew, which leaves all metadata behind, at the widths that emails need, each twice what is shown,
/// and as a crop for phones around the focal point.
/// </summary>
public static class PictureDrawing
{
    /// <summary>Twice the widths of a whole, three quarters, half and a quarter of 640 px.</summary>
    private static readonly int[] Widths = [1280, 960, 640, 320];

    /// <summary>Twice 375 px.</summary>
    private const int PhoneWidth = 750;

    /// <summary>Enough to count colours on.</summary>
    private const int PixelsWidth = 480;

    // A narrow screen shows little of what is wider than 4 to 3, and of what is taller than 4 to 5 too much.
    private const double Widest = 4.0 / 3;
    private const double Tallest = 5.0 / 4;

    private const int Quality = 86;

    /// <summary>Draws something small, so that what a file costs is what it costs alone.</summary>
    public static void WarmUp()
    {
        var svg =
            $"<svg xmlns=\"{SvgReader.Svg}\" viewBox=\"0 0 4 3\"><style>.a{{fill:#fff}}</style><g "
            + "transform=\"scale(1)\"><path class=\"a\" d=\"M0 0h4v3z\"/><text>a</text></g></svg>";
        using var source = PictureSource.Open(System.Text.Encoding.UTF8.GetBytes(svg), "warm-up");
        _ = Drawn(source.Bitmap, 16, source.Format);
    }

    /// <param name="overdrawn">Called from another thread where opening it takes too long.</param>
    public static PictureAnswer Answer(PictureRequest request, Action overdrawn)
    {
        try
        {
            if (request is { Task: PictureTask.Tiles, Tiles: { } tiles })
            {
                return TileCutting.Cut(request.File, tiles);
            }

            using var source = Open(request, overdrawn);
            return request.Task switch
            {
                PictureTask.Crop => new PictureAnswer([], source.Animation is null ? Crop(source, request.FocalX, request.FocalY) : null),
                PictureTask.Pixels => new PictureAnswer([Pixels(source.Bitmap)]),
                _ => Files(source),
            };
        }
        catch (UnfitException unfit)
        {
            return PictureAnswer.Unfit(unfit.Message, unfit.TooLarge);
        }
    }

    private static PictureSource Open(PictureRequest request, Action overdrawn)
    {
        using var budget = ProcessorBudget.Start(overdrawn);
        return PictureSource.Open(request.File, request.Name);
    }

    private static PictureAnswer Files(PictureSource source)
    {
        if (source.Animation is { } animation)
        {
            return new PictureAnswer([new DrawnFile(animation, "gif", source.Bitmap.Width, source.Bitmap.Height)]);
        }

        var widest = Math.Min(source.Bitmap.Width, PictureSource.MostWidth);
        var files = new List<DrawnFile> { Drawn(source.Bitmap, widest, source.Format) };
        // A smaller size that is no lighter, as with few flat colours, would only cost sharpness.
        foreach (var width in Widths.Where(w => w < widest))
        {
            var smaller = Drawn(source.Bitmap, width, source.Format);
            if (smaller.Content.Length < files[^1].Content.Length)
            {
                files.Add(smaller);
            }
        }

        return new PictureAnswer(files, Crop(source, 0.5, 0.5));
    }

    private static DrawnFile? Crop(PictureSource source, double focalX, double focalY)
    {
        var bitmap = source.Bitmap;
        var width = Math.Min(bitmap.Width, (int)Math.Round(bitmap.Height * Widest));
        var height = Math.Min(bitmap.Height, (int)Math.Round(bitmap.Width * Tallest));
        if (width == bitmap.Width && height == bitmap.Height)
        {
            return null;
        }

        using var part = new SKBitmap();
        bitmap.ExtractSubset(part, SKRectI.Create(Start(focalX, bitmap.Width, width), Start(focalY, bitmap.Height, height), width, height));
        return Drawn(part, Math.Min(width, PhoneWidth), source.Format);
    }

    // The focal point in the middle, as far as the edges let it.
    private static int Start(double focal, int whole, int part) =>
        (int)Math.Round(Math.Clamp((focal * whole) - (part / 2.0), 0, whole - part));

    private static DrawnFile Drawn(SKBitmap bitmap, int width, SKEncodedImageFormat format)
    {
        using var drawn =
            width < bitmap.Width ? Resized(bitmap, width, new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear)) : bitmap.Copy()!;
        using var pixels = drawn.PeekPixels()!;
        using var data =
            format == SKEncodedImageFormat.Jpeg
                ? pixels.Encode(new SKJpegEncoderOptions(Quality))!
                : pixels.Encode(new SKPngEncoderOptions(SKPngEncoderFilterFlags.AllFilters, 9))!;
        return new DrawnFile(data.ToArray(), format == SKEncodedImageFormat.Jpeg ? "jpg" : "png", drawn.Width, drawn.Height);
    }

    private static DrawnFile Pixels(SKBitmap bitmap)
    {
        // The nearest pixel is taken, so that making it smaller mixes no colours.
        using var counted = Resized(bitmap, Math.Min(PixelsWidth, bitmap.Width), new SKSamplingOptions(SKFilterMode.Nearest));
        return new DrawnFile(counted.GetPixelSpan().ToArray(), "rgba", counted.Width, counted.Height);
    }

    private static SKBitmap Resized(SKBitmap bitmap, int width, SKSamplingOptions sampling)
    {
        var height = Math.Max(1, (int)Math.Round((double)bitmap.Height * width / bitmap.Width));
        return bitmap.Resize(PictureSource.Pixels(width, height), sampling)!;
    }
}
