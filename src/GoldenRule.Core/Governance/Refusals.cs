using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Governance;

/// <summary>How decisions are put together, and what refused pieces are called.</summary>
internal static class Refusals
{
    public static Decision.Refused Refuse(string rule, string? piece, string reason) => new(rule, piece, reason);

    /// <summary>Of the document as a whole.</summary>
    public static Decision Refuse(string rule, string reason) => Refuse(rule, null, reason);

    /// <summary>"1 blocker", "3 blockers".</summary>
    public static string Count(int count, string one) => count == 1 ? $"1 {one}" : $"{count} {one}s";

    public static Decision Ask(Person person, Lock @lock, string rule, string? piece, string what) =>
        EffectiveLocks.Admits(@lock, person) ? Decision.Yes : Refuse(rule, piece, $"{what}. {EffectiveLocks.WhoMay(@lock)}");

    /// <summary>The first refusal, or yes.</summary>
    public static Decision First(params ReadOnlySpan<Decision> decisions)
    {
        foreach (var decision in decisions)
        {
            if (decision is Decision.Refused)
            {
                return decision;
            }
        }

        return Decision.Yes;
    }

    public static Decision OnRow(OpenDocument.OfRows document, string row, Func<OrderedRow, Decision> decide) =>
        document.Order.Find(row) is { } found
            ? decide(found)
            : Refuse(
                Rules.Unknown,
                row,
                document is OpenDocument.OfEmail
                    ? "That row is not in the email; it may have been removed."
                    : "That row is not here; it may have been removed."
            );

    public static string Name(Zone zone) => zone.Name ?? zone.Id;

    public static string Name(Block block) => block.Name ?? block.Kind;

    public static string Path(OrderedRow row, string piece) => row.Id + "/" + piece;
}
