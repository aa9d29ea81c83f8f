using System.Collections.Immutable;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Data;
using Lock = GoldenRule.Core.Documents.Lock;

namespace GoldenRule.Server.Desks;

/// <summary>A field of one item of a list.</summary>
/// <param name="Default">What it holds in a new item.</param>
public sealed record DeskEntryField(string Name, string Label, FieldValue Default);

/// <summary>One field on the copy sheet.</summary>
/// <param name="Value">As it was written: brand variables are referred to, not filled in.</param>
/// <param name="Resolved">What that comes to, with them filled in; null: the same.</param>
/// <param name="Filled">True: this document says it, not the layer beneath.</param>
/// <param name="Entry">For entries: the fields of one item; empty for all else.</param>
public sealed record DeskField(
    string Name,
    string Label,
    FieldValue Value,
    FieldValue? Resolved,
    bool Filled,
    ImmutableArray<Measurement> Measured,
    ImmutableArray<DeskEntryField> Entry
);

/// <summary>One look property with what may be chosen.</summary>
public sealed record DeskLook(string Name, string Label, string Value, ImmutableArray<string> Choices);

/// <summary>A lock of one aspect: what the piece itself says here, and what holds once every layer has spoken.</summary>
/// <param name="Inherited">What holds where it says nothing.</param>
/// <param name="From">What says that: "the saved row", "its column".</param>
public sealed record DeskLock(Aspect Aspect, Lock? Own, Lock Holds, Lock Inherited, string From);

/// <summary>The rules of a piece, for those who set them.</summary>
/// <param name="Piece">A block's id or the row's own; null: a zone, or a row where it stands in a template.</param>
/// <param name="Placeholder">What stands there only says what belongs there.</param>
/// <param name="Offers">Per look property, what an author may choose among.</param>
public sealed record DeskRules(
    string? Piece,
    ImmutableArray<DeskLock> Locks,
    ImmutableSortedDictionary<string, Limit> Limits,
    ImmutableSortedDictionary<string, ImmutableArray<string>> Offers,
    ImmutableArray<DeskLook> Look,
    string? Instruction,
    bool Placeholder
);

/// <summary>Which readers see a row or a block.</summary>
/// <param name="Readers">The condition as a sentence.</param>
/// <param name="Here">True: this document says so, not the layer beneath.</param>
public sealed record DeskCondition(Condition Condition, string Readers, bool Here);

/// <param name="Drawing">What stands for it in the tiny drawing of a row.</param>
/// <param name="Condition">Null: every reader of its row sees it.</param>
/// <param name="LeastWidth">CSS pixels below which it falls apart.</param>
/// <param name="Rules">Null: whoever asks sets none here.</param>
public sealed record DeskBlock(
    string Id,
    string Name,
    string Kind,
    string KindLabel,
    Drawing Drawing,
    string? Instruction,
    bool Placeholder,
    ImmutableArray<DeskField> Fields,
    ImmutableArray<DeskLook> Look,
    Visibility Shown,
    DeskCondition? Condition,
    int LeastWidth,
    Allowance Content,
    Allowance LookAllowance,
    Allowance Arrange,
    DeskRules? Rules
);

/// <param name="Width">CSS pixels for what stands in it.</param>
public sealed record DeskColumn(string Id, int Parts, int Width, ImmutableArray<DeskBlock> Blocks);

/// <param name="Piece">Id of the row's own piece, by which its look, visibility and rules go.</param>
/// <param name="Master">The saved row it is there from; null: it is its own.</param>
/// <param name="Background">Id of the picture behind it.</param>
/// <param name="Condition">Null: every reader sees it.</param>
/// <param name="AudienceAllowance">Whether one of the named audiences may be chosen; any other condition goes by what is shown.</param>
/// <param name="Html">The row compiled as a proof.</param>
/// <param name="Rules">Of the row's own piece. Null: whoever asks sets none here.</param>
/// <param name="PlaceRules">Of the row where it stands in a template.</param>
public sealed record DeskRow(
    string Id,
    string Piece,
    string Name,
    string RowKind,
    Guid? Master,
    int? Release,
    int? Newest,
    string? Zone,
    string? Instruction,
    Surface Surface,
    string? Background,
    Visibility Shown,
    DeskCondition? Condition,
    ImmutableArray<DeskLook> Look,
    ImmutableArray<DeskColumn> Columns,
    Allowance Move,
    Allowance Remove,
    Allowance Duplicate,
    Allowance Detach,
    Allowance Shape,
    Allowance LookAllowance,
    Allowance ShownAllowance,
    Allowance AudienceAllowance,
    DeskRules? Rules,
    DeskRules? PlaceRules,
    string Html
);

/// <param name="Rows">Ids, in order.</param>
/// <param name="Terms">What it takes, for those who say so; null for others.</param>
public sealed record DeskZone(
    string Id,
    string Name,
    int Least,
    int Most,
    string? Instruction,
    bool OwnRows,
    Allowance Add,
    ImmutableArray<string> Rows,
    Zone? Terms,
    DeskRules? Rules
);

