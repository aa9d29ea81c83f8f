using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Edits;

/// <summary>How a row in a zone becomes what it was, block by block.</summary>
internal static class RowDifference
{
    /// <param name="ordered">The row as it stands.</param>
    /// <returns>Null: no edits say it, and the row is put there anew.</returns>
    public static ImmutableArray<DifferencePart>? Between(PlacedRow standing, PlacedRow wanted, OrderedRow ordered)
    {
        if (
            !DocumentJson.Same(
                standing with
                {
                    Own = null,
                    Fills = standing.Fills.Clear(),
                    Rules = standing.Rules.Clear(),
                },
                wanted with
                {
                    Own = null,
                    Fills = wanted.Fills.Clear(),
                    Rules = wanted.Rules.Clear(),
                }
            )
        )
        {
            return null;
        }

        switch (standing.Own, wanted.Own)
        {
            case (null, null):
                return DocumentJson.Same(standing.Rules, wanted.Rules)
                    ? [.. Difference.Fills(standing.Id, standing.Fills, wanted.Fills).Select(e => DifferencePart.FromEdits(e))]
                    : null;
            case (null, { } own):
                // It was unlinked then: it is again, and the rest is said on its own blocks.
                var unlinked = Detached.FromRow(ordered);
                return
                    Own(standing with { Own = unlinked, Fills = standing.Fills.Clear(), Rules = standing.Rules.Clear() }, own)
                        is { } further
                    ? [new DifferencePart([new DetachRow(standing.Id, unlinked)], [.. further.SelectMany(p => p.Together)])]
                    : null;
            case ({ }, { } own):
                return Own(standing, own);
            default:
                return null;
        }
    }

    // Null where the edits would not give the very row.
    private static ImmutableArray<DifferencePart>? Own(PlacedRow standing, SavedRow wanted)
    {
        var parts = Parts(standing.Id, standing.Own!.Row, wanted.Row).ToImmutableArray();
        try
        {
            Document alone = new Email
            {
                Name = "",
                Template = Guid.Empty,
                TemplateRelease = 0,
                Zones = ImmutableSortedDictionary<string, ImmutableArray<PlacedRow>>.Empty.Add("", [standing]),
            };
            var result = (Email)parts.SelectMany(p => p.Together).Aggregate(alone, (d, e) => e.Apply(d));
            return DocumentJson.Same(result.Zones[""][0].Own, wanted) ? parts : null;
        }
        catch (StructureException)
        {
            return null;
        }
    }

    private static IEnumerable<DifferencePart> Parts(string id, Row standing, Row wanted)
    {
        if (!standing.Columns.Select(c => (c.Id, c.Parts)).SequenceEqual(wanted.Columns.Select(c => (c.Id, c.Parts))))
        {
            yield return DifferencePart.FromEdits(new SetLayout(id, [.. wanted.Columns.Select(c => new ColumnShare(c.Id, c.Parts))]));
        }

        var was = standing.Blocks.ToDictionary(b => b.Id, StringComparer.Ordinal);
        var staying = wanted
            .Blocks.Where(b => was.TryGetValue(b.Id, out var old) && SaysTheSameRules(old, b))
            .Select(b => b.Id)
            .ToHashSet(StringComparer.Ordinal);
        // What stands in a column that goes is by now at the end of the last one.
        var left = standing.Columns.Where(c => wanted.FindColumn(c.Id) is null).SelectMany(c => c.Blocks);
        var now = wanted
            .Columns.Select(
                (c, i) =>
                    (standing.FindColumn(c.Id)?.Blocks ?? []).Concat(i == wanted.Columns.Length - 1 ? left : []).Select(b => b.Id).ToList()
            )
            .ToList();
        foreach (var (column, here) in wanted.Columns.Zip(now))
        {
            for (var i = 0; i < column.Blocks.Length; i++)
            {
                var block = column.Blocks[i];
                var moves = i >= here.Count || here[i] != block.Id;
                if (moves || !staying.Contains(block.Id))
                {
                    now.ForEach(c => c.Remove(block.Id));
                    here.Insert(Math.Min(i, here.Count), block.Id);
                }

                if (!staying.Contains(block.Id))
                {
                    var insert = new InsertBlock(id, column.Id, here.IndexOf(block.Id), block);
                    yield return was.ContainsKey(block.Id)
                        ? DifferencePart.FromEdits(new RemoveBlock(id, block.Id), insert)
                        : DifferencePart.FromEdits(insert);
                    continue;
                }

                if (moves)
                {
                    yield return DifferencePart.FromEdits(new MoveBlock(id, block.Id, id, column.Id, here.IndexOf(block.Id)));
                }

                var old = was[block.Id];
                foreach (
                    var edit in Difference
                        .Content(id, block.Id, old.Content, block.Content)
                        .Concat(Difference.Look(id, block.Id, old.Look, block.Look))
                )
                {
                    yield return DifferencePart.FromEdits(edit);
                }

                if (old.Shown != block.Shown)
                {
                    yield return DifferencePart.FromEdits(new SetShown(id, block.Id, block.Shown));
                }

                if (!DocumentJson.Same(old.Condition, block.Condition))
                {
                    yield return DifferencePart.FromEdits(new SetCondition(id, block.Id, block.Condition));
                }
            }
        }

        var still = wanted.Blocks.Select(b => b.Id).ToHashSet(StringComparer.Ordinal);
        foreach (var gone in standing.Blocks.Where(b => !still.Contains(b.Id)))
        {
            yield return DifferencePart.FromEdits(new RemoveBlock(id, gone.Id));
        }

        // The row's own piece keeps its id wherever the row stands.
        foreach (var edit in Difference.Look(id, standing.Id, standing.Look, wanted.Look))
        {
            yield return DifferencePart.FromEdits(edit);
        }

        if (standing.Shown != wanted.Shown)
        {
            yield return DifferencePart.FromEdits(new SetShown(id, standing.Id, wanted.Shown));
        }

        if (!DocumentJson.Same(standing.Condition, wanted.Condition))
        {
            yield return DifferencePart.FromEdits(new SetCondition(id, standing.Id, wanted.Condition));
        }

        if (standing.Background != wanted.Background)
        {
            yield return DifferencePart.FromEdits(new SetBackground(id, wanted.Background));
        }
    }

    private static bool SaysTheSameRules(Block a, Block b) =>
        a.Kind == b.Kind
        && DocumentJson.Same(
            a with
            {
                Content = a.Content.Clear(),
                Look = a.Look.Clear(),
                Shown = default,
                Condition = null,
            },
            b with
            {
                Content = b.Content.Clear(),
                Look = b.Look.Clear(),
                Shown = default,
                Condition = null,
            }
        );
}
