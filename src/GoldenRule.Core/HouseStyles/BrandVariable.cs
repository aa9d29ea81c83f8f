using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.HouseStyles;

public enum VariableType
{
    Colour,

    /// <summary>CSS pixels.</summary>
    Size,

    /// <summary>Without a unit, as line heights are.</summary>
    Number,

    /// <summary>Font weight, 1 to 1000 (CSS Fonts 4, 2.2); 400 is regular, 700 bold.</summary>
    Weight,

    /// <summary>A font stack that ends in a generic family.</summary>
    Font,
    Text,
    Link,

    /// <summary>A picture of the library by its SHA-256; empty: none yet.</summary>
    Picture,
}

/// <summary>A named value, set in one place and used anywhere as {key}.</summary>
public sealed record BrandVariable
{
    /// <summary>What references write: lower-case letters, digits and hyphens, a letter first.</summary>
    public required string Key { get; init; }

    public required string Label { get; init; }

    public required VariableType Type { get; init; }

    /// <summary>A literal, or "{key}" of another variable of the same type.</summary>
    public required string Value { get; init; }

    /// <summary>For colours: what stands instead where the reader's scheme is dark. Null: the same.</summary>
    public string? Dark { get; init; }

    /// <summary>What it is shown under. Empty: with the others of its type.</summary>
    public string Group { get; init; } = "";

    public string Description { get; init; } = "";

    /// <summary>Keys it had before, and keys of variables it took the place of. They still lead here, so that nothing breaks.</summary>
    public ImmutableArray<string> Formerly { get; init; } = [];

    // An immutable array compares by identity; two variables that say the same are the same.
    public bool Equals(BrandVariable? other) =>
        other is not null
        && Key == other.Key
        && Label == other.Label
        && Type == other.Type
        && Value == other.Value
        && Dark == other.Dark
        && Group == other.Group
        && Description == other.Description
        && Formerly.SequenceEqual(other.Formerly);

    public override int GetHashCode() => HashCode.Combine(Key, Label, Type, Value, Dark);

    /// <summary>The key a value refers to. Null: it is a literal.</summary>
    public static string? Reference(string value) => value.Length > 2 && value[0] == '{' && value[^1] == '}' ? value[1..^1] : null;

    /// <summary>Whether a value of one type can stand where another is asked for: plain numbers may be sizes or weights.</summary>
    public static bool Fits(VariableType value, VariableType place) =>
        value == place || (value == VariableType.Number && place is VariableType.Size or VariableType.Weight);

    /// <exception cref="StructureException">It is no key.</exception>
    public static void CheckKey(string key)
    {
        if (TechnicalName.Fault(key) is { } fault)
        {
            throw new StructureException(fault, $"variable {key}");
        }
    }
}
