using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Releases;
using GoldenRule.Core.Validation;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Editing;

/// <summary>Whether a document can be after its edits, and all that stands on it. What cannot is refused before it is stored.</summary>
public static class Validity
{
    /// <summary>The document complete, as it is to be stored.</summary>
    /// <param name="before">The document as it was, and held. Null: there was none.</param>
    /// <param name="loaded">As its edits left it.</param>
    /// <exception cref="StructureException">It cannot be.</exception>
    public static async Task<LoadedDocument> CompleteAsync(
        DocumentHead? before,
        LoadedDocument loaded,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var held = before?.Document.HasRows == true ? before.LayOut(loaded.Library).Order : null;
        loaded = loaded.With(
            Structure.Complete(loaded.Document, loaded.Library.Masters, held, loaded.Document is Email ? loaded.Layout.Order : null)
        );
        CheckNodes(before, loaded);
        CheckRowKinds(loaded);
        switch (loaded.Document)
        {
            case HouseStyle style:
                var layers = loaded.StyleLayers;
                if (before is null || !OnlyPlainValuesDiffer((HouseStyle)before.Document, style))
                {
                    CheckSubBrands(style, loaded);
                }

                if (before is not null)
                {
                    await RefuseVanishedAsync(loaded, before.StyleLayers(loaded.Stored.Id, loaded.Library), layers, db, cancel);
                }

                break;
            case Email email:
                await MustHaveFilesAsync((before?.Document as Email)?.Attachments ?? [], email.Attachments, db, cancel);
                break;
            case Template template:
                if (loaded.Library.Plan.Find(template.CampaignType) is null)
                {
                    throw new StructureException($"There is no campaign type \"{template.CampaignType}\".", "about");
                }

                break;
            case SavedRow row:
                Structure.CheckVariants(
                    loaded.Stored.Id,
                    row,
                    loaded.Library.Releases.Rows.ToDictionary(r => r.Key, r => r.Value.VariantOf)
                );
                if (row.CampaignTypes.FirstOrDefault(key => loaded.Library.Plan.Find(key) is null) is { } unknown)
                {
                    throw new StructureException($"There is no campaign type \"{unknown}\".", "about");
                }

                break;
            case Snippet snippet:
                CheckSnippet(snippet, loaded.Library);
                break;
            case AudiencePlan plan:
                await RefuseVanishedAsync((AudiencePlan?)before?.Document ?? AudiencePlan.Empty, plan, db, cancel);
                break;
            default:
                break;
        }

        return loaded;
    }

    private static void CheckRowKinds(LoadedDocument loaded)
    {
        var items = loaded.Document switch
        {
            Email email => email.Zones.Values.SelectMany(rows => rows),
            Template template => template.Order,
            _ => Enumerable.Empty<OrderItem>(),
        };
        var named = items
            .SelectMany(item => item is Zone zone ? zone.Default.Prepend(item) : [item])
            .SelectMany(item =>
                item switch
                {
                    Zone zone => zone.Accepts.Select(kind => (kind, item.Id)),
                    PlacedRow { Own: { } own } => [(own.RowKind, item.Id)],
                    _ => [],
                }
            );
        if (loaded.Document is SavedRow row)
        {
            named = named.Append((row.RowKind, "about/row-kind"));
        }

        if (named.FirstOrDefault(n => loaded.Library.Plan.RowKinds.Find(n.Item1) is null) is ({ } unknown, var place))
        {
            throw new StructureException($"There is no row kind \"{unknown}\" in this library. A lead adds it in Plan.", place);
        }
    }

    // What it refers to since is there. What stood before may stay: a check tells of it.
    private static void CheckNodes(DocumentHead? before, LoadedDocument loaded)
    {
        if (!loaded.Document.HasRows)
        {
            return;
        }

        foreach (var reference in loaded.Head.References)
        {
            var known = reference.Kind switch
            {
                ReferenceKind.Snippet => loaded.Library.Snippets.Find(reference.Key) is not null,
                ReferenceKind.Field => loaded.Library.Audiences.FindField(reference.Key) is not null,
                ReferenceKind.Audience => loaded.Library.Audiences.FindAudience(reference.Key) is not null,
                _ => true,
            };
            if (!known && before?.References.Any(r => r.Kind == reference.Kind && r.Key == reference.Key) != true)
            {
                var what = reference.Kind.ToString().ToLowerInvariant();
                throw new StructureException($"There is no {what} \"{reference.Key}\" in this library.", reference.Place);
            }
        }
    }

