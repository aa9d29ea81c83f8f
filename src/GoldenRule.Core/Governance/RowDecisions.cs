using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;

namespace GoldenRule.Core.Governance;

/// <summary>Who may arrange whole rows: in an email within its zones, in a template everywhere.</summary>
internal static class RowDecisions
{
    public static Decision Insert(Person person, OpenDocument.OfRows document, InsertRow edit)
    {
        if (Place(document, edit.Zone) is Decision.Refused refused)
        {
            return refused;
        }

        var zone = edit.Zone is null ? null : document.Order.FindZone(edit.Zone);
        if (
            edit.Row.Own is null
            && (
                edit.Row.Master is { } id
                    ? RowOffers.WhyNot(document, zone, id, edit.Row.Release)
                    : Refusals.Refuse(Rules.Unknown, edit.Zone, "There is no such row in the library.")
            )
                is { } notOffered
        )
        {
            return notOffered;
        }

        if (edit.Row.Own is not null && !edit.Row.Fills.IsEmpty)
        {
            return Refusals.Refuse(
                Rules.WrongType,
                edit.Row.Id,
                "A row of its own holds its words itself; nothing is filled in over them."
            );
        }

        // Locks and other people's labels come from masters alone: a row that brings its own is not taken.
        if (
            document is OpenDocument.OfEmail
            && (edit.Row.Locks != Locks.Unset || !edit.Row.Rules.IsEmpty || (edit.Row.Own is { } own && !PieceDecisions.IsPlain(own)))
        )
        {
            return Refusals.Refuse(Rules.LockArrangement, edit.Zone, "A row placed in an email cannot bring locks or rules of its own.");
        }

        var master = document.Masters.Row(edit.Row);
        return Refusals.First(
            Adding(person, document, zone),
            Takes(document, zone, edit.Row, master),
            OwnTaken(document, zone, edit.Row),
            IsNew(document, edit.Row.Id),
            FillsAllowed(person, document, zone, edit.Row, master)
        );
    }

    /// <summary>A row comes back where it stood: the zone's rules hold as for any, what is in it was decided when it was made.</summary>
    public static Decision ComesBack(Person person, OpenDocument.OfEmail document, InsertRow edit)
    {
        if (Place(document, edit.Zone) is Decision.Refused refused)
        {
            return refused;
        }

        var zone = document.Order.FindZone(edit.Zone!)!;
        return Refusals.First(
            Adding(person, document, zone),
            Takes(document, zone, edit.Row, document.Masters.Row(edit.Row)),
            IsNew(document, edit.Row.Id)
        );
    }

    /// <summary>Whether any row at all may be added to a zone now.</summary>
    public static Decision Adding(Person person, OpenDocument.OfRows document, Zone? zone) =>
        Refusals.First(Governor.MayEdit(person, document), Arrange(person, document, zone, null), HasRoom(document, zone));

    public static Decision Remove(Person person, OpenDocument.OfRows document, string rowId) => Refusals.OnRow(document, rowId, row =>
        {
            var arranged = Arrange(person, document, row.Zone, row);
            return arranged is Decision.Refused || document is not OpenDocument.OfEmail email || Count(email, row.Zone!) > row.Zone!.Least
                ? arranged
                : Refusals.Refuse(
                    Rules.ZoneLeast,
                    row.Id,
                    $"\"{Refusals.Name(row.Zone)}\" needs at least {row.Zone.Least}. Add another row first."
                );
        });

