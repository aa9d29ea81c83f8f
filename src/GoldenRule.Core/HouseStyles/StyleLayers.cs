using System.Collections.Immutable;
using System.Globalization;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.HouseStyles;

/// <summary>What one layer said about a value: the layer's name and its words, as written there.</summary>
public sealed record Said(string Layer, string Value);

/// <summary>A value with where it came from: the layers outermost first, then the variables followed to a literal.</summary>
/// <param name="Dark">For colours: the value where the reader's scheme is dark.</param>
public sealed record Resolved(string Value, string Dark, ImmutableArray<Said> Layers, ImmutableArray<string> Through);

/// <summary>
/// House styles laid on one another, parent first; the nearest that speaks wins. Resolves style properties and
/// variables to literals, following references. Immutable, so the results are kept.
/// </summary>
public sealed class StyleLayers
{
    private readonly ImmutableArray<HouseStyle> layers;
    private readonly Dictionary<string, BrandVariable> variables = new(StringComparer.Ordinal);
    private readonly Dictionary<(string Style, string Property), Resolved> values = [];

    /// <param name="layers">The parent first, the sub-brand after it.</param>
    /// <exception cref="StructureException">A reference leads nowhere, to another type, or in a circle; the message names the path.</exception>
    public StyleLayers(params IEnumerable<HouseStyle> layers)
    {
        this.layers = [.. layers];
        foreach (var variable in this.layers.SelectMany(l => l.Variables))
        {
            variables[variable.Key] = variable;
        }

        foreach (var variable in variables.Values)
        {
            var place = $"variable {variable.Key}";
            CheckLiteral(variable.Type, Follow("{" + variable.Key + "}", variable.Type, place, dark: false).Value, place);
            CheckLiteral(variable.Type, Follow("{" + variable.Key + "}", variable.Type, place, dark: true).Value, place);
        }

        foreach (var style in GlobalStyles.All)
        {
            foreach (var property in style.Properties)
            {
                values[(style.Name, property.Name)] = Resolve(style.Name, property);
            }
        }
    }

    /// <summary>Every variable that can be used, the nearest layer's where several speak.</summary>
    public IReadOnlyCollection<BrandVariable> Variables => variables.Values;

    public Resolved this[string style, string property] => values[(style, property)];

    public string Value(string style, string property) => values[(style, property)].Value;

    public Colour Colour(string style, string property, bool dark) =>
        HouseStyles.Colour.Parse(dark ? values[(style, property)].Dark : values[(style, property)].Value);

    public double Number(string style, string property) => double.Parse(Value(style, property), CultureInfo.InvariantCulture);

    /// <summary>What a variable comes to.</summary>
    /// <exception cref="StructureException">There is none of that key; the message names the place.</exception>
    public string Variable(string key, string place) => Follow("{" + key + "}", null, place, dark: false).Value;

    private Resolved Resolve(string style, StyleProperty property)
    {
        var said = ImmutableArray.CreateBuilder<Said>();
        var value = property.Fallback;
        foreach (var layer in layers)
        {
            if (layer.FindStyle(style, property.Name) is { } own)
            {
                said.Add(new Said(layer.Name, own));
                value = own;
            }
        }

        var place = $"{style}, {property.Name}";
        var (light, through) = Follow(value, property.Type, place, dark: false);
        CheckLiteral(property.Type, light, place);
        return new Resolved(light, Follow(value, property.Type, place, dark: true).Value, said.ToImmutable(), through);
    }

    // A dark value stands for its variable only; where a variable says none, the one it refers to is asked.
    private (string Value, ImmutableArray<string> Through) Follow(string value, VariableType? type, string place, bool dark)
    {
        var path = ImmutableArray.CreateBuilder<string>();
        while (BrandVariable.Reference(value) is { } key)
        {
            if (path.Contains(key))
            {
                throw new StructureException($"Brand variables refer to one another in a circle: {string.Join(" → ", path)} → {key}.", place);
            }

            path.Add(key);
            var variable = Known(key, type, place);
            type ??= variable.Type;
            value = dark ? variable.Dark ?? variable.Value : variable.Value;
        }

        return (value, path.ToImmutable());
    }

    private BrandVariable Known(string key, VariableType? type, string place)
    {
        var variable = variables.GetValueOrDefault(key)
            ?? throw new StructureException($"There is no brand variable \"{key}\", to which {place} refers.", place);
        return type is null || variable.Type == type
            ? variable
            : throw new StructureException($"Brand variable \"{key}\" is of type {variable.Type}, but {place} needs {type}.", place);
    }

    private static void CheckLiteral(VariableType type, string literal, string place)
    {
        var fault = type switch
        {
            VariableType.Colour when !HouseStyles.Colour.TryParse(literal, out _) => "is not a colour; write it as #rrggbb",
            VariableType.Number when !IsNumber(literal) => "is not a number from 0 to 2000",
            VariableType.Font when !IsFontStack(literal) => "is not a font stack; write names parted by commas and end in serif, sans-serif or monospace",
            VariableType.Link when !Links.IsSafe(literal) => "is not an address; write one with https, mailto or tel",
            _ => null,
        };
        if (fault is not null)
        {
            throw new StructureException($"\"{literal}\" ({place}) {fault}.", place);
        }
    }

    private static bool IsNumber(string text) =>
        double.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number) && number is >= 0 and <= 2000;

    // Letters, digits, spaces, hyphens, commas and quotes only: a font stack goes into CSS as it is.
    private static bool IsFontStack(string text)
    {
        var families = text.Split(',', StringSplitOptions.TrimEntries);
        return families.All(f => f.Length > 0 && f.All(c => char.IsAsciiLetterOrDigit(c) || c is ' ' or '-' or '\''))
            && text.Count(c => c == '\'') % 2 == 0
            && families[^1] is "serif" or "sans-serif" or "monospace";
    }
}
