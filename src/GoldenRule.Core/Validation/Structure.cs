using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Validation;

/// <summary>
/// What a document can be: every rule that holds whoever edits it and wherever it comes from, the editor, the API or an
/// import. It comes out complete, or is refused with the place named: what is stored is what came out of here.
/// </summary>
public static class Structure
{
    /// <summary>The document with every block and fill complete; the same object where it was.</summary>
    /// <param name="held">The order of the document as it was, which held: what stands there as it stood is not looked at again.</param>
    /// <param name="order">An email's running order, where it is known already.</param>
    /// <exception cref="StructureException">Says what cannot be and where.</exception>
    public static Document Complete(Document document, ReleaseCatalog masters, RunningOrder? held = null, RunningOrder? order = null)
    {
        switch (document)
        {
            case SavedRow row:
                row = BlockKinds.Complete(row);
                CheckLimits(row.Row);
                return row;
            case Template template:
                CheckIds(
                    template.Order.SelectMany(item => item is Zone zone ? zone.Default.Select(r => r.Id).Prepend(zone.Id) : [item.Id])
                );
                var items = IncrementalMap.Rows(
                    template.Order,
                    held is null ? default : (held.Template.Order, held.Template.Order),
                    (item, _) => Complete(item, masters)
                );
                return items.AsSpan().SequenceEqual(template.Order.AsSpan(), ReferenceEqualityComparer.Instance)
                    ? template
                    : template with
                    {
                        Order = items,
                    };
            case Email email:
                return Complete(email, order ?? RunningOrder.From(email, masters, held), held);
            case Snippet snippet:
                return SnippetRules.Check(snippet);
            case AudiencePlan plan:
                return AudiencePlan.Check(plan);
            default:
                return document;
        }
    }

    private static Email Complete(Email email, RunningOrder order, RunningOrder? held)
    {
        CheckIds(order.Rows.Select(r => r.Id).Concat(order.Template.Order.OfType<Zone>().Select(z => z.Id)));
        foreach (var row in email.Fills.Keys.Where(r => order.Find(r) is not { Zone: null }))
        {
            throw new StructureException("The template has no such row to fill in.", row);
        }

        foreach (var zone in email.Zones.Keys.Where(z => order.FindZone(z) is null))
        {
            throw new StructureException("The template has no such zone.", zone);
        }

        foreach (var row in order.Since(held))
        {
            RefuseFillsOfOwn(row.Placed);
            var fills = CompleteFills(row);
            if (row.Zone is { } zone)
            {
                var complete = BlockKinds.Complete(ReferenceEquals(fills, row.Fills) ? row.Placed : row.Placed with { Fills = fills });
                email = ReferenceEquals(complete, row.Placed)
                    ? email
                    : email with
                    {
                        Zones = email.Zones.SetItem(
                            zone.Id,
                            email.Zones[zone.Id].Replace(row.Placed, complete, ReferenceEqualityComparer.Instance)
                        ),
                    };
            }
            else if (!ReferenceEquals(fills, row.Fills))
            {
                email = email with { Fills = email.Fills.SetItem(row.Id, fills) };
            }
        }

        return email;
    }

    /// <summary>A variant of a variant leads back to where it began: never.</summary>
    /// <param name="id">The saved row.</param>
    /// <param name="variantOf">What each row of the library is a variant of.</param>
    public static void CheckVariants(Guid id, SavedRow row, IReadOnlyDictionary<Guid, Guid?> variantOf)
    {
        var seen = new List<Guid> { id };
        for (var at = row.VariantOf; at is { } one; at = variantOf.GetValueOrDefault(one))
        {
            if (seen.Contains(one))
            {
                throw new StructureException($"\"{row.Name}\" would be a variant of itself, over {seen.Count} rows.", row.Row.Id);
            }

            seen.Add(one);
        }
    }

    private static OrderItem Complete(OrderItem item, ReleaseCatalog masters)
    {
        switch (item)
        {
            case PlacedRow placed:
                return Complete(placed, masters).Placed;
            case Zone zone:
                CheckZone(zone);
                var rows = zone.Default;
                foreach (var placed in zone.Default)
                {
                    var (complete, row) = Complete(placed, masters);
                    if (!zone.Takes(placed.Own is null ? placed.Master : null, row.RowKind, masters.RowKinds))
                    {
                        throw new StructureException(
                            $"Zone \"{zone.Name ?? zone.Id}\" begins with \"{row.Name}\", which it does not take.",
                            placed.Id
                        );
                    }

                    rows = ReferenceEquals(complete, placed) ? rows : rows.Replace(placed, complete, ReferenceEqualityComparer.Instance);
                }

                return rows == zone.Default ? zone : zone with { Default = rows };
            default:
                throw new StructureException("Unknown item in the running order.", item.Id);
        }
    }

    private static void CheckZone(Zone zone)
    {
        var name = zone.Name ?? zone.Id;
        if (zone.Least < 0 || zone.Most < 1 || zone.Most > 60)
        {
            throw new StructureException(
                $"Zone \"{name}\" takes at least 0 and at most 1 to 60 rows; it says {zone.Least} to {zone.Most}.",
                zone.Id
            );
        }

        if (zone.Least > zone.Most)
        {
            throw new StructureException($"Zone \"{name}\" would take at least {zone.Least} and at most {zone.Most} rows.", zone.Id);
        }

        if (zone.Default.Length > zone.Most)
        {
            throw new StructureException($"Zone \"{name}\" begins with {zone.Default.Length} rows and takes at most {zone.Most}.", zone.Id);
        }
    }