    // What stands somewhere, be it in a release that nobody uses now, is retired and does not go.
    private static async Task RefuseVanishedAsync(AudiencePlan before, AudiencePlan after, GoldenRuleDb db, CancellationToken cancel)
    {
        var fields = before.Fields.Where(f => after.FindField(f.Key) is null).Select(f => (ReferenceKind.Field, f.Key, f.Label, "fields"));
        var audiences = before
            .Audiences.Where(a => after.FindAudience(a.Key) is null)
            .Select(a => (ReferenceKind.Audience, a.Key, a.Name, "audiences"));
        foreach (var (kind, key, name, list) in fields.Concat(audiences))
        {
            if (await db.References.AnyAsync(r => r.Kind == kind && r.Key == key, cancel))
            {
                throw new StructureException(
                    $"\"{name}\" is used and cannot go. Retire it: it is not offered any more then.",
                    $"{list}/{key}"
                );
            }
        }
    }

    private static void CheckSnippet(Snippet snippet, LibrarySnapshot library)
    {
        if (snippet.CampaignTypes.FirstOrDefault(key => library.Plan.Find(key) is null) is { } unknown)
        {
            throw new StructureException($"There is no campaign type \"{unknown}\".", "about/campaign-types");
        }

        if (
            snippet
                .Values.Select(v => (v.Value as FieldValue.Image)?.Picture)
                .FirstOrDefault(p => p?.Length > 0 && library.Pictures.Find(p) is null)
            is not null
        )
        {
            throw new StructureException("That picture is not in the library.", "values");
        }

        // Whoever follows one to another must come to an end.
        var seen = new HashSet<string>(StringComparer.Ordinal) { snippet.Key };
        for (var next = snippet.ReplacedBy; next is not null; next = library.Snippets.Find(next)?.Snippet.ReplacedBy)
        {
            if (!seen.Add(next))
            {
                throw new StructureException("A snippet cannot stand in its own place: the other one leads back to it.", "replaced-by");
            }

            var other = library.Snippets.Find(next)?.Snippet
                ?? throw new StructureException($"There is no snippet \"{next}\".", "replaced-by");
            if (other.Type != snippet.Type)
            {
                throw new StructureException(
                    $"\"{other.Name}\" is of another type, and would not fit where this one stands.",
                    "replaced-by"
                );
            }
        }
    }

    // What an email says of its files is what the library has.
    private static async Task MustHaveFilesAsync(
        ImmutableArray<Attachment> before,
        ImmutableArray<Attachment> now,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        if (before == now || now.IsEmpty)
        {
            return;
        }

        var ids = now.Select(a => a.File).ToList();
        var known = await db
            .Files.Where(f => ids.Contains(f.Id))
            .Select(f => new
            {
                f.Id,
                f.MediaType,
                f.Bytes,
            })
            .ToDictionaryAsync(f => f.Id, StringComparer.Ordinal, cancel);
        if (
            now.FirstOrDefault(a => known.GetValueOrDefault(a.File) is not { } f || (f.MediaType, f.Bytes) != (a.MediaType, a.Bytes)) is
            { } wrong
        )
        {
            throw new StructureException($"\"{wrong.Name}\" is not a file of the library. Add it there first.", "attachments");
        }

        // What stands already stays as it is; what goes out is mended in any case.
        if (
            now.Except(before).Select(a => AttachmentTypes.NameFault(a.Name, a.MediaType)).FirstOrDefault(fault => fault is not null) is
            { } misnamed
        )
        {
            throw new StructureException(misnamed, "attachments");
        }

        if (now.DistinctBy(a => a.File).Count() != now.Length)
        {
            throw new StructureException("The same file is attached twice.", "attachments");
        }
    }

    /// <summary>
    /// A variable that rows, templates or emails refer to does not go: another takes its place, or it is said what would break.
    /// </summary>
    private static async Task RefuseVanishedAsync(
        LoadedDocument loaded,
        StyleLayers before,
        StyleLayers after,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var library = loaded.Library;
        // Rows belong to no house style: they count where a template is dressed in this one.
        if (!library.Masters.Templates.Any(t => StyleLibrary.Chain(t.HouseStyle, library.Styles.All).Contains(loaded.Stored.Id)))
        {
            return;
        }

        List<(string Name, Document Document)>? masters = null;
        foreach (var gone in before.Variables)
        {
            string[] keys = [.. gone.Formerly.Append(gone.Key).Where(k => after.Find(k) is null)];
            if (keys.Length == 0)
            {
                continue;
            }

            if (await db.CountUnreadAsync(cancel) is > 0 and var unread)
            {
                throw new ProblemException(
                    503,
                    "still-reading",
                    "The library is still being read",
                    $"After the update {unread:N0} documents are still to be read for what they use, so nobody knows yet whether "
                        + $"\"{gone.Label}\" may go. Nothing was changed; try again in a few minutes."
                );
            }

            masters ??= await MastersInUseAsync(library, db, cancel);
            var users = masters
                .Where(m => Refers(m.Document, keys))
                .Select(m => m.Name)
                .Concat(await HeadsThatReferAsync(keys, db, cancel))
                .Distinct(StringComparer.Ordinal)
                .ToList();
            if (users.Count > 0)
            {
                var further = users.Count > 6 ? $" and {(users.Count > MostTold ? "many" : users.Count - 6)} more" : "";
                throw new StructureException(
                    $"\"{gone.Label}\" is used and cannot go: {string.Join(", ", users.Take(6))}{further}. "
                        + "Let another variable take its place.",
                    $"variable {gone.Key}"
                );
            }
        }
    }

