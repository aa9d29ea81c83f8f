using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Resolving;

/// <summary>A block with the value that holds in each of its fields and look properties; references are filled in.</summary>
/// <param name="Master">The block as its saved row has it: kind, limits, instruction.</param>
public sealed record ResolvedBlock(
    Block Master,
    ImmutableSortedDictionary<string, FieldValue> Content,
    ImmutableSortedDictionary<string, string> Look)
{
    public string Id => Master.Id;

    public string Words(string field) => ((FieldValue.Words)Content[field]).Text;

    public RichText Prose(string field) => ((FieldValue.Prose)Content[field]).Text;

    public string Href(string field) => ((FieldValue.Target)Content[field]).Href;

    public string Picture(string field) => ((FieldValue.Shown)Content[field]).Picture;

    public bool Flag(string field) => ((FieldValue.Flag)Content[field]).On;

    public ImmutableArray<ImmutableArray<string>> Cells(string field) => ((FieldValue.Cells)Content[field]).Rows;

    public ImmutableArray<NamedLink> Links(string field) => ((FieldValue.LinkList)Content[field]).Links;
}

public sealed record ResolvedColumn(int Parts, ImmutableArray<ResolvedBlock> Blocks);

/// <param name="Style">The email's, or with what the saved row narrows.</param>
public sealed record ResolvedRow(OrderedRow Source, StyleLayers Style, ImmutableArray<ResolvedColumn> Columns)
{
    public string Id => Source.Id;

    public Surface Surface => Source.Master.Row.Surface;

    public bool FullWidth => Source.Master.Row.FullWidth;

    public string Name => Source.Placed.Name ?? Source.Master.Name;

    public IEnumerable<ResolvedBlock> Blocks => Columns.SelectMany(c => c.Blocks);
}

/// <summary>An email with every layer spoken: what the compiler writes and the checks read.</summary>
public sealed record ResolvedEmail(
    Email Email,
    Template Template,
    StyleLayers Style,
    PictureShelf Pictures,
    ImmutableArray<ResolvedRow> Rows);
