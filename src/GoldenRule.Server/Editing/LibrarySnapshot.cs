using System.Collections.Concurrent;
using System.Collections.Immutable;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Releases;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Editing;

/// <summary>A release as lists show it.</summary>
/// <param name="Revision">Of the draft it was made from.</param>
public sealed record ReleaseMark(
    Guid Document,
    int Number,
    DocumentKind Kind,
    long Revision,
    string Note,
    bool Required,
    Guid Author,
    DateTime At
);

/// <summary>Everything released, at one moment: what documents resolve against.</summary>
/// <param name="Hidden">Retired and private templates and rows: what uses them goes on, but they are not offered.</param>
public sealed record LibrarySnapshot(
    long Version,
    ReleaseCatalog Masters,
    ImmutableDictionary<Guid, ReleaseMark> Newest,
    ImmutableDictionary<Guid, SavedRow> Rows,
    ImmutableDictionary<Guid, Template> Templates,
    ImmutableDictionary<Guid, HouseStyle> HouseStyles,
    ImmutableDictionary<Guid, StyleLayers> Styles,
    PictureCatalog Pictures,
    ImmutableArray<CampaignType> CampaignTypes,
    ImmutableHashSet<Guid> Hidden,
    CheckPolicy Policy,
    ImmutableDictionary<string, ImmutableArray<RowKind>> Needs,
    ImmutableDictionary<Guid, int> Required
)
{
    private readonly ConcurrentDictionary<(string, DateOnly), CheckContext> around = new();

    /// <summary>Where the newest rows and templates refer to brand variables.</summary>
    public ImmutableArray<(string Key, VariableUse Use)> VariableUses { get; } =
        Core.Releases.VariableUses.OfMasters(Rows.Select(r => (r.Key, r.Value)), Templates.Select(t => (t.Key, t.Value)));

    public StyleLayers Style(Guid id) =>
        Styles.GetValueOrDefault(id) ?? throw ProblemException.NotFound($"House style {id} has no release.");

    /// <summary>The house style that new things begin in.</summary>
    public Guid FirstStyle =>
        HouseStyles.OrderBy(s => s.Value.Parent is not null).ThenBy(s => s.Key).Select(s => (Guid?)s.Key).FirstOrDefault()
        ?? throw ProblemException.Invalid("There is no released house style yet. Release one first: rows and templates are dressed in it.");

    /// <summary>The house style a saved row is looked at in: a row may stand in emails of any that has what it narrows.</summary>
    public Guid StyleFor(SavedRow row) =>
        HouseStyles
            .OrderBy(s => s.Value.Parent is not null)
            .ThenBy(s => s.Key)
            .Select(s => s.Key)
            .Where(id => row.Narrowed.Keys.All(key => Style(id).Find(key) is not null))
            .Cast<Guid?>()
            .FirstOrDefault()
        ?? throw new StructureException(
            HouseStyles.IsEmpty
                ? "There is no released house style yet; rows are dressed in one."
                : $"No house style has all of {string.Join(", ", row.Narrowed.Keys)}."
        );

    /// <summary>What the checks know beside an email of that campaign type. The same day, the same object.</summary>
    public CheckContext CheckContextFor(string campaignType, DateOnly today) =>
        around.GetOrAdd((campaignType, today), key => new CheckContext
        {
            CampaignType = key.Item1,
            Transactional = CampaignTypes.FirstOrDefault(t => t.Key == key.Item1)?.Transactional == true,
            Needed = Needs.GetValueOrDefault(key.Item1, []),
            Newest = Newest
                .Where(n => n.Value.Kind is DocumentKind.Row or DocumentKind.Template)
                .ToImmutableDictionary(n => n.Key, n => n.Value.Number),
            Required = Required,
            Today = key.Item2,
            Policy = Policy,
        });

    public string StyleVersion(Guid style) => string.Join('.', Chain(style, HouseStyles).Select(s => Newest[s].Number));

    /// <summary>A house style with those it lies on, the parent first, as if one of them had other contents.</summary>
    public ImmutableArray<HouseStyle> ChainWith(Guid changed, HouseStyle contents, Guid? style = null)
    {
        var styles = HouseStyles.SetItem(changed, contents);
        return [.. Chain(style ?? changed, styles).Select(id => styles[id])];
    }

    /// <summary>A house style and those it lies on, the outermost first.</summary>
    public static IEnumerable<Guid> Chain(Guid id, IReadOnlyDictionary<Guid, HouseStyle> styles)
    {
        var chain = new List<Guid>();
        for (Guid? at = id; at is { } one && styles.ContainsKey(one); at = styles[one].Parent)
        {
            if (chain.Contains(one))
            {
                throw new StructureException("House styles lie on one another in a circle.");
            }

            chain.Insert(0, one);
        }

        return chain;
    }
}

