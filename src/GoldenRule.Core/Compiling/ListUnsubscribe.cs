using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Compiling;

/// <summary>The way out that an email offers, which the headers of its message repeat (RFC 2369, RFC 8058).</summary>
public static class ListUnsubscribe
{
    /// <summary>Where a reader can unsubscribe. Null: the email offers no way.</summary>
    public static string? Of(ResolvedEmail email, Press press)
    {
        // From the end: that is where it stands.
        for (var i = email.Rows.Length - 1; i >= 0; i--)
        {
            var row = email.Rows[i];
            foreach (var column in row.Columns)
            {
                foreach (var block in column.Blocks)
                {
                    if (BlockKinds.Of(block.Master).Unsubscribe(press.View(row, block, press.Dress.Width)) is { } link && !Links.IsPlaceholder(link))
                    {
                        return link;
                    }
                }
            }
        }

        return null;
    }
}
