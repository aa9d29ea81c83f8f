using System.Collections.Immutable;
using System.Globalization;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Compiling;

/// <summary>One line of a contents list.</summary>
/// <param name="Anchor">The id that its heading or card carries in the HTML.</param>
public readonly record struct ContentsEntry(string Anchor, string Words);

/// <summary>What a contents list is made of: it fills itself from the headings and cards that are marked for it.</summary>
internal static class Contents
{
    /// <summary>
    /// Whether a row shows a contents list, and what it adds to one: what every reader sees. Most rows do neither, which costs them
    /// nothing but a look.
    /// </summary>
    public static (bool Shows, ImmutableArray<ContentsEntry> Named) Gather(ResolvedRow row)
    {
        var shows = false;
        ImmutableArray<ContentsEntry>.Builder? entries = null;
        foreach (var column in row.Columns)
        {
            foreach (var block in column.Blocks)
            {
                var kind = BlockKinds.For(block.Master);
                shows |= kind.ShowsContents;
                var item = 0;
                foreach (var words in kind.Named(block))
                {
                    if (words.Length > 0 && row.Condition is null && block.Condition is null)
                    {
                        (entries ??= ImmutableArray.CreateBuilder<ContentsEntry>()).Add(new ContentsEntry(Anchor(row, block, item), words));
                    }

                    item++;
                }
            }
        }

        return (shows, entries is null ? [] : entries.ToImmutable());
    }

    /// <summary>An id that stays the same wherever the row is moved.</summary>
    /// <param name="item">Which of the block's named things, from 0.</param>
    public static string Anchor(ResolvedRow row, ResolvedBlock block, int item = 0) =>
        "to-"
        + Fnv1a
            .Hash(string.Create(CultureInfo.InvariantCulture, $"{row.Id}/{block.Id}/{item}"))
            .ToString("x8", CultureInfo.InvariantCulture);
}
