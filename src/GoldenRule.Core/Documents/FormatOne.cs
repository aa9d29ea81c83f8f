using System.Text.Json.Nodes;

namespace GoldenRule.Core.Documents;

/// <summary>
/// Brings format 1 up to 2: the surface and width of a row became look properties like those of blocks, and the locks
/// that a template adds to a placed row became one part of the rules it adds.
/// </summary>
internal static class FormatOne
{
    /// <summary>Whether JSON may hold anything of format 1; what may not need not be looked through.</summary>
    public static bool IsIn(string json) =>
        json.Contains("\"pieceLocks\"", StringComparison.Ordinal) || json.Contains("\"fullWidth\"", StringComparison.Ordinal);

    public static void Upgrade(JsonNode node)
    {
        switch (node)
        {
            case JsonObject one:
                Rules(one);
                Look(one);
                foreach (var child in one.Select(p => p.Value).OfType<JsonNode>().ToList())
                {
                    Upgrade(child);
                }

                break;
            case JsonArray many:
                foreach (var child in many.OfType<JsonNode>().ToList())
                {
                    Upgrade(child);
                }

                break;
            default:
                break;
        }
    }

    private static void Rules(JsonObject placed)
    {
        if (placed.Remove("pieceLocks", out var locks) && locks is JsonObject pieces)
        {
            placed["rules"] = new JsonObject(
                pieces.Select(p => KeyValuePair.Create(p.Key, (JsonNode?)new JsonObject { ["locks"] = p.Value?.DeepClone() }))
            );
        }
    }

    private static void Look(JsonObject row)
    {
        if (row["columns"] is not JsonArray)
        {
            return;
        }

        var look = new JsonObject();
        if (row.Remove("surface", out var surface))
        {
            look["surface"] = surface?.DeepClone();
        }

        if (row.Remove("fullWidth", out var full) && full?.GetValue<bool>() == true)
        {
            look["edges"] = "edge-to-edge";
        }

        if (look.Count > 0)
        {
            row["look"] = look;
        }
    }
}
