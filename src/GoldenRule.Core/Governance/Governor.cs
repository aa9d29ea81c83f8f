using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;

namespace GoldenRule.Core.Governance;

/// <summary>The one place that decides who may change what. The server asks it for every edit; screens get its answers in advance.</summary>
public static class Governor
{
    public static Decision Decide(Person person, Edit edit, OpenDocument document) => document switch
    {
        OpenDocument.OfEmail email => DecideEmail(person, edit, email),
        OpenDocument.OfMaster master => DecideMaster(person, edit, master.Master),
        _ => throw new InvalidOperationException("Unknown document."),
    };

    /// <summary>
    /// Whether a step may be taken back. What it restores was lawful when it stood, so a row that comes back keeps its
    /// fills; all else is decided as for any edit.
    /// </summary>
    public static Decision DecideUndo(Person person, Edit inverse, OpenDocument document) => Decide(
        person,
        inverse is InsertRow insert ? insert with { Row = insert.Row with { Fills = insert.Row.Fills.Clear() } } : inverse,
        document);

    private static Decision DecideMaster(Person person, Edit edit, Document master) => (master, edit) switch
    {
        (HouseStyles.HouseStyle, SetVariable or RemoveVariable or RenameVariable or MoveVariable or ReplaceVariable or ReinstateVariable or SetStyle or RestoreHouseStyle or SetName) => person.Is(Role.Lead)
            ? Decision.Yes
            : Refuse(Rules.Role, null, "The house style is changed by leads only."),
        (Template or SavedRow, SetLock or SetLimit or NarrowVariable or SetName) => person.Is(Role.Lead, Role.Designer)
            ? Decision.Yes
            : Refuse(Rules.Role, null, "Templates and saved rows are changed by leads and designers only."),
        _ => Refuse(Rules.WrongType, null, "This edit does not belong to this kind of document."),
    };

    private static Decision DecideEmail(Person person, Edit edit, OpenDocument.OfEmail document)
    {
        var mayEdit = MayEdit(person, document);
        return mayEdit is Decision.Refused ? mayEdit : edit switch
        {
            SetFill e => OnBlock(document, e.Row, e.Piece, (row, block) => DecideContent(person, row, block, e.Field, e.Value)),
            ClearFill e => OnBlock(document, e.Row, e.Piece, (row, block) => DecideContent(person, row, block, e.Field, null)),
            SetLook e => OnBlock(document, e.Row, e.Piece, (row, block) => DecideLook(person, row, block, e.Property, e.Value)),
            ClearLook e => OnBlock(document, e.Row, e.Piece, (row, block) => DecideLook(person, row, block, e.Property, null)),
            SetDetail e => document.Email.Details.Get(e.Field) is null
                ? Refuse(Rules.Unknown, null, $"An email has no detail \"{e.Field}\".")
                : Decision.Yes,
            InsertRow e => DecideInsert(person, document, e),
            RemoveRow e => DecideRemove(person, document, e.Row),
            MoveRow e => DecideMove(person, document, e),
            SwapRows e => DecideSwap(person, document, e),
            DuplicateRow e => OnRow(document, e.Row, row => First(Arrange(person, row.Zone, row), HasRoom(document, row.Zone), IsNew(document, e.Copy))),
            _ => Refuse(Rules.WrongType, null, "This edit does not belong to an email."),
        };
    }

    /// <summary>Whether any row at all may be added to a zone now.</summary>
    internal static Decision DecideAdding(Person person, OpenDocument.OfEmail document, Zone zone) =>
        First(MayEdit(person, document), Arrange(person, zone, null), HasRoom(document, zone));

    private static Decision MayEdit(Person person, OpenDocument.OfEmail document)
    {
        if (!person.Is(Role.Lead, Role.Designer, Role.Author))
        {
            return Refuse(Rules.Role, null, "Reviewers read and approve; a lead, designer or author changes the email.");
        }

        return document.State == EmailState.HandedOff
            ? Refuse(Rules.State, null, "The email was handed off and is frozen. Make a copy to go on from it.")
            : Decision.Yes;
    }

