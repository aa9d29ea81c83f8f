using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;

namespace GoldenRule.Core.Governance;

/// <summary>
/// The one place that decides who may change what. The server asks it for every edit; screens get its answers in advance.
/// </summary>
public static class Governor
{
    public static Decision Decide(Person person, Edit edit, OpenDocument document) =>
        ForTeams(person, edit, document, who => DecideAs(who, edit, document));

    // What is given to other campaign types must be someone's there as well as here.
    private static Decision ForTeams(Person person, Edit edit, OpenDocument document, Func<Person, Decision> decide) =>
        edit is SetCampaignTypes given
            ? Refusals.First(decide(document.As(person)), decide(document.Teams.For(person, given.Keys)))
            : decide(document.As(person));

    private static Decision DecideAs(Person person, Edit edit, OpenDocument document) =>
        document switch
        {
            OpenDocument.OfHouseStyle => DecideHouseStyle(person, edit),
            OpenDocument.OfSnippet snippet => SnippetDecisions.Decide(person, edit, snippet.Snippet),
            OpenDocument.OfAudiences => DecideAudiences(person, edit),
            OpenDocument.OfRows rows => MayEdit(person, rows) is Decision.Refused refused ? refused : DecideRows(person, edit, rows),
            _ => throw new InvalidOperationException("Unknown document."),
        };

    /// <summary>
    /// Whether a step may be taken back. What it restores was lawful when it stood, so a row or block that comes back
    /// keeps what it had; all else is decided as for any edit. Whoever makes a template or row may take back all they did.
    /// </summary>
    public static Decision DecideUndo(Person person, Edit inverse, OpenDocument document) =>
        ForTeams(person, inverse, document, who => DecideUndoAs(who, inverse, document));

    private static Decision DecideUndoAs(Person person, Edit inverse, OpenDocument document) =>
        inverse switch
        {
            _ when document is OpenDocument.OfTemplate or OpenDocument.OfSavedRow => MayEdit(person, (OpenDocument.OfRows)document),
            // In an email rows come back only where one may be put; what is in them was decided when it was made.
            InsertRow insert when document is OpenDocument.OfEmail email => MayEdit(person, email) is Decision.Refused refused
                ? refused
                : RowDecisions.ComesBack(person, email, insert),
            InsertBlock insert when document is OpenDocument.OfEmail => DecideAs(
                person,
                insert with
                {
                    Block = PieceDecisions.Bare(insert.Block),
                },
                document
            ),
            ReattachRow attach when document is OpenDocument.OfEmail email => MayEdit(person, email) is Decision.Refused refused
                ? refused
                : RowDecisions.Reattach(person, email, attach),
            TakeUpdate taken when document is OpenDocument.OfEmail email => MayEdit(person, email) is Decision.Refused refused
                ? refused
                : UpdateDecisions.TakeBack(email, taken),
            RestoreUnplaced when document is OpenDocument.OfEmail email => MayEdit(person, email),
            // The block that comes back was there with all it had.
            SplitText split when document is OpenDocument.OfEmail => DecideAs(
                person,
                split with
                {
                    Rest = PieceDecisions.Bare(split.Rest),
                },
                document
            ),
            RestoreColumns restore when document is OpenDocument.OfEmail email => MayEdit(person, email) is Decision.Refused refused
                ? refused
                : PieceDecisions.Arrange(person, email, restore.Row, null),
            MoveBlock { Locks: not null } move => DecideAs(person, move with { Locks = null }, document),
            SwapBlocks { FirstLocks: not null } or SwapBlocks { SecondLocks: not null } => DecideAs(
                person,
                (SwapBlocks)inverse with
                {
                    FirstLocks = null,
                    SecondLocks = null,
                },
                document
            ),
            _ => DecideAs(person, inverse, document),
        };

