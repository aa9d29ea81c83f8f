using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Reviews;

/// <summary>A field as somebody saw it.</summary>
/// <param name="Written">As the email and its releases have it, before anything is filled in; JSON.</param>
/// <param name="Words">What is read, one line for each part.</param>
/// <param name="Links">Where it leads, one line each.</param>
/// <param name="Pictures">Ids, one line each.</param>
/// <param name="Rest">All of it, where it is none of these: a moment, a switch, code; JSON.</param>
public sealed record SeenField(string Name, string Label, string Written, string Words, string Links, string Pictures, string Rest);

/// <param name="Look">What holds once every layer has spoken.</param>
/// <param name="WrittenLook">What the email and its releases say of it; JSON.</param>
/// <param name="Readers">Who sees it; empty: everyone.</param>
public sealed record SeenBlock(
    string Id,
    string Name,
    ImmutableSortedDictionary<string, string> Look,
    string WrittenLook,
    Visibility Shown,
    string Readers,
    ImmutableArray<SeenField> Fields
);

/// <param name="Html">As a proof.</param>
public sealed record SeenRow(
    string Id,
    string Name,
    ImmutableSortedDictionary<string, string> Look,
    string WrittenLook,
    string Background,
    Visibility Shown,
    string Readers,
    ImmutableArray<SeenBlock> Blocks,
    string Html
);

public enum SeenSource
{
    HouseStyle,
    Template,
    Row,
    Snippet,
}

/// <summary>Something that the email takes by reference, as it was.</summary>
/// <param name="Key">Id or technical name.</param>
/// <param name="Release">Its number; 0: it has none.</param>
/// <param name="Words">What a snippet came to.</param>
/// <param name="Row">The first row it stands in; empty: the whole email.</param>
public sealed record SeenVersion(SeenSource Source, string Key, string Name, int Release, string Words, string Row = "");