    private static Decision DecideContent(Person person, OrderedRow row, Block block, string field, FieldValue? value)
    {
        if (!block.Content.TryGetValue(field, out var standing))
        {
            return Refuse(Rules.Unknown, Path(row, block), $"\"{Label(block)}\" has no field \"{field}\".");
        }

        if (value is not null && value.GetType() != standing.GetType())
        {
            return Refuse(Rules.WrongType, Path(row, block), $"\"{Label(block)}\" holds another type of value in \"{field}\".");
        }

        return Ask(person, EffectiveLocks.Of(row, block.Id, Aspect.Content), Rules.LockContent, Path(row, block), $"What \"{Label(block)}\" says is sealed");
    }

    private static Decision DecideLook(Person person, OrderedRow row, Block block, string property, string? value)
    {
        if (!block.Look.ContainsKey(property))
        {
            return Refuse(Rules.Unknown, Path(row, block), $"\"{Label(block)}\" has no look property \"{property}\".");
        }

        var locked = Ask(person, EffectiveLocks.Of(row, block.Id, Aspect.Look), Rules.LockLook, Path(row, block), $"How \"{Label(block)}\" looks is sealed");
        return locked is Decision.Refused || value is null || block.Offers.GetValueOrDefault(property, []).Contains(value)
            ? locked
            : Refuse(Rules.Offer, Path(row, block), $"\"{value}\" is not among the choices offered for \"{Label(block)}\".");
    }

    private static Decision DecideInsert(Person person, OpenDocument.OfEmail document, InsertRow edit)
    {
        if (document.Order.FindZone(edit.Zone) is not { } zone)
        {
            return Refuse(Rules.LockArrangement, edit.Zone, "Rows are added in zones only, and there is no such zone in this template.");
        }

        if (document.Masters.Newest(edit.Row.Master) is null)
        {
            return Refuse(Rules.Unknown, edit.Zone, "There is no such row in the library.");
        }

        // Locks and other people's labels come from masters alone: a row that brings its own is not taken.
        if (edit.Row.Locks != Locks.Unset || !edit.Row.PieceLocks.IsEmpty)
        {
            return Refuse(Rules.LockArrangement, edit.Zone, "A row placed in an email cannot bring locks of its own.");
        }

        var master = document.Masters.Row(edit.Row.Master, edit.Row.Release, edit.Zone);
        return First(
            DecideAdding(person, document, zone),
            Takes(zone, edit.Row.Master, master),
            IsNew(document, edit.Row.Id),
            FillsAllowed(person, zone, edit.Row, master));
    }

    // A row may arrive filled in (pasted, or brought back by undo); each fill is judged as if it were made now.
    private static Decision FillsAllowed(Person person, Zone zone, PlacedRow placed, SavedRow master)
    {
        var row = new OrderedRow(placed, master, zone, placed.Fills.Clear(), placed.Fills);
        foreach (var (piece, fill) in placed.Fills)
        {
            if (row.FindBlock(piece) is not { } block)
            {
                return Refuse(Rules.Unknown, placed.Id + "/" + piece, $"\"{master.Name}\" has no piece \"{piece}\".");
            }

            var refused = fill.Content.Select(c => DecideContent(person, row, block, c.Key, c.Value))
                .Concat(fill.Look.Select(l => DecideLook(person, row, block, l.Key, l.Value)))
                .FirstOrDefault(d => d is Decision.Refused);
            if (refused is not null)
            {
                return refused;
            }
        }

        return Decision.Yes;
    }

    private static Decision DecideRemove(Person person, OpenDocument.OfEmail document, string rowId) => OnRow(document, rowId, row =>
    {
        var arranged = Arrange(person, row.Zone, row);
        return arranged is Decision.Refused || Count(document, row.Zone!) > row.Zone!.Least
            ? arranged
            : Refuse(Rules.ZoneLeast, row.Id, $"\"{ZoneName(row.Zone)}\" needs at least {row.Zone.Least}. Add another row first.");
    });

