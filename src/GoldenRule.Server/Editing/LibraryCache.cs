using System.Collections.Immutable;
using System.Diagnostics.Metrics;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Releases;
using GoldenRule.Data;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Editing;

/// <summary>
/// Keeps the newest snapshot. Releases never change, so each is read and parsed once; one small query tells whether
/// anything was added. This is a cache, not state: any server can make it again.
/// </summary>
public sealed class LibraryCache
{
    // What documents stand on is never dropped: how much it is, the metrics say.
    public LibraryCache(IMeterFactory meters, TimeProvider clock)
    {
        this.clock = clock;
        meters
            .Create("GoldenRule")
            .CreateObservableGauge("goldenrule.library.releases", () => releases.Count, "{release}", "Releases that are kept parsed");
    }

    private readonly TimeProvider clock;

    private readonly SemaphoreSlim turn = new(1);
    private readonly Dictionary<(Guid, int), (ReleaseMark Mark, Document Document)> releases = [];
    private volatile LibrarySnapshot? newest;
    private readonly Dictionary<Guid, (long Revision, Snippet Snippet)> snippets = [];

    // How far each part had moved when it was read.
    private Dictionary<string, long> known = [];

    public async Task<LibrarySnapshot> GetAsync(GoldenRuleDb db, CancellationToken cancel) =>
        await GetAsync(db, await db.LibraryStamp.Select(s => s.Version).SingleAsync(cancel), cancel);

    /// <param name="version">The newest there is, as just read.</param>
    public async ValueTask<LibrarySnapshot> GetAsync(GoldenRuleDb db, long version, CancellationToken cancel)
    {
        if (newest is { } loaded && loaded.Version == version)
        {
            return loaded;
        }

        await turn.WaitAsync(cancel);
        try
        {
            return newest is { } made && made.Version >= version ? made : newest = await LoadAsync(db, version, cancel);
        }
        finally
        {
            turn.Release();
        }
    }

    // Each part anew where it moved since; else it stays the same object, and what was compiled with it is still good.
    private async Task<LibrarySnapshot> LoadAsync(GoldenRuleDb db, long version, CancellationToken cancel)
    {
        var parts = await db.LibraryParts.AsNoTracking().ToDictionaryAsync(p => p.Name, p => p.Version, StringComparer.Ordinal, cancel);
        var former = newest;
        bool Moved(params string[] names) => former is null || names.Any(n => parts.GetValueOrDefault(n) != known.GetValueOrDefault(n));
        if (Moved("releases"))
        {
            await ReadReleasesAsync(db, cancel);
        }

        var (masters, offered, styles) = Moved("releases", "statuses")
            ? await OfferedAsync(db, cancel)
            : (former!.Masters, former.Releases, former.Styles);
        var replanned = Moved("campaign_types", "row_kinds", "teams", "coverage_needs", "check_policies");
        var plan = replanned ? await PlanAsync(db, cancel) : former!.Plan;
        if (Moved("releases", "statuses", "campaign_types", "row_kinds"))
        {
            masters = masters.PlannedBy(plan.RowKinds, plan.Merged);
        }

        var snapshot = new LibrarySnapshot(
            version,
            masters,
            offered,
            styles,
            Moved("pictures") ? await PicturesAsync(db, cancel) : former!.Pictures,
            Moved("snippets") ? await SnippetsAsync(db, cancel) : former!.Snippets,
            Moved("audiences") ? await AudiencesAsync(db, cancel) : former!.Audiences,
            plan,
            clock
        );
        known = parts;
        return snapshot;
    }

