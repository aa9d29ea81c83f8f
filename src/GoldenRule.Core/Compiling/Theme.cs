using System.Collections.Concurrent;
using System.Collections.Frozen;
using System.Globalization;
using System.Text;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling;

/// <summary>Colours of text on one surface, with the classes that dark mode overrides them by.</summary>
public sealed record SurfaceDress(
    Surface Surface,
    byte[] Background,
    byte[] BackgroundClass,
    byte[] Heading,
    byte[] HeadingClass,
    byte[] Text,
    byte[] TextClass,
    byte[] Quiet,
    byte[] QuietClass,
    byte[] Link,
    byte[] LinkClass
);

/// <summary>Font, size, line height and weight of a text style, without its colour.</summary>
/// <param name="Class">With a blank before it; empty where the phone has the same size.</param>
public sealed record TypeDress(byte[] Style, byte[] Class);

/// <summary>Everything a button's writers need, as it is written.</summary>
/// <param name="Style">Inline style of the link.</param>
public sealed record ButtonDress(
    byte[] Style,
    byte[] Class,
    byte[] Fill,
    byte[] Border,
    int BorderWidth,
    byte[] Text,
    byte[] Font,
    int Size,
    int PaddingBlock,
    int PaddingInline,
    int Height,
    int ArcPercent,
    bool Full
);

/// <summary>Everything a table's writer needs, as it is written: declarations of cells and of the header's.</summary>
/// <param name="HeadText">Colour of the header's text.</param>
public sealed record TableDress(byte[] Cell, byte[] Head, byte[] HeadText, byte[] CellClass, byte[] HeadClass);

/// <summary>How far a block's cell reaches.</summary>
public enum CellReach
{
    /// <summary>As far as the row's space lets it.</summary>
    Usual,

    /// <summary>In a row of full width, to its edges.</summary>
    ToEdges,

    /// <summary>In a row of full width, with the usual space at the sides.</summary>
    KeepsSides,
}

/// <summary>
/// A house style turned once into the bytes that the writers copy: inline declarations per text style, colours per
/// surface. Kept as long as the house style itself.
/// </summary>
public sealed class Theme
{
    private readonly FrozenDictionary<string, TypeDress> type;
    private readonly FrozenDictionary<string, ButtonDress> buttons;
    private readonly SurfaceDress[] surfaces;
    private readonly HeadStyles head;
    private readonly bool[] readsWell;
    private readonly FrozenDictionary<string, byte[][]> cells;

    private Theme(StyleLayers style)
    {
        Style = style;
        readsWell = [.. Enum.GetValues<Surface>().SelectMany(s => new[] { ReadsWell(style, s, false), ReadsWell(style, s, true) })];
        head = new HeadStyles(style);
        HeadStyle = head.Css;
        type = HeadStyles.TextStyles.ToFrozenDictionary(name => name, name => Type(style, name), StringComparer.Ordinal);
        buttons = HeadStyles.Buttons.ToFrozenDictionary(name => name, name => Button(style, name), StringComparer.Ordinal);
        LeastButton = buttons.Values.Min(b => b.Height);
        surfaces = [.. Enum.GetValues<Surface>().Select(s => Dress(style, s))];
        // What belongs to the whole email is not a row's to narrow.
        var whole = style.Email ?? style;
        Page = Bytes(whole.Value("page", "background"));
        Width = Px(whole, "page", "width");
        Padding = Px(whole, "page", "padding");
        SideClass = Bytes(whole.Value("page", "phonePadding") == whole.Value("page", "padding") ? "" : " class=\"sp\"");
        OuterSpace = Px(whole, "content", "outerSpace");
        HasOuterSpace = OuterSpace > 0 || Px(whole, "content", "phoneOuterSpace") > 0;
        EdgeWidth = Px(whole, "content", "borderWidth");
        Edge = Bytes($"{EdgeWidth}px solid {whole.Value("content", "border")}");
        Radius = Px(whole, "content", "radius");
        RowSpace = Px(whole, "page", "rowSpace");
        BlockSpace = Px(whole, "page", "blockSpace");
        cells = ((string[])["left", "center", "right"]).ToFrozenDictionary(
            align => align,
            align => new[] { Cell(align, BlockSpace / 2, 0), Cell(align, 0, 0), Cell(align, BlockSpace, Padding) },
            StringComparer.Ordinal
        );
        Divider = Bytes(
            $"border-top:{Px(style, "divider", "thickness")}px {style.Value("divider", "style")} "
                + $"{style.Value("divider", "colour")};margin:{Px(style, "divider", "space")}px 0;"
        );
        DividerBorder = Bytes(
            $"{Px(style, "divider", "thickness")}px {style.Value("divider", "style")} {style.Value("divider", "colour")}"
        );
        DividerClass = Class("dv");
        PictureRadius = Px(style, "picture", "radius");
        PictureSpace = Px(style, "picture", "space");
        ParagraphSpace = Bytes($"{Px(style, "body", "space")}px");
        Link = Bytes(
            (style.Value("link", "underline") == "always" ? ";text-decoration:underline" : ";text-decoration:none")
                + (style.Value("link", "weight") == "bold" ? ";font-weight:bold" : "")
        );
        ListStyle = Bytes($"margin:0 0 {Px(style, "body", "space")}px;padding:0 0 0 {Px(style, "list", "indent")}px;");
        ListMarker = Bytes($"list-style-type:{style.Value("list", "marker")};");
        ListItem = Bytes($"margin:0 0 {Px(style, "list", "space")}px");
        SocialGap = Px(style, "social", "gap");
        SocialMark = Bytes(
            style.Value("social", "mark") switch
            {
                "dot" => "&middot;",
                "bar" => "|",
                _ => "",
            }
        );
        // A long word breaks rather than pushing the table off a narrow phone.
        var cell = string.Create(
            CultureInfo.InvariantCulture,
            $"padding:{Px(style, "table", "padding")}px;border-bottom:{Px(style, "table", "thickness")}px solid "
                + $"{style.Value("table", "rule")};word-break:break-word;overflow-wrap:anywhere;"
        );
        Table = new TableDress(
            Bytes(cell),
            Bytes($"{cell}background-color:{style.Value("table", "headFill")};"),
            Bytes(style.Value("table", "headText")),
            Class("gr"),
            Class("gh")
        );
    }

