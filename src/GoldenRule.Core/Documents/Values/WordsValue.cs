namespace GoldenRule.Core.Documents;

public abstract partial record FieldValue
{
    /// <summary>One line of plain words.</summary>
    public sealed record Words(string Text) : FieldValue
    {
        public override void Visit(FieldVisitor visitor, FieldPart part = default) => visitor.Words(Text, part);

        public override FieldValue Map(FieldMap map, FieldPart part = default) =>
            map.Words(Text, part) is var text && ReferenceEquals(text, Text) ? this : new Words(text);

        public override string Describe() => InlineNode.ToTokens(Text);

        public override string AsText() => InlineNode.WithoutNodes(Text);

        public override bool HasWords() => Text.Length > 0;
    }
}
