using System.Collections.Immutable;

namespace GoldenRule.Core.Documents;

/// <summary>What a template or a saved row says a brand variable comes to within it, in place of what the house style says.</summary>
/// <param name="Dark">For colours: what stands where the reader's scheme is dark; null: the same.</param>
public sealed record NarrowedValue(string Value, string? Dark = null);

/// <summary>A row of the library: a master that templates and emails place by reference.</summary>
public sealed record SavedRow : Document
{
    /// <summary>Key of its row kind.</summary>
    public required string RowKind { get; init; }

    public string Description { get; init; } = "";

    /// <summary>The lead's word to those who use the row.</summary>
    public string? Instruction { get; init; }

    /// <summary>Keys of the campaign types the row serves; empty: all.</summary>
    public ImmutableArray<string> CampaignTypes { get; init; } = [];

    /// <summary>Words to find it by.</summary>
    public ImmutableArray<string> Tags { get; init; } = [];

    /// <summary>The saved row that this is a variant of; null: it is none.</summary>
    public Guid? VariantOf { get; init; }

    /// <summary>What the variant varies, "on a tint" for example.</summary>
    public string Varies { get; init; } = "";

    public required Row Row { get; init; }

    /// <summary>Brand variables that come to something else here, by key.</summary>
    public ImmutableSortedDictionary<string, NarrowedValue> Narrowed { get; init; } =
        ImmutableSortedDictionary<string, NarrowedValue>.Empty;
}
