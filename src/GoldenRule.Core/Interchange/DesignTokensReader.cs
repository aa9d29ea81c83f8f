using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Threading;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Interchange;

/// <summary>
/// Reads design tokens: the Design Tokens Format Module 2025.10 and the drafts before it, in which colours were written
/// "#rrggbb" and dimensions "16px". Composite types, and what email cannot show, are left out and named.
/// </summary>
public sealed class DesignTokensReader
{
    private readonly List<(string[] Path, JsonObject Token, string? Type)> tokens = [];
    private readonly Dictionary<string, int> places = new(StringComparer.Ordinal);
    private readonly Dictionary<string, string?> types = new(StringComparer.Ordinal);
    private readonly Dictionary<string, string> keys = new(StringComparer.Ordinal);
    private readonly ImmutableArray<FoundVariable>.Builder found = ImmutableArray.CreateBuilder<FoundVariable>();
    private readonly ImmutableArray<LeftOut>.Builder left = ImmutableArray.CreateBuilder<LeftOut>();

    private DesignTokensReader() { }

    /// <exception cref="StructureException">It is not JSON, or holds no tokens; the message says where.</exception>
    public static Found Read(string json, CancellationToken cancel = default)
    {
        JsonNode? root;
        try
        {
            root = JsonNode.Parse(json, null, new JsonDocumentOptions { AllowDuplicateProperties = false });
        }
        catch (JsonException fault)
        {
            throw new StructureException(
                fault.LineNumber is { } line
                    ? $"The file is not JSON: line {line + 1}, character {fault.BytePositionInLine + 1}."
                    : $"The file is not JSON that can be read: {fault.Message}"
            );
        }

        var reader = new DesignTokensReader();
        var tree = root as JsonObject ?? throw new StructureException("A file of design tokens is a JSON object.");
        reader.Collect(tree, [], null);
        reader.ReadAll(cancel);
        var own = Own(tree);
        foreach (var kept in own?["variables"] as JsonArray ?? [])
        {
            reader.TakeOwn(kept);
        }

        if (reader.found.Count + reader.left.Count == 0)
        {
            throw new StructureException("There are no design tokens in the file: no value stands under \"$value\".");
        }

        var order = (own?["order"] as JsonArray ?? [])
            .Select(Text)
            .OfType<string>()
            .Select((key, i) => (key, i))
            .DistinctBy(o => o.key)
            .ToDictionary(o => o.key, o => o.i, StringComparer.Ordinal);
        return new Found(
            [.. reader.found.OrderBy(f => order.GetValueOrDefault(f.Variable.Key, int.MaxValue))],
            [],
            reader.left.ToImmutable()
        );
    }

    private static JsonObject? Own(JsonObject at) => (at["$extensions"] as JsonObject)?[DesignTokens.Extension] as JsonObject;

    private static string? Text(JsonNode? node) => node is JsonValue value && value.TryGetValue<string>(out var text) ? text : null;

    private static string Dotted(string[] path) => string.Join('.', path);

    // A group says the type for the tokens in it that say none (6.4).
    private void Collect(JsonObject at, string[] path, string? type)
    {
        type = Text(at["$type"]) ?? type;
        if (at.ContainsKey("$value"))
        {
            tokens.Add((path, at, type));
            return;
        }

        foreach (var (name, child) in at)
        {
            // "$root" is the token that stands for its group itself (6.2).
            if (child is JsonObject inside && (!name.StartsWith('$') || name == "$root"))
            {
                Collect(inside, [.. path, name], type);
            }
        }
    }

