using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace GoldenRule.Core.Documents;

/// <summary>
/// What stands in one field of a block. A block always holds a value for each of its fields, so the
/// default says which type a fill must have and no one needs to ask the block's kind. Each kind is a file of its own beside this
/// one; what goes through values of every kind is a <see cref="FieldVisitor"/> or a <see cref="FieldMap"/>.
/// </summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(Words), "words")]
[JsonDerivedType(typeof(Prose), "prose")]
[JsonDerivedType(typeof(Link), "link")]
[JsonDerivedType(typeof(Image), "picture")]
[JsonDerivedType(typeof(Flag), "flag")]
[JsonDerivedType(typeof(LinkList), "links")]
[JsonDerivedType(typeof(Cells), "cells")]
[JsonDerivedType(typeof(Entries), "entries")]
[JsonDerivedType(typeof(Moment), "moment")]
[JsonDerivedType(typeof(Code), "code")]
public abstract partial record FieldValue
{
    private FieldValue() { }

    /// <summary>Tells what stands in it, part by part in reading order; the fields of an item come by their names.</summary>
    public abstract void Visit(FieldVisitor visitor, FieldPart part = default);

    /// <summary>The value with each part made anew; the same object where none changed.</summary>
    public abstract FieldValue Map(FieldMap map, FieldPart part = default);

    /// <summary>In one line of words, for whoever asks where a value comes from.</summary>
    public abstract string Describe();

    /// <summary>The words of a value that is one text. Null: it is none.</summary>
    public virtual string? AsText() => null;

    /// <summary>Whether it is one text that says something.</summary>
    public virtual bool HasWords() => false;

    /// <summary>How many items it holds. Null: it is no list.</summary>
    public virtual int? CountItems() => null;

    // Keeps the list itself where nothing in it changed.
    private static ImmutableArray<T> Map<T>(ImmutableArray<T> items, Func<T, int, T> map)
    {
        var made = items;
        for (var i = 0; i < items.Length; i++)
        {
            var item = map(items[i], i);
            if (!EqualityComparer<T>.Default.Equals(item, items[i]))
            {
                made = made.SetItem(i, item);
            }
        }

        return made;
    }
}
