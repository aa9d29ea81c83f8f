using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Resolving;

/// <summary>Lays the layers on one another, the nearest that speaks winning: saved row, template, email.</summary>
public static class Resolver
{
    /// <param name="previous">The result before the last edit: rows that did not change are taken over from it.</param>
    public static ResolvedEmail Resolve(Email email, RunningOrder order, StyleLayers style, PictureShelf pictures, ResolvedEmail? previous = null)
    {
        style = style.ForTemplate(order.Template.Name, order.Template.Narrowed);
        var kept = new FormerRows<ResolvedRow>(previous is not null && ReferenceEquals(previous.Style, style) ? previous.Rows : default, r => r.Id);
        var rows = ImmutableArray.CreateBuilder<ResolvedRow>(order.Rows.Length);
        for (var i = 0; i < order.Rows.Length; i++)
        {
            var row = order.Rows[i];
            rows.Add(kept.Find(i, row.Id) is { } former && former.Source.IsSameAs(row) ? former : Resolve(row, style));
        }

        return new ResolvedEmail(email, order.Template, style, pictures, rows.ToImmutable());
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
            own.Background is null ? "" : Picture(own.Background, style, $"{row.Id}/background"),
            shown,
            [
                .. own.Columns.Select(column => new ResolvedColumn(
                    column.Parts,
                    [.. column.Blocks.Select(block => Resolve(row, block, style))])),
            ]);
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

        foreach (var (field, value) in content)
        {
            var filled = FillIn(value, style, $"{row.Id}/{block.Id}/{field}");
            if (!ReferenceEquals(filled, value))
            {
                content = content.SetItem(field, filled);
            }
        }

        return new ResolvedBlock(block, content, look, shown);
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

    private static string Picture(string picture, StyleLayers style, string place) =>
        BrandVariable.Reference(picture) is { } key ? style.Variable(key, place, VariableType.Picture) : picture;

    private static FieldValue FillIn(FieldValue value, StyleLayers style, string place) => value switch
    {
        FieldValue.Target { Href: var href } when BrandVariable.Reference(href) is { } key => new FieldValue.Target(style.Variable(key, place, VariableType.Link)),
        FieldValue.Shown { Picture: var picture } when BrandVariable.Reference(picture) is not null => new FieldValue.Shown(Picture(picture, style, place)),
        FieldValue.Entries entries => FillIn(entries, style, place),
        FieldValue.Prose prose when prose.Text.Paragraphs.Any(p => p.Runs.Any(Refers)) => new FieldValue.Prose(FillIn(prose.Text, style, place)),
        FieldValue.LinkList list when list.Links.Any(l => BrandVariable.Reference(l.Href) is not null) => new FieldValue.LinkList(
            [.. list.Links.Select(l => l with { Href = FillIn(l.Href, style, place) })]),
        _ => value,
    };

    // Items without references stay the same objects, and so does the list.
    private static FieldValue.Entries FillIn(FieldValue.Entries entries, StyleLayers style, string place)
    {
        var items = entries.Items;
        for (var i = 0; i < items.Length; i++)
        {
            foreach (var (field, value) in items[i])
            {
                var filled = FillIn(value, style, $"{place}/{i + 1}/{field}");
                if (!ReferenceEquals(filled, value))
                {
                    items = items.SetItem(i, items[i].SetItem(field, filled));
                }
            }
        }

        return items == entries.Items ? entries : new FieldValue.Entries(items);
    }

    private static RichText FillIn(RichText text, StyleLayers style, string place) => text with
    {
        Paragraphs =
        [
            .. text.Paragraphs.Select(p => p with
            {
                Runs =
                [
                    .. p.Runs.Select(r => r with
                    {
                        // The key stays beside the words, so that checks know an address from any other text.
                        Text = r.Variable is null ? r.Text : style.Variable(r.Variable, place),
                        Href = r.Href is null ? null : FillIn(r.Href, style, place),
                    }),
                ],
            }),
        ],
    };

    private static bool Refers(Run run) => run.Variable is not null || (run.Href is not null && BrandVariable.Reference(run.Href) is not null);

    private static string FillIn(string href, StyleLayers style, string place) =>
        BrandVariable.Reference(href) is { } key ? style.Variable(key, place) : href;
}
