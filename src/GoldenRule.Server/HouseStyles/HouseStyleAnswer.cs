using System.Collections.Immutable;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Server.HouseStyles;

public sealed record HouseStyleEntry(Guid Id, string Name, Guid? Parent, int Release, DateTime ReleasedAt);

/// <param name="Places">How many global style properties and variables refer to it.</param>
/// <param name="Own">False: it comes from the house style this one lies on.</param>
/// <param name="Changed">True: it differs from the newest release.</param>
public sealed record VariableEntry(BrandVariable Variable, string Resolved, string ResolvedDark, int Places, bool Own, bool Changed);

/// <param name="Written">As the house style writes it, "{variable}" or a literal; null: a layer above speaks.</param>
/// <param name="Literal">True: a plain value where a variable could stand.</param>
public sealed record PropertyEntry(string Name, string Label, VariableType Type, string? Written, string Resolved, string ResolvedDark, bool Literal, bool Changed, ImmutableArray<Said> Layers, ImmutableArray<string> Through);

public sealed record StyleEntry(string Name, string Label, ImmutableArray<PropertyEntry> Properties);

/// <summary>A text colour on a background it lands on. Ratios are cut, not rounded, to two decimals.</summary>
public sealed record ContrastEntry(string Text, string TextColour, string Background, string BackgroundColour, double Ratio, double Needed, bool Passes, bool Dark);

/// <param name="Specimen">HTML of the specimen sheet in the draft's dress.</param>
public sealed record HouseStyleAnswer(
    Guid Id,
    string Name,
    Guid? Parent,
    long Revision,
    DateTime KeptAt,
    int Release,
    int Changes,
    bool MayEdit,
    ImmutableArray<VariableEntry> Variables,
    ImmutableArray<StyleEntry> Styles,
    ImmutableArray<ContrastEntry> Contrast,
    string Specimen,
    bool CanUndo,
    bool CanRedo);

public sealed record ReachEntry(Guid Id, string Name, bool Follows, ImmutableArray<string> Stops);

/// <summary>What releasing the draft would do.</summary>
public sealed record ReachAnswer(int Follow, int Frozen, int Stopped, ImmutableArray<ReachEntry> Emails);

public sealed record ReleaseRequest(string Note);

public sealed record ReleaseAnswer(int Release, DateTime At);
