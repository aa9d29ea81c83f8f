using SkiaSharp;

namespace GoldenRule.PictureWorker;

/// <summary>Cuts a drawn page of tiles into small pictures.</summary>
public static class TileCutting
{
    // Small pictures of pages: letters are not read in them.
    private const int Quality = 80;

    /// <exception cref="UnfitException">It is no drawn page of that many tiles.</exception>
    public static PictureAnswer Cut(byte[] page, PictureTiles tiles)
    {
        using var codec = SKCodec.Create(new SKMemoryStream(page));
        if (codec is null || codec.Info.Width * (long)codec.Info.Height > PictureSource.MostPixels)
        {
            throw new UnfitException("The page cannot be read.");
        }

        using var drawn = SKBitmap.Decode(codec) ?? throw new UnfitException("The page cannot be read.");
        if (drawn.Width < PictureTiles.InLine * tiles.Width || drawn.Height < tiles.Lines * tiles.Height)
        {
            throw new UnfitException("The page is smaller than its tiles.");
        }

        return new PictureAnswer([.. Enumerable.Range(0, tiles.Count).Select(i => Cut(drawn, tiles, i))]);
    }

    private static DrawnFile Cut(SKBitmap drawn, PictureTiles tiles, int tile)
    {
        var (left, top) = tiles.At(tile);
        var (width, height) = (tiles.Width, tiles.Height);
        // What an email paints reaches from its left edge to its right, and from its top to its end.
        while (width > 1 && drawn.GetPixel(left + width - 1, top).Alpha == 0)
        {
            width--;
        }

        while (height > 1 && drawn.GetPixel(left + (width / 2), top + height - 1).Alpha == 0)
        {
            height--;
        }

        using var part = new SKBitmap();
        drawn.ExtractSubset(part, SKRectI.Create(left, top, width, height));
        using var copy = part.Copy()!;
        using var pixels = copy.PeekPixels()!;
        using var data = pixels.Encode(new SKWebpEncoderOptions(SKWebpEncoderCompression.Lossy, Quality))!;
        return new DrawnFile(data.ToArray(), "webp", width, height);
    }
}
