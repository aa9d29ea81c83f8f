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
    public ImmutableSortedDictionary<string, ImmutableArray<string>> Offers { get; init; } =
        ImmutableSortedDictionary<string, ImmutableArray<string>>.Empty;

    /// <summary>Per field.</summary>
    public ImmutableSortedDictionary<string, Limit> Limits { get; init; } = ImmutableSortedDictionary<string, Limit>.Empty;

    /// <summary>The lead's word to whoever fills this in.</summary>
    public string? Instruction { get; init; }

    public Visibility Shown { get; init; }

    /// <summary>Which readers see it. Null: everyone.</summary>
    public Condition? Condition { get; init; }

    /// <summary>The default content only says what belongs here, and must not be sent.</summary>
    public bool Placeholder { get; init; }

    /// <summary>The kind that completed it, so that it need not be looked up by its name again.</summary>
    internal BlockKind? Completed { get; init; }
}

/// <summary>A field of a block kind: what an author fills in.</summary>
/// <param name="Name">Key in <see cref="Block.Content"/>.</param>
/// <param name="Default">What it holds when a new block lands; gives the field's type.</param>
public sealed record Field(string Name, string Label, FieldValue Default)
{
    /// <summary>A headline: where a document is laid out into rows, its headings go here.</summary>
    public bool IsHeadline { get; init; }

    /// <summary>It is read as the message itself: whoever leaves its default wording standing is told.</summary>
    public bool IsMessage { get; init; }

    /// <summary>For the words of a link: the field with its address.</summary>
    public string? LinkField { get; init; }

    /// <summary>What it says where the kind is shown as a specimen; null: its label.</summary>
    public string? Sample { get; init; }

    /// <summary>For <see cref="FieldValue.Entries"/>: the fields of one item.</summary>
    public ImmutableArray<Field> Entry { get; init; } = [];

    /// <summary>A new item of entries.</summary>
    public ImmutableSortedDictionary<string, FieldValue> NewEntry() => Entry.ToImmutableSortedDictionary(f => f.Name, f => f.Default);
}

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

    /// <summary>A new block of this kind, with every field and look property at its default.</summary>
    public Block New(string id) => Complete(new Block { Id = id, Kind = Name });

    /// <summary>A new block with wording that says what belongs where, marked as such.</summary>
    public Block Start(string id)
    {
        var block = New(id);
        return block with
        {
            Placeholder = Fields.Any(f => Wording(f) is not null),
            Content = block.Content.SetItems(Fields.Select(f => KeyValuePair.Create(f.Name, Wording(f) ?? f.Default))),
        };
    }

    // Alt text says what a picture shows, which nobody knows yet.
    private static FieldValue? Wording(Field field) =>
        field.Default switch
        {
            FieldValue.Words { Text: "" } when field.Name != "alt" => new FieldValue.Words(field.Label),
            FieldValue.Prose { Text.IsEmpty: true } => new FieldValue.Prose(RichText.FromParagraphs(field.Label)),
            FieldValue.Entries => new FieldValue.Entries([
                field.Entry.ToImmutableSortedDictionary(e => e.Name, e => Wording(e) ?? e.Default),
            ]),
            _ => null,
        };

    /// <summary>Fills in every field and look property that the block leaves out. Throws on ones the kind does not have.</summary>
    public Block Complete(Block block)
    {
        foreach (var name in block.Limits.Keys.Where(key => FieldAt(key) is null))
        {
            throw new StructureException($"A {Name} block has no field \"{name}\" to limit.", block.Id);
        }

        foreach (var (name, offered) in block.Offers)
        {
            foreach (var value in offered)
            {
                CheckLook(name, value, block.Id);
            }
        }

        foreach (var (name, value) in block.Look)
        {
            CheckLook(name, value, block.Id);
        }

        var content = Complete(block.Content, Fields, block.Id);
        var look = block.Look.AddRange(
            Look.Where(p => !block.Look.ContainsKey(p.Name)).Select(p => KeyValuePair.Create(p.Name, p.Default))
        );
        // What is complete stays the same object: by that it is known not to have changed.
        return ReferenceEquals(block.Completed, this) && ReferenceEquals(content, block.Content) && ReferenceEquals(look, block.Look)
            ? block
            : block with
            {
                Completed = this,
                Content = content,
                Look = look,
            };
    }

    /// <summary>Throws where a value is not one this field can hold; gives the value with every part filled in.</summary>
    public FieldValue Complete(string field, FieldValue value, string place) =>
        Complete(ImmutableSortedDictionary<string, FieldValue>.Empty.Add(field, value), Fields, place, false)[field];

    public void CheckLook(string name, string value, string place)
    {
        var property = Look.FirstOrDefault(p => p.Name == name)
            ?? throw new StructureException($"A {Name} block has no look property \"{name}\".", place);
        if (!property.Choices.Contains(value))
        {
            throw new StructureException($"\"{value}\" is not a choice for {name}; it takes {string.Join(", ", property.Choices)}.", place);
        }
    }

    /// <summary>A field by its name, or one of an item's by "field/name".</summary>
    public Field? FieldAt(string key)
    {
        var slash = key.IndexOf('/', StringComparison.Ordinal);
        var field = Fields.FirstOrDefault(f => f.Name == (slash < 0 ? key : key[..slash]));
        return slash < 0 ? field : field?.Entry.FirstOrDefault(f => f.Name == key[(slash + 1)..]);
    }

    private ImmutableSortedDictionary<string, FieldValue> Complete(
        ImmutableSortedDictionary<string, FieldValue> content,
        ImmutableArray<Field> fields,
        string place,
        bool whole = true
    )
    {
        foreach (var (name, value) in content)
        {
            var field = fields.FirstOrDefault(f => f.Name == name)
                ?? throw new StructureException($"A {Name} block has no field \"{name}\".", place);
            if (value.GetType() != field.Default.GetType())
            {
                throw new StructureException($"Field \"{name}\" holds the wrong type of value.", place);
            }

            if (
                value is FieldValue.Entries entries
                && Complete(entries.Items, field, $"{place}/{name}") is var items
                && items != entries.Items
            )
            {
                content = content.SetItem(name, new FieldValue.Entries(items));
            }
        }

        return whole
            ? content.AddRange(fields.Where(f => !content.ContainsKey(f.Name)).Select(f => KeyValuePair.Create(f.Name, f.Default)))
            : content;
    }

    private ImmutableArray<ImmutableSortedDictionary<string, FieldValue>> Complete(
        ImmutableArray<ImmutableSortedDictionary<string, FieldValue>> items,
        Field field,
        string place
    )
    {
        for (var i = 0; i < items.Length; i++)
        {
            var item = Complete(items[i], field.Entry, $"{place}/{i + 1}");
            items = ReferenceEquals(item, items[i]) ? items : items.SetItem(i, item);
        }

        return items;
    }
}

/// <summary>A document that cannot be: the message says what, <see cref="Piece"/> where.</summary>
public sealed class StructureException(string message, string? piece = null) : Exception(message)
{
    public string? Piece { get; } = piece;
}
