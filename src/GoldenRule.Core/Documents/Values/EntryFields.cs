using System.Collections.Immutable;

namespace GoldenRule.Core.Documents;

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