    private static bool Refers(Document master, string[] keys) =>
        References.Find(master).Any(r => r.Kind is ReferenceKind.Variable or ReferenceKind.Override && keys.Contains(r.Key));

    // The newest releases, which are what anything new is made from, and whatever older ones emails stand on.
    private static async Task<List<(string Name, Document Document)>> MastersInUseAsync(
        LibrarySnapshot library,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var used = (await db.ReleasesInUseAsync(cancel))
            .Concat(
                library
                    .Releases.Templates.Keys.Concat(library.Releases.Rows.Keys)
                    .Select(id => new UsedRelease(id, library.Releases.Newest[id].Number))
            )
            .ToHashSet();
        var templates = used.Select(t => (Of: t, Document: library.Masters.FindTemplate(t.Id, t.Release)))
            .Where(t => t.Document is not null)
            .ToList();
        var placed = templates
            .SelectMany(t => t.Document!.PlacedRows)
            .Where(r => r is { Own: null, Master: not null, Release: not null })
            .Select(r => new UsedRelease(r.Master!.Value, r.Release!.Value));
        return
        [
            .. templates.Select(t => ($"template \"{t.Document!.Name}\"{Older(t.Of)}", (Document)t.Document!)),
            .. used.Concat(placed)
                .Distinct()
                .Select(r => (Of: r, Document: library.Masters.FindRow(r.Id, r.Release)))
                .Where(r => r.Document is not null)
                .Select(r => ($"row \"{r.Document!.Name}\"{Older(r.Of)}", (Document)r.Document!)),
        ];

        string Older(UsedRelease used) =>
            library.Releases.Newest.GetValueOrDefault(used.Id)?.Number == used.Release ? "" : $" (release {used.Release}, still in use)";
    }

    // Drafts and emails by their names, as many as are ever told of.
    private static async Task<List<string>> HeadsThatReferAsync(string[] keys, GoldenRuleDb db, CancellationToken cancel) =>
        [
            .. (
                await db
                    .Documents.AsNoTracking()
                    .Where(d =>
                        d.Kind != DocumentKind.HouseStyle
                        && d.References.Any(r =>
                            (r.Kind == ReferenceKind.Variable || r.Kind == ReferenceKind.Override)
                            && keys.Contains(r.Key)
                            && r.Release == StoredReference.OfHead
                        )
                    )
                    .OrderBy(d => d.Kind == DocumentKind.Email)
                    .ThenBy(d => d.Name)
                    .ThenBy(d => d.Id)
                    .Select(d => new { d.Kind, d.Name })
                    .Take(MostTold)
                    .ToListAsync(cancel)
            ).Select(d =>
                d.Kind == DocumentKind.Email ? $"email \"{d.Name}\"" : $"{d.Kind.ToString().ToLowerInvariant()} \"{d.Name}\" (draft)"
            ),
        ];

    private const int MostTold = 100;

    // A plain value in place of another, as when a colour is dragged, breaks nothing that refers to it.
    private static bool OnlyPlainValuesDiffer(HouseStyle before, HouseStyle after) =>
        ReferenceEquals(before.Styles, after.Styles)
        && before.Variables.Length == after.Variables.Length
        && before
            .Variables.Zip(after.Variables)
            .All(v =>
                ReferenceEquals(v.First, v.Second)
                || (
                    v.First with { Value = v.Second.Value, Dark = v.Second.Dark } == v.Second
                    && BrandVariable.Reference(v.Second.Value) is null
                    && BrandVariable.Reference(v.Second.Dark ?? "") is null
                )
            );

    private static void CheckSubBrands(HouseStyle draft, LoadedDocument loaded)
    {
        foreach (
            var (id, style) in loaded.Library.Styles.All.Where(s =>
                s.Key != loaded.Stored.Id && StyleLibrary.Chain(s.Key, loaded.Library.Styles.All).Contains(loaded.Stored.Id)
            )
        )
        {
            try
            {
                _ = new StyleLayers(loaded.Library.Styles.ChainWith(loaded.Stored.Id, draft, id));
            }
            catch (StructureException fault)
            {
                throw new StructureException($"{style.Name} lies on this house style and would break: {fault.Message}", fault.Piece);
            }
        }
    }
}
