using System.Collections.Immutable;

namespace GoldenRule.Core.Documents;

public abstract partial record FieldValue
{
    /// <summary>A table's words, row by row.</summary>
    public sealed record Cells(ImmutableArray<ImmutableArray<string>> Rows) : FieldValue
    {
        public override void Visit(FieldVisitor visitor, FieldPart part = default)
        {
            for (var r = 0; r < Rows.Length; r++)
            {
                for (var c = 0; c < Rows[r].Length; c++)
                {
                    visitor.Words(Rows[r][c], new FieldPart(r + 1, c + 1));
                }
            }
        }

        public override FieldValue Map(FieldMap map, FieldPart part = default)
        {
            var rows = Map(Rows, (cells, r) => Map(cells, (cell, c) => map.Words(cell, new FieldPart(r + 1, c + 1))));
            return rows == Rows ? this : new Cells(rows);
        }

        public override string Describe() => string.Join("; ", Rows.Select(r => string.Join(", ", r)));

        public override int? CountItems() => Rows.Length;
    }
}
