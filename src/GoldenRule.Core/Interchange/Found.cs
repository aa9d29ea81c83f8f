using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Interchange;

/// <summary>A value that a file names and that can be a brand variable.</summary>
/// <param name="Place">Where it stands in the file, as the file writes it.</param>
/// <param name="Called">What to call it where the variable says no label.</param>
public sealed record FoundVariable(string Place, string Called, BrandVariable Variable);

/// <summary>A value of a file that matches a property of a global style.</summary>
/// <param name="Place">Where it stands in the file: "h1, font-size".</param>
/// <param name="Value">"{key}" of a found variable, or a literal.</param>
public sealed record FoundStyle(string Place, string Style, string Property, string Value);

/// <summary>Something of a file that cannot be taken over, and why.</summary>
public sealed record LeftOut(string Place, string Reason);

/// <summary>What a file holds for a house style.</summary>
public sealed record Found(ImmutableArray<FoundVariable> Variables, ImmutableArray<FoundStyle> Styles, ImmutableArray<LeftOut> Left)
{
    /// <exception cref="StructureException">The file names more values than a house style holds.</exception>
    public static void CheckCount(int values)
    {
        if (values > Bounds.Variables)
        {
            throw new StructureException(
                $"The file names {values:N0} values; a house style holds at most {Bounds.Variables:N0} variables. Take a part of it."
            );
        }
    }
}

/// <summary>Keys and labels of variables from the names that other programs write.</summary>
public static class Naming
{
    /// <summary>"Acid Green / 500" to "acid-green-500". Empty: there is no letter in it.</summary>
    public static string Key(string name)
    {
        var key = new StringBuilder();
        var previous = ' ';
        foreach (var c in name.Select(Base))
        {
            // A capital inside a word starts another: "fontSize" is font-size.
            var starts = !char.IsAsciiLetterOrDigit(c) || (char.IsAsciiLetterUpper(c) && char.IsAsciiLetterLower(previous));
            if (starts && key.Length > 0 && key[^1] != '-')
            {
                key.Append('-');
            }

            if (char.IsAsciiLetterOrDigit(c))
            {
                key.Append(char.ToLowerInvariant(c));
            }

            previous = c;
        }

        var trimmed = key.ToString().Trim('-');
        trimmed = trimmed.Length > 0 && !char.IsAsciiLetter(trimmed[0]) ? "v-" + trimmed : trimmed;
        return trimmed.Length > 60 ? trimmed[..60].TrimEnd('-') : trimmed;
    }

    // Letters U+00C0 to U+017F without their marks, as Unicode decomposes them (the invariant culture does not).
    private const string Bases =
        "AAAAAAACEEEEIIIIDNOOOOO-OUUUUYTsaaaaaaaceeeeiiiidnooooo-ouuuuyty"
        + "AaAaAaCcCcCcCcDdDdEeEeEeEeEeGgGgGgGgHhHhIiIiIiIiIiIiJjKkkLlLlLlLlLlNnNnNnnNn"
        + "OoOoOoOoRrRrRrSsSsSsSsTtTtTtUuUuUuUuUuUuWwYyYZzZzZzs";

    private static char Base(char c) => c is >= '\u00c0' and <= '\u017f' ? Bases[c - '\u00c0'] : c;

    /// <summary>"engine-green" to "Engine green".</summary>
    public static string Label(string name)
    {
        var words = name.Replace('-', ' ').Replace('_', ' ').Trim();
        return words.Length == 0 ? name : char.ToUpperInvariant(words[0]) + words[1..];
    }
}