    public static Decision Move(Person person, OpenDocument.OfRows document, MoveRow edit)
    {
        if (document is OpenDocument.OfTemplate && document.Order.FindZone(edit.Row) is not null)
        {
            return Place(document, edit.Zone);
        }

        return Refusals.OnRow(document, edit.Row, row =>
        {
            if (document is OpenDocument.OfEmail && (row.Zone?.Id == edit.Zone || row.Zone is null))
            {
                return Arrange(person, document, row.Zone, row);
            }

            if (Place(document, edit.Zone) is Decision.Refused refused)
            {
                return refused;
            }

            var zone = edit.Zone is null ? null : document.Order.FindZone(edit.Zone);
            return row.Zone?.Id == edit.Zone
                ? Decision.Yes
                : Refusals.First(
                    Remove(person, document, edit.Row),
                    Arrange(person, document, zone, row),
                    Takes(document, zone, row.Placed, row.Master),
                    OwnTaken(document, zone, row.Placed),
                    KeepsLocks(document, row, zone),
                    HasRoom(document, zone)
                );
        });
    }

    public static Decision Swap(Person person, OpenDocument.OfRows document, SwapRows edit) =>
        Refusals.OnRow(document, edit.First, a =>
            Refusals.OnRow(document, edit.Second, b =>
                Refusals.First(
                    Arrange(person, document, a.Zone, a),
                    Arrange(person, document, b.Zone, b),
                    Takes(document, b.Zone, a.Placed, a.Master),
                    Takes(document, a.Zone, b.Placed, b.Master),
                    a.Zone?.Id == b.Zone?.Id
                        ? Decision.Yes
                        : Refusals.First(
                            OwnTaken(document, b.Zone, a.Placed),
                            OwnTaken(document, a.Zone, b.Placed),
                            KeepsLocks(document, a, b.Zone),
                            KeepsLocks(document, b, a.Zone)
                        )
                )
            )
        );

    public static Decision Duplicate(Person person, OpenDocument.OfRows document, DuplicateRow edit) =>
        Refusals.OnRow(document, edit.Row, row =>
            Refusals.First(
                Arrange(person, document, row.Zone, row),
                HasRoom(document, row.Zone),
                Takes(document, row.Zone, row.Placed, row.Master),
                OwnTaken(document, row.Zone, row.Placed),
                IsNew(document, edit.Copy)
            )
        );

    public static Decision Detach(Person person, OpenDocument.OfRows document, DetachRow edit) => Refusals.OnRow(document, edit.Row, row =>
        {
            var allowed = Detaching(person, document, row);
            return allowed is Decision.Refused || DocumentJson.Same(edit.Own, Detached.FromRow(row))
                ? allowed
                : Refusals.Refuse(Rules.Unknown, row.Id, "The row has changed since. Detach it as it stands now.");
        });

    /// <summary>Whether a row by reference may be turned into a row of its own.</summary>
    public static Decision Detaching(Person person, OpenDocument.OfRows document, OrderedRow row) =>
        row switch
        {
            { IsOwn: true } => Refusals.Refuse(Rules.SavedRow, row.Id, "The row is its own already."),
            { Zone.OwnRows: true } => Arrange(person, document, row.Zone, row),
            _ when document is OpenDocument.OfEmail => Refusals.Refuse(
                Rules.ZoneOwnRows,
                row.Id,
                "Saved rows stay saved rows here. A lead or a designer can let a zone have rows of its own."
            ),
            _ => Decision.Yes,
        };

    public static Decision Reattach(Person person, OpenDocument.OfEmail document, ReattachRow edit) =>
        Refusals.OnRow(document, edit.Placed.Id, row => Arrange(person, document, row.Zone, row));

    public static Decision Arrange(Person person, OpenDocument.OfRows document, Zone? zone, OrderedRow? row) =>
        document is not OpenDocument.OfEmail
            ? Decision.Yes
            : Refusals.Ask(
                person,
                EffectiveLocks.ForArrangement(zone),
                Rules.LockArrangement,
                row?.Id ?? zone?.Id,
                row is null ? $"What stands in \"{Refusals.Name(zone!)}\" is locked" : $"\"{row.Name}\" stays where it is"
            );

