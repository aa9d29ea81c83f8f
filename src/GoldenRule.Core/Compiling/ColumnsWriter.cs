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
    public static void Open(HtmlWriter html, bool keeps, bool reversed)
    {
        if (keeps)
        {
            html.Write("<table role=\"presentation\" width=\"100%\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\"><tr>"u8);
        }
        else if (reversed)
        {
            html.Write("<div dir=\"rtl\">"u8);
        }
    }

    /// <param name="own">CSS pixels of this column, its gutters included.</param>
    /// <param name="width">Of all columns together.</param>
    /// <param name="inside">Its space at the left and right where it stands within a block; null: it is a row's own.</param>
    public static void OpenColumn(
        HtmlWriter html,
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
            html.Write("<td width=\""u8);
            Percent(html, own, width);
            html.Write("%\" style=\"width:"u8);
            Percent(html, own, width);
            html.Write($"""%;vertical-align:top;padding:0 {Gutter}px">""");
            return;
        }

        if (index > 0)
        {
            html.Write("<!--[if mso]></td>"u8);
        }
        else
        {
            html.Write(
                $"""<!--[if mso]><table role="presentation" {(reversed ? "dir=\"rtl\" "u8 : [])}"""
                    + $"""width="100%" cellpadding="0" cellspacing="0" border="0"><tr>"""
            );
        }

        html.Write(
            $"""<td valign="top" width="{own}"><![endif]--><div class="k" {(reversed ? "dir=\"ltr\" "u8 : [])}"""
                + $"""style="display:inline-block;vertical-align:top;width:{own}px;min-width:"""
        );
        Percent(html, own, width);
        // One above the other they need no space between them.
        html.Write(
            $"""%;max-width:100%;width:calc(({StackBelow}px - 100%) * {StackBelow})">"""
                + $"""<table role="presentation" width="100%" cellpadding="0" cellspacing="0" border="0"><tr>"""
                + $"""<td{(inside is null ? [] : " class=\"g\""u8)} """
                + $"""style="padding:0 {inside?.Right ?? Gutter}px 0 {inside?.Left ?? Gutter}px">"""
        );
    }

    public static void CloseColumn(HtmlWriter html, bool keeps) => html.Write(keeps ? "</td>"u8 : "</td></tr></table></div>"u8);

    public static void Close(HtmlWriter html, bool keeps, bool reversed) =>
        html.Write(
            $"{(keeps ? "</tr></table>"u8 : "<!--[if mso]></td></tr></table><![endif]-->"u8)}" + $"{(!keeps && reversed ? "</div>"u8 : [])}"
        );

    // Rounded down to a ten-thousandth, so that the columns of a row never add up to more than the whole.
    private static void Percent(HtmlWriter html, int own, int width)
    {
        var share = (int)((long)own * 1_000_000 / width);
        html.Write($"{share / 10_000}.");
        for (var digit = 1000; digit >= 1; digit /= 10)
        {
            html.Number(share / digit % 10);
        }
    }
}