    private static (PlacedRow Placed, SavedRow Master) Complete(PlacedRow placed, ReleaseCatalog masters)
    {
        RefuseFillsOfOwn(placed);
        placed = BlockKinds.Complete(placed);
        var master = masters.Row(placed);
        if (placed.Own is not null)
        {
            CheckLimits(master.Row);
            return (placed, master);
        }

        var fills = CompleteFills(new OrderedRow(placed, master, null, placed.Fills.Clear(), placed.Fills));
        CheckRules(placed, master);
        return (ReferenceEquals(fills, placed.Fills) ? placed : placed with { Fills = fills }, master);
    }

    private static void RefuseFillsOfOwn(PlacedRow placed)
    {
        if (placed.Own is not null && (!placed.Fills.IsEmpty || !placed.Rules.IsEmpty))
        {
            throw new StructureException("A row of its own holds its words and rules itself.", placed.Id);
        }
    }

    private static void CheckIds(IEnumerable<string> ids)
    {
        var known = new HashSet<string>(StringComparer.Ordinal);
        foreach (var id in ids)
        {
            if (id.Length is 0 or > 64 || id.Contains('/', StringComparison.Ordinal))
            {
                throw new StructureException($"\"{id}\" is no id: it has 1 to 64 characters and no slash.", id);
            }

            if (!known.Add(id))
            {
                throw new StructureException($"\"{id}\" stands in two places; a row stands in one.", id);
            }
        }
    }

    private static void CheckLimits(Row row)
    {
        foreach (var block in row.Blocks)
        {
            foreach (var (field, limit) in block.Limits)
            {
                if (limit.Contradiction() is { } fault)
                {
                    throw new StructureException($"The limit of {field} in \"{block.Name ?? block.Kind}\": {fault}", block.Id);
                }
            }
        }
    }

    private static ImmutableSortedDictionary<string, PieceFill> CompleteFills(OrderedRow row)
    {
        var fills = row.Fills;
        foreach (var (piece, fill) in row.Fills)
        {
            var place = $"{row.Id}/{piece}";
            Condition.Check(fill.Condition, place);
            if (row.FindBlock(piece) is not { } block)
            {
                if (piece != row.Row.Id || !fill.Content.IsEmpty)
                {
                    throw new StructureException($"\"{row.Name}\" has no block \"{piece}\" to fill.", place);
                }

                foreach (var (property, value) in fill.Look)
                {
                    RowLook.Check(property, value, place);
                }

                continue;
            }

            var (kind, content) = (BlockKinds.For(block), fill.Content);
            foreach (var (field, value) in fill.Content)
            {
                var complete = kind.Complete(field, value, place);
                content = ReferenceEquals(complete, value) ? content : content.SetItem(field, complete);
            }

            foreach (var (property, value) in fill.Look)
            {
                kind.CheckLook(property, value, place);
            }

            fills = ReferenceEquals(content, fill.Content) ? fills : fills.SetItem(piece, fill with { Content = content });
        }

        return fills;
    }

    // What a template adds can only tighten: a lock that lets in whom the row keeps out would be a promise that does not hold.
    private static void CheckRules(PlacedRow placed, SavedRow master)
    {
        foreach (var (piece, rules) in placed.Rules)
        {
            var place = $"{placed.Id}/{piece}";
            var column = master.Row.Columns.FirstOrDefault(c => c.Id == piece || c.Blocks.Any(b => b.Id == piece));
            var block = column?.Blocks.FirstOrDefault(b => b.Id == piece);
            if (column is null && piece != master.Row.Id)
            {
                throw new StructureException($"\"{master.Name}\" has no block \"{piece}\" to set rules for.", place);
            }

            foreach (var aspect in Enum.GetValues<Aspect>())
            {
                var own = block?.Locks[aspect] ?? column?.Locks[aspect] ?? master.Row.Locks[aspect] ?? Locks.Root[aspect]!;
                if (rules.Locks[aspect] is { } added && !added.IsAsTightAs(own))
                {
                    throw new StructureException(
                        $"\"{block?.Name ?? block?.Kind ?? master.Name}\" is locked tighter in the saved row; the "
                            + $"{aspect.ToString().ToLowerInvariant()} lock cannot be loosened here.",
                        place
                    );
                }
            }

            foreach (var (field, limit) in rules.Limits)
            {
                CheckLimit(block, field, limit, place);
            }
        }
    }

    private static void CheckLimit(Block? block, string field, Limit limit, string place)
    {
        if (block is null || BlockKinds.For(block).FieldAt(field) is null)
        {
            throw new StructureException($"There is no field \"{field}\" to limit.", place);
        }

        var own = block.Limits.GetValueOrDefault(field, new Limit());
        if ((limit.Contradiction() ?? Limit.Tightest(own, limit).Contradiction()) is { } fault)
        {
            throw new StructureException($"The limit of {field} in \"{block.Name ?? block.Kind}\": {fault}", place);
        }

        if (!limit.IsAsTightAs(own))
        {
            throw new StructureException(
                $"The saved row limits {field} in \"{block.Name ?? block.Kind}\" more tightly; it cannot be loosened here.",
                place
            );
        }
    }
}
