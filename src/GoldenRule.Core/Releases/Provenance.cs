using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Releases;

/// <summary>Where a layer can be opened.</summary>
public enum LayerPlace
{
    /// <summary>Nowhere: it is the document itself, or what holds where nobody says anything.</summary>
    None,

    Row,
    Template,
    HouseStyle,
    Snippet,
    Fields,
}

/// <summary>What one layer said: the layer's name, its words as written there, and where that is.</summary>
/// <param name="Id">Of what can be opened there; empty where that is nothing of its own.</param>
public sealed record SaidLayer(string Layer, string Value, LayerPlace Place, string Id);

public enum ExplainedKind
{
    Words,
    Variable,
    Snippet,
    Field,
    Look,
    Lock,
    Limit,
}

/// <summary>A value and everything that led to it.</summary>
/// <param name="Piece">A block's id, or the row's own; empty: what the inbox shows.</param>
/// <param name="Field">Of the words it is of; empty: of none.</param>
/// <param name="Name">What the value is of: "Headline", "Background"; of a lock its aspect, or "Place": moving the row itself.</param>
/// <param name="Value">What holds.</param>
/// <param name="Layers">Each that spoke, outermost first; the last one holds.</param>
public sealed record ExplainedValue(
    string Piece,
    string PieceName,
    string Field,
    ExplainedKind Kind,
    string Name,
    string Value,
    ImmutableArray<SaidLayer> Layers
);

