using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Compiling;

/// <summary>The way out that an email offers, which the headers of its message repeat (RFC 2369, RFC 8058).</summary>
public static class ListUnsubscribe
{
    /// <summary>Where every reader can unsubscribe, on phones and on desktops, by words that stand there. Null: the email offers no such way.</summary>
    public static string? Of(ResolvedEmail email, Press press)
    {
        string? phone = null, desktop = null;
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
                        phone = row.IsShown(block, ShownOn.PhoneOnly) ? phone ?? link : phone;
                        desktop = row.IsShown(block, ShownOn.DesktopOnly) ? desktop ?? link : desktop;
                    }
                }
            }

            if (phone is not null && desktop is not null)
            {
                return phone;
            }
        }

        return null;
    }
}
