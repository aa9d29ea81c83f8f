namespace GoldenRule.Core.Documents;

/// <summary>Which part of a field: the whole of it, an item, a table's cell, or one field of an item.</summary>
/// <param name="Item">From 1; 0: the field as a whole.</param>
/// <param name="Column">From 1; 0: not a table's cell.</param>
/// <param name="Name">The item's field. Null: the item as a whole.</param>
public readonly record struct FieldPart(int Item, int Column = 0, string? Name = null)
{
    /// <summary>"", "/2", "/2/1" for a cell, "/2/title" for an item's field: what follows the field's own name.</summary>
    public override string ToString() =>
        (Item, Column, Name) switch
        {
            (0, _, _) => "",
            (_, _, { } name) => $"/{Item}/{name}",
            (_, > 0, _) => $"/{Item}/{Column}",
            _ => $"/{Item}",
        };
}
