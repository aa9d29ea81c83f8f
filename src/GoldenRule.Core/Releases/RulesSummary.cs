using System.Collections.Immutable;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;

namespace GoldenRule.Core.Releases;

/// <summary>The rules of a whole template or saved row in plain words: what authors may do, and what is kept for whom.</summary>
public static class RulesSummary
{
    private static readonly Person Author = new(Guid.Empty, "", [Role.Author]);

    public static ImmutableArray<string> Write(Template template, ReleaseCatalog masters)
    {
        var rows = RunningOrder.From(template, masters).Rows;
        return
        [
            Writing(rows),
            .. template.Order.OfType<Zone>().Select(zone => Zone(zone, masters.RowKinds)),
            .. rows.SelectMany(Choosing),
            .. rows.SelectMany(LockedContent),
            .. Limits(rows),
        ];
    }

    public static ImmutableArray<string> Write(SavedRow row)
    {
        var rows = RunningOrder.From(row, Guid.Empty).Rows;
        return [Writing(rows), .. rows.SelectMany(Choosing), .. rows.SelectMany(LockedContent), .. Limits(rows)];
    }

    private static string Writing(ImmutableArray<OrderedRow> rows)
    {
        var open = rows.Where(r => r.Row.Blocks.Any(b => Writes(r, b))).ToList();
        var fields = open.Sum(r => r.Row.Blocks.Where(b => Writes(r, b)).Sum(b => BlockKinds.For(b).Fields.Length));
        return fields == 0 ? "Authors may write nothing." : $"Authors may write {Count(fields, "field")} in {Count(open.Count, "row")}.";
    }

    private static string Zone(Zone zone, RowKindPlan plan)
    {
        var name = zone.Name ?? zone.Id;
        if (!EffectiveLocks.Admits(EffectiveLocks.ForArrangement(zone), Author))
        {
            return $"{name}: {LockWords.Write(EffectiveLocks.ForArrangement(zone))} add and move rows.";
        }

        var kinds = zone switch
        {
            { Accepts.IsEmpty: false } => string.Join(" or ", zone.Accepts.Select(plan.Words)) + " ",
            { Rows.IsEmpty: false } => "chosen ",
            _ => "",
        };
        var many = zone.Least == zone.Most ? $"{zone.Most}" : $"{zone.Least} to {zone.Most}";
        return $"{name}: {many} {kinds}{(zone.Most == 1 ? "row" : "rows")}{(zone.OwnRows ? ", also of their own making" : "")}.";
    }

    private static IEnumerable<string> Choosing(OrderedRow row) =>
        from piece in row
            .Row.Blocks.Select(b => (b.Id, Name: b.Name ?? BlockKinds.For(b).Label, b.Offers, Look: BlockKinds.For(b).Look))
            .Prepend((row.Row.Id, Name: "the row", row.Row.Offers, Look: RowLook.All))
        where EffectiveLocks.Admits(EffectiveLocks.ForPiece(row, piece.Id, Aspect.Look), Author)
        from offer in piece.Offers
        where offer.Value.Length > 1
        select $"{row.Name}: a choice of {offer.Value.Length} for {piece.Name}, "
            + $"{piece.Look.First(p => p.Name == offer.Key).Label.ToLowerInvariant()}.";

    // Said once for a row where all of it is kept alike, else by piece.
    private static IEnumerable<string> LockedContent(OrderedRow row)
    {
        var blocks = row
            .Row.Blocks.Where(b => BlockKinds.For(b).Fields.Length > 0)
            .Select(b => (b, Lock: EffectiveLocks.ForPiece(row, b.Id, Aspect.Content)))
            .ToList();
        var kept = blocks.Where(b => !EffectiveLocks.Admits(b.Lock, Author)).ToList();
        if (
            kept.Count > 0
            && kept.Count == blocks.Count
            && kept.Select(k => LockWords.Write(k.Lock)).Distinct(StringComparer.Ordinal).Count() == 1
        )
        {
            return [$"{row.Name}: {LockWords.Write(kept[0].Lock)}."];
        }

        return kept.GroupBy(k => LockWords.Write(k.Lock), StringComparer.Ordinal)
            .Select(g => $"{row.Name}, {string.Join(", ", g.Select(k => k.b.Name ?? BlockKinds.For(k.b).Label))}: {g.Key}.");
    }

    private static IEnumerable<string> Limits(ImmutableArray<OrderedRow> rows)
    {
        var limits = rows.Sum(r => r.Row.Blocks.Sum(b => b.Limits.Count));
        return limits == 0 ? [] : [$"{Count(limits, "limit")} {(limits == 1 ? "is" : "are")} measured while they write."];
    }

    private static bool Writes(OrderedRow row, Block block) =>
        EffectiveLocks.Admits(EffectiveLocks.ForPiece(row, block.Id, Aspect.Content), Author);

    private static string Count(int count, string one) => $"{count} {(count == 1 ? one : one + "s")}";
}
