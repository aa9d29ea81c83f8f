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
            own.Background is null ? "" : Picture(own.Background, style, new Where(row.Id, null, "background")),
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

        var filled = ImmutableArray.CreateBuilder<KeyValuePair<string, FieldValue>>(content.Count);
        foreach (var (field, value) in content)
        {
            filled.Add(new(field, FillIn(value, style, new Where(row.Id, block.Id, field))));
        }

        return new ResolvedBlock(block, new(filled.MoveToImmutable()), new([.. look]), shown);
    }

    // Where a value stands, put into words only if something is wrong there.
    private readonly record struct Where(string Row, string? Block, string Field)
    {
        public override string ToString() => Block is null ? $"{Row}/{Field}" : $"{Row}/{Block}/{Field}";
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

    private static string Picture(string picture, StyleLayers style, Where place) =>
        BrandVariable.Reference(picture) is { } key ? style.Variable(key, place.ToString(), VariableType.Picture) : picture;

    private static FieldValue FillIn(FieldValue value, StyleLayers style, Where place) =>
        value switch
        {
            FieldValue.Link { Href: var href } when BrandVariable.Reference(href) is { } key => new FieldValue.Link(
                style.Variable(key, place.ToString(), VariableType.Link)
            ),
            FieldValue.Image { Picture: var picture } when BrandVariable.Reference(picture) is not null => new FieldValue.Image(
                Picture(picture, style, place)
            ),
            FieldValue.Entries entries => FillIn(entries, style, place),
            FieldValue.Prose prose when prose.Text.Paragraphs.Any(p => p.Runs.Any(Refers)) => new FieldValue.Prose(
                FillIn(prose.Text, style, place)
            ),
            FieldValue.LinkList list when list.Links.Any(l => BrandVariable.Reference(l.Href) is not null) => new FieldValue.LinkList([
                .. list.Links.Select(l => l with { Href = FillIn(l.Href, style, place) }),
            ]),
            _ => value,
        };

    // Items without references stay the same objects, and so does the list.
    private static FieldValue.Entries FillIn(FieldValue.Entries entries, StyleLayers style, Where place)
    {
        var items = entries.Items;
        for (var i = 0; i < items.Length; i++)
        {
            foreach (var (field, value) in items[i])
            {
                var filled = FillIn(value, style, place with { Field = $"{place.Field}/{i + 1}/{field}" });
                if (!ReferenceEquals(filled, value))
                {
                    items = items.SetItem(i, items[i].SetItem(field, filled));
                }
            }
        }

        return items == entries.Items ? entries : new FieldValue.Entries(items);
    }

    private static RichText FillIn(RichText text, StyleLayers style, Where place) =>
        text with
        {
            Paragraphs =
            [
                .. text.Paragraphs.Select(p =>
                    p with
                    {
                        Runs =
                        [
                            .. p.Runs.Select(r =>
                                r with
                                {
                                    // The key stays beside the words, so that checks know an address from any other text.
                                    Text = r.Variable is null ? r.Text : style.Variable(r.Variable, place.ToString()),
                                    Href = r.Href is null ? null : FillIn(r.Href, style, place),
                                }
                            ),
                        ],
                    }
                ),
            ],
        };

    private static bool Refers(Run run) =>
        run.Variable is not null || (run.Href is not null && BrandVariable.Reference(run.Href) is not null);

    private static string FillIn(string href, StyleLayers style, Where place) =>
        BrandVariable.Reference(href) is { } key ? style.Variable(key, place.ToString()) : href;
}