    private void ReadAll(CancellationToken cancel)
    {
        Found.CheckCount(tokens.Count);
        var taken = new HashSet<string>(StringComparer.Ordinal);
        for (var i = 0; i < tokens.Count; i++)
        {
            places.TryAdd(Dotted(tokens[i].Path), i);
        }

        foreach (var (path, _, _) in tokens)
        {
            // The last name alone where it is enough, the whole path where two tokens end alike.
            var names = path[^1] == "$root" ? path[..^1] : path;
            var key = names.Length == 0 ? "root" : Naming.Key(names[^1]);
            key = key.Length > 0 && taken.Add(key) ? key : Naming.Key(string.Join(' ', names));
            taken.Add(key);
            keys[Dotted(path)] = key;
        }

        foreach (var (path, token, type) in tokens)
        {
            cancel.ThrowIfCancellationRequested();
            var place = Dotted(path);
            if (Read(path, token, type) is { } reason)
            {
                left.Add(new LeftOut(place, reason));
            }
        }
    }

    // Null: it was taken.
    private string? Read(string[] path, JsonObject token, string? type)
    {
        var (own, key) = (Own(token), keys[Dotted(path)]);
        if (key.Length == 0)
        {
            return "There is no letter in its name.";
        }

        var alias = Alias(token["$value"]);
        var said = TypeOf(alias is null ? type : TypeAtEnd(Dotted(path)));
        if (said is not { } known)
        {
            return (alias, type) switch
            {
                ({ }, _) => $"It leads to {alias}, which is not in the file or leads in a circle.",
                (_, null) => "It says no $type.",
                _ => $"Type \"{type}\" is not one that a house style holds.",
            };
        }

        var value = alias is not null ? "{" + keys[alias] + "}" : Literal(known, token["$value"]);
        if (value is null || (alias is null && HouseStyles.Literal.Fault(known, value) is not null))
        {
            return $"{token["$value"]?.ToJsonString() ?? "null"} is not a {Text(token["$type"]) ?? type} that email can show.";
        }

        found.Add(
            new FoundVariable(
                Dotted(path),
                Naming.Label(path[^1] == "$root" && path.Length > 1 ? path[^2] : path[^1]),
                new BrandVariable
                {
                    Key = key,
                    Label = Text(own?["label"]) ?? "",
                    Type = known,
                    Value = Text(own?["value"]) ?? value,
                    Dark = Text(own?["dark"]),
                    Group = Text(own?["group"]) ?? string.Join(", ", path[..^1]),
                    Description = Text(token["$description"]) ?? "",
                    Formerly = [.. (own?["formerly"] as JsonArray ?? []).Select(Text).OfType<string>()],
                }
            )
        );
        return null;
    }

    private void TakeOwn(JsonNode? node)
    {
        try
        {
            var variable = (node ?? throw new JsonException("It is null.")).Deserialize<BrandVariable>(DocumentJson.Sent)!;
            BrandVariable.CheckKey(variable.Key);
            found.Add(new FoundVariable(variable.Key, variable.Label, variable));
        }
        catch (Exception fault) when (fault is JsonException or StructureException)
        {
            left.Add(new LeftOut($"$extensions.{DesignTokens.Extension}", "One of its variables cannot be read: " + fault.Message));
        }
    }

    // "{group.token}" (7.1), or a JSON Pointer to a token's value (7.2).
    private string? Alias(JsonNode? value)
    {
        var text = Text(value);
        if (text is ['{', .., '}'])
        {
            return text[1..^1];
        }

        return
            (value as JsonObject)?["$ref"] is { } pointer
            && Text(pointer) is { } reference
            && reference.StartsWith("#/", StringComparison.Ordinal)
            ? string.Join(
                '.',
                reference[2..]
                    .Split('/')
                    .Where(p => p != "$value")
                    .Select(p => p.Replace("~1", "/", StringComparison.Ordinal).Replace("~0", "~", StringComparison.Ordinal))
            )
            : null;
    }

    // Each is looked at once, however many lead to it one over the other. Null: it is not in the file, or leads in a circle.
    private string? TypeAtEnd(string place)
    {
        var passed = new List<string>();
        var seen = new HashSet<string>(StringComparer.Ordinal);
        string? end = null;
        for (var at = place; !types.TryGetValue(at, out end) && seen.Add(at) && places.TryGetValue(at, out var index); )
        {
            passed.Add(at);
            if (Alias(tokens[index].Token["$value"]) is not { } alias)
            {
                end = tokens[index].Type;
                break;
            }

            at = alias;
        }

        passed.ForEach(p => types[p] = end);
        return end;
    }

