namespace GoldenRule.Core.Documents;

/// <summary>Makes values of every kind anew. What is not overridden stays the same object.</summary>
public abstract class FieldMap
{
    public virtual string Words(string text, FieldPart part) => text;

    public virtual RichText Prose(RichText text, FieldPart part) => text;

    public virtual string Address(string href, FieldPart part) => href;

    public virtual string Picture(string picture, FieldPart part) => picture;
}
