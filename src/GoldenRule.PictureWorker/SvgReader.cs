using System.Collections.Frozen;
using System.Text.RegularExpressions;
using System.Xml;

namespace GoldenRule.PictureWorker;

/// <summary>
/// Reads an SVG (SVG 1.1, second edition) as a stream and lets through what draws shapes, and nothing else: no scripts,
/// animation, filters, pictures, patterns or foreign content, no reference but to a part of the same file. What is not on
/// the lists is left out with all it holds.
/// </summary>
public static partial class SvgReader
{
    /// <summary>More than any drawing program nests, and little enough for whoever walks the tree.</summary>
    private const int MostDepth = 64;

    private const int MostElements = 20_000;
    private const int MostStyle = 50_000;

    public const string Svg = "http://www.w3.org/2000/svg";
    public const string XLink = "http://www.w3.org/1999/xlink";

    private static readonly FrozenSet<string> Elements = FrozenSet.ToFrozenSet(
        [
            "svg",
            "g",
            "defs",
            "symbol",
            "use",
            "title",
            "desc",
            "style",
            "path",
            "rect",
            "circle",
            "ellipse",
            "line",
            "polyline",
            "polygon",
            "linearGradient",
            "radialGradient",
            "stop",
            "clipPath",
            "text",
            "tspan",
        ],
        StringComparer.Ordinal
    );

    private static readonly FrozenSet<string> Attributes = FrozenSet.ToFrozenSet(
        [
            "id",
            "class",
            "style",
            "transform",
            "viewBox",
            "preserveAspectRatio",
            "version",
            "x",
            "y",
            "x1",
            "y1",
            "x2",
            "y2",
            "dx",
            "dy",
            "cx",
            "cy",
            "r",
            "rx",
            "ry",
            "fx",
            "fy",
            "d",
            "points",
            "width",
            "height",
            "pathLength",
            "gradientUnits",
            "gradientTransform",
            "spreadMethod",
            "offset",
            "stop-color",
            "stop-opacity",
            "clipPathUnits",
            "clip-path",
            "clip-rule",
            "fill",
            "fill-opacity",
            "fill-rule",
            "stroke",
            "stroke-width",
            "stroke-opacity",
            "stroke-linecap",
            "stroke-linejoin",
            "stroke-miterlimit",
            "stroke-dasharray",
            "stroke-dashoffset",
            "opacity",
            "color",
            "display",
            "visibility",
            "overflow",
            "vector-effect",
            "paint-order",
            "font-family",
            "font-size",
            "font-weight",
            "font-style",
            "text-anchor",
            "letter-spacing",
            "word-spacing",
            "textLength",
            "lengthAdjust",
            "dominant-baseline",
        ],
        StringComparer.Ordinal
    );

    /// <summary>Whether the bytes are XML whose root is an SVG.</summary>
    public static bool Is(byte[] file)
    {
        try
        {
            using var reader = Open(file);
            return reader.MoveToContent() == XmlNodeType.Element && reader.LocalName == "svg" && IsListed(reader);
        }
        catch (XmlException)
        {
            return false;
        }
    }

    /// <summary>The file with nothing in it but what is on the lists.</summary>
    /// <exception cref="UnfitException">Broken, nested too deeply, or of too many elements.</exception>
    public static string Confined(byte[] file)
    {
        var text = new StringWriter();
        try
        {
            using var reader = Open(file);
            using var writer = XmlWriter.Create(text, new XmlWriterSettings { OmitXmlDeclaration = true });
            Copy(reader, writer);
        }
        catch (XmlException broken)
        {
            throw new UnfitException($"The SVG is broken at line {broken.LineNumber}: it cannot be read to its end.");
        }

        return text.ToString();
    }

