using System.Collections;
using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization.Metadata;

namespace GoldenRule.Core.Documents;

/// <summary>
/// How JSON is read: what someone sends strictly, so that nothing gets in that the types rule out; what was stored by an
/// older version leniently, so that it can always be opened.
/// </summary>
internal static class JsonRules
{
    /// <summary>
    /// Of what is sent: every member that is not nullable has to be there, lists and maps hold no nulls, no text holds U+0000,
    /// which PostgreSQL cannot keep, and nothing is beyond <see cref="Bounds"/>. (Lone surrogates are refused by the reader itself.)
    /// </summary>
    public static void Strict(JsonTypeInfo type)
    {
        switch (type.Kind)
        {
            case JsonTypeInfoKind.Object:
                foreach (var property in type.Properties)
                {
                    property.IsRequired |= property.AssociatedParameter is { HasDefaultValue: false, IsNullable: false };
                }

                var texts = type
                    .Properties.Where(p => p.PropertyType == typeof(string) && p.Get is not null)
                    .Select(p => (p.Name, p.Get!, Longest(p)))
                    .ToArray();
                if (texts.Length > 0)
                {
                    type.OnDeserialized = read => CheckTexts(texts, read);
                }

                break;
            case JsonTypeInfoKind.Enumerable:
                type.OnDeserialized = read => CheckItems((IEnumerable)read, "list");
                break;
            case JsonTypeInfoKind.Dictionary:
                type.OnDeserialized = read =>
                {
                    CheckItems(((IDictionary)read).Keys, "map");
                    CheckItems(((IDictionary)read).Values, "map");
                };
                break;
            default:
                break;
        }
    }

    /// <summary>Of what is stored: a text, list, map or rich text that is not there is empty.</summary>
    public static void Lenient(JsonTypeInfo type)
    {
        if (type.Kind != JsonTypeInfoKind.Object)
        {
            return;
        }

        var missing = type
            .Properties.Where(p => p is { Set: not null, Get: not null, IsSetNullable: false })
            .Select(p =>
                (
                    p.Get,
                    p.Set,
                    Missing: p.PropertyType.IsValueType ? Activator.CreateInstance(p.PropertyType) : null,
                    Empty: Empty(p.PropertyType)
                )
            )
            .Where(p => p.Empty is not null)
            .ToArray();
        if (missing.Length > 0)
        {
            type.OnDeserialized = read =>
            {
                foreach (var (get, set, none, empty) in missing)
                {
                    if (Equals(get!(read), none))
                    {
                        set!(read, empty);
                    }
                }
            };
        }
    }

    private static object? Empty(Type type) =>
        type switch
        {
            _ when type == typeof(string) => "",
            _ when type == typeof(RichText) => RichText.Empty,
            { IsGenericType: true } when IsCollection(type.GetGenericTypeDefinition()) => type.GetField("Empty")!.GetValue(null),
            _ => null,
        };

    private static bool IsCollection(Type type) => type == typeof(ImmutableArray<>) || type == typeof(ImmutableSortedDictionary<,>);

    private static int Longest(JsonPropertyInfo text) =>
        text.AttributeProvider?.GetCustomAttributes(typeof(LongestAttribute), false) is [LongestAttribute longest]
            ? longest.Characters
            : Bounds.Text;

    private static void CheckTexts((string Name, Func<object, object?> Get, int Longest)[] texts, object read)
    {
        foreach (var (name, get, longest) in texts)
        {
            CheckText(get(read) as string, name, longest);
        }

        if (read is FieldValue.Code { Html: var html } && MarkupBounds.Fault(html) is { } fault)
        {
            throw new JsonException($"The HTML cannot be taken. {fault}");
        }
    }

    private static void CheckItems(IEnumerable read, string what)
    {
        var count = 0;
        foreach (var item in read)
        {
            if (item is null)
            {
                throw new JsonException($"A {what} holds null where a value belongs.");
            }

            if (++count > Bounds.Items)
            {
                throw new JsonException($"A {what} holds more than {Bounds.Items:N0} items.");
            }

            CheckText(item as string, what, Bounds.Text);
        }
    }

    private static void CheckText(string? text, string where, int longest)
    {
        if (text is null)
        {
            return;
        }

        if (text.Contains('\0', StringComparison.Ordinal))
        {
            throw new JsonException($"The text in \"{where}\" holds the character U+0000, which is no letter. Remove it.");
        }

        if (InlineNode.Fault(text) is { } fault)
        {
            throw new JsonException($"\"{where}\": {fault}");
        }

        if (text.Length > longest)
        {
            throw new JsonException($"The text in \"{where}\" has {text.Length:N0} characters; up to {longest:N0} are taken.");
        }
    }
}
