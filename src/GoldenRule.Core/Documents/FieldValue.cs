using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json.Serialization;

namespace GoldenRule.Core.Documents;

/// <summary>
/// What stands in one field of a block. A block always holds a value for each of its fields, so the
/// default says which type a fill must have and no one needs to ask the block's kind.
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
public abstract record FieldValue
{
    private FieldValue() { }

    /// <summary>One line of plain words.</summary>
    public sealed record Words(string Text) : FieldValue;

    /// <summary>Paragraphs and lists with emphasis and links.</summary>
    public sealed record Prose(RichText Text) : FieldValue;

    /// <summary>Where something leads: an address, or "{key}" for a brand variable of type link.</summary>
    public sealed record Link(string Href) : FieldValue;

    /// <summary>A picture of the library by its SHA-256 in lower-case hexadecimal; empty: none chosen yet.</summary>
    public sealed record Image(string Picture) : FieldValue;

    /// <summary>Yes or no.</summary>
    public sealed record Flag(bool On) : FieldValue;

    /// <summary>Named links in order, as social links are.</summary>
    public sealed record LinkList(ImmutableArray<NamedLink> Links) : FieldValue;

    /// <summary>A table's words, row by row.</summary>
    public sealed record Cells(ImmutableArray<ImmutableArray<string>> Rows) : FieldValue;

    /// <summary>
    /// Items of one shape in order, as the cards of a list are: each has a value by field, see <see cref="Field.Entry"/>.
    /// </summary>
    public sealed record Entries(ImmutableArray<ImmutableSortedDictionary<string, FieldValue>> Items) : FieldValue;

    /// <summary>HTML written by hand, as it was written; what leaves the house is made safe.</summary>
    public sealed record Code(string Html) : FieldValue;

    /// <summary>A stretch of time at one place on earth.</summary>
    /// <param name="Start">Local date and time, ISO 8601 without offset: "2027-03-02T10:40". Empty: not set yet.</param>
    /// <param name="End">The same; empty: no end is given.</param>
    /// <param name="Zone">IANA time zone, "Europe/London" for example.</param>
    public sealed record Moment(string Start, string End, string Zone) : FieldValue
    {
        [JsonIgnore]
        public DateTime? Starts => Read(Start);

        [JsonIgnore]
        public DateTime? Ends => Read(End);

        private static DateTime? Read(string text) =>
            DateTime.TryParseExact(
                text,
                ["yyyy-MM-dd'T'HH:mm", "yyyy-MM-dd"],
                CultureInfo.InvariantCulture,
                DateTimeStyles.None,
                out var at
            )
                ? at
                : null;
    }
}

/// <summary>A link with the words it is shown by.</summary>
public sealed record NamedLink(string Name, string Href);

/// <summary>Reading one item of <see cref="FieldValue.Entries"/>.</summary>
public static class EntryFields
{
    public static string Words(this ImmutableSortedDictionary<string, FieldValue> item, string field) =>
        ((FieldValue.Words)item[field]).Text;

    public static RichText Prose(this ImmutableSortedDictionary<string, FieldValue> item, string field) =>
        ((FieldValue.Prose)item[field]).Text;

    public static string Href(this ImmutableSortedDictionary<string, FieldValue> item, string field) => ((FieldValue.Link)item[field]).Href;

    public static string Picture(this ImmutableSortedDictionary<string, FieldValue> item, string field) =>
        ((FieldValue.Image)item[field]).Picture;
}