/// <summary>
/// Keeps the newest snapshot. Releases never change, so each is read and parsed once; one small query tells whether
/// anything was added. This is a cache, not state: any server can make it again.
/// </summary>
public sealed class LibraryCache
{
    private readonly SemaphoreSlim turn = new(1);
    private readonly Dictionary<(Guid, int), (ReleaseMark Mark, Document Document)> releases = [];
    private volatile LibrarySnapshot? newest;

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

    private async Task<LibrarySnapshot> LoadAsync(GoldenRuleDb db, long version, CancellationToken cancel)
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

        var newestMarks = releases
            .Values.GroupBy(r => r.Mark.Document)
            .ToImmutableDictionary(g => g.Key, g => g.MaxBy(r => r.Mark.Number).Mark);
        var styles = NewestOf<HouseStyle>(newestMarks);
        var pictures = await db.Pictures.AsNoTracking().ToListAsync(cancel);
        ImmutableHashSet<Guid> hidden =
        [
            .. await db
                .Documents.Where(d => (d.Kind == DocumentKind.Row || d.Kind == DocumentKind.Template) && (d.Retired || d.Private))
                .Select(d => d.Id)
                .ToListAsync(cancel),
        ];
        return new LibrarySnapshot(
            version,
            new ReleaseCatalog(All<SavedRow>(), All<Template>(), hidden),
            newestMarks,
            NewestOf<SavedRow>(newestMarks),
            NewestOf<Template>(newestMarks),
            styles,
            styles.Keys.ToImmutableDictionary(id => id, id => Layers(id, styles)),
            new PictureCatalog(
                pictures.Select(p => new Picture(p.Id, p.Name, p.Width, p.Height, p.Weight, p.Extension, p.Alt)
                {
                    Smaller = [.. p.Smaller],
                    PhoneCrop = p.PhoneCrop,
                }),
                pictures.Where(p => p.ReplacedBy is not null).Select(p => new Replacement(p.Id, p.ReplacedBy!))
            ),
            [.. await db.CampaignTypes.AsNoTracking().OrderBy(t => t.Position).ToListAsync(cancel)],
            hidden,
            DocumentJson.Read<CheckPolicy>(await db.CheckPolicies.Select(p => p.Body).SingleAsync(cancel)),
            (await db.CoverageNeeds.AsNoTracking().Where(n => n.Needed).ToListAsync(cancel))
                .GroupBy(n => n.CampaignType, StringComparer.Ordinal)
                .ToImmutableDictionary(g => g.Key, g => g.Select(n => n.RowKind).Order().ToImmutableArray()),
            releases
                .Values.Where(r => r.Mark.Required)
                .GroupBy(r => r.Mark.Document)
                .ToImmutableDictionary(g => g.Key, g => g.Max(r => r.Mark.Number))
        );
    }

    // The same layers keep the same object, so that what was compiled with them is still good.
    private StyleLayers Layers(Guid id, ImmutableDictionary<Guid, HouseStyle> styles)
    {
        var chain = LibrarySnapshot.Chain(id, styles).Select(s => styles[s]).ToList();
        return
            newest is { } former
            && former.Styles.TryGetValue(id, out var made)
            && LibrarySnapshot
                .Chain(id, former.HouseStyles)
                .Select(s => former.HouseStyles[s])
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
