using System.Collections.Immutable;
using System.Globalization;
using System.IO.Hashing;
using System.Text;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Checking;

/// <summary>A block as a check looks at it; what several checks ask for is asked of the block once.</summary>
/// <param name="width">CSS pixels it has.</param>
public sealed class InspectedBlock(ResolvedRow row, in BlockView view, WritableKind kind, int width)
{
    private ImmutableArray<(string Field, string Href)> links;
    private ImmutableArray<(string Field, string Text)> words;
    private ImmutableArray<ShownPicture> pictures;
    private ImmutableArray<(string What, double Size)> sizes;
    private int? wordCount;

    public ResolvedRow Row { get; } = row;

    public BlockView View { get; } = view;

    public WritableKind Kind { get; } = kind;

    /// <summary>CSS pixels it has.</summary>
    public int Width { get; } = width;

    public ResolvedBlock Block => View.Block;

    public ImmutableArray<KeyValuePair<string, FieldValue>> Content => Block.Content.All;

    public ImmutableArray<(string Field, string Href)> Links => links.IsDefault ? links = Kind.Links(View) : links;

    /// <summary>How many words it says.</summary>
    public int WordCount => wordCount ??= Words.Sum(w => Measuring.Words(w.Text));

    public ImmutableArray<(string Field, string Text)> Words => words.IsDefault ? words = Wording.Collect(Content) : words;

    public ImmutableArray<ShownPicture> Pictures => pictures.IsDefault ? pictures = Kind.Pictures(View) : pictures;

    public ImmutableArray<(string What, double Size)> Sizes => sizes.IsDefault ? sizes = Kind.Sizes(View) : sizes;

    /// <summary>A field of it as it was written, nothing filled in.</summary>
    public FieldValue WrittenIn(string field) => Row.Source.ContentOf(Block.Master, field);

    public Place At(string? field = null) => new(Row.Id, Block.Id, field);
}

/// <summary>A row as a check looks at it.</summary>
public sealed record InspectedRow(ResolvedRow Row, CompiledRow Compiled, ImmutableArray<InspectedBlock> Blocks)
{
    private int? fillable;
    private int? wordCount;
    private int? pictureCount;
    private Readability? readability;
    private ImmutableArray<(InspectedBlock Block, int Level)> headings;

    /// <summary>The headings in it, 1 to 4, as they are read.</summary>
    public ImmutableArray<(InspectedBlock Block, int Level)> Headings
    {
        get
        {
            if (headings.IsDefault)
            {
                ImmutableArray<(InspectedBlock, int)>.Builder? found = null;
                foreach (var block in Blocks)
                {
                    if (block.Kind.HeadingLevel(block.View) is { } level)
                    {
                        (found ??= ImmutableArray.CreateBuilder<(InspectedBlock, int)>()).Add((block, level));
                    }
                }

                headings = found?.DrainToImmutable() ?? [];
            }

            return headings;
        }
    }

    /// <summary>How many places of it an author has to fill in, filled or not.</summary>
    public int Fillable => fillable ??= Blocks.Sum(Checking.Fillable.Count);

    public Readability Readability =>
        readability ??= Compiled.Derived.Get(Blocks, static blocks => new Counted(Checking.Readability.Measure(blocks))).Readability;

    /// <summary>How many words it says.</summary>
    public int WordCount => wordCount ??= Blocks.Sum(b => b.WordCount);

    /// <summary>How many pictures it shows.</summary>
    public int PictureCount => pictureCount ??= Blocks.Sum(b => b.Pictures.Count(p => p.Picture.Length > 0));

    /// <summary>What of HTML and CSS it uses.</summary>
    internal FeatureSet Features => Compiled.Derived.Get(Compiled, static row => new Used(FeatureScan.Scan(row.Html.Span))).Features;

    private sealed record Counted(Readability Readability);

    private sealed record Used(FeatureSet Features);
}

