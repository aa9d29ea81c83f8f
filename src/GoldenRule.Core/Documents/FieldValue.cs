using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace GoldenRule.Core.Documents;

/// <summary>
/// What stands in one field of a block. A block always holds a value for each of its fields, so the
/// default says which type a fill must have and no one needs to ask the block's kind.
/// </summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(Words), "words")]
[JsonDerivedType(typeof(Prose), "prose")]
[JsonDerivedType(typeof(Target), "link")]
[JsonDerivedType(typeof(Shown), "picture")]
[JsonDerivedType(typeof(Flag), "flag")]
[JsonDerivedType(typeof(LinkList), "links")]
[JsonDerivedType(typeof(Cells), "cells")]
public abstract record FieldValue
{
    private FieldValue()
    {
    }

    /// <summary>One line of plain words.</summary>
    public sealed record Words(string Text) : FieldValue;

    /// <summary>Paragraphs and lists with emphasis and links.</summary>
    public sealed record Prose(RichText Text) : FieldValue;

    /// <summary>Where something leads: an address, or "{key}" for a brand variable of type link.</summary>
    public sealed record Target(string Href) : FieldValue;

    /// <summary>A picture of the library by its SHA-256 in lower-case hexadecimal; empty: none chosen yet.</summary>
    public sealed record Shown(string Picture) : FieldValue;

    /// <summary>Yes or no.</summary>
    public sealed record Flag(bool On) : FieldValue;

    /// <summary>Named links in order, as social links are.</summary>
    public sealed record LinkList(ImmutableArray<NamedLink> Links) : FieldValue;

    /// <summary>A table's words, row by row.</summary>
    public sealed record Cells(ImmutableArray<ImmutableArray<string>> Rows) : FieldValue;
}

/// <summary>A link with the words it is shown by.</summary>
public sealed record NamedLink(string Name, string Href);
