using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;

namespace GoldenRule.Core.Governance;

/// <summary>Who may change what stands in a row: words and pictures, looks, and the order of its pieces.</summary>
internal static class PieceDecisions
{
    public static Decision Content(
        Person person,
        OpenDocument.OfRows document,
        string row,
        string piece,
        string field,
        FieldValue? value
    ) => Refusals.OnRow(document, row, found => Content(person, document, found, piece, field, value));

    public static Decision Content(
        Person person,
        OpenDocument.OfRows document,
        OrderedRow row,
        string piece,
        string field,
        FieldValue? value
    ) => OnBlock(row, piece, block =>
        {
            if (!block.Content.TryGetValue(field, out var standing))
            {
                return Refusals.Refuse(Rules.Unknown, Refusals.Path(row, piece), $"\"{Refusals.Name(block)}\" has no field \"{field}\".");
            }

            if (value is not null && value.GetType() != standing.GetType())
            {
                return Refusals.Refuse(
                    Rules.WrongType,
                    Refusals.Path(row, piece),
                    $"\"{Refusals.Name(block)}\" holds another type of value in \"{field}\"."
                );
            }

            return AskPiece(
                person,
                document,
                row,
                piece,
                Aspect.Content,
                Rules.LockContent,
                $"What \"{Refusals.Name(block)}\" says is locked"
            );
        });

    public static Decision Look(Person person, OpenDocument.OfRows document, string row, string piece, string property, string? value) =>
        Refusals.OnRow(document, row, found => Look(person, document, found, piece, property, value));

    public static Decision Look(Person person, OpenDocument.OfRows document, OrderedRow row, string piece, string property, string? value)
    {
        var block = row.FindBlock(piece);
        if (block is null ? piece != row.Row.Id || RowLook.All.All(p => p.Name != property) : !block.Look.ContainsKey(property))
        {
            return Refusals.Refuse(
                Rules.Unknown,
                Refusals.Path(row, piece),
                $"\"{Name(row, piece)}\" has no look property \"{property}\"."
            );
        }

        // In its own master a piece may look any way that its kind knows; what it offers is for those further down.
        if (Shapes(document, row))
        {
            return Decision.Yes;
        }

        var locked = AskPiece(person, document, row, piece, Aspect.Look, Rules.LockLook, $"How \"{Name(row, piece)}\" looks is locked");
        var offered = (block?.Offers ?? row.Row.Offers).GetValueOrDefault(property, []);
        return locked is Decision.Refused || value is null || row.IsBuilt || offered.Contains(value)
            ? locked
            : Refusals.Refuse(
                Rules.Offer,
                Refusals.Path(row, piece),
                $"\"{value}\" is not among the choices offered for \"{Name(row, piece)}\"."
            );
    }

    public static Decision Shown(Person person, OpenDocument.OfRows document, string row, string piece) =>
        Refusals.OnRow(document, row, found => Shown(person, document, found, piece));

    /// <summary>On which screens a piece is shown is part of its content.</summary>
    public static Decision Shown(Person person, OpenDocument.OfRows document, OrderedRow row, string piece) =>
        row.FindBlock(piece) is null && piece != row.Row.Id
            ? Missing(row, piece)
            : AskPiece(person, document, row, piece, Aspect.Content, Rules.LockContent, $"Where \"{Name(row, piece)}\" is shown is locked");

    public static Decision Condition(Person person, OpenDocument.OfRows document, string row, string piece, Condition? condition) =>
        Refusals.OnRow(document, row, found => Condition(person, document, found, piece, condition));

    /// <summary>Which readers see a piece is part of its content; a named audience may also be chosen by whoever places the row.</summary>
    public static Decision Condition(Person person, OpenDocument.OfRows document, OrderedRow row, string piece, Condition? condition)
    {
        if (row.FindBlock(piece) is null && piece != row.Row.Id)
        {
            return Missing(row, piece);
        }

        return row.IsForChosenAudience(piece, condition) && RowDecisions.Arrange(person, document, row.Zone, row) is Decision.Allowed
            ? Decision.Yes
            : AskPiece(person, document, row, piece, Aspect.Content, Rules.LockContent, $"Who sees \"{Name(row, piece)}\" is locked");
    }

    /// <summary>Adding, taking out and moving pieces of a row.</summary>
    /// <param name="piece">A block or a column; null: the row itself.</param>
    public static Decision Arrange(Person person, OpenDocument.OfRows document, string row, string? piece) =>
        Refusals.OnRow(document, row, found => Arrange(person, document, found, piece));

    public static Decision Arrange(Person person, OpenDocument.OfRows document, OrderedRow row, string? piece)
    {
        if (!row.IsOwn)
        {
            return Refusals.Refuse(
                Rules.SavedRow,
                row.Id,
                $"\"{row.Name}\" is a saved row: a lead or a designer arranges its blocks in the library."
            );
        }

        if (piece is not null && piece != row.Row.Id && row.Row.FindColumn(piece) is null && row.FindBlock(piece) is null)
        {
            return Missing(row, piece);
        }

        if (document is not OpenDocument.OfEmail)
        {
            return Decision.Yes;
        }

        return row.Zone is not { OwnRows: true }
            ? Refusals.Refuse(
                Rules.LockArrangement,
                row.Id,
                $"The blocks of \"{row.Name}\" stay where they are. A lead or a designer can change that, in the library."
            )
            : Refusals.First(
                RowDecisions.Arrange(person, document, row.Zone, row),
                AskPiece(
                    person,
                    document,
                    row,
                    piece ?? row.Row.Id,
                    Aspect.Arrangement,
                    Rules.LockArrangement,
                    $"\"{Name(row, piece ?? row.Row.Id)}\" stays where it is"
                )
            );
    }

