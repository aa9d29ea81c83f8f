using System.Collections.Immutable;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;

namespace GoldenRule.Server.Hosting;

/// <summary>Finishes the OpenAPI document: a name, no server addresses, and "kind" required wherever it tells types apart.</summary>
public static class ApiDescription
{
    public static void Describe(OpenApiOptions options)
    {
        options.AddSchemaTransformer(NamesOfLists);
        options.AddDocumentTransformer(Finish);
    }

    // The generator loses what is in such a list where the same list stands elsewhere in the type too.
    private static Task NamesOfLists(OpenApiSchema schema, OpenApiSchemaTransformerContext context, CancellationToken cancel)
    {
        if (context.JsonTypeInfo.Type == typeof(ImmutableSortedDictionary<string, ImmutableArray<string>>))
        {
            schema.AdditionalProperties = Texts();
        }
        else if (context.JsonTypeInfo.Type == typeof(Core.Documents.Condition.Test))
        {
            schema.Properties!["values"] = Texts();
        }

        return Task.CompletedTask;
    }

    private static OpenApiSchema Texts() =>
        new()
        {
            Type = JsonSchemaType.Array,
            Items = new OpenApiSchema { Type = JsonSchemaType.String },
        };

    private static Task Finish(OpenApiDocument document, OpenApiDocumentTransformerContext context, CancellationToken cancel)
    {
        document.Info.Title = "Golden Rule";
        document.Info.Version = "1";
        document.Servers?.Clear();
        foreach (var schema in document.Components?.Schemas?.Values ?? [])
        {
            // Whether a value may be missing is said where it stands, not by the enumeration itself.
            if (
                schema is OpenApiSchema { Enum: { } values }
                && values.Any(v => v is null || v.GetValueKind() == System.Text.Json.JsonValueKind.Null)
            )
            {
                ((OpenApiSchema)schema).Enum =
                [
                    .. values.Where(v => v is not null && v.GetValueKind() != System.Text.Json.JsonValueKind.Null),
                ];
            }

            if (schema is OpenApiSchema own && own.Properties?.TryGetValue("kind", out var kind) == true && kind.Enum?.Count == 1)
            {
                own.Required ??= new HashSet<string>(StringComparer.Ordinal);
                own.Required.Add("kind");
            }
        }

        return Task.CompletedTask;
    }
}
