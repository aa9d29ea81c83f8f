using System.Collections.Immutable;

namespace GoldenRule.Core.Compiling;

/// <summary>
/// Columns side by side that stack on phones without media queries: each is an inline block at least its share wide
/// whose calculated width turns from far below nothing to far above the whole where 480 px is crossed. The Word-based
/// client knows neither and gets a table.
/// </summary>
internal static class ColumnsWriter
{
    /// <summary>Below this width of the content, columns stand one above the other.</summary>
    private const int StackBelow = 480;

    /// <summary>Half of the space between two columns.</summary>
    public const int Gutter = 8;

    /// <summary>
    /// Space at the left and right of a column within a block, which has none at its own edges: shared out so that all
    /// columns are left the same width.
    /// </summary>
    /// <param name="index">As it stands, from the left.</param>
    public static (int Left, int Right) Inside(int index, int count) =>
        (2 * Gutter * index / count, 2 * Gutter * (count - 1 - index) / count);

    /// <summary>Pixels of each column for the parts it asks for; the last takes what rounding leaves.</summary>
    public static ImmutableArray<int> Widths(ReadOnlySpan<int> parts, int width)
    {
        var (total, left) = (0, width);
        foreach (var part in parts)
        {
            total += part;
        }

        var widths = ImmutableArray.CreateBuilder<int>(parts.Length);
        for (var i = 0; i < parts.Length; i++)
        {
            var own = i == parts.Length - 1 ? left : width * parts[i] / total;
            left -= own;
            widths.Add(own);
        }

        return widths.MoveToImmutable();
    }

    /// <param name="keeps">True: they stay side by side on the phone.</param>
    /// <param name="reversed">True: on screens where they stand side by side, the last written is the first.</param>
    public static void Open(Utf8Writer html, bool keeps, bool reversed)
    {
        if (keeps)
        {
            html.Raw("<table role=\"presentation\" width=\"100%\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\"><tr>"u8);
        }
        else if (reversed)
        {
            html.Raw("<div dir=\"rtl\">"u8);
        }
    }

    /// <param name="own">CSS pixels of this column, its gutters included.</param>
    /// <param name="width">Of all columns together.</param>
    /// <param name="inside">Its space at the left and right where it stands within a block; null: it is a row's own.</param>
    public static void OpenColumn(
        Utf8Writer html,
        int index,
        int own,
        int width,
        bool keeps,
        bool reversed,
        (int Left, int Right)? inside = null
    )
    {
        if (keeps)
        {
            html.Raw("<td width=\""u8);
            Percent(html, own, width);
            html.Raw("%\" style=\"width:"u8);
            Percent(html, own, width);
            html.Raw("%;vertical-align:top;padding:0 "u8).Number(Gutter).Raw("px\">"u8);
            return;
        }

        if (index > 0)
        {
            html.Raw("<!--[if mso]></td>"u8);
        }
        else
        {
            html.Raw("<!--[if mso]><table role=\"presentation\" "u8)
                .Raw(reversed ? "dir=\"rtl\" "u8 : ""u8)
                .Raw("width=\"100%\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\"><tr>"u8);
        }

        html.Raw("<td valign=\"top\" width=\""u8)
            .Number(own)
            .Raw(
                reversed
                    ? "\"><![endif]--><div class=\"k\" dir=\"ltr\" style=\"display:inline-block;vertical-align:top;width:"u8
                    : "\"><![endif]--><div class=\"k\" style=\"display:inline-block;vertical-align:top;width:"u8
            )
            .Number(own)
            .Raw("px;min-width:"u8);
        Percent(html, own, width);
        html.Raw("%;max-width:100%;width:calc(("u8)
            .Number(StackBelow)
            .Raw("px - 100%) * "u8)
            .Number(StackBelow)
            .Raw(")\"><table role=\"presentation\" width=\"100%\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\"><tr><td"u8)
            // One above the other they need no space between them.
            .Raw(inside is null ? ""u8 : " class=\"g\""u8)
            .Raw(" style=\"padding:0 "u8)
            .Number(inside?.Right ?? Gutter)
            .Raw("px 0 "u8)
            .Number(inside?.Left ?? Gutter)
            .Raw("px\">"u8);
    }

    public static void CloseColumn(Utf8Writer html, bool keeps) => html.Raw(keeps ? "</td>"u8 : "</td></tr></table></div>"u8);

    public static void Close(Utf8Writer html, bool keeps, bool reversed) =>
        html.Raw(keeps ? "</tr></table>"u8 : "<!--[if mso]></td></tr></table><![endif]-->"u8).Raw(!keeps && reversed ? "</div>"u8 : ""u8);

    // Rounded down to a ten-thousandth, so that the columns of a row never add up to more than the whole.
    private static void Percent(Utf8Writer html, int own, int width)
    {
        var share = (int)((long)own * 1_000_000 / width);
        html.Number(share / 10_000).Raw("."u8);
        for (var digit = 1000; digit >= 1; digit /= 10)
        {
            html.Number(share / digit % 10);
        }
    }
}
