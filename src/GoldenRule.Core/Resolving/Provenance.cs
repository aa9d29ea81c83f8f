using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Resolving;

/// <summary>Answers "why does it say this?": each layer that spoke, outermost first. The last one holds.</summary>
public static class Provenance
{
    public static ImmutableArray<LayerValue> OfField(OrderedRow row, string template, Block block, string field) =>
        Chain(row, template, block.Content.TryGetValue(field, out var standing) ? standing.Describe() : null, layer =>
            layer.GetValueOrDefault(block.Id)?.Content.GetValueOrDefault(field) is { } value ? value.Describe() : null
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
}