/// <summary>One item of the running order: a row of the template, or a zone with its rows.</summary>
public sealed record DeskItem(string? Row, DeskZone? Zone);

/// <summary>The running order.</summary>
/// <param name="Add">Whether rows may be added to it outside zones.</param>
public sealed record DeskOrder(ImmutableArray<DeskItem> Items, Allowance Add);

/// <param name="UpdateWaits">The template or a row in a zone has a newer release than the email stands on.</param>
/// <param name="UpdateRequired">One of these must be taken: until then it is neither asked about nor exported.</param>
/// <param name="ForOnePerson">Its emails are each written to one person.</param>
/// <param name="To">The one this is written to; null: nobody is named.</param>
/// <param name="Asked">Keys of the merge fields that it asks for, where it is written to one person.</param>
public sealed record DeskTemplate(
    Guid Id,
    string Name,
    int Release,
    int Newest,
    string CampaignType,
    string CampaignTypeName,
    bool UpdateWaits,
    bool UpdateRequired,
    bool ForOnePerson,
    Recipient? To,
    ImmutableArray<string> Asked
);

/// <summary>What a template or saved row says of itself.</summary>
/// <param name="Release">The newest; 0: there is none yet.</param>
/// <param name="Changed">The draft is ahead of it.</param>
/// <param name="Summary">The rules of the whole, in plain words.</param>
/// <param name="PlainTextOpen">Of a template: whether authors may write the plain text by hand.</param>
/// <param name="ForOnePerson">Of a template: whether its emails are each written to one person.</param>
/// <param name="Heir">What takes the place of a retired one; null: nothing is named.</param>
public sealed record DeskAbout(
    string Description,
    ImmutableArray<string> Tags,
    ImmutableArray<string> CampaignTypes,
    string? RowKind,
    string? Instruction,
    Guid? VariantOf,
    string? Varies,
    Guid HouseStyle,
    int Release,
    bool Changed,
    bool Retired,
    bool Private,
    ImmutableArray<string> Summary,
    bool PlainTextOpen,
    bool ForOnePerson,
    Guid? Heir
);

/// <summary>What found no place when an update was taken.</summary>
/// <param name="Value">What was written; null: it was a look, or rows.</param>
/// <param name="Rows">How many rows it is.</param>
public sealed record DeskAside(string Key, string Where, string Why, FieldValue? Value, string? Choice, int Rows)
{
    // A place that was empty has nothing to tell of.
    internal static ImmutableArray<DeskAside> List(ImmutableSortedDictionary<string, UnplacedContent> aside) =>
        [
            .. aside
                .Where(a => a.Value.Piece.Length > 0 || !a.Value.Rows.IsEmpty)
                .Select(a => new DeskAside(a.Key, a.Value.Where, a.Value.Why, a.Value.Value, a.Value.Choice, a.Value.Rows.Length)),
        ];
}

/// <summary>What an email has and templates and rows have not.</summary>
/// <param name="Fillable">How many places its author has to fill in, filled or not.</param>
public sealed record DeskEmail(DeskTemplate Template, ImmutableArray<DeskAside> Unplaced, int Fillable);

/// <summary>What goes with an email beside its rows.</summary>
/// <param name="Allowance">Whether whoever asks may change it.</param>
public sealed record DeskHead(EmailDetails Details, ImmutableArray<Attachment> Attachments, string Language, Allowance Allowance);

/// <param name="Bytes">Of the HTML as it would be sent.</param>
/// <param name="Most">Bytes after which it is clipped.</param>
public sealed record DeskWeight(int Bytes, int Most);

/// <summary>What the proofs need beside the rows.</summary>
/// <param name="StyleVersion">
/// Changes when the house style is released anew, with what a snippet, field or audience in it says, and with what whoever asks may do.
/// </param>
/// <param name="Width">CSS pixels of the content.</param>
/// <param name="Opening">HTML before the rows; null: it did not change.</param>
public sealed record DeskProof(string StyleVersion, int Width, string? Opening, DeskWeight Weight);

/// <summary>
/// The composing desk of one email, template or saved row. After an edit only the rows that changed are in it;
/// <see cref="Order"/> always names them all.
/// </summary>
/// <param name="AsAuthor">True: it only shows what a colleague would begin with, and takes no edits.</param>
/// <param name="Email">Null for templates and rows.</param>
/// <param name="About">Null for an email.</param>
/// <param name="Whole">True: every row is here.</param>
/// <param name="Findings">What changed among them; null: nothing did.</param>
public sealed record DeskAnswer(
    Guid Id,
    DocumentKind Kind,
    string Name,
    EmailState State,
    long Revision,
    DateTime KeptAt,
    bool AsAuthor,
    DeskEmail? Email,
    DeskAbout? About,
    DeskHead Head,
    DeskOrder Order,
    bool Whole,
    ImmutableArray<DeskRow> Rows,
    DeskProof Proof,
    FindingsChange? Findings,
    bool CanUndo,
    bool CanRedo
);
