using System.Globalization;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.HouseStyles;

/// <summary>What each type of variable may hold where it refers to no other.</summary>
public static class Literal
{
    /// <summary>What is wrong with a literal, as the end of a sentence. Null: nothing.</summary>
    public static string? Fault(VariableType type, string literal) =>
        type switch
        {
            VariableType.Colour when !Colour.TryParse(literal, out _) => "is not a colour; write it as #rrggbb",
            VariableType.Size when !IsNumber(literal, 0, 2000) => "is not a number of pixels from 0 to 2000",
            VariableType.Number when !IsNumber(literal, 0, 2000) => "is not a number from 0 to 2000",
            VariableType.Weight when !IsNumber(literal, 1, 1000) => "is not a font weight, a number from 1 to 1000",
            VariableType.Font when !IsFontStack(literal) =>
                "is not a font stack; write names parted by commas and end in serif, sans-serif or monospace",
            VariableType.Link when !Links.IsSafe(literal) => "is not an address; write one with https, mailto or tel",
            VariableType.Picture when literal.Length > 0 && !IsHash(literal) => "is not a picture of the library",
            VariableType.Text when literal.Length > 2000 => "is longer than 2,000 characters",
            _ => null,
        };

    /// <exception cref="StructureException">The literal cannot be; the message names the place.</exception>
    public static void Check(VariableType type, string literal, string place)
    {
        if (Fault(type, literal) is { } fault)
        {
            throw new StructureException($"\"{literal}\" ({place}) {fault}.", place);
        }
    }

    private static bool IsNumber(string text, double least, double most) =>
        double.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number)
        && number >= least
        && number <= most;

    // Letters, digits, spaces, hyphens, commas and quotes only: a font stack goes into CSS as it is.
    private static bool IsFontStack(string text)
    {
        var families = text.Split(',', StringSplitOptions.TrimEntries);
        return families.All(f => f.Length > 0 && f.All(c => char.IsAsciiLetterOrDigit(c) || c is ' ' or '-' or '\''))
            && text.Count(c => c == '\'') % 2 == 0
            && families[^1] is "serif" or "sans-serif" or "monospace";
    }

    private static bool IsHash(string text) => text.Length == 64 && text.All(char.IsAsciiHexDigitLower);
}
