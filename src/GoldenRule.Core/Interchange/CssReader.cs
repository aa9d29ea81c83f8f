using System.Collections.Immutable;
using System.Globalization;
using System.Threading;
using AngleSharp.Css.Dom;
using AngleSharp.Css.Parser;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Interchange;

/// <summary>
/// Reads the custom properties of a web page's :root (CSS Custom Properties 1) as brand variables, their values under
/// prefers-color-scheme: dark as dark ones, and what the page's own rules dress with them as global styles.
/// </summary>
public sealed class CssReader
{
    private readonly Dictionary<string, string> light = new(StringComparer.Ordinal);
    private readonly Dictionary<string, string> dark = new(StringComparer.Ordinal);
    private readonly Dictionary<string, BrandVariable> taken = new(StringComparer.Ordinal);
    private readonly HashSet<string> keys = new(StringComparer.Ordinal);
    private readonly Dictionary<string, (VariableType? Type, string? Value, string? Reason)> meanings = new(StringComparer.Ordinal);
    private readonly Dictionary<(string Style, string Property), FoundStyle> styles = [];
    private readonly ImmutableArray<LeftOut>.Builder left = ImmutableArray.CreateBuilder<LeftOut>();

    private CssReader() { }

    /// <exception cref="StructureException">There is nothing in it that a house style could take.</exception>
    public static Found Read(string css, CancellationToken cancel = default)
    {
        var sheet = new CssParser(
            new CssParserOptions
            {
                IsIncludingUnknownDeclarations = true,
                IsIncludingUnknownRules = true,
                IsToleratingInvalidSelectors = true,
            }
        ).ParseStyleSheet(css);
        var rules = sheet.Rules.OfType<ICssStyleRule>().ToList();
        var reader = new CssReader();
        rules.ForEach(r => Properties(r, reader.light));
        foreach (
            var media in sheet
                .Rules.OfType<ICssMediaRule>()
                .Where(m =>
                    m.ConditionText.Contains("prefers-color-scheme", StringComparison.Ordinal)
                    && m.ConditionText.Contains("dark", StringComparison.Ordinal)
                )
        )
        {
            media.Rules.OfType<ICssStyleRule>().ToList().ForEach(r => Properties(r, reader.dark));
        }

        Found.CheckCount(reader.light.Count);
        foreach (var name in reader.light.Keys)
        {
            cancel.ThrowIfCancellationRequested();
            reader.Take(name);
        }

        foreach (var rule in rules)
        {
            cancel.ThrowIfCancellationRequested();
            reader.Dress(rule);
        }

        reader.DressByName();
        return reader.taken.Count + reader.styles.Count + reader.left.Count > 0
            ? new Found(
                [
                    .. reader
                        .light.Keys.Where(reader.taken.ContainsKey)
                        .Select(k => new FoundVariable("--" + k, Naming.Label(k), reader.taken[k])),
                ],
                [.. reader.styles.Values],
                reader.left.ToImmutable()
            )
            : throw new StructureException(
                "There are no custom properties in a :root rule, and no rule of body, headings, links or buttons."
            );
    }

    private static IEnumerable<string> Selectors(ICssStyleRule rule) =>
        rule.SelectorText.Split(',', StringSplitOptions.TrimEntries).Select(s => s.ToLowerInvariant());

    private static void Properties(ICssStyleRule rule, Dictionary<string, string> into)
    {
        if (Selectors(rule).Any(s => s is ":root" or "html" or ":root:root"))
        {
            foreach (var property in rule.Style.Where(p => p.Name.StartsWith("--", StringComparison.Ordinal)))
            {
                into[property.Name[2..]] = property.Value.Trim();
            }
        }
    }

    private void Take(string name)
    {
        var key = Naming.Key(name);
        var (type, value, reason) = Meaning(name);
        if (type is not { } known || key.Length == 0 || value is null || !keys.Add(key))
        {
            left.Add(
                new LeftOut(
                    "--" + name,
                    reason ?? (key.Length == 0 ? "There is no letter in its name." : $"\"{key}\" is the name of another here.")
                )
            );
            return;
        }

        taken[name] = new BrandVariable
        {
            Key = key,
            Label = "",
            Type = known,
            Value = value,
            Dark = known == VariableType.Colour && dark.TryGetValue(name, out var written) ? DarkColour(written) : null,
        };
    }

    private string? DarkColour(string css) =>
        Reference(css) is { } to && light.ContainsKey(to) ? "{" + Naming.Key(to) + "}" : CssColour.Parse(css)?.ToString();

    // What a custom property is worth: its type and, written as a house style writes it, its value. Each is looked at once,
    // however many lead to it one over the other.
    private (VariableType? Type, string? Value, string? Reason) Meaning(string name)
    {
        var passed = new List<string>();
        var seen = new HashSet<string>(StringComparer.Ordinal);
        var at = name;
        while (!meanings.ContainsKey(at) && seen.Add(at) && light.TryGetValue(at, out var css) && Reference(css) is { } to)
        {
            passed.Add(at);
            at = to;
        }

        if (!meanings.TryGetValue(at, out var end))
        {
            meanings[at] = end = light.GetValueOrDefault(at) switch
            {
                null => (null, null, $"There is no --{at} in the file."),
                var css when Reference(css) is not null => (null, null, $"--{at} leads to itself."),
                var css => Written(at, css),
            };
        }

        for (var i = passed.Count - 1; i >= 0; i--)
        {
            var value = end.Type is null ? null : "{" + Naming.Key(Reference(light[passed[i]])!) + "}";
            meanings[passed[i]] = (end.Type, value, end.Reason);
        }

        return meanings[name];
    }