    private static VariableType? TypeOf(string? type) =>
        type is null
            ? null
            : Enum.GetValues<VariableType>().Cast<VariableType?>().FirstOrDefault(t => DesignTokens.TypeOf(t!.Value) == type);

    private static string? Literal(VariableType type, JsonNode? value) =>
        type switch
        {
            VariableType.Colour => ColourOf(value),
            VariableType.Size when value is JsonObject size => CssLength.Pixels(size["value"]?.ToString() + Text(size["unit"])),
            VariableType.Size => Text(value) is { } text ? CssLength.Pixels(text) : null,
            VariableType.Number => NumberOf(value),
            VariableType.Weight => NumberOf(value)
                ?? (
                    Text(value) is { } name && Weights.TryGetValue(name, out var weight)
                        ? weight.ToString(CultureInfo.InvariantCulture)
                        : null
                ),
            VariableType.Font when value is JsonArray families => Ended(families.Select(Text).OfType<string>()),
            VariableType.Font => Text(value) is { } family ? Ended(family.Split(',')) : null,
            _ => null,
        };

    private static string? NumberOf(JsonNode? value) =>
        value is JsonValue number && number.TryGetValue<double>(out var n) ? n.ToString(CultureInfo.InvariantCulture) : null;

    // Mail needs a generic family at the end; where a token names none, a sans serif is the safest guess.
    private static string Ended(IEnumerable<string> families)
    {
        var list = families.Select(f => f.Trim()).Where(f => f.Length > 0).ToList();
        return DesignTokens.Stack(list.Count > 0 && list[^1] is "serif" or "sans-serif" or "monospace" ? list : [.. list, "sans-serif"]);
    }

    // Colour objects of the Color Module 2025.10: a space, its components, and often a hex form to fall back on.
    private static string? ColourOf(JsonNode? value)
    {
        if (Text(value) is { } written)
        {
            return CssColour.Parse(written)?.ToString();
        }

        if (value is not JsonObject colour)
        {
            return null;
        }

        var parts = (colour["components"] as JsonArray ?? []).Select(c => NumberOf(c) ?? "0").ToArray();
        var transparent = colour["alpha"] is { } alpha && NumberOf(alpha) is { } a && double.Parse(a, CultureInfo.InvariantCulture) < 1;
        var css = (parts.Length, Text(colour["colorSpace"])) switch
        {
            (3, "srgb") => $"color(srgb {string.Join(' ', parts)})",
            (3, "hsl") => $"hsl({parts[0]} {parts[1]}% {parts[2]}%)",
            (3, "oklch") => $"oklch({string.Join(' ', parts)})",
            _ => null,
        };
        return transparent ? null : (CssColour.Parse(css ?? "") ?? CssColour.Parse(Text(colour["hex"]) ?? ""))?.ToString();
    }

    // Names of weights, as the module's table has them (8.4).
    private static readonly ImmutableDictionary<string, int> Weights = new Dictionary<string, int>(StringComparer.Ordinal)
    {
        ["thin"] = 100,
        ["hairline"] = 100,
        ["extra-light"] = 200,
        ["ultra-light"] = 200,
        ["light"] = 300,
        ["normal"] = 400,
        ["regular"] = 400,
        ["book"] = 400,
        ["medium"] = 500,
        ["semi-bold"] = 600,
        ["demi-bold"] = 600,
        ["bold"] = 700,
        ["extra-bold"] = 800,
        ["ultra-bold"] = 800,
        ["black"] = 900,
        ["heavy"] = 900,
        ["extra-black"] = 950,
        ["ultra-black"] = 950,
    }.ToImmutableDictionary(StringComparer.Ordinal);
}