/// <summary>What the checks look at.</summary>
/// <param name="Compiled">Compiled for sending.</param>
/// <param name="Context">What they know beside the email.</param>
/// <param name="Of">What is inspected: a template or a row is not finished, and is not blamed for it.</param>
public sealed record Inspection(
    ResolvedEmail Email,
    CompiledEmail Compiled,
    CheckContext Context,
    Inspection.Subject Of = Inspection.Subject.Email
)
{
    private ImmutableArray<InspectedRow> rows;
    private ImmutableArray<NodeUse> nodes;
    private ImmutableArray<Condition> conditions;
    private string? nodesVersion;

    /// <summary>Whether any row or block is seen by some readers only.</summary>
    internal bool HasConditions => !Conditions.IsEmpty;

    /// <summary>Every condition on a row or block, each once.</summary>
    internal ImmutableArray<Condition> Conditions => conditions.IsDefault ? conditions = Email.Conditions() : conditions;

    public enum Subject
    {
        Row,
        Template,
        Email,
    }

    public ImmutableArray<InspectedRow> Rows => rows.IsDefault ? rows = [.. Compiled.Rows.Select(Inspect)] : rows;

    /// <summary>How many places of an email its author has to fill in, filled or not.</summary>
    public int Fillable => Checking.Fillable.Details + Rows.Sum(r => r.Fillable);

    public IEnumerable<InspectedBlock> Blocks => Rows.SelectMany(r => r.Blocks);

    /// <summary>Every snippet and field where it stands, what the inbox shows first.</summary>
    internal ImmutableArray<NodeUse> Nodes => nodes.IsDefault ? nodes = NodeUse.Find(this) : nodes;

    /// <summary>The same with only what some readers see.</summary>
    internal Inspection Seen(ImmutableArray<InspectedRow> seen)
    {
        var email = Email with { Rows = ImmutableArray.CreateRange(seen, r => r.Row) };
        return new Inspection(
            email,
            Compiled with
            {
                Source = email,
                Rows = ImmutableArray.CreateRange(seen, r => r.Compiled),
            },
            Context,
            Of
        )
        {
            rows = seen,
        };
    }

    /// <summary>A row with only the blocks that some readers see.</summary>
    internal InspectedRow Seen(InspectedRow row, Func<Condition, bool> holds) => Inspect(PartedRow.Seen(row.Compiled, holds));

    /// <summary>Whether a field stands anywhere in it.</summary>
    public bool HasFields => Nodes.Any(n => n.Node.Kind == InlineKind.Field);

    /// <summary>Changes with whatever its snippets, fields and audiences say; empty: it has none.</summary>
    public string NodesVersion => nodesVersion ??= WorkOutNodesVersion();

    private string WorkOutNodesVersion()
    {
        if (Nodes.IsEmpty && !HasConditions)
        {
            return "";
        }

        var said = new StringBuilder();
        var plan = Email.Inline.Plan;
        foreach (var condition in Conditions)
        {
            said.Append(ConditionWords.Sentence(condition, plan)).Append(DocumentJson.Write(Audiences.Conditions.Expand(condition, plan)));
        }

        foreach (var use in Nodes.DistinctBy(n => n.Node))
        {
            said.Append(use.Node.Token).Append(DocumentJson.Write(use.Snippet?.Value)).Append(Email.Inline.Words(use.Node));
            said.Append(use.Snippet is { } snippet ? $"{snippet.Expired} {snippet.Of.Retired} {snippet.Of.Snippet.Name}" : "");
        }

        return XxHash64.HashToUInt64(Encoding.UTF8.GetBytes(said.ToString())).ToString("x16", CultureInfo.InvariantCulture);
    }

    /// <summary>Rows that were not compiled anew since are looked at as they were, with all that was asked of them.</summary>
    internal void TakeOver(Inspection former)
    {
        if (former.Compiled.Context.WritesLike(Compiled.Context))
        {
            rows = IncrementalMap.Rows(Compiled.Rows, (former.Compiled.Rows, former.Rows), (row, _) => Inspect(row));
        }
    }

    /// <summary>Whether the other is of the very same email, with nothing said anew since.</summary>
    internal bool SaysTheSame(Inspection other) =>
        ReferenceEquals(Email.Email, other.Email.Email)
        && ReferenceEquals(Email.Written, other.Email.Written)
        && ReferenceEquals(Email.Inline, other.Email.Inline)
        && ReferenceEquals(Email.Style, other.Email.Style)
        && ReferenceEquals(Email.Template, other.Email.Template)
        && Compiled.Context.WritesLike(other.Compiled.Context)
        && Compiled.Rows.AsSpan().SequenceEqual(other.Compiled.Rows.AsSpan(), ReferenceEqualityComparer.Instance);

    public static Subject SubjectOf(Document document) =>
        document switch
        {
            Documents.Email => Subject.Email,
            Template => Subject.Template,
            _ => Subject.Row,
        };

    private InspectedRow Inspect(CompiledRow compiled)
    {
        var row = compiled.Source;
        var blocks = ImmutableArray.CreateBuilder<InspectedBlock>();
        var widths = RowWidths.Measure(row, Compiled.Context.ThemeOf(row));
        for (var c = 0; c < row.Columns.Length; c++)
        {
            foreach (var block in row.Columns[c].Blocks)
            {
                blocks.Add(new InspectedBlock(row, Compiled.Context.View(row, block, widths[c]), BlockKinds.For(block.Master), widths[c]));
            }
        }

        return new InspectedRow(row, compiled, blocks.ToImmutable());
    }
}
