using System.Collections.Immutable;
using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Interchange;

/// <summary>
/// Brand variables as design tokens: Design Tokens Format Module 2025.10, W3C Design Tokens Community Group (written
/// from memory of the published text). Colours, sizes, font stacks, weights, numbers, aliases, groups and descriptions
/// are said in its own words. What it has no word for (dark values, labels, text, links, pictures, order) stands under
/// the extension key <see cref="Extension"/> and survives a round trip.
/// </summary>
public static class DesignTokens
{
    /// <summary>Reverse domain notation, as the module asks for (5.2.3).</summary>
    public const string Extension = "app.goldenrule";

    private static readonly JsonSerializerOptions Indented = new()
    {
        WriteIndented = true,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    public static string Write(StyleLayers layers)
    {
        var paths = Paths(layers);
        var root = new JsonObject { ["$description"] = $"Brand variables of {layers.Own.Name}" };
        var kept = new JsonArray();
        foreach (var variable in layers.Variables)
        {
            if (TypeOf(variable.Type) is { } type)
            {
                var at = root;
                foreach (var group in paths[variable.Key][..^1])
                {
                    at = (JsonObject)(at[group] ??= new JsonObject());
                }

                at[paths[variable.Key][^1]] = Token(variable, type, layers, paths);
            }
            else
            {
                kept.Add(JsonNode.Parse(DocumentJson.Write(variable)));
            }
        }

        var order = new JsonArray([.. layers.Variables.Select(v => (JsonNode)v.Key)]);
        root["$extensions"] = new JsonObject
        {
            [Extension] = new JsonObject { ["order"] = order, ["variables"] = kept },
        };
        return root.ToJsonString(Indented) + "\n";
    }

    /// <summary>The module's name of a type. Null: it has none.</summary>
    internal static string? TypeOf(VariableType type) =>
        type switch
        {
            VariableType.Colour => "color",
            VariableType.Size => "dimension",
            VariableType.Number => "number",
            VariableType.Weight => "fontWeight",
            VariableType.Font => "fontFamily",
            VariableType.Text or VariableType.Link or VariableType.Picture => null,
            _ => throw new ArgumentOutOfRangeException(nameof(type)),
        };

    /// <summary>Names of tokens hold no $ in front and no braces or points at all (5.1.1).</summary>
    internal static string Name(string text)
    {
        var name = new string([.. text.Where(c => c is not ('{' or '}' or '.'))]).Trim().TrimStart('$');
        return name.Length > 0 ? name : "-";
    }

    // A group that would be called like a token beside it gets a point of distance: a group is no token.
    private static Dictionary<string, string[]> Paths(StyleLayers layers)
    {
        var alone = layers.Variables.Where(v => v.Group.Length == 0).Select(v => v.Key).ToHashSet(StringComparer.Ordinal);
        return layers.Variables.ToDictionary(
            v => v.Key,
            v =>
                v.Group.Length == 0 ? [v.Key] : (string[])[alone.Contains(Name(v.Group)) ? Name(v.Group) + " group" : Name(v.Group), v.Key],
            StringComparer.Ordinal
        );
    }

    private static JsonObject Token(BrandVariable variable, string type, StyleLayers layers, Dictionary<string, string[]> paths)
    {
        var own = new JsonObject { ["label"] = variable.Label };
        var token = new JsonObject { ["$type"] = type, ["$value"] = Value(variable, layers, paths, own) };
        if (variable.Description.Length > 0)
        {
            token["$description"] = variable.Description;
        }

        if (variable.Dark is not null)
        {
            own["dark"] = variable.Dark;
        }

        if (variable.Group.Length > 0 && paths[variable.Key][0] != variable.Group)
        {
            own["group"] = variable.Group;
        }

        if (!variable.Formerly.IsEmpty)
        {
            own["formerly"] = new JsonArray([.. variable.Formerly.Select(f => (JsonNode)f)]);
        }

        token["$extensions"] = new JsonObject { [Extension] = own };
        return token;
    }

    // An alias has the type of what it leads to (5.1.2): where a number stands for a size, the value is written and the alias
    // kept beside it.
    private static JsonNode Value(BrandVariable variable, StyleLayers layers, Dictionary<string, string[]> paths, JsonObject own)
    {
        if (BrandVariable.Reference(variable.Value) is not { } key)
        {
            return Literal(variable.Type, variable.Value);
        }

        var target = layers.Find(key)!;
        if (target.Type == variable.Type && target.Key == key)
        {
            return "{" + string.Join('.', paths[key]) + "}";
        }

        own["value"] = variable.Value;
        return Literal(variable.Type, layers.Explain(variable.Key).Value);
    }

    private static JsonNode Literal(VariableType type, string value) =>
        type switch
        {
            VariableType.Colour => ColourValue(Colour.Parse(value)),
            VariableType.Size => new JsonObject { ["value"] = Number(value), ["unit"] = "px" },
            VariableType.Number or VariableType.Weight => Number(value),
            VariableType.Font => new JsonArray([.. Families(value).Select(f => (JsonNode)f)]),
            _ => throw new ArgumentOutOfRangeException(nameof(type)),
        };

    private static JsonObject ColourValue(Colour colour) =>
        new()
        {
            ["colorSpace"] = "srgb",
            ["components"] = new JsonArray(Part(colour.Red), Part(colour.Green), Part(colour.Blue)),
            ["hex"] = colour.ToString(),
        };

    // Four decimals tell every 8-bit step apart.
    private static JsonNode Part(byte channel) => Math.Round(channel / 255.0, 4);

    private static JsonNode Number(string value) =>
        JsonNode.Parse(double.Parse(value, CultureInfo.InvariantCulture).ToString(CultureInfo.InvariantCulture))!;

    internal static IEnumerable<string> Families(string stack) =>
        stack.Split(',', StringSplitOptions.TrimEntries).Select(f => f.Trim('\''));

    /// <summary>A font stack as house styles write it: names with blanks in quotes.</summary>
    internal static string Stack(IEnumerable<string> families) =>
        string.Join(
            ", ",
            families.Select(f => f.Trim().Trim('"', '\'')).Select(f => f.Contains(' ', StringComparison.Ordinal) ? $"'{f}'" : f)
        );
}