    private static Decision Place(OpenDocument.OfRows document, string? zone) =>
        (document, zone) switch
        {
            (OpenDocument.OfTemplate, null) => Decision.Yes,
            (_, not null) when document.Order.FindZone(zone) is not null => Decision.Yes,
            (OpenDocument.OfEmail, _) => Refusals.Refuse(
                Rules.LockArrangement,
                zone,
                "Rows are added in zones only, and there is no such zone in this template."
            ),
            _ => Refusals.Refuse(Rules.Unknown, zone, "There is no such zone in this template."),
        };

    private static Decision Takes(OpenDocument.OfRows document, Zone? zone, PlacedRow placed, SavedRow master) =>
        zone is null || zone.Takes(placed.Own is null ? placed.Master : null, master.RowKind, document.Masters.RowKinds)
            ? Decision.Yes
            : Refusals.Refuse(Rules.ZoneAccepts, zone.Id, $"\"{Refusals.Name(zone)}\" does not take \"{master.Name}\".");

    private static Decision OwnTaken(OpenDocument.OfRows document, Zone? zone, PlacedRow placed) =>
        document is not OpenDocument.OfEmail || placed.Own is null || zone is null or { OwnRows: true }
            ? Decision.Yes
            : Refusals.Refuse(Rules.ZoneOwnRows, zone.Id, $"\"{Refusals.Name(zone)}\" takes saved rows only.");

    // What a zone locks, all that stands in it has; it does not come loose by going elsewhere.
    internal static Decision KeepsLocks(OpenDocument.OfRows document, OrderedRow row, Zone? to)
    {
        foreach (var aspect in (ReadOnlySpan<Aspect>)[Aspect.Content, Aspect.Look])
        {
            if (
                document is OpenDocument.OfEmail
                && row.Zone?.Locks[aspect] is { } here
                && !(to?.Locks[aspect] ?? new Lock.Open()).IsAsTightAs(here)
            )
            {
                return Refusals.Refuse(
                    aspect == Aspect.Content ? Rules.LockContent : Rules.LockLook,
                    row.Id,
                    $"\"{row.Name}\" is locked by \"{Refusals.Name(row.Zone)}\" and stays there. {EffectiveLocks.WhoMay(here)}"
                );
            }
        }

        return Decision.Yes;
    }

    private static Decision HasRoom(OpenDocument.OfRows document, Zone? zone) =>
        zone is null || Count(document, zone) < zone.Most
            ? Decision.Yes
            : Refusals.Refuse(
                Rules.ZoneMost,
                zone.Id,
                $"\"{Refusals.Name(zone)}\" is full: it takes at most {zone.Most}. Remove a row first."
            );

    // Ids are unique over the whole email, the template's own rows included: fills are found by them.
    private static Decision IsNew(OpenDocument.OfRows document, string row) =>
        row.Length is > 0 and <= 64 && document.Order.Find(row) is null && document.Order.FindZone(row) is null
            ? Decision.Yes
            : Refusals.Refuse(Rules.Unknown, row, "A row with this id is here already.");

    private static int Count(OpenDocument.OfRows document, Zone zone) => document.Order.Rows.Count(r => r.Zone?.Id == zone.Id);

    // A row may arrive filled in (pasted, for example); each fill is judged as if it were made now.
    private static Decision FillsAllowed(Person person, OpenDocument.OfRows document, Zone? zone, PlacedRow placed, SavedRow master)
    {
        var row = new OrderedRow(placed, master, zone, placed.Fills.Clear(), placed.Fills);
        foreach (var (piece, fill) in placed.Fills)
        {
            var refused = fill
                .Content.Select(c => PieceDecisions.Content(person, document, row, piece, c.Key, c.Value))
                .Concat(fill.Look.Select(l => PieceDecisions.Look(person, document, row, piece, l.Key, l.Value)))
                .Concat(fill.Shown is null ? [] : [PieceDecisions.Shown(person, document, row, piece)])
                .Concat(fill.Condition is null ? [] : [PieceDecisions.Condition(person, document, row, piece, fill.Condition)])
                .FirstOrDefault(d => d is Decision.Refused);
            if (refused is not null)
            {
                return refused;
            }
        }

        return Decision.Yes;
    }
}
