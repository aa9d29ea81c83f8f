namespace GoldenRule.Core.Documents;

public abstract partial record FieldValue
{
    /// <summary>Where something leads: an address, or "{key}" for a brand variable of type link.</summary>
    public sealed record Link(string Href) : FieldValue
    {
        public override void Visit(FieldVisitor visitor, FieldPart part = default) => visitor.Address(Href, part);

        public override FieldValue Map(FieldMap map, FieldPart part = default) =>
            map.Address(Href, part) is var href && ReferenceEquals(href, Href) ? this : new Link(href);

        public override string Describe() => InlineNode.ToTokens(Href);
    }
}
