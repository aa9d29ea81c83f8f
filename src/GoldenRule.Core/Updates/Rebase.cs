using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;

namespace GoldenRule.Core.Updates;

/// <summary>
/// What an author filled in, seated anew in other releases of what the email is made from. A fill whose piece is gone,
/// holds another type of value, is sealed now or now breaks a limit is set aside; every other stays where it is.
/// </summary>
public static class Rebase
{
    /// <param name="release">Of the template.</param>
    /// <param name="rows">Release by the id of each saved row in a zone that is taken anew.</param>
    /// <param name="pictures">By which limits of pictures are measured.</param>
    /// <returns>The edit that takes the update and loses nothing.</returns>
    public static TakeUpdate Plan(
        Email email,
        int release,
        ImmutableSortedDictionary<string, int> rows,
        ReleaseCatalog masters,
        PictureCatalog pictures
    )
    {
        var template = masters.Template(email.Template, release);
        var aside = ImmutableSortedDictionary.CreateBuilder<string, UnplacedContent>(StringComparer.Ordinal);
        var before = RunningOrder.From(email, masters);
        foreach (var (id, fills) in email.Fills)
        {
            var former = before.Find(id);
            var seat = template.Order.OfType<PlacedRow>().FirstOrDefault(r => r.Id == id) is { } placed
                ? new OrderedRow(placed, masters.Row(placed), null, placed.Fills, fills)
                : null;
            Seat(id, fills, former, seat, "The row is no longer in the template.");
        }

        foreach (var (zone, placed) in email.Zones)
        {
            if (template.Order.OfType<Zone>().All(z => z.Id != zone))
            {
                if (!placed.IsEmpty)
                {
                    var name = before.FindZone(zone)?.Name ?? zone;
                    Put(zone, new UnplacedContent(zone, "", name, $"The template has no place \"{name}\" any more.") { Rows = placed });
                }
                else
                {
                    Put(zone, new UnplacedContent(zone, "", zone, "An empty place that the template has no more."));
                }

                continue;
            }

            foreach (var row in placed.Where(r => rows.ContainsKey(r.Id)))
            {
                var next = row with { Release = rows[row.Id] };
                Seat(
                    row.Id,
                    row.Fills,
                    before.Find(row.Id),
                    new OrderedRow(next, masters.Row(next), before.FindZone(zone), row.Fills.Clear(), row.Fills),
                    ""
                );
            }
        }

        // Rows of a zone that goes are kept as they are.
        var staying = rows.Where(r => email.FindInZones(r.Key) is { } found && template.Order.OfType<Zone>().Any(z => z.Id == found.Zone))
            .ToImmutableSortedDictionary(r => r.Key, r => r.Value);
        return new TakeUpdate(release, staying, aside.ToImmutable(), []);

        void Seat(string id, ImmutableSortedDictionary<string, PieceFill> fills, OrderedRow? former, OrderedRow? seat, string gone)
        {
            foreach (var (piece, fill) in fills)
            {
                foreach (var part in Parts(id, piece, fill, Named(former, piece)))
                {
                    if ((seat is null ? gone : WhyNot(part, seat, former, pictures)) is { } why)
                    {
                        Put($"{id}/{piece}/{Named(part)}", part with { Why = why });
                    }
                }
            }
        }

        void Put(string place, UnplacedContent part)
        {
            // The same place may have been set aside by an earlier update.
            var key = $"{release}:{place}";
            while (email.Unplaced.ContainsKey(key))
            {
                key += "'";
            }

            aside.Add(key, part);
        }
    }

    private static IEnumerable<UnplacedContent> Parts(string row, string piece, PieceFill fill, Func<string, string> where)
    {
        foreach (var (field, value) in fill.Content)
        {
            yield return new UnplacedContent(row, piece, where(field), "") { Field = field, Value = value };
        }

        foreach (var (property, choice) in fill.Look)
        {
            yield return new UnplacedContent(row, piece, where(property), "") { Property = property, Choice = choice };
        }

        if (fill.Shown is { } shown)
        {
            yield return new UnplacedContent(row, piece, where("shown on"), "") { Shown = shown };
        }

        if (fill.Condition is { } condition)
        {
            yield return new UnplacedContent(row, piece, where("who sees it"), "") { Condition = condition };
        }
    }

    private static string Named(UnplacedContent part) =>
        part switch
        {
            { Field: { } field } => field,
            { Property: { } property } => $"look/{property}",
            { Shown: not null } => "shown",
            _ => "condition",
        };

    private static Func<string, string> Named(OrderedRow? row, string piece)
    {
        var block = row?.FindBlock(piece);
        var name = row is null ? "" : row.Name + ", ";
        return of => block is null ? name + of : $"{name}{block.Name ?? block.Kind}, {of}";
    }

    // Null: it stays.
    private static string? WhyNot(UnplacedContent part, OrderedRow seat, OrderedRow? former, PictureCatalog pictures)
    {
        var block = seat.FindBlock(part.Piece);
        if (block is null && part.Piece != seat.Row.Id)
        {
            return "The block is no longer there.";
        }

        if (part.Property is { } property)
        {
            var look = block?.Look ?? seat.Row.Look;
            if (block is not null && !look.ContainsKey(property))
            {
                return "The block has no such look any more.";
            }

            if (EffectiveLocks.ForPiece(seat, part.Piece, Aspect.Look) is Lock.Sealed)
            {
                return "How it looks is locked now.";
            }

            return (block?.Offers ?? seat.Row.Offers).GetValueOrDefault(property, []).Contains(part.Choice!)
                ? null
                : "The choice is not offered any more.";
        }

        // Whoever placed the row may say which audience sees it, whatever is locked in it.
        if (part.Condition is not null && seat.IsForChosenAudience(part.Piece, part.Condition))
        {
            return null;
        }

        if (EffectiveLocks.ForPiece(seat, part.Piece, Aspect.Content) is Lock.Sealed)
        {
            return part switch
            {
                { Shown: not null } => "Where it is shown is locked now.",
                { Condition: not null } => "Who sees it is locked now.",
                _ => "What it says is locked now.",
            };
        }

        if (part.Field is not { } field)
        {
            return null;
        }

        if (block?.Content.GetValueOrDefault(field) is not { } standing)
        {
            return "The field is no longer there.";
        }

        if (standing.GetType() != part.Value!.GetType())
        {
            return "The field holds another type of value now.";
        }

        return
            Broken(block, part, pictures).FirstOrDefault() is { } broken
            && !(former?.FindBlock(part.Piece) is { } old && Broken(old, part, pictures).Contains(broken))
            ? $"It breaks a limit now: {broken.Value} {broken.Of}, and {broken.Bound} are allowed."
            : null;
    }

    private static IEnumerable<Measurement> Broken(Block block, UnplacedContent part, PictureCatalog pictures)
    {
        var content = block.Content.SetItem(part.Field!, part.Value!);
        return block
            .Limits.Where(l => l.Key == part.Field || l.Key.StartsWith(part.Field + "/", StringComparison.Ordinal))
            .SelectMany(l => Measuring.Measure(content, l.Key, l.Value, pictures))
            .Where(m => m.Broken);
    }
}
