using System.Globalization;
using System.Text;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Interchange;

/// <summary>Brand variables as CSS custom properties (CSS Custom Properties 1) for the team that makes the website.</summary>
public static class CssProperties
{
    /// <param name="picturesAt">Address that picture files stand under, with its closing slash.</param>
    /// <param name="fileOf">File name of a picture by its id; null: it is not in the library.</param>
    public static string Write(StyleLayers layers, string picturesAt, Func<string, string?> fileOf)
    {
        var css = new StringBuilder();
        css.Append(
            CultureInfo.InvariantCulture,
            $"/* Brand variables of {layers.Own.Name.Replace("*/", "", StringComparison.Ordinal)} */\n:root {{\n"
        );
        string? group = null;
        foreach (var variable in layers.Variables)
        {
            if (variable.Group != group && variable.Group.Length > 0)
            {
                css.Append(CultureInfo.InvariantCulture, $"\n  /* {variable.Group.Replace("*/", "", StringComparison.Ordinal)} */\n");
            }

            group = variable.Group;
            css.Append(CultureInfo.InvariantCulture, $"  --{variable.Key}: {Value(variable, variable.Value, layers)};\n");
        }

        css.Append("}\n");
        var dark = layers.Variables.Where(v => v.Dark is not null).ToList();
        if (dark.Count > 0)
        {
            css.Append("\n@media (prefers-color-scheme: dark) {\n  :root {\n");
            dark.ForEach(v => css.Append(CultureInfo.InvariantCulture, $"    --{v.Key}: {Value(v, v.Dark!, layers)};\n"));
            css.Append("  }\n}\n");
        }

        return css.ToString();

        string Value(BrandVariable variable, string value, StyleLayers all) =>
            BrandVariable.Reference(value) is { } key
                ? Follow(variable, all.Find(key)!)
                : variable.Type switch
                {
                    VariableType.Size => value + "px",
                    VariableType.Text => Quoted(value),
                    VariableType.Link => $"url({Quoted(value)})",
                    VariableType.Picture => fileOf(value) is { } file ? $"url({Quoted(picturesAt + file)})" : "none",
                    _ => value,
                };
    }

    // A plain number that stands for a size gets its unit where it is followed.
    private static string Follow(BrandVariable variable, BrandVariable target) =>
        variable.Type == VariableType.Size && target.Type == VariableType.Number
            ? $"calc(var(--{target.Key}) * 1px)"
            : $"var(--{target.Key})";

    // CSS Syntax 3, 4.3.5: quotes, backslashes and line ends are escaped.
    private static string Quoted(string text)
    {
        var quoted = new StringBuilder("\"");
        foreach (var c in text)
        {
            _ = c switch
            {
                '"' or '\\' => quoted.Append('\\').Append(c),
                '\n' or '\r' or '\f' or '<' => quoted.Append(CultureInfo.InvariantCulture, $"\\{(int)c:x} "),
                _ => quoted.Append(c),
            };
        }

        return quoted.Append('"').ToString();
    }
}