    private static (VariableType? Type, string? Value, string? Reason) Written(string name, string css)
    {
        if (CssColour.Parse(css) is { } colour)
        {
            return (VariableType.Colour, colour.ToString(), null);
        }

        if (CssLength.Pixels(css) is { } pixels && css != "0")
        {
            return (VariableType.Size, pixels, null);
        }

        if (double.TryParse(css, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number))
        {
            return (
                number is >= 100 and <= 1000 && name.Contains("weight", StringComparison.OrdinalIgnoreCase)
                    ? VariableType.Weight
                    : VariableType.Number,
                number.ToString(CultureInfo.InvariantCulture),
                null
            );
        }

        var (kind, text) = css switch
        {
            _ when IsOneString(css) => (VariableType.Text, Unquoted(css)),
            ['u', 'r', 'l', '(', .., ')'] => (VariableType.Link, Unquoted(css[4..^1].Trim())),
            _ => (VariableType.Font, Stack(css)),
        };
        return text is not null && HouseStyles.Literal.Fault(kind, text) is null
            ? (kind, text, null)
            : (null, null, $"\"{css}\" is neither a colour, a length, a number, a font stack, a text nor an address that email can use.");
    }

    private static string? Reference(string css) =>
        css.StartsWith("var(--", StringComparison.Ordinal) && css.EndsWith(')') ? css[6..^1].Split(',')[0].Trim() : null;

    // One string from end to end; a font stack has several, or words outside.
    private static bool IsOneString(string css) =>
        css.Length > 1
        && css[0] is '"' or '\''
        && css[^1] == css[0]
        && !css[1..^1].Replace("\\" + css[0], "", StringComparison.Ordinal).Contains(css[0], StringComparison.Ordinal);

    private static string Unquoted(string css) =>
        css.Trim('"', '\'').Replace("\\\"", "\"", StringComparison.Ordinal).Replace("\\\\", "\\", StringComparison.Ordinal);

    // Families that only some systems have a name for are dropped; the generic family at the end stays.
    private static string? Stack(string css)
    {
        var families = css.Split(',', StringSplitOptions.TrimEntries)
            .Select(f => f.Trim('"', '\''))
            .Where(f => f.Length > 0 && f is not ("system-ui" or "ui-serif" or "ui-sans-serif" or "-apple-system" or "BlinkMacSystemFont"))
            .ToList();
        return families.Count > 0 && families[^1] is "serif" or "sans-serif" or "monospace" ? DesignTokens.Stack(families) : null;
    }

    private void Dress(ICssStyleRule rule)
    {
        foreach (var selector in Selectors(rule))
        {
            foreach (var way in CssDressing.WaysFor(selector))
            {
                var css = way.Css.Select(p => (Name: p, Value: rule.Style.GetPropertyValue(p))).FirstOrDefault(p => p.Value.Length > 0);
                if (css.Value is null || styles.ContainsKey((way.Style, way.Property)))
                {
                    continue;
                }

                var place = $"{selector}, {css.Name}";
                if (Value(GlobalStyles.Find(way.Style, way.Property)!, css.Name, css.Value) is { } value)
                {
                    styles[(way.Style, way.Property)] = new FoundStyle(place, way.Style, way.Property, value);
                }
                else if (!left.Any(l => l.Place == place))
                {
                    left.Add(new LeftOut(place, $"\"{css.Value}\" is not what email can use there."));
                }
            }
        }
    }

    private string? Value(StyleProperty property, string cssName, string css)
    {
        // Of two, the first is above and below, the second at the sides.
        var sides = css.Split(' ');
        var part = cssName switch
        {
            "padding" => sides[property.Name == "paddingBlock" ? 0 : Math.Min(1, sides.Length - 1)],
            _ => css,
        };
        if (Reference(part) is { } to)
        {
            return taken.TryGetValue(to, out var variable) && BrandVariable.Fits(variable.Type, property.Type)
                ? "{" + variable.Key + "}"
                : null;
        }

        if (!property.Choices.IsEmpty)
        {
            return CssDressing.Choice(property, part);
        }

        return property.Type switch
        {
            VariableType.Colour => CssColour.Parse(part)?.ToString(),
            VariableType.Size => CssLength.Pixels(part),
            VariableType.Weight => part switch
            {
                "bold" => "700",
                "normal" => "400",
                _ => int.TryParse(part, NumberStyles.None, CultureInfo.InvariantCulture, out _) ? part : null,
            },
            VariableType.Font => Stack(part),
            // A line height in a unit would not follow another size.
            VariableType.Number => Number(part),
            _ => null,
        };
    }

    private static string? Number(string css)
    {
        if (double.TryParse(css, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out _))
        {
            return css;
        }

        return
            css.EndsWith('%') && double.TryParse(css[..^1], NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var percent)
            ? (percent / 100).ToString(CultureInfo.InvariantCulture)
            : null;
    }

    // Where no rule of the page says what a property dresses, its name may.
    private void DressByName()
    {
        foreach (var (name, variable) in taken)
        {
            foreach (var (style, property) in CssDressing.ByName(variable.Key, variable.Type))
            {
                styles.TryAdd((style, property), new FoundStyle($"by the name of --{name}", style, property, "{" + variable.Key + "}"));
            }
        }
    }
}