    public StyleLayers Style { get; }

    /// <summary>Height of the lowest button, CSS pixels.</summary>
    public int LeastButton { get; }

    /// <summary>
    /// Whether every text of a surface, every button and the header of tables can be read at any size (WCAG 2.2, 1.4.3), in one
    /// scheme.
    /// </summary>
    public bool ReadsWell(Surface surface, bool dark) => readsWell[((int)surface * 2) + (dark ? 1 : 0)];

    private static bool ReadsWell(StyleLayers style, Surface surface, bool dark)
    {
        var name = StyleName(surface);
        return ((string[])["heading", "text", "quiet", "link"]).All(text => Passes(name, text, "background"))
            && HeadStyles.Buttons.All(button => Passes(button, "text", "fill"))
            && Passes("table", "headText", "headFill");

        bool Passes(string of, string text, string background) =>
            Colour.Contrast(style.Colour(of, text, dark), style.Colour(of, background, dark)) >= 4.5;
    }

    public byte[] Page { get; }

    /// <summary>Content width, CSS pixels.</summary>
    public int Width { get; }

    public int Padding { get; }

    /// <summary>A whole class attribute for the cell that keeps the space at the sides; empty where the phone has the same.</summary>
    public byte[] SideClass { get; }

    /// <summary>Space between the page's edge and the first and the last row, CSS pixels.</summary>
    public int OuterSpace { get; }

    /// <summary>Whether there is any, here or on the phone.</summary>
    public bool HasOuterSpace { get; }

    /// <summary>Weight of the content area's border, CSS pixels; 0: it has none.</summary>
    public int EdgeWidth { get; }

    /// <summary>That border as CSS writes it.</summary>
    public byte[] Edge { get; }

    /// <summary>Corner radius of the content area, CSS pixels.</summary>
    public int Radius { get; }

    public int RowSpace { get; }

    public int BlockSpace { get; }

    public byte[] Divider { get; }

    public byte[] DividerClass { get; }

    /// <summary>The divider's weight, kind and colour, as a border is written.</summary>
    public byte[] DividerBorder { get; }

    public int PictureRadius { get; }

    /// <summary>Space above and below a picture, CSS pixels.</summary>
    public int PictureSpace { get; }

    /// <summary>With its unit.</summary>
    public byte[] ParagraphSpace { get; }

    /// <summary>Declarations of a link after its colour.</summary>
    public byte[] Link { get; }

    public byte[] ListStyle { get; }

    /// <summary>For lists without numbers.</summary>
    public byte[] ListMarker { get; }