    private async Task ReadReleasesAsync(GoldenRuleDb db, CancellationToken cancel)
    {
        var keys = await db.Releases.Select(r => new { r.DocumentId, r.Number }).ToListAsync(cancel);
        foreach (var group in keys.Where(k => !releases.ContainsKey((k.DocumentId, k.Number))).GroupBy(k => k.DocumentId))
        {
            var numbers = group.Select(g => g.Number).ToList();
            foreach (
                var r in await db
                    .Releases.AsNoTracking()
                    .Where(r => r.DocumentId == group.Key && numbers.Contains(r.Number))
                    .ToListAsync(cancel)
            )
            {
                releases[(r.DocumentId, r.Number)] = (
                    new ReleaseMark(r.DocumentId, r.Number, r.Kind, r.Revision, r.Note, r.Required, r.AuthorId, r.At),
                    StoredForm.Read(r.Kind, r.Body)
                );
            }
        }
    }

    private async Task<(ReleaseCatalog, NewestReleases, StyleLibrary)> OfferedAsync(GoldenRuleDb db, CancellationToken cancel)
    {
        var newestMarks = releases
            .Values.GroupBy(r => r.Mark.Document)
            .ToImmutableDictionary(g => g.Key, g => g.MaxBy(r => r.Mark.Number).Mark);
        var styles = NewestOf<HouseStyle>(newestMarks);
        var withheld = await db
            .Documents.Where(d => (d.Kind == DocumentKind.Row || d.Kind == DocumentKind.Template) && (d.Retired || d.Private))
            .Select(d => new
            {
                d.Id,
                d.Retired,
                d.Heir,
            })
            .ToListAsync(cancel);
        ImmutableHashSet<Guid> hidden = [.. withheld.Select(d => d.Id)];
        return (
            new ReleaseCatalog(All<SavedRow>(), All<Template>(), hidden),
            new NewestReleases(
                newestMarks,
                NewestOf<SavedRow>(newestMarks),
                NewestOf<Template>(newestMarks),
                hidden,
                releases
                    .Values.Where(r => r.Mark.Required)
                    .GroupBy(r => r.Mark.Document)
                    .ToImmutableDictionary(g => g.Key, g => g.Max(r => r.Mark.Number)),
                withheld.Where(d => d.Retired).ToImmutableDictionary(d => d.Id, d => HeirOf(d.Heir, newestMarks))
            ),
            new StyleLibrary(
                styles,
                styles.Keys.ToImmutableDictionary(id => id, id => Layers(id, styles)),
                styles.Keys.ToImmutableDictionary(id => id, id => newestMarks[id].Number)
            )
        );
    }

    private Heir? HeirOf(Guid? id, ImmutableDictionary<Guid, ReleaseMark> newest) =>
        id is { } heir && newest.GetValueOrDefault(heir) is { } mark
            ? new Heir(heir, mark.Number, releases[(heir, mark.Number)].Document.Name)
            : null;

    private static async Task<PictureCatalog> PicturesAsync(GoldenRuleDb db, CancellationToken cancel)
    {
        var pictures = await db.Pictures.AsNoTracking().ToListAsync(cancel);
        return new PictureCatalog(
            pictures.Select(p => new Picture(p.Id, p.Name, p.Width, p.Height, p.Weight, p.Extension, p.Alt)
            {
                Smaller = [.. p.Smaller],
                PhoneCrop = p.PhoneCrop,
            }),
            pictures.Where(p => p.ReplacedBy is not null).Select(p => new Replacement(p.Id, p.ReplacedBy!))
        );
    }