/// <summary>
/// An email as somebody saw it when they were asked to approve it: what the next look is compared with, and what an approval
/// holds for.
/// </summary>
/// <param name="Hash">
/// SHA-256, in hex, of all that is sent: HTML, text, what the inbox shows, attached files. What changes nothing of that, such as a
/// release of the house style that no block of it wears, leaves the hash as it is.
/// </param>
/// <param name="Details">What the inbox shows.</param>
/// <param name="Text">Plain text.</param>
/// <param name="Files">Names of what is attached.</param>
public sealed record SeenEmail(
    string Hash,
    ImmutableArray<SeenField> Details,
    string Opening,
    ImmutableArray<SeenRow> Rows,
    string Closing,
    string Text,
    ImmutableArray<string> Files,
    ImmutableArray<SeenVersion> Versions
)
{
    /// <summary>As a document of its own.</summary>
    public string Html() => string.Concat([Opening, .. Rows.Select(r => r.Html), Closing]);

    /// <param name="proof">Compiled as a proof: rows and blocks carry their ids.</param>
    /// <param name="style">The house style it stands on, by id, name and number.</param>
    public static SeenEmail Look(CompiledEmail sending, CompiledEmail proof, (Guid Id, string Name, int Release) style)
    {
        var resolved = sending.Source;
        var rows = resolved.Rows.Select((row, i) => Row(row, proof.Rows[i], resolved)).ToImmutableArray();
        var (details, text) = (DetailsOf(resolved), sending.PlainText());
        var files = resolved.Email.Attachments;
        return new SeenEmail(
            HashOf(sending.Html(), text, DocumentJson.Write(resolved.Email.Details), DocumentJson.Write(files)),
            details,
            Encoding.UTF8.GetString(proof.Opening),
            rows,
            Encoding.UTF8.GetString(proof.Closing),
            text,
            [.. files.Select(f => f.Name)],
            VersionsOf(resolved, style)
        );
    }

    private static string HashOf(byte[] html, params ReadOnlySpan<string> parts)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        hash.AppendData(html);
        foreach (var part in parts)
        {
            // Parted by what stands in none of them, so that no two emails come to the same bytes.
            hash.AppendData([0]);
            hash.AppendData(Encoding.UTF8.GetBytes(part));
        }

        return Convert.ToHexStringLower(hash.GetHashAndReset());
    }

    private static ImmutableArray<SeenField> DetailsOf(ResolvedEmail resolved)
    {
        var (written, shown) = (resolved.Written, resolved.Email.Details);
        return
        [
            Detail("subject", "Subject", written.Subject, shown.Subject),
            Detail("preheader", "Preheader", written.Preheader, shown.Preheader),
            Detail("senderName", "Sender name", written.SenderName, shown.SenderName),
            Detail("senderAddress", "Sender address", written.SenderAddress, shown.SenderAddress),
            Detail("sendDay", "Goes out on", written.SendDay, shown.SendDay),
        ];
    }

    private static SeenField Detail(string name, string label, string written, string shown) =>
        new(name, label, written, shown, "", "", "");

    private static SeenRow Row(ResolvedRow row, CompiledRow compiled, ResolvedEmail resolved) =>
        new(
            row.Id,
            row.Name,
            row.Look,
            LookOf(row.Source, row.Source.Row.Id, row.Source.Row.Look),
            row.Background,
            row.Shown,
            Readers(row.Condition, resolved),
            [.. row.Blocks.Select(block => Block(row, block, resolved))],
            Encoding.UTF8.GetString(compiled.Html.Span)
        );

    private static SeenBlock Block(ResolvedRow row, ResolvedBlock block, ResolvedEmail resolved)
    {
        var (kind, written) = (BlockKinds.For(block.Master), row.Source.ContentOf(block.Master));
        return new SeenBlock(
            block.Id,
            block.Master.Name ?? kind.Label,
            block.Look.ToImmutableSortedDictionary(l => l.Key, l => l.Value, StringComparer.Ordinal),
            LookOf(row.Source, block.Id, block.Master.Look),
            block.Shown,
            Readers(block.Condition, resolved),
            [
                .. kind.Fields.Select(field =>
                {
                    var parts = new Parts();
                    var value = block.Content[field.Name];
                    value.Visit(parts);
                    return new SeenField(
                        field.Name,
                        field.Label,
                        DocumentJson.Write(written[field.Name]),
                        string.Join('\n', parts.Lines),
                        string.Join('\n', parts.Links),
                        string.Join('\n', parts.Pictures),
                        parts.HasRest ? DocumentJson.Write(value) : ""
                    );
                }),
            ]
        );
    }

    private static string LookOf(OrderedRow row, string piece, ImmutableSortedDictionary<string, string> own)
    {
        var look = own;
        foreach (var fills in (ReadOnlySpan<ImmutableSortedDictionary<string, PieceFill>>)[row.TemplateFills, row.Fills])
        {
            look = fills.TryGetValue(piece, out var fill) ? look.SetItems(fill.Look) : look;
        }

        return DocumentJson.Write(look);
    }

    private static string Readers(Condition? condition, ResolvedEmail resolved) =>
        condition is null ? "" : Audiences.ConditionWords.Sentence(condition, resolved.Inline.Plan);

    private static ImmutableArray<SeenVersion> VersionsOf(ResolvedEmail resolved, (Guid Id, string Name, int Release) style)
    {
        var snippets = resolved
            .Rows.SelectMany(row => row.Blocks.SelectMany(b => b.Nodes).Select(n => (n.Node, row.Id)))
            .Where(n => n.Node.Kind == InlineKind.Snippet)
            .DistinctBy(n => n.Node.Key, StringComparer.Ordinal)
            .Select(n => new SeenVersion(
                SeenSource.Snippet,
                n.Node.Key,
                resolved.Inline.Snippets.Find(n.Node.Key)?.Of.Snippet.Name ?? n.Node.Key,
                0,
                resolved.Inline.Words(n.Node),
                n.Id
            ));
        return
        [
            new(SeenSource.HouseStyle, style.Id.ToString(), style.Name, style.Release, ""),
            new(SeenSource.Template, resolved.Email.Template.ToString(), resolved.Template.Name, resolved.Email.TemplateRelease, ""),
            .. resolved
                .Rows.Where(r => r.Source.Placed is { Master: not null, Own: null })
                .Select(r => new SeenVersion(SeenSource.Row, r.Id, r.Source.Master.Name, r.Source.Placed.Release ?? 0, "", r.Id)),
            .. snippets,
        ];
    }

    private sealed class Parts : FieldVisitor
    {
        public List<string> Lines { get; } = [];

        public List<string> Links { get; } = [];

        public List<string> Pictures { get; } = [];

        public bool HasRest { get; private set; }

        public override void Words(string text, FieldPart part) => Lines.Add(text);

        public override void Prose(RichText text, FieldPart part) => Lines.Add(text.PlainText);

        public override void Address(string href, FieldPart part) => Links.Add(href);

        public override void Picture(string picture, FieldPart part) => Pictures.Add(picture);

        public override void Code(FieldValue.Code code, FieldPart part) => HasRest = true;

        public override void Moment(FieldValue.Moment moment, FieldPart part) => HasRest = true;

        public override void Flag(bool on, FieldPart part) => HasRest = true;
    }
}
