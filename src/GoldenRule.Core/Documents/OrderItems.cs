using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace GoldenRule.Core.Documents;

/// <summary>What was changed at one piece of a placed row, by field and by look property. Nothing else is stored.</summary>
public sealed record PieceFill
{
    public ImmutableSortedDictionary<string, FieldValue> Content { get; init; } = ImmutableSortedDictionary<string, FieldValue>.Empty;

    public ImmutableSortedDictionary<string, string> Look { get; init; } = ImmutableSortedDictionary<string, string>.Empty;

    /// <summary>Null: as the layer beneath says.</summary>
    public Visibility? Shown { get; init; }

    /// <summary>Which readers see it. Null: as the layer beneath says.</summary>
    public Condition? Condition { get; init; }

    [JsonIgnore]
    public bool IsEmpty => Content.IsEmpty && Look.IsEmpty && Shown is null && Condition is null;
}

/// <summary>What a template adds to the rules of one piece of a saved row that it places.</summary>
public sealed record PieceRules
{
    public static PieceRules None { get; } = new();

    /// <summary>They can only tighten the row's own.</summary>
    public Locks Locks { get; init; } = Locks.Unset;

    /// <summary>Per field; they can only tighten the row's own.</summary>
    public ImmutableSortedDictionary<string, Limit> Limits { get; init; } = ImmutableSortedDictionary<string, Limit>.Empty;

    /// <summary>Per look property; a part of what the row offers.</summary>
    public ImmutableSortedDictionary<string, ImmutableArray<string>> Offers { get; init; } =
        ImmutableSortedDictionary<string, ImmutableArray<string>>.Empty;

    /// <summary>In place of the row's own; null: that holds.</summary>
    public string? Instruction { get; init; }

    public bool? Placeholder { get; init; }

    [JsonIgnore]
    public bool IsEmpty => Locks == Locks.Unset && Limits.IsEmpty && Offers.IsEmpty && Instruction is null && Placeholder is null;
}

/// <summary>
/// A row where it stands in a template or an email: a saved row by reference with what was filled in, or a row of its
/// own that stands nowhere else.
/// </summary>
public sealed record PlacedRow : OrderItem
{
    /// <summary>The saved row; for an own row, the one it was detached from, if any.</summary>
    public Guid? Master { get; init; }

    /// <summary>Number of the saved row's release.</summary>
    public int? Release { get; init; }

    /// <summary>All of the row, where it is an own row. Null: it is there by reference.</summary>
    public SavedRow? Own { get; init; }

    /// <summary>By piece id; of a row by reference.</summary>
    public ImmutableSortedDictionary<string, PieceFill> Fills { get; init; } = ImmutableSortedDictionary<string, PieceFill>.Empty;

    /// <summary>Rules added to the row's own, by piece id; of a row by reference.</summary>
    public ImmutableSortedDictionary<string, PieceRules> Rules { get; init; } = ImmutableSortedDictionary<string, PieceRules>.Empty;
}

/// <summary>One place in a template's running order.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(PlacedRow), "placed")]
[JsonDerivedType(typeof(Zone), "zone")]
public abstract record OrderItem : Piece;

/// <summary>A place where authors may put rows.</summary>
public sealed record Zone : OrderItem
{
    /// <summary>Keys of the row kinds taken; empty together with <see cref="Rows"/>: any.</summary>
    public ImmutableArray<string> Accepts { get; init; } = [];

    /// <summary>Saved rows taken by name, whatever their kind.</summary>
    public ImmutableArray<Guid> Rows { get; init; } = [];

    public int Least { get; init; }

    public int Most { get; init; } = 12;

    public string? Instruction { get; init; }

    /// <summary>Whether authors may build rows of their own here, and detach saved ones.</summary>
    public bool OwnRows { get; init; }

    /// <summary>What a new email starts with here.</summary>
    public ImmutableArray<PlacedRow> Default { get; init; } = [];

    /// <param name="kind">Key of the row's kind.</param>
    public bool Takes(Guid? master, string kind, RowKindPlan kinds) =>
        (Accepts.IsEmpty && Rows.IsEmpty) || Accepts.Any(a => kinds.Merged.Same(a, kind)) || (master is { } id && Rows.Contains(id));
}
