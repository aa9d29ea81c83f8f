using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Compiling;

/// <summary>The way out that an email offers, which the headers of its message repeat (RFC 2369, RFC 8058).</summary>
public static class ListUnsubscribe
{
    /// <summary>
    /// Where every reader can unsubscribe, on phones and on desktops, by words that stand there. Null: the email offers no such
    /// way.
    /// </summary>
    public static string? Find(ResolvedEmail email, RenderContext context) =>
        email
            .SeenByAll(
                (row, block) =>
                    BlockKinds.For(block.Master).Unsubscribe(context.View(row, block, context.Theme.Width)) is { } link
                    && !Links.IsPlaceholder(link)
                        ? link
                        : null
            )
            ?.OnPhones;
}
