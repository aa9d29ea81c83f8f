using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;

namespace GoldenRule.Core.Documents;

/// <summary>
/// The stored form of documents and edits: JSON with a "kind" on every closed hierarchy and a format version at
/// the root. An older form is brought up by one upgrader for each former version.
/// </summary>
public static class DocumentJson
{
    public const int CurrentFormat = 2;

    /// <summary>Upgraders in order: the first turns format 1 into 2, and so on.</summary>
    private static readonly Action<JsonNode>[] Upgraders = [FormatOne.Upgrade];

    public static JsonSerializerOptions Options { get; } = Configure(new JsonSerializerOptions(), JsonRules.Lenient);

    /// <summary>For files and messages that someone sends.</summary>
    public static JsonSerializerOptions Sent { get; } = ConfigureRequests(new JsonSerializerOptions());

    /// <summary>
    /// Sets the conventions of the stored form on given options, so that the API speaks the same JSON; what it is sent is read
    /// strictly.
    /// </summary>
    public static JsonSerializerOptions ConfigureRequests(JsonSerializerOptions options)
    {
        options.RespectNullableAnnotations = true;
        // Of two values for one name nobody can say which is meant.
        options.AllowDuplicateProperties = false;
        return Configure(options, JsonRules.Strict);
    }

    private static JsonSerializerOptions Configure(JsonSerializerOptions options, Action<JsonTypeInfo> rules)
    {
        options.PropertyNamingPolicy = JsonNamingPolicy.CamelCase;
        options.PropertyNameCaseInsensitive = false;
        options.DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull;
        options.NumberHandling = JsonNumberHandling.Strict;
        options.UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow;
        // jsonb does not keep the order of keys, so "kind" may come after others.
        options.AllowOutOfOrderMetadataProperties = true;
        options.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.KebabCaseLower, allowIntegerValues: false));
        options.TypeInfoResolver = new DefaultJsonTypeInfoResolver { Modifiers = { rules } };
        return options;
    }

    public static string Write<T>(T value) => JsonSerializer.Serialize(value, Options);

    /// <summary>Whether both are the same once stored; lists inside records compare by reference otherwise.</summary>
    public static bool Same<T>(T a, T b) => ReferenceEquals(a, b) || Write(a) == Write(b);

    public static T Read<T>(string json) =>
        JsonSerializer.Deserialize<T>(json, Options) ?? throw new StructureException("The JSON is null where a document is expected.");

    /// <summary>Reads a stored edit. Edits have no format of their own: what an older one carries is known by its shape.</summary>
    public static T ReadEdit<T>(string json)
    {
        if (!FormatOne.IsIn(json))
        {
            return Read<T>(json);
        }

        var root = JsonNode.Parse(json)!;
        FormatOne.Upgrade(root);
        return root.Deserialize<T>(Options)!;
    }

    /// <summary>
    /// Reads a document of this or any former format. Errors: StructureException for a newer one, JsonException for broken JSON.
    /// </summary>
    public static T ReadDocument<T>(string json)
        where T : class
    {
        var root = JsonNode.Parse(json) as JsonObject ?? throw new StructureException("A document is a JSON object.");
        var format = (int?)root["format"] ?? CurrentFormat;
        if (format is < 1 or > CurrentFormat)
        {
            throw new StructureException($"The document has format {format}; this version reads formats 1 to {CurrentFormat}.");
        }

        if (format == CurrentFormat)
        {
            return Read<T>(json);
        }

        for (var i = format; i < CurrentFormat; i++)
        {
            Upgraders[i - 1](root);
        }

        root["format"] = CurrentFormat;
        return root.Deserialize<T>(Options) ?? throw new StructureException("A document is a JSON object.");
    }
}
