namespace GoldenRule.Core.Documents;

public abstract partial record FieldValue
{
    /// <summary>A picture of the library by its SHA-256 in lower-case hexadecimal; empty: none chosen yet.</summary>
    public sealed record Image(string Picture) : FieldValue
    {
        public override void Visit(FieldVisitor visitor, FieldPart part = default) => visitor.Picture(Picture, part);

        public override FieldValue Map(FieldMap map, FieldPart part = default) =>
            map.Picture(Picture, part) is var picture && ReferenceEquals(picture, Picture) ? this : new Image(picture);

        public override string Describe() => Picture;
    }
}
