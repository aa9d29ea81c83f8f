using System.Collections.Immutable;
using System.Threading;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Resolving;

/// <summary>Lays the layers on one another, the nearest that speaks winning: saved row, template, email.</summary>
public static class Resolver
{
    /// <param name="previous">The result before the last edit: rows that did not change are taken over from it.</param>
    public static ResolvedEmail Resolve(
        Email email,
        RunningOrder order,
        StyleLayers style,
        PictureCatalog pictures,
        ResolvedEmail? previous = null,
        CancellationToken cancel = default
    )
    {
        style = style.ForTemplate(order.Template.Name, order.Template.Narrowed);
        return new ResolvedEmail(
            email,
            order,
            style,
            pictures,
            IncrementalMap.Rows(
                order.Rows,
                previous is not null && ReferenceEquals(previous.Style, style) ? (previous.Order.Rows, previous.Rows) : default,
                (row, _) => Resolve(row, style),
                cancel
            )
        );
    }

    /// <param name="email">The layers of the email, its template's among them.</param>
    public static ResolvedRow Resolve(OrderedRow row, StyleLayers email)
    {
        var style = email.ForRow(row.Master.Name, row.Master.Narrowed);
        var own = row.Row;
        var (look, shown) = (own.Look, own.Shown);
        foreach (var fill in Fills(row, own.Id))
        {
            look = look.SetItems(fill.Look);
            shown = fill.Shown ?? shown;
        }

        return new ResolvedRow(
            row,
            style,
            look,
            own.Background is null ? "" : new ReferenceMap(style, row.Id, null) { Field = "background" }.Picture(own.Background, default),
            shown,
            [
                .. own.Columns.Select(column => new ResolvedColumn(
                    column.Parts,
                    [.. column.Blocks.Select(block => Resolve(row, block, style))]
                )),
            ]
        );
    }

    private static ResolvedBlock Resolve(OrderedRow row, Block block, StyleLayers style)
    {
        var (content, look, shown) = (block.Content, block.Look, block.Shown);
        foreach (var fill in Fills(row, block.Id))
        {
            content = content.SetItems(fill.Content);
            look = look.SetItems(fill.Look);
            shown = fill.Shown ?? shown;
        }

        var references = new ReferenceMap(style, row.Id, block.Id);
        var filled = ImmutableArray.CreateBuilder<KeyValuePair<string, FieldValue>>(content.Count);
        foreach (var (field, value) in content)
        {
            references.Field = field;
            filled.Add(new(field, value.Map(references)));
        }

        return new ResolvedBlock(block, new(filled.MoveToImmutable()), new([.. look]), shown);
    }

    private static IEnumerable<PieceFill> Fills(OrderedRow row, string piece)
    {
        foreach (var layer in new[] { row.TemplateFills, row.Fills })
        {
            if (layer.TryGetValue(piece, out var fill))
            {
                yield return fill;
            }
        }
    }
}
