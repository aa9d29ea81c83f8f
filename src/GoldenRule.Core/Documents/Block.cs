using System.Collections.Immutable;

namespace GoldenRule.Core.Documents;

/// <summary>
/// What stands in a column. The shape is the same for every kind: fields with content, look properties with
/// choices. What a kind adds to that (its fields, defaults, how it is written) is one class, see <see cref="BlockKind"/>.
/// </summary>
public sealed record Block : Piece
{
    /// <summary>Name of its <see cref="BlockKind"/>: "heading", "text", "picture" …</summary>
    public required string Kind { get; init; }

    public ImmutableSortedDictionary<string, FieldValue> Content { get; init; } = ImmutableSortedDictionary<string, FieldValue>.Empty;

    public ImmutableSortedDictionary<string, string> Look { get; init; } = ImmutableSortedDictionary<string, string>.Empty;

    /// <summary>Per look property, what an author may choose among where look is open.</summary>
    public ImmutableSortedDictionary<string, ImmutableArray<string>> Offers { get; init; } = ImmutableSortedDictionary<string, ImmutableArray<string>>.Empty;

    /// <summary>Per field.</summary>
    public ImmutableSortedDictionary<string, Limit> Limits { get; init; } = ImmutableSortedDictionary<string, Limit>.Empty;

    /// <summary>The lead's word to whoever fills this in.</summary>
    public string? Instruction { get; init; }

    /// <summary>The default content only says what belongs here, and must not be sent.</summary>
    public bool Placeholder { get; init; }
}

/// <summary>A field of a block kind: what an author fills in.</summary>
/// <param name="Name">Key in <see cref="Block.Content"/>.</param>
/// <param name="Default">What it holds when a new block lands; gives the field's type.</param>
public sealed record Field(string Name, string Label, FieldValue Default);

/// <summary>A look property of a block kind: a choice among named styles, never a free value.</summary>
public sealed record LookProperty(string Name, string Label, ImmutableArray<string> Choices)
{
    /// <summary>The first choice is what a new block gets.</summary>
    public string Default => Choices[0];
}

/// <summary>
/// One sort of block: its name, fields and look. Derived classes add how it is read and written
/// (see Compiling/Blocks); the documents themselves only need this much.
/// </summary>
public abstract class BlockKind
{
    public abstract string Name { get; }

    public abstract string Label { get; }

    public abstract ImmutableArray<Field> Fields { get; }

    public abstract ImmutableArray<LookProperty> Look { get; }

    /// <summary>Fills in every field and look property that the block leaves out. Throws on ones the kind does not have.</summary>
    public Block Complete(Block block)
    {
        foreach (var name in block.Content.Keys.Where(name => Fields.All(f => f.Name != name)))
        {
            throw new StructureException($"A {Name} block has no field \"{name}\".", block.Id);
        }

        foreach (var (name, value) in block.Look)
        {
            var property = Look.FirstOrDefault(p => p.Name == name)
                ?? throw new StructureException($"A {Name} block has no look property \"{name}\".", block.Id);
            if (!property.Choices.Contains(value))
            {
                throw new StructureException($"\"{value}\" is not a choice for {name}; it takes {string.Join(", ", property.Choices)}.", block.Id);
            }
        }

        foreach (var field in Fields)
        {
            if (block.Content.TryGetValue(field.Name, out var value) && value.GetType() != field.Default.GetType())
            {
                throw new StructureException($"Field \"{field.Name}\" holds the wrong type of value.", block.Id);
            }
        }

        return block with
        {
            Content = block.Content.AddRange(Fields.Where(f => !block.Content.ContainsKey(f.Name)).Select(f => KeyValuePair.Create(f.Name, f.Default))),
            Look = block.Look.AddRange(Look.Where(p => !block.Look.ContainsKey(p.Name)).Select(p => KeyValuePair.Create(p.Name, p.Default))),
        };
    }
}

/// <summary>A document that cannot be: the message says what, <see cref="Piece"/> where.</summary>
public sealed class StructureException(string message, string? piece = null) : Exception(message)
{
    public string? Piece { get; } = piece;
}
