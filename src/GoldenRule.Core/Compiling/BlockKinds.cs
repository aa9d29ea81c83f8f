using System.Collections.Frozen;
using System.Collections.Immutable;
using GoldenRule.Core.Compiling.Blocks;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Compiling;

/// <summary>Every block kind there is.</summary>
public static class BlockKinds
{
    public static ImmutableArray<WritableKind> All { get; } =
    [
        new HeadingBlock(),
        new TextBlock(),
        new PictureBlock(),
        new ButtonBlock(),
        new TableBlock(),
        new DividerBlock(),
        new SpacerBlock(),
        new SocialLinksBlock(),
        new LegalFooterBlock(),
    ];

    private static readonly FrozenDictionary<string, WritableKind> ByName = All.ToFrozenDictionary(k => k.Name, StringComparer.Ordinal);

    public static WritableKind Of(Block block) => ByName.GetValueOrDefault(block.Kind)
        ?? throw new StructureException($"There is no block kind \"{block.Kind}\".", block.Id);

    /// <summary>Gives every block all its fields and checks the row's structure.</summary>
    /// <exception cref="StructureException">Not 1 to 4 columns, an id used twice, an unknown kind or field.</exception>
    public static SavedRow Complete(SavedRow saved)
    {
        var row = saved.Row;
        if (row.Columns.Length is < 1 or > 4)
        {
            throw new StructureException($"A row has 1 to 4 columns; this one has {row.Columns.Length}.", row.Id);
        }

        if (row.Columns.FirstOrDefault(c => c.Parts is < 1 or > 12) is { } column)
        {
            throw new StructureException($"A column is 1 to 12 parts wide; this one says {column.Parts}.", column.Id);
        }

        var ids = new HashSet<string>(StringComparer.Ordinal);
        foreach (var id in row.Columns.Select(c => c.Id).Concat(row.Blocks.Select(b => b.Id)).Prepend(row.Id))
        {
            if (!ids.Add(id))
            {
                throw new StructureException($"The id \"{id}\" is used twice in this row.", id);
            }
        }

        return saved with
        {
            Row = row with
            {
                Columns = [.. row.Columns.Select(c => c with { Blocks = [.. c.Blocks.Select(b => Of(b).Complete(b))] })],
            },
        };
    }
}
