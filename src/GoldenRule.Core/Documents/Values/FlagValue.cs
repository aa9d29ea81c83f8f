namespace GoldenRule.Core.Documents;

public abstract partial record FieldValue
{
    /// <summary>Yes or no.</summary>
    public sealed record Flag(bool On) : FieldValue
    {
        public override void Visit(FieldVisitor visitor, FieldPart part = default) => visitor.Flag(On, part);

        public override FieldValue Map(FieldMap map, FieldPart part = default) => this;

        public override string Describe() => On ? "yes" : "no";
    }
}
