using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Edits;

/// <summary>
/// Locks travel with the block they hold for. A block that says nothing itself has the locks of what it stands in; where it
/// goes to something looser, it says from then on what held before.
/// </summary>
internal static class TravellingLocks
{
    /// <summary>The block as it stands in another column, or another row.</summary>
    public static Block Carry(Block block, Around from, Around to)
    {
        var locks = block.Locks;
        foreach (var aspect in Enum.GetValues<Aspect>())
        {
            var (before, after) = (from.Holds(block, aspect), to.Holds(block, aspect));
            if (!after.IsAsTightAs(before))
            {
                locks = locks.With(aspect, Lock.Tightest(before, after));
            }
        }

        return locks == block.Locks ? block : block with { Locks = locks };
    }

    /// <summary>What a block stands in.</summary>
    public sealed record Around(Column Column, Row Row, Locks Placed)
    {
        public static Around Find(PlacedRow placed, Row row, string column) =>
            new(
                row.FindColumn(column)
                    ?? throw new StructureException($"There is no column {column} in row {row.Id}; it may have been removed.", column),
                row,
                placed.Locks
            );

        public Lock Holds(Block block, Aspect aspect)
        {
            var own = block.Locks[aspect] ?? Column.Locks[aspect] ?? Row.Locks[aspect] ?? Locks.Root[aspect]!;
            return Placed[aspect] is { } here ? Lock.Tightest(own, here) : own;
        }
    }
}
