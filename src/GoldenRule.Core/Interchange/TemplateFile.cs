using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Schema;
using System.Text.Json.Serialization;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Interchange;

/// <summary>A saved row that a template places, as released.</summary>
public sealed record PackedRow(Guid Id, int Release, SavedRow Row);

/// <summary>What a brand variable came to where the template was packed, for libraries that have no such variable.</summary>
public sealed record PackedVariable(string Key, VariableType Type, string Value);

/// <summary>A picture that the template shows.</summary>
/// <param name="Id">SHA-256 of the bytes, lower-case hexadecimal.</param>
/// <param name="Data">The bytes, Base64 (RFC 4648, section 4).</param>
public sealed record PackedPicture(string Id, string Name, string Alt, string Extension, [property: Longest(8_000_000)] string Data);

/// <summary>
/// A template with everything it needs inside it: the saved rows that it places, the values of the brand variables it
/// refers to, and its pictures. JSON; see docs/formats.md and docs/template.schema.json.
/// </summary>
public sealed record TemplateFile
{
    public const int CurrentFormat = 1;

    /// <summary>Most bytes that are read.</summary>
    public const int MostBytes = 40 * 1024 * 1024;

    /// <summary>Always "golden-rule-template": tells this JSON from any other.</summary>
    [JsonPropertyName("type")]
    public required string FileType { get; init; }

    [JsonPropertyName("version")]
    public required int Version { get; init; }

    /// <summary>In words, for those who have no campaign type of that key.</summary>
    public string CampaignTypeName { get; init; } = "";

    public required Template Template { get; init; }

    public ImmutableArray<PackedRow> Rows { get; init; } = [];

    public ImmutableArray<PackedVariable> Variables { get; init; } = [];

    public ImmutableArray<PackedPicture> Pictures { get; init; } = [];

    /// <exception cref="StructureException">It is no such file, too new or broken; says where.</exception>
    public static TemplateFile Read(string json)
    {
        try
        {
            var root =
                JsonNode.Parse(json, null, new JsonDocumentOptions { MaxDepth = 64, AllowDuplicateProperties = false }) as JsonObject;
            if (root?["type"] is not JsonValue type || !type.TryGetValue<string>(out var named) || named != FileTypeName)
            {
                throw new StructureException($"This is no template file: its \"type\" is not \"{FileTypeName}\".", "type");
            }

            if (root["version"] is not JsonValue version || !version.TryGetValue<int>(out var number) || number < 1)
            {
                throw new StructureException("The file does not say of which version it is.", "version");
            }

            if (number > CurrentFormat)
            {
                throw new StructureException(
                    $"The file is of version {number}, which is newer than this program knows: it reads up to version {CurrentFormat}.",
                    "version"
                );
            }

            var file = root.Deserialize<TemplateFile>(DocumentJson.Sent)!;
            return file with { Template = file.Template with { Order = file.Template.Order } };
        }
        catch (JsonException fault)
        {
            throw new StructureException(
                $"The file cannot be read{Where(fault)}: {fault.InnerException?.Message ?? fault.Message.Split(" Path:")[0]}",
                fault.Path
            );
        }
    }

    public string Write() => JsonSerializer.Serialize(this, Pretty);

    /// <summary>Its JSON Schema (draft 2020-12), made from the types that read and write it.</summary>
    public static string Schema()
    {
        var schema = DocumentJson
            .Sent.GetJsonSchemaAsNode(typeof(TemplateFile), new JsonSchemaExporterOptions { TreatNullObliviousAsNonNullable = true })
            .AsObject();
        schema.Insert(0, "$schema", "https://json-schema.org/draft/2020-12/schema");
        schema.Insert(1, "title", "Golden Rule template, version 1");
        return schema.ToJsonString(new JsonSerializerOptions { WriteIndented = true }) + "\n";
    }

    public const string FileTypeName = "golden-rule-template";

    private static readonly JsonSerializerOptions Pretty = new(DocumentJson.Options) { WriteIndented = true };

    private static string Where(JsonException fault) =>
        (fault.Path, fault.LineNumber) switch
        {
            ({ Length: > 1 } path, _) => $" at {path}",
            (_, { } line) => $" at line {line + 1}",
            _ => "",
        };
}
