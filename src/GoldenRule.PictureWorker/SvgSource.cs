using System.Xml.Linq;
using SkiaSharp;
using Svg.Skia;

namespace GoldenRule.PictureWorker;

/// <summary>Draws an SVG as pixels. Mail clients do not show SVG and it can carry scripts, so it is a source only.</summary>
public static class SvgSource
{
    /// <summary>Elements once every "use" is followed: more would keep the processor busy for one file.</summary>
    private const int MostDrawn = 50_000;

    /// <summary>Parts that use parts that use parts: more than a drawing program makes.</summary>
    private const int MostUses = 16;

    private static readonly XName LinkedHref = XName.Get("href", SvgReader.XLink);

    /// <param name="width">Pixels to draw it at.</param>
    public static SKBitmap Draw(byte[] file, int width)
    {
        var confined = SvgReader.Confined(file);
        RefuseTooMany(XDocument.Parse(confined));
        using var svg = new SKSvg();
        var picture = svg.FromSvg(confined);
        if (
            picture is null
            || picture.CullRect.Width < 1
            || picture.CullRect.Height < 1
            || picture.CullRect.Height / picture.CullRect.Width > 8
        )
        {
            throw new UnfitException("The SVG has no size, or is far taller than it is wide: give it a viewBox.");
        }

        var scale = width / picture.CullRect.Width;
        var drawn = new SKBitmap(PictureSource.Pixels(width, Math.Max(1, (int)Math.Round(picture.CullRect.Height * scale))));
        using var canvas = new SKCanvas(drawn);
        canvas.Clear(SKColors.Transparent);
        canvas.Scale(scale);
        canvas.Translate(-picture.CullRect.Left, -picture.CullRect.Top);
        canvas.DrawPicture(picture);
        canvas.Flush();
        return drawn.GetPixelSpan().ContainsAnyExcept((byte)0)
            ? drawn
            : throw new UnfitException("The SVG shows nothing once all but its shapes is left out.");
    }

    private static void RefuseTooMany(XDocument document)
    {
        var byId = document
            .Descendants()
            .Where(e => e.Attribute("id") is not null)
            .GroupBy(e => e.Attribute("id")!.Value, StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => g.First(), StringComparer.Ordinal);
        if (Size(document.Root!, byId, 0, []) > MostDrawn)
        {
            throw SvgReader.TooMany();
        }
    }

    // Elements drawn, every "use" counted as what it leads to. The reader bounds the depth of the file, and this that of uses.
    private static long Size(XElement element, Dictionary<string, XElement> byId, int uses, Dictionary<XElement, long> known)
    {
        if (known.TryGetValue(element, out var size))
        {
            return size;
        }

        if (uses > MostUses)
        {
            throw new UnfitException("The SVG uses parts within parts too often, or a part within itself.");
        }

        size = 1 + element.Elements().Sum(e => Size(e, byId, uses, known));
        var href = (element.Attribute("href") ?? element.Attribute(LinkedHref))?.Value;
        if (element.Name.LocalName == "use" && href is ['#', .. var id] && byId.TryGetValue(id, out var target))
        {
            size += Size(target, byId, uses + 1, known);
        }

        return known[element] = Math.Min(size, MostDrawn + 1L);
    }
}
