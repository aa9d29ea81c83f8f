using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Releases;
using GoldenRule.Core.Specimens;
using GoldenRule.Server.Jobs;

namespace GoldenRule.Server.HouseStyles;

/// <param name="Release">0: not released yet.</param>
/// <param name="Own">How many values it says itself.</param>
public sealed record HouseStyleEntry(Guid Id, string Name, Guid? Parent, int Release, DateTime ChangedAt, int Own);

/// <param name="Id">UUIDv7 made by the client: sent twice, one is made.</param>
/// <param name="Parent">The house style it lies on; null: it stands alone.</param>
public sealed record NewHouseStyle(Guid Id, string Name, Guid? Parent);

/// <param name="Places">How many styles, variables, rows and templates refer to it.</param>
/// <param name="Own">False: it comes from the house style this one lies on.</param>
/// <param name="Changed">True: it differs from the newest release.</param>
/// <param name="Inherited">What the house style under this one says; null: it says nothing.</param>
public sealed record VariableEntry(
    BrandVariable Variable,
    string Resolved,
    string ResolvedDark,
    int Places,
    bool Own,
    bool Changed,
    BrandVariable? Inherited,
    ImmutableArray<LayerValue> Layers,
    ImmutableArray<string> Through
)
{
    // Immutable arrays compare by identity.
    public bool Equals(VariableEntry? other) =>
        other is not null
        && (Variable, Resolved, ResolvedDark, Places, Own, Changed, Inherited)
            == (other.Variable, other.Resolved, other.ResolvedDark, other.Places, other.Own, other.Changed, other.Inherited)
        && Layers.SequenceEqual(other.Layers)
        && Through.SequenceEqual(other.Through);

    public override int GetHashCode() => Variable.GetHashCode();
}

/// <param name="Written">As the house style writes it, "{variable}" or a literal; null: a layer above speaks.</param>
/// <param name="Inherited">As the house style under this one writes it; null: it says nothing.</param>
/// <param name="Literal">True: a plain value where a variable could stand.</param>
/// <param name="SameAs">The property whose value this is, as nothing is said for it; null: something is.</param>
public sealed record PropertyEntry(
    string Name,
    string Label,
    VariableType Type,
    ImmutableArray<string> Choices,
    string? Written,
    string? Inherited,
    string Resolved,
    string ResolvedDark,
    bool Literal,
    bool Changed,
    string? SameAs,
    ImmutableArray<LayerValue> Layers,
    ImmutableArray<string> Through
)
{
    // Immutable arrays compare by identity.
    public bool Equals(PropertyEntry? other) =>
        other is not null
        && (Name, Written, Inherited, Resolved, ResolvedDark, Literal, Changed, SameAs)
            == (other.Name, other.Written, other.Inherited, other.Resolved, other.ResolvedDark, other.Literal, other.Changed, other.SameAs)
        && Layers.SequenceEqual(other.Layers)
        && Through.SequenceEqual(other.Through);

    public override int GetHashCode() => Name.GetHashCode(StringComparison.Ordinal);
}

public sealed record StyleEntry(string Name, string Label, ImmutableArray<PropertyEntry> Properties)
{
    public bool Equals(StyleEntry? other) => other is not null && Name == other.Name && Properties.SequenceEqual(other.Properties);

    public override int GetHashCode() => Name.GetHashCode(StringComparison.Ordinal);
}

/// <summary>A value with which a pair can be read. Ratios are cut, not rounded, to two decimals.</summary>
/// <param name="Brand">Label of the brand variable it is; null: a shade of the same hue.</param>
/// <param name="Places">How many places the edit reaches: those of the variable it changes, or one.</param>
public sealed record RemedyEntry(bool OfText, string? Brand, string Colour, double Ratio, int Places, Edit Edit);

/// <summary>A text colour on a background it lands on. Ratios are cut, not rounded, to two decimals.</summary>
public sealed record ContrastEntry(
    string Text,
    string TextColour,
    string Background,
    string BackgroundColour,
    double Ratio,
    double Needed,
    bool Passes,
    bool Dark,
    ImmutableArray<RemedyEntry> Remedies
);

/// <param name="Whole">False: of variables, styles and the specimen only what differs from the revision that the asker had seen;
/// the order of the variables stands.</param>
public sealed record HouseStyleAnswer(
    bool Whole,
    Guid Id,
    string Name,
    Guid? Parent,
    string? ParentName,
    long Revision,
    DateTime KeptAt,
    int Release,
    int Changes,
    bool MayEdit,
    ImmutableArray<VariableEntry> Variables,
    ImmutableArray<StyleEntry> Styles,
    ImmutableArray<ContrastEntry> Contrast,
    SpecimenEntry Specimen,
    bool CanUndo,
    bool CanRedo
);

