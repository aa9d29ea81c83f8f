using System.Collections.Immutable;

namespace GoldenRule.Core.Documents;

/// <summary>What a template or a saved row says a brand variable comes to within it, in place of what the house style says.</summary>
/// <param name="Dark">For colours: what stands where the reader's scheme is dark; null: the same.</param>
public sealed record NarrowedValue(string Value, string? Dark = null);

/// <summary>A row of the library: a master that templates and emails place by reference.</summary>
public sealed record SavedRow : Document
{
    public required RowKind RowKind { get; init; }

    public string Description { get; init; } = "";

    /// <summary>The lead's word to those who use the row.</summary>
    public string? Instruction { get; init; }

    /// <summary>Keys of the campaign types the row serves; empty: all.</summary>
    public ImmutableArray<string> CampaignTypes { get; init; } = [];

    public required Row Row { get; init; }

    /// <summary>Brand variables that come to something else here, by key.</summary>
    public ImmutableSortedDictionary<string, NarrowedValue> Narrowed { get; init; } = ImmutableSortedDictionary<string, NarrowedValue>.Empty;
}

/// <summary>What was changed at one piece of a placed row, by field and by look property. Nothing else is stored.</summary>
public sealed record PieceFill
{
    public ImmutableSortedDictionary<string, FieldValue> Content { get; init; } = ImmutableSortedDictionary<string, FieldValue>.Empty;

    public ImmutableSortedDictionary<string, string> Look { get; init; } = ImmutableSortedDictionary<string, string>.Empty;

    [System.Text.Json.Serialization.JsonIgnore]
    public bool IsEmpty => Content.IsEmpty && Look.IsEmpty;
}

/// <summary>A saved row placed in a template or a zone: a reference, and what was filled in.</summary>
public sealed record PlacedRow : OrderItem
{
    /// <summary>The saved row.</summary>
    public required Guid Master { get; init; }

    /// <summary>Number of the saved row's release.</summary>
    public required int Release { get; init; }

    /// <summary>By piece id.</summary>
    public ImmutableSortedDictionary<string, PieceFill> Fills { get; init; } = ImmutableSortedDictionary<string, PieceFill>.Empty;

    /// <summary>Locks added to the row's own, by piece id. They can only tighten.</summary>
    public ImmutableSortedDictionary<string, Locks> PieceLocks { get; init; } = ImmutableSortedDictionary<string, Locks>.Empty;
}

/// <summary>One place in a template's running order.</summary>
[System.Text.Json.Serialization.JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[System.Text.Json.Serialization.JsonDerivedType(typeof(PlacedRow), "placed")]
[System.Text.Json.Serialization.JsonDerivedType(typeof(Zone), "zone")]
public abstract record OrderItem : Piece;

/// <summary>A place where authors may put rows.</summary>
public sealed record Zone : OrderItem
{
    /// <summary>Row kinds taken; empty together with <see cref="Rows"/>: any.</summary>
    public ImmutableArray<RowKind> Accepts { get; init; } = [];

    /// <summary>Saved rows taken by name, whatever their kind.</summary>
    public ImmutableArray<Guid> Rows { get; init; } = [];

    public int Least { get; init; }

    public int Most { get; init; } = 12;

    public string? Instruction { get; init; }

    /// <summary>What a new email starts with here.</summary>
    public ImmutableArray<PlacedRow> Default { get; init; } = [];

    public bool Takes(Guid master, RowKind kind) =>
        (Accepts.IsEmpty && Rows.IsEmpty) || Accepts.Contains(kind) || Rows.Contains(master);
}

/// <summary>Ordered rows and zones for one campaign type.</summary>
public sealed record Template : Document
{
    /// <summary>Key of the campaign type.</summary>
    public required string CampaignType { get; init; }

    public string Description { get; init; } = "";

    /// <summary>The house style it is dressed in.</summary>
    public required Guid HouseStyle { get; init; }

    public ImmutableArray<OrderItem> Order { get; init; } = [];

    /// <summary>Brand variables that come to something else here, by key.</summary>
    public ImmutableSortedDictionary<string, NarrowedValue> Narrowed { get; init; } = ImmutableSortedDictionary<string, NarrowedValue>.Empty;

    /// <summary>What subject, preheader and sender a new email starts with.</summary>
    public EmailDetails Details { get; init; } = new();
}
