using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Documents;

/// <summary>Copies that stand on their own: the same content under new ids where ids must not meet.</summary>
public static class Renewed
{
    /// <summary>A row with new ids for itself and all its pieces.</summary>
    public static SavedRow WithNewIds(SavedRow row, Func<string> newId) =>
        row with
        {
            Row = row.Row with
            {
                Id = newId(),
                Columns =
                [
                    .. row.Row.Columns.Select(c => c with { Id = newId(), Blocks = [.. c.Blocks.Select(b => b with { Id = newId() })] }),
                ],
            },
        };

    /// <summary>
    /// The template that an email would have been started from, had there been one: its rows in order, what stands in its
    /// zones as their first contents, and what it says as the wording to begin with.
    /// </summary>
    public static Template FromEmail(Email email, Template template, string name) =>
        template with
        {
            Name = name,
            Description = "",
            Tags = [],
            Details = email.Details with { SendDay = "" },
            Order =
            [
                .. template.Order.Select(item =>
                    item switch
                    {
                        PlacedRow placed => Filled(
                            placed,
                            email.Fills.GetValueOrDefault(placed.Id, ImmutableSortedDictionary<string, PieceFill>.Empty)
                        ),
                        Zone zone => zone with
                        {
                            Default = email.Zones.GetValueOrDefault(zone.Id, []),
                            Most = Math.Max(zone.Most, email.Zones.GetValueOrDefault(zone.Id, []).Length),
                        },
                        _ => item,
                    }
                ),
            ],
        };

    private static PlacedRow Filled(PlacedRow placed, ImmutableSortedDictionary<string, PieceFill> fills)
    {
        if (placed.Own is { } own)
        {
            return placed with
            {
                Own = Detached.Filled(new OrderedRow(placed, own, null, placed.Fills.Clear(), fills)) with { Name = own.Name },
            };
        }

        var merged = placed.Fills;
        foreach (var (piece, fill) in fills)
        {
            var beneath = merged.GetValueOrDefault(piece, new PieceFill());
            merged = merged.SetItem(
                piece,
                new PieceFill
                {
                    Content = beneath.Content.SetItems(fill.Content),
                    Look = beneath.Look.SetItems(fill.Look),
                    Shown = fill.Shown ?? beneath.Shown,
                    Condition = fill.Condition ?? beneath.Condition,
                }
            );
        }

        return placed with
        {
            Fills = merged,
        };
    }
}
