using System.Security.Cryptography;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using SkiaSharp;

namespace GoldenRule.Server.Pictures;

/// <summary>A picture made ready for the library: the entry, and every file of it.</summary>
public sealed record TakenPicture(StoredPicture Picture, IReadOnlyList<StoredPictureFile> Files);

/// <summary>
/// Takes a picture file in: drawn anew, which leaves all metadata behind, at the widths that emails need, each twice
/// what is shown, and as a crop for phones around the focal point.
/// </summary>
public static class PictureIntake
{
    /// <summary>Twice the widths of a whole, three quarters, half and a quarter of 640 px.</summary>
    private static readonly int[] Widths = [1280, 960, 640, 320];

    /// <summary>Twice 375 px.</summary>
    private const int PhoneWidth = 750;

    // A narrow screen shows little of what is wider than 4 to 3, and of what is taller than 4 to 5 too much.
    private const double Widest = 4.0 / 3;
    private const double Tallest = 5.0 / 4;

    private const int Quality = 86;

    public static Task<TakenPicture> TakeAsync(byte[] file, string name, Guid? by, DateTime now, CancellationToken cancel) =>
        PictureSource.UseAsync(file, name, source => Take(source, name, by, now), cancel);

    /// <summary>The phone crop of a picture's whole file around a focal point. Null: its shape suits a phone as it is, or it moves.</summary>
    public static Task<StoredPictureFileOf?> CropAsync(byte[] whole, double focalX, double focalY, CancellationToken cancel) => PictureSource.UseAsync(
        whole,
        "picture",
        source => source.Animation is null ? Crop(source.Bitmap, source.Format, focalX, focalY) : null,
        cancel);

    private static TakenPicture Take(PictureSource source, string name, Guid? by, DateTime now)
    {
        var title = Path.GetFileNameWithoutExtension(name);
        if (source.Animation is { } animation)
        {
            var only = FileOf(animation, "gif", source.Bitmap.Width, source.Bitmap.Height);
            return new TakenPicture(Entry(only, [], null, title, by, now), [only.Stored]);
        }

        var widest = Math.Min(source.Bitmap.Width, PictureSource.MostWidth);
        var files = new List<StoredPictureFileOf> { Drawn(source.Bitmap, widest, source.Format) };
        // A smaller size that is no lighter, as with few flat colours, would only cost sharpness.
        foreach (var width in Widths.Where(w => w < widest))
        {
            var smaller = Drawn(source.Bitmap, width, source.Format);
            if (smaller.File.Bytes < files[^1].File.Bytes)
            {
                files.Add(smaller);
            }
        }

        var crop = Crop(source.Bitmap, source.Format, 0.5, 0.5);
        return new TakenPicture(
            Entry(files[0], [.. files.Skip(1).Select(f => f.File)], crop?.File, title, by, now),
            [.. files.Concat(crop is null ? [] : [crop]).Select(f => f.Stored).DistinctBy(f => f.Name, StringComparer.Ordinal)]);
    }

    private static StoredPicture Entry(StoredPictureFileOf whole, List<PictureFile> smaller, PictureFile? crop, string name, Guid? by, DateTime now) => new()
    {
        Id = Path.GetFileNameWithoutExtension(whole.File.Name),
        Name = name,
        Alt = "",
        Words = name.ToLowerInvariant(),
        Width = whole.File.Width,
        Height = whole.File.Height,
        Extension = Path.GetExtension(whole.File.Name)[1..],
        Weight = whole.File.Bytes,
        Smaller = smaller,
        PhoneCrop = crop,
        AddedBy = by,
        AddedAt = now,
    };

    private static StoredPictureFileOf? Crop(SKBitmap bitmap, SKEncodedImageFormat format, double focalX, double focalY)
    {
        var (width, height) = (Math.Min(bitmap.Width, (int)Math.Round(bitmap.Height * Widest)), Math.Min(bitmap.Height, (int)Math.Round(bitmap.Width * Tallest)));
        if (width == bitmap.Width && height == bitmap.Height)
        {
            return null;
        }

        using var part = new SKBitmap();
        bitmap.ExtractSubset(part, SKRectI.Create(Start(focalX, bitmap.Width, width), Start(focalY, bitmap.Height, height), width, height));
        return Drawn(part, Math.Min(width, PhoneWidth), format);
    }

    // The focal point in the middle, as far as the edges let it.
    private static int Start(double focal, int whole, int part) => (int)Math.Round(Math.Clamp((focal * whole) - (part / 2.0), 0, whole - part));

    private static StoredPictureFileOf Drawn(SKBitmap bitmap, int width, SKEncodedImageFormat format)
    {
        var height = Math.Max(1, (int)Math.Round((double)bitmap.Height * width / bitmap.Width));
        using var drawn = width < bitmap.Width
            ? bitmap.Resize(PictureSource.Pixels(width, height), new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear))!
            : bitmap.Copy()!;
        using var pixels = drawn.PeekPixels()!;
        using var data = format == SKEncodedImageFormat.Jpeg
            ? pixels.Encode(new SKJpegEncoderOptions(Quality))!
            : pixels.Encode(new SKPngEncoderOptions(SKPngEncoderFilterFlags.AllFilters, 9))!;
        return FileOf(data.ToArray(), format == SKEncodedImageFormat.Jpeg ? "jpg" : "png", drawn.Width, drawn.Height);
    }

    private static StoredPictureFileOf FileOf(byte[] content, string extension, int width, int height)
    {
        var name = $"{Convert.ToHexStringLower(SHA256.HashData(content))}.{extension}";
        return new StoredPictureFileOf(new PictureFile(name, width, height, content.Length), new StoredPictureFile { Name = name, Content = content });
    }
}

/// <summary>A file as the core knows it, with its bytes as they are stored.</summary>
public sealed record StoredPictureFileOf(PictureFile File, StoredPictureFile Stored);
