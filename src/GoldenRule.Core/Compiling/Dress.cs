using System.Collections.Frozen;
using System.Globalization;
using System.Runtime.CompilerServices;
using System.Text;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling;

/// <summary>Colours of text on one surface, with the classes that dark mode overrides them by.</summary>
public sealed record SurfaceDress(
    Surface Surface, byte[] Background, byte[] BackgroundClass, byte[] Heading, byte[] HeadingClass, byte[] Text, byte[] TextClass, byte[] Quiet, byte[] QuietClass, byte[] Link, byte[] LinkClass);

/// <summary>Everything a button's writers need, as it is written.</summary>
/// <param name="Style">Inline style of the link.</param>
public sealed record ButtonDress(
    byte[] Style, byte[] Class, byte[] Fill, byte[] Border, byte[] Text, byte[] Font, int Size, int PaddingBlock, int PaddingInline, int Height, int ArcPercent);

/// <summary>
/// A house style turned once into the bytes that the writers copy: inline declarations per text style, colours per
/// surface. Kept as long as the house style itself.
/// </summary>
public sealed class Dress
{
    private static readonly ConditionalWeakTable<StyleLayers, Dress> Made = [];

    private readonly FrozenDictionary<string, byte[]> type;
    private readonly FrozenDictionary<string, ButtonDress> buttons;
    private readonly SurfaceDress[] surfaces;

    private Dress(StyleLayers style)
    {
        Style = style;
        type = new[] { "body", "heading1", "heading2", "heading3", "heading4", "small" }.ToFrozenDictionary(
            name => name,
            name => Bytes($"font-family:{style.Value(name, "font")};font-size:{Px(style, name, "size")}px;line-height:{LineHeight(style, name)}px;font-weight:{style.Value(name, "weight")};"),
            StringComparer.Ordinal);
        buttons = new[] { "primary", "secondary", "quiet" }.ToFrozenDictionary(name => name, name => Button(style, name), StringComparer.Ordinal);
        surfaces = [.. Enum.GetValues<Surface>().Select(s => Of(style, s))];
        Page = Bytes(style.Value("page", "background"));
        Width = Px(style, "page", "width");
        Padding = Px(style, "page", "padding");
        RowSpace = Px(style, "page", "rowSpace");
        BlockSpace = Px(style, "page", "blockSpace");
        Divider = Bytes($"border-top:{Px(style, "divider", "thickness")}px solid {style.Value("divider", "colour")};");
        PictureRadius = Px(style, "picture", "radius");
        HeadStyle = HeadStyles.Write(style);
    }

    public StyleLayers Style { get; }

    public byte[] Page { get; }

    /// <summary>Content width, CSS pixels.</summary>
    public int Width { get; }

    public int Padding { get; }

    public int RowSpace { get; }

    public int BlockSpace { get; }

    public byte[] Divider { get; }

    public int PictureRadius { get; }

    /// <summary>What stands in the head: media queries, dark mode, link states.</summary>
    public byte[] HeadStyle { get; }

    public static Dress Of(StyleLayers style) => Made.GetValue(style, s => new Dress(s));

    public SurfaceDress this[Surface surface] => surfaces[(int)surface];

    /// <summary>Font, size, line height and weight of a text style, without its colour.</summary>
    public byte[] Type(string textStyle) => type[textStyle];

    public ButtonDress Button(string style) => buttons[style];

    /// <summary>The class prefix of a surface in the head's dark rules.</summary>
    public static char Prefix(Surface surface) => surface switch
    {
        Surface.Content => 'c',
        Surface.Tint => 't',
        Surface.Strong => 's',
        _ => throw new ArgumentOutOfRangeException(nameof(surface)),
    };

    public static string StyleName(Surface surface) => surface switch
    {
        Surface.Content => "content",
        Surface.Tint => "tint",
        Surface.Strong => "strong",
        _ => throw new ArgumentOutOfRangeException(nameof(surface)),
    };

    private static SurfaceDress Of(StyleLayers style, Surface surface)
    {
        var (name, p) = (StyleName(surface), Prefix(surface));
        return new SurfaceDress(
            surface,
            Bytes(style.Value(name, "background")), Bytes($"{p}b"),
            Bytes(style.Value(name, "heading")), Bytes($"{p}h"),
            Bytes(style.Value(name, "text")), Bytes($"{p}t"),
            Bytes(style.Value(name, "quiet")), Bytes($"{p}q"),
            Bytes(style.Value(name, "link")), Bytes($"{p}l"));
    }

    private static ButtonDress Button(StyleLayers style, string name)
    {
        var (size, block, inline, radius) = (Px(style, name, "size"), Px(style, name, "paddingBlock"), Px(style, name, "paddingInline"), Px(style, name, "radius"));
        var line = (int)Math.Round(size * 1.25);
        var height = line + (2 * block) + 2;
        return new ButtonDress(
            Bytes($"display:inline-block;box-sizing:border-box;max-width:100%;background-color:{style.Value(name, "fill")};border:1px solid {style.Value(name, "border")};border-radius:{radius}px;padding:{block}px {inline}px;font-family:{style.Value(name, "font")};font-size:{size}px;line-height:{line}px;font-weight:{style.Value(name, "weight")};color:{style.Value(name, "text")};text-decoration:none;text-align:center;"),
            Bytes("b" + name[0]),
            Bytes(style.Value(name, "fill")),
            Bytes(style.Value(name, "border")),
            Bytes(style.Value(name, "text")),
            Bytes(style.Value(name, "font")),
            size,
            block,
            inline,
            height,
            Math.Min(50, (int)Math.Round(100.0 * radius / height)));
    }

    private static int Px(StyleLayers style, string name, string property) => (int)Math.Round(style.Number(name, property));

    private static int LineHeight(StyleLayers style, string name) => (int)Math.Round(style.Number(name, "size") * style.Number(name, "lineHeight"));

    internal static byte[] Bytes(FormattableString text) => Encoding.UTF8.GetBytes(text.ToString(CultureInfo.InvariantCulture));

    internal static byte[] Bytes(string text) => Encoding.UTF8.GetBytes(text);
}