    /// <summary>Laying a row out anew moves its columns, and of those that go what stands in them: each is asked for.</summary>
    public static Decision Layout(Person person, OpenDocument.OfRows document, SetLayout edit) => Refusals.OnRow(document, edit.Row, row =>
        {
            var asked = Arrange(person, document, row, null);
            if (asked is Decision.Refused || document is not OpenDocument.OfEmail)
            {
                return asked;
            }

            var columns = row.Row.Columns;
            for (var i = 0; i < columns.Length && asked is not Decision.Refused; i++)
            {
                var column = columns[i];
                var share = edit.Shares.FirstOrDefault(s => s.Id == column.Id);
                if (share is not null && edit.Shares.IndexOf(share) == i && share.Parts == column.Parts)
                {
                    continue;
                }

                asked = Refusals.First([
                    Arrange(person, document, row, column.Id),
                    .. share is null ? column.Blocks.Select(b => Arrange(person, document, row, b.Id)) : [],
                ]);
            }

            return asked;
        });

    /// <summary>The picture behind a row of one's own is part of how it looks.</summary>
    public static Decision Background(Person person, OpenDocument.OfRows document, string row) => Refusals.OnRow(document, row, found =>
        {
            if (!found.IsOwn)
            {
                return Refusals.Refuse(
                    Rules.SavedRow,
                    found.Id,
                    $"\"{found.Name}\" is a saved row: a lead or a designer chooses its background in the library."
                );
            }

            return document is OpenDocument.OfEmail && found.Zone is not { OwnRows: true }
                ? Refusals.Refuse(
                    Rules.LockLook,
                    found.Id,
                    $"The background of \"{found.Name}\" stays as it is. A lead or a designer can change that, in the library."
                )
                : AskPiece(person, document, found, found.Row.Id, Aspect.Look, Rules.LockLook, $"How \"{found.Name}\" looks is locked");
        });

    public static Decision Insert(Person person, OpenDocument.OfRows document, InsertBlock edit) =>
        document is OpenDocument.OfEmail && !IsPlain(edit.Block)
            ? Refusals.Refuse(
                Rules.Library,
                $"{edit.Row}/{edit.Block.Id}",
                "A block put into an email cannot bring locks, limits or instructions of its own."
            )
            : Arrange(person, document, edit.Row, edit.Column);

    /// <summary>Whether a block that goes from one row to another keeps what the zone around it locks.</summary>
    public static Decision KeepsLocks(OpenDocument.OfRows document, string row, string to) =>
        Refusals.OnRow(document, row, from => Refusals.OnRow(document, to, there => RowDecisions.KeepsLocks(document, from, there.Zone)));

    /// <summary>The column a block stands in; empty: there is no such block.</summary>
    public static string ColumnOf(OpenDocument.OfRows document, string row, string piece) =>
        document.Order.Find(row)?.Row.Columns.FirstOrDefault(c => c.Blocks.Any(b => b.Id == piece))?.Id ?? "";

    /// <summary>A block without the rules that only a master gives.</summary>
    public static Block Bare(Block block) =>
        block with
        {
            Locks = Locks.Unset,
            Limits = block.Limits.Clear(),
            Instruction = null,
            Placeholder = false,
        };

    /// <summary>Whether a row that someone builds in an email brings no rules of its own: it is open, and so is all in it.</summary>
    public static bool IsPlain(SavedRow own) =>
        own.Row.Locks == Locks.Open
        && own.Instruction is null
        && own.Narrowed.IsEmpty
        && own.Row.Columns.All(c => c.Locks == Locks.Unset && c.Blocks.All(IsPlain));

    private static bool IsPlain(Block block) =>
        block.Locks == Locks.Unset && block.Limits.IsEmpty && block.Instruction is null && !block.Placeholder;

    // Locks bind whoever fills a piece in, not those who set them where it is made.
    private static Decision AskPiece(
        Person person,
        OpenDocument.OfRows document,
        OrderedRow row,
        string piece,
        Aspect aspect,
        string rule,
        string what
    ) =>
        Shapes(document, row)
            ? Decision.Yes
            : Refusals.Ask(
                person,
                EffectiveLocks.ForPiece(row, piece, aspect, added: document is OpenDocument.OfEmail),
                rule,
                Refusals.Path(row, piece),
                what
            );

    private static bool Shapes(OpenDocument.OfRows document, OrderedRow row) => document is not OpenDocument.OfEmail && row.IsOwn;

    private static Decision OnBlock(OrderedRow row, string piece, Func<Block, Decision> decide) =>
        row.FindBlock(piece) is { } block ? decide(block) : Missing(row, piece);

    private static Decision.Refused Missing(OrderedRow row, string piece) =>
        Refusals.Refuse(Rules.Unknown, Refusals.Path(row, piece), $"\"{row.Name}\" has no block \"{piece}\".");

    private static string Name(OrderedRow row, string piece) => row.FindBlock(piece) is { } block ? Refusals.Name(block) : row.Name;
}
