using System.Xml;
using System.Xml.Linq;
using SkiaSharp;
using Svg.Skia;

namespace GoldenRule.Server.Pictures;

/// <summary>
/// Draws an SVG as pixels. Mail clients do not show SVG and it can carry scripts, so it is a source only. What reaches
/// outside the file is taken out before it is drawn.
/// </summary>
public static class SvgSource
{
    /// <summary>Elements once every "use" is followed: more would keep the server busy for one file.</summary>
    private const int MostElements = 50_000;

    private static readonly XNamespace Link = "http://www.w3.org/1999/xlink";

    /// <summary>Whether the bytes are XML whose root is an SVG.</summary>
    public static bool Is(byte[] file)
    {
        try
        {
            return Read(file).Root?.Name.LocalName == "svg";
        }
        catch (XmlException)
        {
            return false;
        }
    }

    /// <param name="width">Pixels to draw it at.</param>
    public static SKBitmap Draw(byte[] file, int width)
    {
        var document = Read(file);
        Confine(document);
        using var svg = new SKSvg();
        var picture = svg.FromSvg(document.ToString(SaveOptions.DisableFormatting));
        if (picture is null || picture.CullRect.Width < 1 || picture.CullRect.Height < 1 || picture.CullRect.Height / picture.CullRect.Width > 8)
        {
            throw PictureSource.Unfit("The SVG has no size, or is far taller than it is wide: give it a viewBox.");
        }

        var scale = width / picture.CullRect.Width;
        var drawn = new SKBitmap(PictureSource.Pixels(width, Math.Max(1, (int)Math.Round(picture.CullRect.Height * scale))));
        using var canvas = new SKCanvas(drawn);
        canvas.Clear(SKColors.Transparent);
        canvas.Scale(scale);
        canvas.Translate(-picture.CullRect.Left, -picture.CullRect.Top);
        canvas.DrawPicture(picture);
        canvas.Flush();
        return drawn.GetPixelSpan().ContainsAnyExcept((byte)0) ? drawn : throw PictureSource.Unfit("The SVG shows nothing once what lies outside the file is left out.");
    }

    private static XDocument Read(byte[] file)
    {
        // No document type: entities could grow without end or read files of the server.
        using var reader = XmlReader.Create(new MemoryStream(file), new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null, MaxCharactersInDocument = PictureSource.MostBytes });
        return XDocument.Load(reader);
    }

    private static void Confine(XDocument document)
    {
        document.Descendants().Where(e => e.Name.LocalName is "script" or "foreignObject" or "image" or "feImage").ToList().ForEach(e => e.Remove());
        foreach (var attribute in document.Descendants().Attributes().Where(a => a.Name.LocalName == "href" && !a.Value.StartsWith('#')).ToList())
        {
            attribute.Remove();
        }

        foreach (var style in document.Descendants().Where(e => e.Name.LocalName == "style" && (e.Value.Contains("@import", StringComparison.OrdinalIgnoreCase) || e.Value.Contains("url(", StringComparison.OrdinalIgnoreCase))).ToList())
        {
            style.Remove();
        }

        var byId = document.Descendants().Where(e => e.Attribute("id") is not null).GroupBy(e => e.Attribute("id")!.Value, StringComparer.Ordinal).ToDictionary(g => g.Key, g => g.First(), StringComparer.Ordinal);
        if (Size(document.Root!, byId, [], []) > MostElements)
        {
            throw PictureSource.Unfit($"The SVG draws more than {MostElements:N0} elements.");
        }
    }

    // Elements drawn, every "use" counted as what it leads to.
    private static long Size(XElement element, Dictionary<string, XElement> byId, HashSet<XElement> open, Dictionary<XElement, long> known)
    {
        if (known.TryGetValue(element, out var size))
        {
            return size;
        }

        if (!open.Add(element))
        {
            throw PictureSource.Unfit("The SVG uses a part of itself within that part.");
        }

        size = 1 + element.Elements().Sum(e => Size(e, byId, open, known));
        if (element.Name.LocalName == "use" && (element.Attribute("href") ?? element.Attribute(Link + "href"))?.Value is ['#', .. var id] && byId.TryGetValue(id, out var target))
        {
            size += Size(target, byId, open, known);
        }

        open.Remove(element);
        return known[element] = Math.Min(size, MostElements + 1L);
    }
}
