using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Edits;

/// <summary>
/// Splits a text of an own row: what comes after the caret stands in a block of its own, right below, with the same locks and
/// limits.
/// </summary>
/// <param name="First">What stays.</param>
/// <param name="Rest">The block with what comes after.</param>
public sealed record SplitText(string Row, string Piece, string Field, RichText First, Block Rest) : Edit
{
    public override string Target => $"{Row}/{Piece}/{Field}";

    public override Document Apply(Document document) => RowAccess.ChangeOwn(document, Row, row =>
        {
            var (column, index, block) = RowAccess.FindBlock(row, Piece);
            var rest = Rest with
            {
                Locks = Rest.Locks == Locks.Unset ? block.Locks : Rest.Locks,
                Limits = Rest.Limits.IsEmpty && Rest.Kind == block.Kind ? block.Limits : Rest.Limits,
            };
            return Columns.Insert(RowAccess.Replace(row, Texts.WithText(block, Field, First)), column.Id, index + 1, rest);
        });

    public override Edit Invert(Document before) =>
        new JoinTexts(Row, Piece, Rest.Id, Field, Texts.Read(RowAccess.FindBlock(RowAccess.FindOwn(before, Row), Piece).Block, Field));
}

/// <summary>Joins a text of an own row with the block right below it, which goes.</summary>
/// <param name="Text">What the first says from then on.</param>
public sealed record JoinTexts(string Row, string Piece, string With, string Field, RichText Text) : Edit
{
    public override string Target => $"{Row}/{Piece}/{Field}";

    private protected override string? Whole => $"{Row}/{With}";

    public override Document Apply(Document document) => RowAccess.ChangeOwn(document, Row, row =>
        {
            var block = Below(row).First;
            return Columns.Take(RowAccess.Replace(row, Texts.WithText(block, Field, Text)), With);
        });

    public override Edit Invert(Document before)
    {
        var (first, second) = Below(RowAccess.FindOwn(before, Row));
        return new SplitText(Row, Piece, Field, Texts.Read(first, Field), second);
    }

    private (Block First, Block Second) Below(Row row)
    {
        var (column, index, block) = RowAccess.FindBlock(row, Piece);
        return index + 1 < column.Blocks.Length && column.Blocks[index + 1] is var next && next.Id == With && next.Kind == block.Kind
            ? (block, next)
            : throw new StructureException(
                "Two texts are joined where the second stands right below the first and is of the same kind.",
                With
            );
    }
}

internal static class Texts
{
    public static RichText Read(Block block, string field) =>
        block.Content.GetValueOrDefault(field) is FieldValue.Prose prose
            ? prose.Text
            : throw new StructureException(
                $"\"{block.Name ?? block.Kind}\" has no text in \"{field}\" that could be split or joined.",
                block.Id
            );

    public static Block WithText(Block block, string field, RichText text) =>
        Read(block, field) is not null ? block with { Content = block.Content.SetItem(field, new FieldValue.Prose(text)) } : block;
}
