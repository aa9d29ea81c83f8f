namespace GoldenRule.Core.HouseStyles;

public enum VariableType
{
    Colour,

    /// <summary>CSS pixels, or a plain number for line heights.</summary>
    Number,

    /// <summary>A font stack that ends in a generic family.</summary>
    Font,
    Text,
    Link,
}

/// <summary>A named value, set in one place and used anywhere as {key}.</summary>
public sealed record BrandVariable
{
    /// <summary>What references write: letters, digits and hyphens. Does not change when the label does.</summary>
    public required string Key { get; init; }

    public required string Label { get; init; }

    public required VariableType Type { get; init; }

    /// <summary>A literal, or "{key}" of another variable of the same type.</summary>
    public required string Value { get; init; }

    /// <summary>For colours: what stands instead where the reader's scheme is dark. Null: the same.</summary>
    public string? Dark { get; init; }

    /// <summary>The key a value refers to. Null: it is a literal.</summary>
    public static string? Reference(string value) =>
        value.Length > 2 && value[0] == '{' && value[^1] == '}' ? value[1..^1] : null;
}