/// <summary>Answers "why does it say this?", and "why may I not?", for every value of a row.</summary>
/// <param name="document">What the document is called among its layers: "This email".</param>
/// <param name="template">Id of the template. Null: there is none.</param>
/// <param name="style">Of the row where it stands.</param>
public sealed class Provenance(
    string document,
    Guid? template,
    Template names,
    StyleLayers style,
    InlineValues inline,
    PictureCatalog pictures
)
{
    /// <summary>The layer beneath all others.</summary>
    public const string Usual = "As usual";

    private static readonly ImmutableArray<(string Field, string Label)> Details =
    [
        ("subject", "Subject"),
        ("preheader", "Preheader"),
        ("senderName", "Sender"),
        ("senderAddress", "Sender's address"),
        ("sendDay", "Goes out on"),
        ("campaignName", "Campaign name in links"),
    ];

    /// <summary>Everything about one row.</summary>
    public ImmutableArray<ExplainedValue> OfRow(OrderedRow row) =>
        [
            .. Looks(row, row.Row.Id, row.Name, RowLook.All, row.Row.Look),
            Place(row),
            .. Locks(row, row.Row.Id, row.Name),
            .. row.Row.Blocks.SelectMany(block => OfBlock(row, block)),
        ];

    /// <summary>What the inbox shows: an email begins with what its template says.</summary>
    public static ImmutableArray<ExplainedValue> OfDetails(Email email, Template from, string document) =>
        [
            .. Details.Select(detail => new ExplainedValue(
                "",
                "Subject and sender",
                detail.Field,
                ExplainedKind.Words,
                detail.Label,
                email.Details.Get(detail.Field)!,
                Chain(
                    (from.Name, from.Details.Get(detail.Field), LayerPlace.Template, email.Template),
                    (document, email.Details.Get(detail.Field), LayerPlace.None, null)
                )
            )),
        ];

    private IEnumerable<ExplainedValue> OfBlock(OrderedRow row, Block block)
    {
        var (kind, written) = (BlockKinds.For(block), row.ContentOf(block));
        var name = block.Name ?? kind.Label;
        foreach (var field in kind.Fields)
        {
            yield return new ExplainedValue(
                block.Id,
                name,
                field.Name,
                ExplainedKind.Words,
                field.Label,
                Words(written[field.Name])!,
                Chain(
                    (Master(row), Words(block.Content.GetValueOrDefault(field.Name)), LayerPlace.Row, row.Placed.Master),
                    (names.Name, Words(Fill(row.TemplateFills, block.Id, field.Name)), LayerPlace.Template, template),
                    (document, Words(Fill(row.Fills, block.Id, field.Name)), LayerPlace.None, null)
                )
            );
            foreach (var reference in References.In(written[field.Name]))
            {
                if (OfReference(block.Id, name, field.Name, reference) is { } explained)
                {
                    yield return explained;
                }
            }
        }

        foreach (var explained in Looks(row, block.Id, name, kind.Look, block.Look).Concat(Locks(row, block.Id, name)))
        {
            yield return explained;
        }

        foreach (var (field, limit) in block.Limits)
        {
            var own = row.Master.Row.Blocks.FirstOrDefault(b => b.Id == block.Id)?.Limits.GetValueOrDefault(field);
            var added = row.Placed.Rules.GetValueOrDefault(block.Id)?.Limits.GetValueOrDefault(field);
            yield return new ExplainedValue(
                block.Id,
                name,
                field,
                ExplainedKind.Limit,
                kind.Fields.FirstOrDefault(f => f.Name == field.Split('/')[0])?.Label ?? field,
                LimitWords.Write(limit),
                Chain(
                    (Master(row), own is null ? null : LimitWords.Write(own), LayerPlace.Row, row.Placed.Master),
                    (names.Name, added is null ? null : LimitWords.Write(added), LayerPlace.Template, template)
                )
            );
        }
    }

    private ExplainedValue? OfReference(string piece, string pieceName, string field, Reference reference)
    {
        switch (reference.Kind)
        {
            case ReferenceKind.Variable when style.Find(reference.Key) is { } variable:
                var resolved = style.Explain(variable.Key);
                return new ExplainedValue(
                    piece,
                    pieceName,
                    field,
                    ExplainedKind.Variable,
                    variable.Label,
                    resolved.Value,
                    [.. resolved.Layers.Select(l => new SaidLayer(l.Layer, l.Value, LayerPlace.HouseStyle, names.HouseStyle.ToString()))]
                );
            case ReferenceKind.Snippet when inline.Snippets.Find(reference.Key) is { } snippet:
                return new ExplainedValue(
                    piece,
                    pieceName,
                    field,
                    ExplainedKind.Snippet,
                    snippet.Of.Snippet.Name,
                    Words(snippet.Value)!,
                    [new SaidLayer(snippet.Of.Snippet.Name, Words(snippet.Value)!, LayerPlace.Snippet, snippet.Of.Id.ToString())]
                );
            case ReferenceKind.Field when inline.Plan.FindField(reference.Key) is { } merge:
                return new ExplainedValue(
                    piece,
                    pieceName,
                    field,
                    ExplainedKind.Field,
                    merge.Label,
                    inline.FieldWords(merge.Key),
                    [new SaidLayer("What is known of the reader", inline.FieldWords(merge.Key), LayerPlace.Fields, merge.Key)]
                );
            default:
                return null;
        }
    }

    private IEnumerable<ExplainedValue> Looks(
        OrderedRow row,
        string piece,
        string name,
        ImmutableArray<LookProperty> properties,
        ImmutableSortedDictionary<string, string> master
    ) =>
        from property in properties
        let layers = Chain(
            (Usual, property.Default, LayerPlace.None, null),
            (Master(row), master.GetValueOrDefault(property.Name), LayerPlace.Row, row.Placed.Master),
            (names.Name, row.TemplateFills.GetValueOrDefault(piece)?.Look.GetValueOrDefault(property.Name), LayerPlace.Template, template),
            (document, row.Fills.GetValueOrDefault(piece)?.Look.GetValueOrDefault(property.Name), LayerPlace.None, null)
        )
        select new ExplainedValue(piece, name, "", ExplainedKind.Look, property.Label, layers[^1].Value, layers);

    // Whether the row itself may be moved and removed: the zone's business, not the row's.
    private ExplainedValue Place(OrderedRow row)
    {
        var holds = LockWords.Write(EffectiveLocks.ForArrangement(row.Zone));
        var layers = row.Zone is { } zone
            ? Chain(
                (Usual, LockWords.Write(new Lock.Open()), LayerPlace.None, null),
                (
                    $"{names.Name}, {zone.Name ?? zone.Id}",
                    zone.Locks.Arrangement is { } said ? LockWords.Write(said) : null,
                    LayerPlace.Template,
                    template
                )
            )
            : Chain((names.Name, holds, LayerPlace.Template, template));
        return new ExplainedValue(row.Row.Id, row.Name, "", ExplainedKind.Lock, "Place", holds, layers);
    }

    private IEnumerable<ExplainedValue> Locks(OrderedRow row, string piece, string name)
    {
        var master = row.Master.Row;
        var column = row.ColumnOf(piece);
        foreach (var aspect in Enum.GetValues<Aspect>())
        {
            var block = column?.Blocks.FirstOrDefault(b => b.Id == piece)?.Locks[aspect];
            var layers = Chain(
                (Usual, LockWords.Write(Documents.Locks.Root[aspect]!), LayerPlace.None, null),
                (Master(row), Words(master.Locks[aspect]), LayerPlace.Row, row.Placed.Master),
                ($"{Master(row)}, its column", Words(column?.Locks[aspect]), LayerPlace.Row, row.Placed.Master),
                ($"{Master(row)}, the block", Words(block), LayerPlace.Row, row.Placed.Master),
                (names.Name, Words(row.AddedLock(piece, aspect) ?? row.Placed.Locks[aspect]), LayerPlace.Template, template),
                (
                    $"{names.Name}, {row.Zone?.Name ?? row.Zone?.Id}",
                    aspect == Aspect.Arrangement ? null : Words(row.Zone?.Locks[aspect]),
                    LayerPlace.Template,
                    template
                )
            );
            var holds = LockWords.Write(EffectiveLocks.ForPiece(row, piece, aspect));
            yield return new ExplainedValue(piece, name, "", ExplainedKind.Lock, aspect.ToString(), holds, layers);
        }

        static string? Words(Lock? @lock) => @lock is null ? null : LockWords.Write(@lock);
    }

    private static string Master(OrderedRow row) => row.IsOwn ? row.Name : $"{row.Master.Name}, release {row.Placed.Release}";

    private static FieldValue? Fill(ImmutableSortedDictionary<string, PieceFill> fills, string block, string field) =>
        fills.GetValueOrDefault(block)?.Content.GetValueOrDefault(field);

    // A picture by what it is called, not by its id.
    private string? Words(FieldValue? value) =>
        value is FieldValue.Image { Picture: var id } && pictures.Find(id) is { } picture ? picture.Name : value?.Describe();

    // Those that spoke.
    private static ImmutableArray<SaidLayer> Chain(params ReadOnlySpan<(string Layer, string? Value, LayerPlace Place, Guid? Id)> all)
    {
        var said = ImmutableArray.CreateBuilder<SaidLayer>();
        foreach (var (layer, value, place, id) in all)
        {
            if (value is not null)
            {
                said.Add(new SaidLayer(layer, value, id is null ? LayerPlace.None : place, id?.ToString() ?? ""));
            }
        }

        return said.ToImmutable();
    }
}
