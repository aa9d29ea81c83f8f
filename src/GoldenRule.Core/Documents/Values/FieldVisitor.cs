namespace GoldenRule.Core.Documents;

/// <summary>Hears what stands in values of every kind: each method is called with each part of its sort.</summary>
public abstract class FieldVisitor
{
    /// <summary>Words in one line, the name of a listed link and a table's cell among them.</summary>
    public virtual void Words(string text, FieldPart part) { }

    public virtual void Prose(RichText text, FieldPart part) { }

    /// <summary>Where something leads, as written: "{key}" may stand for a brand variable. Links within prose come with it.</summary>
    public virtual void Address(string href, FieldPart part) { }

    /// <summary>A picture's id, "{key}" or nothing.</summary>
    public virtual void Picture(string picture, FieldPart part) { }

    public virtual void Code(FieldValue.Code code, FieldPart part) { }

    public virtual void Moment(FieldValue.Moment moment, FieldPart part) { }

    public virtual void Flag(bool on, FieldPart part) { }
}
