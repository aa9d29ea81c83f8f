namespace GoldenRule.Core.Documents;

public abstract partial record FieldValue
{
    /// <summary>Paragraphs and lists with emphasis and links.</summary>
    public sealed record Prose(RichText Text) : FieldValue
    {
        public override void Visit(FieldVisitor visitor, FieldPart part = default) => visitor.Prose(Text, part);

        public override FieldValue Map(FieldMap map, FieldPart part = default) =>
            map.Prose(Text, part) is var text && ReferenceEquals(text, Text) ? this : new Prose(text);

        public override string Describe() => InlineNode.ToTokens(Text.PlainText);

        public override string AsText() => InlineNode.WithoutNodes(Text.PlainText);

        public override bool HasWords() => !Text.IsEmpty;
    }
}