/// <summary>HTML of the specimen sheet in the draft's dress: what stands before its rows, and the rows.</summary>
/// <param name="Opening">Null: as before.</param>
/// <param name="Rows">Null for one that is as before.</param>
public sealed record SpecimenEntry(string? Opening, ImmutableArray<string?> Rows);

/// <summary>A property of a global style that a piece of the specimen shows.</summary>
public sealed record ShownProperty(string Style, string Property);

public sealed record SpecimenPiece(string Piece, string Label, ImmutableArray<ShownProperty> Shows);

/// <param name="Follows">False: it was handed off and stays as it is.</param>
public sealed record ReachEntry(Guid Id, string Name, bool Follows);

/// <summary>Emails of one campaign type that a release reaches.</summary>
public sealed record ReachGroup(string CampaignType, int Follow, int Frozen);

/// <summary>Which emails a release of the house style reaches.</summary>
/// <param name="Follow">How many follow at once.</param>
/// <param name="Frozen">How many were handed off and stay as they are.</param>
/// <param name="Emails">A page of them, the one changed last first.</param>
/// <param name="Next">What to ask for the page after this one; null: this is the last.</param>
/// <param name="Unread">Documents of an older release that are not read yet: unless 0, there may be more.</param>
public sealed record ReachAnswer(
    int Follow,
    int Frozen,
    ImmutableArray<ReachGroup> Groups,
    ImmutableArray<ReachEntry> Emails,
    string? Next,
    int Unread
);

/// <summary>An email that the release would bring blockers.</summary>
/// <param name="Blockers">Each as a sentence, with the figure.</param>
public sealed record ReachFinding(Guid Id, string Name, ImmutableArray<string> Blockers)
{
    internal static string Sentence(Core.Checking.Finding blocker) =>
        blocker.Evidence is null ? blocker.Message : $"{blocker.Message} {blocker.Evidence}";
}

/// <summary>What a check of the reach has found so far.</summary>
/// <param name="Stopped">How many emails would get blockers, on all pages.</param>
/// <param name="Next">What to ask for the findings after these; null: there are none yet.</param>
public sealed record ReachFindings(JobEntry Job, int Stopped, ImmutableArray<ReachFinding> Findings, int? Next);

/// <param name="Changes">What it changed against the release before it.</param>
public sealed record StyleReleaseEntry(int Number, string Note, string Author, DateTime At, int Changes);

/// <summary>A release as it was made, and what it changed against the one before it.</summary>
public sealed record StyleReleaseAnswer(
    int Number,
    string Note,
    string Author,
    DateTime At,
    HouseStyle Contents,
    ImmutableArray<StyleChange> Changes
);

/// <summary>Where a variable is used.</summary>
/// <param name="Emails">Emails whose own words or links refer to it, the ones changed last; see <paramref name="EmailCount"/>.</param>
/// <param name="EmailCount">How many there are.</param>
/// <param name="Unread">Documents of an older release that are not read yet: unless 0, there may be more.</param>
/// <param name="Narrowed">Templates and rows that say another value for themselves.</param>
public sealed record VariableUsesAnswer(
    ImmutableArray<VariableUse> Places,
    ImmutableArray<NamedUse> Emails,
    int EmailCount,
    ImmutableArray<NarrowedEntry> Narrowed,
    int Unread
);

public sealed record NamedUse(Guid Id, string Name);

/// <param name="Value">In its draft; null: the draft narrows it no more.</param>
/// <param name="Released">False: the draft differs from the newest release.</param>
public sealed record NarrowedEntry(bool Row, Guid Id, string Name, long Revision, int Release, string? Value, string? Dark, bool Released);

public enum ImportFormat
{
    /// <summary>Design tokens, JSON.</summary>
    Tokens,

    /// <summary>A web page's CSS.</summary>
    Css,
}

public sealed record ImportRequest(ImportFormat Format, [property: Longest(2_000_000)] string Text);

/// <param name="Target">"style/property" for a global style, the key for a variable; null: it is left.</param>
public sealed record ImportEntry(
    string Place,
    string Name,
    string? Target,
    VariableType? Type,
    Core.Interchange.ImportAction Action,
    string? Before,
    string? After,
    string? Shown,
    string? Reason,
    Edit? Edit
);

/// <param name="Share">Of the picture's plain areas, 0 to 1.</param>
/// <param name="Brand">Label of the brand colour that looks the same; null: there is none.</param>
public sealed record PaletteEntry(string Colour, double Share, string? Brand);