    /// <summary>Whether a person may change the document at all.</summary>
    internal static Decision MayEdit(Person person, OpenDocument.OfRows document) =>
        document switch
        {
            OpenDocument.OfEmail when !person.Is(Role.Lead, Role.Designer, Role.Author) => OfOtherTeam(
                person,
                document,
                "Reviewers read and approve; a lead, designer or author changes the email.",
                Role.Lead,
                Role.Designer,
                Role.Author
            ),
            OpenDocument.OfEmail { State: EmailState.HandedOff } => Refusals.Refuse(
                Rules.State,
                null,
                "The email was handed off and is frozen. Make a copy to go on from it."
            ),
            OpenDocument.OfEmail { State: EmailState.InReview } => Refusals.Refuse(
                Rules.State,
                null,
                "The email is in review. Take it back from there to change it."
            ),
            OpenDocument.OfTemplate or OpenDocument.OfSavedRow when !person.Is(Role.Lead, Role.Designer) => OfOtherTeam(
                person,
                document,
                "Templates and saved rows are changed by leads and designers only.",
                Role.Lead,
                Role.Designer
            ),
            _ => Decision.Yes,
        };

    // Whoever has the role elsewhere hears whose it is.
    private static Decision.Refused OfOtherTeam(
        Person person,
        OpenDocument.OfRows document,
        string role,
        params ReadOnlySpan<Role> roles
    ) =>
        person.IsAnywhere(roles)
            ? Refusals.Refuse(Rules.Team, null, document.Teams.Whose(document.CampaignTypes))
            : Refusals.Refuse(Rules.Role, null, role);

    private static Decision DecideHouseStyle(Person person, Edit edit) =>
        edit switch
        {
            SetVariable
            or RemoveVariable
            or RenameVariable
            or MoveVariable
            or ReplaceVariable
            or ReinstateVariable
            or SetStyle
            or RestoreHouseStyle
            or SetName => person.Is(Role.Lead)
                ? Decision.Yes
                : Refusals.Refuse(Rules.Role, null, "The house style is changed by leads only."),
            _ => WrongType,
        };

    private static Decision DecideAudiences(Person person, Edit edit) =>
        edit switch
        {
            SetMergeField or RemoveMergeField or SetAudience or RemoveAudience or SetExportProfile or RemoveExportProfile => person.Is(
                Role.Lead
            )
                ? Decision.Yes
                : Refusals.Refuse(Rules.Role, null, "Fields, audiences and export profiles are changed by leads only."),
            _ => WrongType,
        };

