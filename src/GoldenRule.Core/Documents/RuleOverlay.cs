using System.Collections.Immutable;

namespace GoldenRule.Core.Documents;

/// <summary>Lays the rules that a template adds on a saved row's own. Locks are met elsewhere, with the person who asks.</summary>
internal static class RuleOverlay
{
    public static Row Row(Row row, ImmutableSortedDictionary<string, PieceRules> rules) =>
        row with
        {
            Offers = Offers(row.Offers, rules.GetValueOrDefault(row.Id, PieceRules.None).Offers),
            Columns =
            [
                .. row.Columns.Select(c =>
                    c with
                    {
                        Blocks = [.. c.Blocks.Select(b => rules.TryGetValue(b.Id, out var added) ? Block(b, added) : b)],
                    }
                ),
            ],
        };

    private static Block Block(Block block, PieceRules added)
    {
        var limits = block.Limits;
        foreach (var (field, limit) in added.Limits)
        {
            limits = limits.SetItem(field, limits.TryGetValue(field, out var own) ? Limit.Tightest(own, limit) : limit);
        }

        return block with
        {
            Limits = limits,
            Offers = Offers(block.Offers, added.Offers),
            Instruction = added.Instruction ?? block.Instruction,
            Placeholder = added.Placeholder ?? block.Placeholder,
        };
    }

    private static ImmutableSortedDictionary<string, ImmutableArray<string>> Offers(
        ImmutableSortedDictionary<string, ImmutableArray<string>> own,
        ImmutableSortedDictionary<string, ImmutableArray<string>> added
    ) =>
        own.SetItems(
            added
                .Where(a => own.ContainsKey(a.Key))
                .Select(a => KeyValuePair.Create(a.Key, own[a.Key].Intersect(a.Value).ToImmutableArray()))
        );
}
