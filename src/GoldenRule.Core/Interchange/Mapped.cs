using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Interchange;

/// <summary>Goes over every reference in a document, to brand variables and to pictures, and puts others in their place.</summary>
/// <param name="variable">What a reference to a variable becomes; null: it stays.</param>
/// <param name="picture">What a picture's id becomes.</param>
public sealed class Mapped(Func<string, string?> variable, Func<string, string> picture)
{
    public Template Map(Template template)
    {
        foreach (var key in template.Narrowed.Keys)
        {
            _ = variable(key);
        }

        return template with
        {
            Order =
            [
                .. template.Order.Select(item =>
                    item switch
                    {
                        PlacedRow placed => Map(placed),
                        Zone zone => zone with { Default = [.. zone.Default.Select(Map)] },
                        _ => item,
                    }
                ),
            ],
        };
    }

    public SavedRow Map(SavedRow row)
    {
        foreach (var key in row.Narrowed.Keys)
        {
            _ = variable(key);
        }

        return row with
        {
            Row = row.Row with
            {
                Background = row.Row.Background is { } background ? Picture(background) : null,
                Columns =
                [
                    .. row.Row.Columns.Select(c => c with { Blocks = [.. c.Blocks.Select(b => b with { Content = Map(b.Content) })] }),
                ],
            },
        };
    }

    private PlacedRow Map(PlacedRow placed) =>
        placed with
        {
            Own = placed.Own is { } own ? Map(own) : null,
            Fills = placed.Fills.ToImmutableSortedDictionary(
                f => f.Key,
                f => f.Value with { Content = Map(f.Value.Content) },
                StringComparer.Ordinal
            ),
        };

    private ImmutableSortedDictionary<string, FieldValue> Map(ImmutableSortedDictionary<string, FieldValue> content) =>
        content.ToImmutableSortedDictionary(c => c.Key, c => Map(c.Value));

    private FieldValue Map(FieldValue value) =>
        value switch
        {
            FieldValue.Link target => new FieldValue.Link(Link(target.Href)),
            FieldValue.Image shown => new FieldValue.Image(Picture(shown.Picture)),
            FieldValue.LinkList list => new FieldValue.LinkList([.. list.Links.Select(l => l with { Href = Link(l.Href) })]),
            FieldValue.Prose prose => new FieldValue.Prose(
                new RichText { Paragraphs = [.. prose.Text.Paragraphs.Select(p => p with { Runs = [.. p.Runs.Select(Map)] })] }
            ),
            FieldValue.Entries entries => new FieldValue.Entries([.. entries.Items.Select(Map)]),
            _ => value,
        };

    private Run Map(Run run)
    {
        var settled = run.Variable is { } key ? variable(key) : null;
        return run with
        {
            Href = run.Href is null ? null : Link(run.Href),
            Text = settled ?? run.Text,
            Variable = settled is null ? run.Variable : null,
        };
    }

    private string Link(string href) => BrandVariable.Reference(href) is { } key ? variable(key) ?? href : href;

    private string Picture(string id) =>
        BrandVariable.Reference(id) switch
        {
            _ when id.Length == 0 => id,
            null => picture(id),
            var key => variable(key) is { } settled ? picture(settled) : id,
        };
}