    private static Decision DecideRows(Person person, Edit edit, OpenDocument.OfRows document) =>
        edit switch
        {
            SetFill e => PieceDecisions.Content(person, document, e.Row, e.Piece, e.Field, e.Value),
            ClearFill e => PieceDecisions.Content(person, document, e.Row, e.Piece, e.Field, null),
            SetLook e => PieceDecisions.Look(person, document, e.Row, e.Piece, e.Property, e.Value),
            ClearLook e => PieceDecisions.Look(person, document, e.Row, e.Piece, e.Property, null),
            SetShown e => PieceDecisions.Shown(person, document, e.Row, e.Piece),
            SetCondition e => PieceDecisions.Condition(person, document, e.Row, e.Piece, e.Condition),
            SetDetail when document is OpenDocument.OfSavedRow => WrongType,
            SetDetail e => document.Order.Template.Details.Get(e.Field) is null
                ? Refusals.Refuse(Rules.Unknown, null, $"An email has no detail \"{e.Field}\".")
                : Decision.Yes,

            SetLanguage or ConfirmUnchanged or DiscardUnplaced => document is OpenDocument.OfEmail ? Decision.Yes : WrongType,
            TakeUpdate e => document is OpenDocument.OfEmail email ? UpdateDecisions.TakeUpdate(person, email, e) : WrongType,
            SetAttachments => document is OpenDocument.OfEmail ? Decision.Yes : WrongType,
            SetRecipient { To: not null } when document is OpenDocument.OfEmail && !document.Order.Template.ForOnePerson => Refusals.Refuse(
                Rules.WrongType,
                null,
                "This email is for many readers. A template that is for one person is made into emails to one."
            ),
            SetRecipient => document is OpenDocument.OfEmail ? Decision.Yes : WrongType,
            SetPlainText when document is not OpenDocument.OfEmail => WrongType,
            SetPlainText when document.Order.Template.PlainTextOpen || person.Is(Role.Lead, Role.Designer) => Decision.Yes,
            SetPlainText => Refusals.Refuse(
                Rules.LockContent,
                null,
                "The plain text is made from the email. A lead or a designer may write it by hand, or open it to authors in the template."
            ),

            InsertRow or RemoveRow or MoveRow or SwapRows or DuplicateRow or DetachRow when document is OpenDocument.OfSavedRow =>
                WrongType,
            InsertRow e => RowDecisions.Insert(person, document, e),
            RemoveRow e => RowDecisions.Remove(person, document, e.Row),
            MoveRow e => RowDecisions.Move(person, document, e),
            SwapRows e => RowDecisions.Swap(person, document, e),
            DuplicateRow e => RowDecisions.Duplicate(person, document, e),
            DetachRow e => RowDecisions.Detach(person, document, e),

            InsertBlock e => PieceDecisions.Insert(person, document, e),
            RemoveBlock e => PieceDecisions.Arrange(person, document, e.Row, e.Piece),
            MoveBlock { Locks: not null } or SwapBlocks { FirstLocks: not null } or SwapBlocks { SecondLocks: not null } => Refusals.Refuse(
                Rules.Library,
                null,
                "Locks travel with a block; a move sets none."
            ),
            MoveBlock e => Refusals.First(
                PieceDecisions.Arrange(person, document, e.Row, e.Piece),
                PieceDecisions.Arrange(person, document, e.ToRow, e.Column),
                PieceDecisions.KeepsLocks(document, e.Row, e.ToRow)
            ),
            SwapBlocks e => Refusals.First(
                PieceDecisions.Arrange(person, document, e.Row, e.First),
                PieceDecisions.Arrange(person, document, e.OtherRow, e.Second),
                PieceDecisions.KeepsLocks(document, e.Row, e.OtherRow),
                PieceDecisions.KeepsLocks(document, e.OtherRow, e.Row)
            ),
            DuplicateBlock e => PieceDecisions.Arrange(person, document, e.Row, e.Piece),
            SplitText e => Refusals.First(
                PieceDecisions.Content(person, document, e.Row, e.Piece, e.Field, new FieldValue.Prose(e.First)),
                PieceDecisions.Insert(
                    person,
                    document,
                    new InsertBlock(e.Row, PieceDecisions.ColumnOf(document, e.Row, e.Piece), Edit.AtEnd, e.Rest)
                )
            ),
            JoinTexts e => Refusals.First(
                PieceDecisions.Content(person, document, e.Row, e.Piece, e.Field, new FieldValue.Prose(e.Text)),
                // Its words go into the first: whoever may not write them does not move them either.
                PieceDecisions.Content(person, document, e.Row, e.With, e.Field, new FieldValue.Prose(e.Text)),
                PieceDecisions.Arrange(person, document, e.Row, e.With)
            ),
            SetLayout e => PieceDecisions.Layout(person, document, e),
            SetBackground e => PieceDecisions.Background(person, document, e.Row),

            InsertZone or RemoveZone or SetZone or SetHouseStyle or SetPlainTextOpen or SetForOnePerson => document
            is OpenDocument.OfTemplate
                ? Decision.Yes
                : InLibrary(document),
            SetLock or SetLimit or SetOffer or SetInstruction or SetPlaceholder or SetPieceName or SetRowKind => InLibrary(document),
            SetDescription or SetTags or SetCampaignTypes or NarrowVariable => InLibrary(document),
            SetVaries => document is OpenDocument.OfSavedRow ? Decision.Yes : WrongType,
            SetName => Decision.Yes,
            _ => WrongType,
        };

    private static Decision InLibrary(OpenDocument.OfRows document) =>
        document is OpenDocument.OfEmail
            ? Refusals.Refuse(Rules.Library, null, "A lead or a designer sets that in the library, not in an email.")
            : Decision.Yes;

    internal static Decision WrongType => Refusals.Refuse(Rules.WrongType, null, "This edit does not belong to this kind of document.");
}