    private static void Copy(XmlReader reader, XmlWriter writer)
    {
        var elements = 0;
        reader.MoveToContent();
        while (!reader.EOF)
        {
            switch (reader.NodeType)
            {
                case XmlNodeType.Element when reader.Depth > MostDepth:
                    throw TooDeep();
                case XmlNodeType.Element when ++elements > MostElements:
                    throw TooMany();
                case XmlNodeType.Element when !IsListed(reader):
                    // What was skipped is walked over, not built; the reader stands on what comes next.
                    Skip(reader);
                    continue;
                case XmlNodeType.Element when reader.LocalName == "style":
                    CopyStyle(reader, writer);
                    continue;
                case XmlNodeType.Element:
                    CopyElement(reader, writer);
                    break;
                case XmlNodeType.EndElement:
                    writer.WriteFullEndElement();
                    break;
                case XmlNodeType.Text or XmlNodeType.CDATA or XmlNodeType.SignificantWhitespace:
                    writer.WriteString(reader.Value);
                    break;
                default:
                    break;
            }

            reader.Read();
        }
    }

    public static UnfitException TooMany() =>
        new($"The SVG draws more than {MostElements:N0} elements. Draw it with fewer, or save it as a PNG.");

    private static UnfitException TooDeep() => new($"The SVG is nested more than {MostDepth} deep. Draw it flatter, or save it as a PNG.");

    private static bool IsListed(XmlReader reader) => reader.NamespaceURI is Svg or "" && Elements.Contains(reader.LocalName);

    private static void Skip(XmlReader reader)
    {
        var depth = reader.Depth;
        if (reader.IsEmptyElement)
        {
            reader.Read();
            return;
        }

        while (reader.Read() && !(reader.NodeType == XmlNodeType.EndElement && reader.Depth == depth))
        {
            if (reader.Depth > depth + MostDepth)
            {
                throw TooDeep();
            }
        }

        reader.Read();
    }

    private static void CopyElement(XmlReader reader, XmlWriter writer)
    {
        var isEmpty = reader.IsEmptyElement;
        var refers = reader.LocalName is "use" or "linearGradient" or "radialGradient";
        writer.WriteStartElement(reader.LocalName, Svg);
        while (reader.MoveToNextAttribute())
        {
            if (refers && reader.LocalName == "href" && reader.NamespaceURI is "" or XLink && Fragment().IsMatch(reader.Value))
            {
                writer.WriteAttributeString("href", reader.NamespaceURI, reader.Value);
            }
            else if (reader.NamespaceURI.Length == 0 && Attributes.Contains(reader.LocalName) && StaysInside(reader.Value))
            {
                writer.WriteAttributeString(reader.LocalName, reader.Value);
            }
        }

        reader.MoveToElement();
        if (isEmpty)
        {
            writer.WriteEndElement();
        }
    }

    private static void CopyStyle(XmlReader reader, XmlWriter writer)
    {
        var text = reader.ReadElementContentAsString();
        if (text.Length <= MostStyle && StaysInside(text))
        {
            writer.WriteElementString("style", Svg, text);
        }
    }

    // Escapes could spell what is looked for; at-rules fetch, and none of them draws.
    private static bool StaysInside(string value) =>
        !value.AsSpan().ContainsAny('\\', '@') && !value.Contains("/*", StringComparison.Ordinal) && !OuterAddress().IsMatch(value);

    private static XmlReader Open(byte[] file) =>
        XmlReader.Create(
            new MemoryStream(file),
            new XmlReaderSettings
            {
                // No document type: entities could grow without end or read files of the server.
                DtdProcessing = DtdProcessing.Prohibit,
                XmlResolver = null,
                IgnoreComments = true,
                IgnoreProcessingInstructions = true,
                MaxCharactersInDocument = PictureSource.MostBytes,
            }
        );

    [GeneratedRegex("^#[A-Za-z_][A-Za-z0-9_.:-]*$", RegexOptions.ExplicitCapture)]
    private static partial Regex Fragment();

    // An address in a value that is not to a part of the same file.
    [GeneratedRegex(
        """(url|src|image)[a-z-]*\s*\((?!\s*["']?#[A-Za-z0-9_.:-]+["']?\s*\))""",
        RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture
    )]
    private static partial Regex OuterAddress();
}
