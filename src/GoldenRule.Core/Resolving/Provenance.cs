using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Resolving;

/// <summary>Answers "why does it say this?": each layer that spoke, outermost first. The last one holds.</summary>
public static class Provenance
{
    public static ImmutableArray<LayerValue> OfField(OrderedRow row, string template, Block block, string field) =>
        Chain(row, template, block.Content.TryGetValue(field, out var standing) ? Show(standing) : null, layer =>
            layer.GetValueOrDefault(block.Id)?.Content.GetValueOrDefault(field) is { } value ? Show(value) : null
        );

    public static ImmutableArray<LayerValue> OfLook(OrderedRow row, string template, Block block, string property) =>
        Chain(row, template, block.Look.GetValueOrDefault(property), layer =>
            layer.GetValueOrDefault(block.Id)?.Look.GetValueOrDefault(property)
        );

    private static ImmutableArray<LayerValue> Chain(
        OrderedRow row,
        string template,
        string? standing,
        Func<ImmutableSortedDictionary<string, PieceFill>, string?> ask
    )
    {
        var said = ImmutableArray.CreateBuilder<LayerValue>();
        Add(said, row.IsOwn ? row.Name : $"{row.Master.Name}, release {row.Placed.Release}", standing);
        Add(said, template, ask(row.TemplateFills));
        Add(said, "This email", ask(row.Fills));
        return said.ToImmutable();
    }

    private static void Add(ImmutableArray<LayerValue>.Builder said, string layer, string? value)
    {
        if (value is not null)
        {
            said.Add(new LayerValue(layer, value));
        }
    }

    private static string Show(FieldValue value) =>
        value switch
        {
            FieldValue.Words words => words.Text,
            FieldValue.Prose prose => prose.Text.PlainText,
            FieldValue.Link target => target.Href,
            FieldValue.Image shown => shown.Picture,
            FieldValue.Flag flag => flag.On ? "yes" : "no",
            FieldValue.Cells cells => string.Join("; ", cells.Rows.Select(r => string.Join(", ", r))),
            FieldValue.Entries entries => string.Join(
                "; ",
                entries.Items.Select(i => string.Join(", ", i.Values.Select(Show).Where(v => v.Length > 0)))
            ),
            FieldValue.Code code => code.Html,
            FieldValue.Moment moment => moment.End.Length > 0 ? $"{moment.Start} to {moment.End}" : moment.Start,
            FieldValue.LinkList list => string.Join(", ", list.Links.Select(l => l.Name)),
            _ => throw new InvalidOperationException("Unknown field value."),
        };
}
