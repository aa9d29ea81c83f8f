using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Compiling;

/// <summary>
/// Pieces for phones or desktops only. What is for phones is hidden until a media query shows it, and left out for the
/// Word-based client; what is for desktops is there until one hides it. See <see cref="HeadStyles"/>.
/// </summary>
internal static class Hidden
{
    public static void Open(HtmlWriter html, Visibility shown) =>
        html.Write(shown == Visibility.PhoneOnly ? "<!--[if !mso]><!-->"u8 : ""u8);

    public static void Close(HtmlWriter html, Visibility shown) => html.Write(shown == Visibility.PhoneOnly ? "<!--<![endif]-->"u8 : ""u8);

    /// <param name="inTable">True: a row of a table, the class's own value; else a table, after a blank.</param>
    public static ReadOnlySpan<byte> Class(Visibility shown, bool inTable) =>
        (shown, inTable) switch
        {
            (Visibility.DesktopOnly, true) => "do"u8,
            (Visibility.DesktopOnly, false) => " do"u8,
            (Visibility.PhoneOnly, true) => "pr"u8,
            (Visibility.PhoneOnly, false) => " po"u8,
            _ => ""u8,
        };

    public static ReadOnlySpan<byte> Style(Visibility shown) =>
        shown == Visibility.PhoneOnly ? ";display:none;max-height:0;overflow:hidden"u8 : ""u8;

    public const string PhoneRules =
        ".do{display:none!important}.po{display:table!important;max-height:none!important;"
        + "overflow:visible!important}.pr{display:table-row!important;max-height:none!important;overflow:visible!important}";
}