    private static Decision DecideMove(Person person, OpenDocument.OfEmail document, MoveRow edit) => OnRow(document, edit.Row, row =>
    {
        if (row.Zone?.Id == edit.Zone || row.Zone is null)
        {
            return Arrange(person, row.Zone, row);
        }

        return document.Order.FindZone(edit.Zone) is { } zone
            ? First(DecideRemove(person, document, edit.Row), Arrange(person, zone, row), Takes(zone, row.Placed.Master, row.Master), HasRoom(document, zone))
            : Refuse(Rules.LockArrangement, edit.Zone, "Rows are moved within zones only, and there is no such zone in this template.");
    });

    private static Decision DecideSwap(Person person, OpenDocument.OfEmail document, SwapRows edit) =>
        OnRow(document, edit.First, a => OnRow(document, edit.Second, b => First(
            Arrange(person, a.Zone, a),
            Arrange(person, b.Zone, b),
            b.Zone is null ? Decision.Yes : Takes(b.Zone, a.Placed.Master, a.Master),
            a.Zone is null ? Decision.Yes : Takes(a.Zone, b.Placed.Master, b.Master))));

    private static Decision Arrange(Person person, Zone? zone, OrderedRow? row) => Ask(
        person,
        EffectiveLocks.OfArrangement(zone),
        Rules.LockArrangement,
        row?.Id ?? zone?.Id,
        row is null ? $"What stands in \"{ZoneName(zone!)}\" is sealed" : $"\"{RowName(row)}\" stays where it is");

    private static Decision Takes(Zone zone, Guid id, SavedRow master) => zone.Takes(id, master.RowKind)
        ? Decision.Yes
        : Refuse(Rules.ZoneAccepts, zone.Id, $"\"{ZoneName(zone)}\" does not take \"{master.Name}\".");

    private static Decision HasRoom(OpenDocument.OfEmail document, Zone? zone) => zone is null || Count(document, zone) < zone.Most
        ? Decision.Yes
        : Refuse(Rules.ZoneMost, zone.Id, $"\"{ZoneName(zone)}\" is full: it takes at most {zone.Most}. Remove a row first.");

    // Ids are unique over the whole email, the template's own rows included: fills are found by them.
    private static Decision IsNew(OpenDocument.OfEmail document, string row) => row.Length is > 0 and <= 64 && document.Order.Find(row) is null
        ? Decision.Yes
        : Refuse(Rules.Unknown, row, "A row with this id is in the email already.");

    private static int Count(OpenDocument.OfEmail document, Zone zone) => document.Email.Zones.GetValueOrDefault(zone.Id, []).Length;

    private static Decision Ask(Person person, Lock @lock, string rule, string? piece, string what) => EffectiveLocks.Admits(@lock, person)
        ? Decision.Yes
        : Refuse(rule, piece, $"{what}. {EffectiveLocks.WhoMay(@lock)}");

    private static Decision OnRow(OpenDocument.OfEmail document, string row, Func<OrderedRow, Decision> decide) =>
        document.Order.Find(row) is { } found
            ? decide(found)
            : Refuse(Rules.Unknown, row, "That row is not in the email; it may have been removed.");

    private static Decision OnBlock(OpenDocument.OfEmail document, string row, string piece, Func<OrderedRow, Block, Decision> decide) =>
        OnRow(document, row, found => found.FindBlock(piece) is { } block
            ? decide(found, block)
            : Refuse(Rules.Unknown, row + "/" + piece, $"\"{RowName(found)}\" has no piece \"{piece}\"."));

    private static Decision First(params ReadOnlySpan<Decision> decisions)
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

    private static string Path(OrderedRow row, Block block) => row.Id + "/" + block.Id;

    private static string Label(Block block) => block.Name ?? block.Kind;

    private static string RowName(OrderedRow row) => row.Placed.Name ?? row.Master.Name;

    private static string ZoneName(Zone zone) => zone.Name ?? zone.Id;

    private static Decision.Refused Refuse(string rule, string? piece, string reason) => new(rule, piece, reason);
}