    public byte[] ListItem { get; }

    /// <summary>CSS pixels on each side of the mark.</summary>
    public int SocialGap { get; }

    public byte[] SocialMark { get; }

    public TableDress Table { get; }

    /// <summary>What stands in the head: media queries, dark mode, link states. Of a row's theme, only what differs.</summary>
    public byte[] HeadStyle { get; }

    public static Theme ForStyle(StyleLayers style) => style.Derive(s => new Theme(s));

    /// <summary>Frames of rows that look alike.</summary>
    internal ConcurrentDictionary<RowFrame.Look, RowFrame> Frames { get; } = [];

    public SurfaceDress this[Surface surface] => surfaces[(int)surface];

    /// <summary>The attributes of a block's cell and the end of its tag.</summary>
    /// <param name="align">"left", "center" or "right".</param>
    public byte[] Cell(CellReach reach, string align) => cells[align][(int)reach];

    public TypeDress Type(string textStyle) => type[textStyle];

    public ButtonDress Button(string style) => buttons[style];

    public static string StyleName(Surface surface) =>
        surface switch
        {
            Surface.Content => "content",
            Surface.Tint => "tint",
            Surface.Strong => "strong",
            _ => throw new ArgumentOutOfRangeException(nameof(surface)),
        };

    private static byte[] Cell(string align, int above, int side) =>
        Bytes($" align=\"{align}\" style=\"padding:{above}px {side}px;text-align:{align}\">");

    private byte[] Class(string name) => Bytes(head.Class(name));

    private SurfaceDress Dress(StyleLayers style, Surface surface)
    {
        var (name, p) = (StyleName(surface), StyleName(surface)[0]);
        return new SurfaceDress(
            surface,
            Bytes(style.Value(name, "background")),
            Class($"{p}b"),
            Bytes(style.Value(name, "heading")),
            Class($"{p}h"),
            Bytes(style.Value(name, "text")),
            Class($"{p}t"),
            Bytes(style.Value(name, "quiet")),
            Class($"{p}q"),
            Bytes(style.Value(name, "link")),
            Class($"{p}l")
        );
    }

    private TypeDress Type(StyleLayers style, string name)
    {
        var lineHeight = name == "social" ? 1.5 : style.Number(name, "lineHeight");
        var size = Px(style, name, "size");
        return new TypeDress(
            Bytes(
                $"font-family:{style.Value(name, "font")};font-size:{size}px;"
                    + $"line-height:{(int)Math.Round(size * lineHeight)}px;font-weight:{style.Value(name, "weight")};"
            ),
            Bytes(head.PhoneClass(name) is { } phone ? " " + phone : "")
        );
    }

    private ButtonDress Button(StyleLayers style, string name)
    {
        var (size, block, inline, radius, border) = (
            Px(style, name, "size"),
            Px(style, name, "paddingBlock"),
            Px(style, name, "paddingInline"),
            Px(style, name, "radius"),
            Px(style, name, "borderWidth")
        );
        var line = (int)Math.Round(size * 1.25);
        var height = line + (2 * block) + (2 * border);
        return new ButtonDress(
            Bytes(
                "display:inline-block;box-sizing:border-box;max-width:100%;"
                    + $"background-color:{style.Value(name, "fill")};border:{border}px solid "
                    + $"{style.Value(name, "border")};border-radius:{radius}px;padding:{block}px "
                    + $"{inline}px;font-family:{style.Value(name, "font")};font-size:{size}px;line-height:{line}px;"
                    + $"font-weight:{style.Value(name, "weight")};color:{style.Value(name, "text")};text-decoration:none;text-align:center;"
            ),
            Bytes(head.Class("b" + name[0]) + (head.PhoneClass(name) is { } phone ? " " + phone : "")),
            Bytes(style.Value(name, "fill")),
            Bytes(style.Value(name, "border")),
            border,
            Bytes(style.Value(name, "text")),
            Bytes(style.Value(name, "font")),
            size,
            block,
            inline,
            height,
            Math.Min(50, (int)Math.Round(100.0 * radius / height)),
            style.Value(name, "width") == "full"
        );
    }

    private static int Px(StyleLayers style, string name, string property) => (int)Math.Round(style.Number(name, property));

    internal static byte[] Bytes(FormattableString text) => Encoding.UTF8.GetBytes(text.ToString(CultureInfo.InvariantCulture));

    internal static byte[] Bytes(string text) => Encoding.UTF8.GetBytes(text);
}