    private static async Task<LibraryPlan> PlanAsync(GoldenRuleDb db, CancellationToken cancel)
    {
        ImmutableArray<CampaignType> types =
        [
            .. await db.CampaignTypes.AsNoTracking().OrderBy(t => t.Position).ThenBy(t => t.Key).ToListAsync(cancel),
        ];
        ImmutableArray<Team> teams =
        [
            .. (await db.Teams.AsNoTracking().OrderBy(t => t.Position).ThenBy(t => t.Id).ToListAsync(cancel)).Select(t => new Team(
                t.Id,
                t.Name,
                t.ForOthers,
                t.MergedInto
            )),
        ];
        var merged = LibraryPlan.Merges(types);
        var kinds = new RowKindPlan([
            .. (await db.RowKinds.AsNoTracking().OrderBy(k => k.Position).ThenBy(k => k.Key).ToListAsync(cancel)).Select(k => new RowKind(
                k.Key,
                k.Name,
                k.Purpose,
                k.Retired,
                k.MergedInto
            )),
        ]);
        return new LibraryPlan(
            types,
            kinds,
            new TeamPlan(
                teams,
                types.ToImmutableDictionary(
                    t => t.Key,
                    t => types.First(heir => heir.Key == merged.Current(t.Key)).Teams.ToImmutableArray(),
                    StringComparer.Ordinal
                )
            ),
            DocumentJson.Read<CheckPolicy>(await db.CheckPolicies.Select(p => p.Body).SingleAsync(cancel)),
            (await db.CoverageNeeds.AsNoTracking().Where(n => n.Needed).ToListAsync(cancel))
                .GroupBy(n => n.CampaignType, StringComparer.Ordinal)
                .ToImmutableDictionary(
                    g => g.Key,
                    g => g.Select(n => kinds.Merged.Current(n.RowKind)).Distinct().OrderBy(kinds.OrderOf).ToImmutableArray()
                )
        );
    }

    // A snippet that did not change is not read again.
    private async Task<SnippetCatalog> SnippetsAsync(GoldenRuleDb db, CancellationToken cancel)
    {
        var marks = await db
            .Documents.Where(d => d.Kind == DocumentKind.Snippet)
            .Select(d => new
            {
                d.Id,
                d.Revision,
                d.Retired,
            })
            .ToListAsync(cancel);
        var ids = marks.Where(m => !snippets.TryGetValue(m.Id, out var read) || read.Revision != m.Revision).Select(m => m.Id).ToList();
        foreach (
            var d in await db
                .Documents.Where(d => ids.Contains(d.Id))
                .Select(d => new
                {
                    d.Id,
                    d.Revision,
                    d.Head,
                })
                .ToListAsync(cancel)
        )
        {
            snippets[d.Id] = (d.Revision, DocumentJson.ReadDocument<Snippet>(d.Head));
        }

        return new SnippetCatalog(marks.Select(m => new CataloguedSnippet(m.Id, snippets[m.Id].Snippet, m.Retired)));
    }

    private static async Task<AudiencePlan> AudiencesAsync(GoldenRuleDb db, CancellationToken cancel) =>
        DocumentJson.ReadDocument<AudiencePlan>(
            await db.Documents.Where(d => d.Kind == DocumentKind.Audiences).Select(d => d.Head).SingleAsync(cancel)
        );

    // The same layers keep the same object, so that what was compiled with them is still good.
    private StyleLayers Layers(Guid id, ImmutableDictionary<Guid, HouseStyle> styles)
    {
        var chain = StyleLibrary.Chain(id, styles).Select(s => styles[s]).ToList();
        return
            newest is { } former
            && former.Styles.Layers.TryGetValue(id, out var made)
            && StyleLibrary
                .Chain(id, former.Styles.All)
                .Select(s => former.Styles.All[s])
                .SequenceEqual(chain, ReferenceEqualityComparer.Instance)
            ? made
            : new StyleLayers(chain);
    }

    private ImmutableDictionary<(Guid, int), T> All<T>()
        where T : Document => releases.Where(r => r.Value.Document is T).ToImmutableDictionary(r => r.Key, r => (T)r.Value.Document);

    private ImmutableDictionary<Guid, T> NewestOf<T>(ImmutableDictionary<Guid, ReleaseMark> marks)
        where T : Document =>
        marks
            .Values.Select(m => (m.Document, Body: releases[(m.Document, m.Number)].Document as T))
            .Where(m => m.Body is not null)
            .ToImmutableDictionary(m => m.Document, m => m.Body!);
}
