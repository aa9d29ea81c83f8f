using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Releases;
using GoldenRule.Core.Validation;
using GoldenRule.Data;
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
        var held = before?.Document is null or HouseStyle ? null : before.LayOut(loaded.Library).Order;
        loaded = loaded.With(
            Structure.Complete(loaded.Document, loaded.Library.Masters, held, loaded.Document is Email ? loaded.Layout.Order : null)
        );
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
                if (loaded.Library.CampaignTypes.All(t => t.Key != template.CampaignType))
                {
                    throw new StructureException($"There is no campaign type \"{template.CampaignType}\".", "about");
                }

                break;
            case SavedRow row:
                Structure.CheckVariants(loaded.Stored.Id, row, loaded.Library.Rows.ToDictionary(r => r.Key, r => r.Value.VariantOf));
                if (row.CampaignTypes.FirstOrDefault(key => loaded.Library.CampaignTypes.All(t => t.Key != key)) is { } unknown)
                {
                    throw new StructureException($"There is no campaign type \"{unknown}\".", "about");
                }

                break;
            default:
                break;
        }

        return loaded;
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
        if (!library.Masters.Templates.Any(t => LibrarySnapshot.Chain(t.HouseStyle, library.HouseStyles).Contains(loaded.Stored.Id)))
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

            masters ??= await MastersInUseAsync(library, db, cancel);
            var users = masters
                .Where(m => Refers(m.Document, keys))
                .Select(m => m.Name)
                .Concat(await DraftsThatReferAsync(keys, db, cancel))
                .Concat((await EmailsThatNameAsync(keys, db, cancel)).Select(e => $"email \"{e.Name}\""))
                .Distinct(StringComparer.Ordinal)
                .ToList();
            if (users.Count > 0)
            {
                var further = users.Count > 6 ? $" and {users.Count - 6} more" : "";
                throw new StructureException(
                    $"\"{gone.Label}\" is used and cannot go: {string.Join(", ", users.Take(6))}{further}. "
                        + "Let another variable take its place.",
                    $"variable {gone.Key}"
                );
            }
        }
    }

    private static bool Refers(Document master, string[] keys) =>
        (master is SavedRow row ? VariableUses.In(row) : VariableUses.In((Template)master)).Any(u => keys.Contains(u.Key));

    // The newest releases, which are what anything new is made from, and whatever older ones emails stand on.
    private static async Task<List<(string Name, Document Document)>> MastersInUseAsync(
        LibrarySnapshot library,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var templates = await db
            .Database.SqlQuery<UsedRelease>(
                $"""
                select distinct (head->>'template')::uuid as id, (head->>'templateRelease')::int as release
                from documents where kind = 'Email'
                """
            )
            .ToListAsync(cancel);
        var rows = await db
            .Database.SqlQuery<UsedRelease>(
                $"""
                select distinct (r->>'master')::uuid as id, (r->>'release')::int as release
                from documents d, jsonb_each(d.head->'zones') z, jsonb_array_elements(z.value) r
                where d.kind = 'Email' and r->>'master' is not null and r->'own' is null
                """
            )
            .ToListAsync(cancel);
        var used = templates
            .Concat(library.Templates.Keys.Select(id => new UsedRelease(id, library.Newest[id].Number)))
            .Distinct()
            .Select(t => (Of: t, Document: library.Masters.FindTemplate(t.Id, t.Release)))
            .Where(t => t.Document is not null)
            .ToList();
        var placed = used.SelectMany(t => t.Document!.PlacedRows)
            .Where(r => r is { Own: null, Master: not null, Release: not null })
            .Select(r => new UsedRelease(r.Master!.Value, r.Release!.Value));
        return
        [
            .. used.Select(t => ($"template \"{t.Document!.Name}\"{Older(t.Of)}", (Document)t.Document)),
            .. rows.Concat(placed)
                .Concat(library.Rows.Keys.Select(id => new UsedRelease(id, library.Newest[id].Number)))
                .Distinct()
                .Select(r => (Of: r, Document: library.Masters.FindRow(r.Id, r.Release)))
                .Where(r => r.Document is not null)
                .Select(r => ($"row \"{r.Document!.Name}\"{Older(r.Of)}", (Document)r.Document!)),
        ];

        string Older(UsedRelease used) =>
            library.Newest.GetValueOrDefault(used.Id)?.Number == used.Release ? "" : $" (release {used.Release}, still in use)";
    }

    private static async Task<List<string>> DraftsThatReferAsync(string[] keys, GoldenRuleDb db, CancellationToken cancel)
    {
        var patterns = keys.SelectMany(k => new[] { $"%\"{k}\"%", $"%\"{{{k}}}\"%" }).ToArray();
        var drafts = await db
            .Documents.AsNoTracking()
            .Where(d => d.Kind == DocumentKind.Row || d.Kind == DocumentKind.Template)
            .Where(d =>
                db.Database.SqlQuery<Guid>($"select id as \"Value\" from documents where head::text like any ({patterns})").Contains(d.Id)
            )
            .ToListAsync(cancel);
        return
        [
            .. drafts
                .Where(d => Refers(StoredForm.Read(d.Kind, d.Head), keys))
                .Select(d => $"{(d.Kind == DocumentKind.Row ? "row" : "template")} \"{d.Name}\" (draft)"),
        ];
    }

    private sealed record UsedRelease(Guid Id, int Release);

    /// <summary>Emails whose own words, links or pictures refer to a variable.</summary>
    public static async Task<List<NamedEmail>> EmailsThatNameAsync(IEnumerable<string> keys, GoldenRuleDb db, CancellationToken cancel)
    {
        // As jsonb prints them: "variable": "key", or "{key}" as a whole value.
        var patterns = keys.SelectMany(k => new[] { $"%\"variable\": \"{k}\"%", $"%\"{{{k}}}\"%" }).ToArray();
        return await db
            .Database.SqlQuery<NamedEmail>(
                $"select id, name from documents where kind = 'Email' and head::text like any ({patterns}) order by name, id"
            )
            .ToListAsync(cancel);
    }

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
            var (id, style) in loaded.Library.HouseStyles.Where(s =>
                s.Key != loaded.Stored.Id && LibrarySnapshot.Chain(s.Key, loaded.Library.HouseStyles).Contains(loaded.Stored.Id)
            )
        )
        {
            try
            {
                _ = new StyleLayers(loaded.Library.ChainWith(loaded.Stored.Id, draft, id));
            }
            catch (StructureException fault)
            {
                throw new StructureException($"{style.Name} lies on this house style and would break: {fault.Message}", fault.Piece);
            }
        }
    }
}

public sealed record NamedEmail(Guid Id, string Name);
