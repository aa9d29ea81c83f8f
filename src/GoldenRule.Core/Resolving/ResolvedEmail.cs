using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Resolving;

/// <summary>A block with the value that holds in each of its fields and look properties; references are filled in.</summary>
/// <param name="Master">The block as its saved row has it, with the rules that the template adds: kind, limits, instruction.</param>
public sealed record ResolvedBlock(Block Master, ByName<FieldValue> Content, ByName<string> Look, Visibility Shown)
{
    public string Id => Master.Id;

    /// <summary>Which readers see it, of those that see its row. Null: all of them.</summary>
    public Condition? Condition { get; init; }

    /// <summary>The snippets and fields that were written into it, each with the field it stands in.</summary>
    public ImmutableArray<(string Field, InlineNode Node)> Nodes { get; init; } = [];

    public bool HasNodes => !Nodes.IsEmpty;

    public string Words(string field) => ((FieldValue.Words)Content[field]).Text;

    public RichText Prose(string field) => ((FieldValue.Prose)Content[field]).Text;

    public string Href(string field) => ((FieldValue.Link)Content[field]).Href;

    public string Picture(string field) => ((FieldValue.Image)Content[field]).Picture;

    public bool Flag(string field) => ((FieldValue.Flag)Content[field]).On;

    public ImmutableArray<ImmutableArray<string>> Cells(string field) => ((FieldValue.Cells)Content[field]).Rows;

    public ImmutableArray<ImmutableSortedDictionary<string, FieldValue>> Entries(string field) =>
        ((FieldValue.Entries)Content[field]).Items;

    public FieldValue.Moment Moment(string field) => (FieldValue.Moment)Content[field];

    public ImmutableArray<NamedLink> Links(string field) => ((FieldValue.LinkList)Content[field]).Links;
}

public sealed record ResolvedColumn(int Parts, ImmutableArray<ResolvedBlock> Blocks);

/// <param name="Style">The email's, or with what the saved row narrows.</param>
/// <param name="Look">See <see cref="RowLook"/>.</param>
/// <param name="Background">Id of the picture behind the row; empty: none.</param>
public sealed record ResolvedRow(
    OrderedRow Source,
    StyleLayers Style,
    ImmutableSortedDictionary<string, string> Look,
    string Background,
    Visibility Shown,
    ImmutableArray<ResolvedColumn> Columns
)
{
    public string Id => Source.Id;

    /// <summary>Which readers see it. Null: everyone.</summary>
    public Condition? Condition { get; init; }

    /// <summary>Whether a block of it is seen by some of its readers only.</summary>
    public bool IsParted
    {
        get
        {
            foreach (var column in Columns)
            {
                foreach (var block in column.Blocks)
                {
                    if (block.Condition is not null)
                    {
                        return true;
                    }
                }
            }

            return false;
        }
    }

    public Surface Surface { get; } = RowLook.Surface.Of<Surface>(Look);

    public bool FullWidth { get; } = RowLook.Edges.Value(Look) == "edge-to-edge";

    /// <summary>True: the background runs across the page, not only the content area.</summary>
    public bool Across { get; } = RowLook.Across.Value(Look) == "page";

    public RowSpace Space { get; } = RowLook.Space.Of<RowSpace>(Look);

    public PhoneColumns Phone { get; } = RowLook.Phone.Of<PhoneColumns>(Look);

    public string Name => Source.Name;

    /// <summary>Whether a snippet or field stands in it.</summary>
    public bool HasNodes { get; } = Columns.Any(c => c.Blocks.Any(b => b.HasNodes)) || InlineNode.AreIn(Source.Row.Background ?? "");

    public IEnumerable<ResolvedBlock> Blocks => Columns.SelectMany(c => c.Blocks);

    /// <summary>The same with only the blocks that are seen.</summary>
    /// <param name="holds">Whether a condition does.</param>
    public ResolvedRow Seen(Func<Condition, bool> holds) =>
        IsParted
            ? this with
            {
                Columns = [.. Columns.Select(c => c with { Blocks = c.Blocks.RemoveAll(b => b.Condition is { } only && !holds(only)) })],
            }
            : this;

    /// <summary>The same where nobody asks any more who sees it.</summary>
    public ResolvedRow WithoutConditions() =>
        this with
        {
            Condition = null,
            Columns = IsParted
                ? [.. Columns.Select(c => c with { Blocks = [.. c.Blocks.Select(b => b with { Condition = null })] })]
                : Columns,
        };

    /// <summary>Whether a block of it is seen on one sort of screen.</summary>
    /// <param name="screen">Phones or desktops.</param>
    public bool IsShown(ResolvedBlock block, Visibility screen) =>
        (Shown == Visibility.Everywhere || Shown == screen) && (block.Shown == Visibility.Everywhere || block.Shown == screen);
}

/// <summary>An email with every layer spoken: what the compiler writes and the checks read.</summary>
/// <param name="Inline">What its snippets and fields came to.</param>
/// <param name="Rows">Those of the order, one for one.</param>
public sealed record ResolvedEmail(
    Email Email,
    RunningOrder Order,
    StyleLayers Style,
    PictureCatalog Pictures,
    InlineValues Inline,
    ImmutableArray<ResolvedRow> Rows
)
{
    public Template Template => Order.Template;

    /// <summary>What the inbox shows as it was written: <see cref="Email"/> has it with its nodes filled in.</summary>
    public EmailDetails Written { get; init; } = Email.Details;

    /// <summary>Every condition on a row or block, each once.</summary>
    public ImmutableArray<Condition> Conditions() =>
        HasConditions
            ?
            [
                .. Rows.SelectMany(r => r.Blocks.Select(b => b.Condition).Prepend(r.Condition))
                    .OfType<Condition>()
                    .DistinctBy(DocumentJson.Write, StringComparer.Ordinal),
            ]
            : [];

    /// <summary>Whether any row or block is seen by some readers only.</summary>
    public bool HasConditions => Rows.Any(r => r.Condition is not null || r.IsParted);

    /// <summary>
    /// What stands where every reader sees it, on phones and on desktops, the last of each. Null: some readers do not see it.
    /// </summary>
    /// <param name="find">What a block says of it; null: nothing.</param>
    public (string OnPhones, string OnDesktops)? SeenByAll(Func<ResolvedRow, ResolvedBlock, string?> find)
    {
        string? phone = null,
            desktop = null;
        // From the end: what the law asks for stands in the footer.
        for (var i = Rows.Length - 1; i >= 0 && (phone is null || desktop is null); i--)
        {
            var row = Rows[i];
            foreach (var column in row.Columns)
            {
                foreach (var block in column.Blocks)
                {
                    if (find(row, block) is { } found)
                    {
                        phone ??= row.IsShown(block, Visibility.PhoneOnly) ? found : null;
                        desktop ??= row.IsShown(block, Visibility.DesktopOnly) ? found : null;
                    }
                }
            }
        }

        return phone is null || desktop is null ? null : (phone, desktop);
    }
}
