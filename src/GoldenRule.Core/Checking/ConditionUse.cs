using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking;

/// <summary>A condition where it stands, on a row or a block.</summary>
/// <param name="Piece">The block, or the row's own piece.</param>
/// <param name="Within">Of a block: its row's. Null: everyone sees the row.</param>
internal sealed record ConditionUse(Condition Condition, Place Place, string Piece, string Name, Condition? Within)
{
    public static IEnumerable<ConditionUse> Find(Inspection inspection)
    {
        if (!inspection.HasConditions)
        {
            yield break;
        }

        foreach (var row in inspection.Email.Rows)
        {
            if (row.Condition is { } own)
            {
                yield return new(own, new Place(row.Id), row.Source.Row.Id, row.Name, null);
            }

            foreach (var block in row.IsParted ? row.Blocks : [])
            {
                if (block.Condition is { } some)
                {
                    var name = block.Master.Name ?? BlockKinds.For(block.Master).Label;
                    yield return new(some, new Place(row.Id, block.Id), block.Id, name, row.Condition);
                }
            }
        }
    }
}
