using System.Collections.Immutable;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Compiling;

public static class RowWidths
{
    /// <summary>CSS pixels that each column has for what stands in it.</summary>
    public static ImmutableArray<int> Measure(ResolvedRow row, Theme theme)
    {
        var width = theme.Width - (2 * theme.EdgeWidth);
        var side = row.FullWidth ? 0 : theme.Padding;
        if (row.Columns.Length == 1)
        {
            return [width - (2 * side)];
        }

        var own = side >= ColumnsWriter.Gutter ? side - ColumnsWriter.Gutter : side;
        return
        [
            .. ColumnsWriter.Widths([.. row.Columns.Select(c => c.Parts)], width - (2 * own)).Select(w => w - (2 * ColumnsWriter.Gutter)),
        ];
    }
}
