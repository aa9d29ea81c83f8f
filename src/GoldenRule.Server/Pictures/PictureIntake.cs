using System.Security.Cryptography;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.PictureWorker;

namespace GoldenRule.Server.Pictures;

/// <summary>A picture made ready for the library: the entry, and every file of it.</summary>
public sealed record TakenPicture(StoredPicture Picture, IReadOnlyList<StoredPictureFile> Files);

/// <summary>Takes picture files in: the worker draws them, and they are named by their content.</summary>
public sealed class PictureIntake(PictureWorkers workers)
{
    /// <exception cref="Hosting.ProblemException">The file is no picture that is taken; it says why.</exception>
    public async Task<TakenPicture> TakeAsync(byte[] file, string name, Guid? by, DateTime now, CancellationToken cancel)
    {
        var drawn = await workers.RunAsync(new PictureRequest(file, name, PictureTask.Files), cancel);
        var files = drawn.Files.Select(FileOf).ToList();
        var crop = drawn.Crop is { } cropped ? FileOf(cropped) : null;
        return new TakenPicture(
            Entry(files[0], [.. files.Skip(1).Select(f => f.File)], crop?.File, Path.GetFileNameWithoutExtension(name), by, now),
            [.. files.Concat(crop is null ? [] : [crop]).Select(f => f.Stored).DistinctBy(f => f.Name, StringComparer.Ordinal)]
        );
    }

    /// <summary>
    /// The phone crop of a picture's whole file around a focal point. Null: its shape suits a phone as it is, or it moves.
    /// </summary>
    public async Task<StoredPictureFileOf?> CropAsync(byte[] whole, double focalX, double focalY, CancellationToken cancel)
    {
        var drawn = await workers.RunAsync(new PictureRequest(whole, "picture", PictureTask.Crop, focalX, focalY), cancel);
        return drawn.Crop is { } crop ? FileOf(crop) : null;
    }

    /// <summary>The pixels of a picture, four bytes each, made small without mixing colours.</summary>
    public async Task<DrawnFile> PixelsAsync(byte[] file, string name, CancellationToken cancel) =>
        (await workers.RunAsync(new PictureRequest(file, name, PictureTask.Pixels), cancel)).Files[0];

    /// <summary>The bytes of an upload. One that is too large is refused before it is read.</summary>
    public static async Task<byte[]> ReceiveAsync(IFormFile file, CancellationToken cancel)
    {
        PictureWorkers.RefuseTooLarge(file.Length);
        using var bytes = new MemoryStream();
        await file.CopyToAsync(bytes, cancel);
        return bytes.ToArray();
    }

    private static StoredPicture Entry(
        StoredPictureFileOf whole,
        List<PictureFile> smaller,
        PictureFile? crop,
        string name,
        Guid? by,
        DateTime now
    ) =>
        new()
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

    private static StoredPictureFileOf FileOf(DrawnFile drawn)
    {
        var name = $"{Convert.ToHexStringLower(SHA256.HashData(drawn.Content))}.{drawn.Extension}";
        return new StoredPictureFileOf(
            new PictureFile(name, drawn.Width, drawn.Height, drawn.Content.Length),
            new StoredPictureFile { Name = name, Content = drawn.Content }
        );
    }
}

/// <summary>A file as the core knows it, with its bytes as they are stored.</summary>
public sealed record StoredPictureFileOf(PictureFile File, StoredPictureFile Stored);
