using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Search;

public enum SearchHitKind
{
    Email,
    Template,
    Row,
    HouseStyle,
    Picture,
    Variable,
    Snippet,
}

/// <summary>Something of the library that one can go to.</summary>
/// <param name="Id">Of the document or picture; of a brand variable its technical name.</param>
/// <param name="HouseStyle">For a brand variable only: where it is declared.</param>
/// <param name="Excerpt">Of an email found by the words inside it: some of those, in parts. Null: it was found by its name.</param>
public sealed record SearchHit(
    SearchHitKind Kind,
    string Id,
    string Name,
    string Note,
    Guid? HouseStyle = null,
    ImmutableArray<ExcerptPart>? Excerpt = null
);

/// <param name="Found">Whether it is what was searched for.</param>
public sealed record ExcerptPart(string Text, bool Found);

/// <summary>
/// Finds anything in the library by its name, tags or, for pictures, alt text, and emails by the words inside them: to go there by
/// typing.
/// </summary>
public static class SearchEndpoints
{
    /// <summary>Of each kind; whoever wants more looks in its room.</summary>
    private const int Most = 6;

    /// <summary>Characters that the index of beginnings holds.</summary>
    private const int Beginning = 100;

    public static void MapSearch(this IEndpointRouteBuilder api) => api.MapGet("/search", FindAsync).WithTags("Search").WithName("search");

    private static async Task<ImmutableArray<SearchHit>> FindAsync(
        ClaimsPrincipal user,
        GoldenRuleDb db,
        LibraryCache library,
        CancellationToken cancel,
        string? q = null
    )
    {
        var patterns = SearchWords.Patterns(q).ToList();
        if (patterns.Count == 0)
        {
            return [];
        }

        var person = user.Person();
        var snapshot = await library.GetAsync(db, cancel);
        var begins = patterns[0].TrimStart('%');
        var documents = db.Documents.AsNoTracking().Where(d => !d.Retired);
        var hits = ImmutableArray.CreateBuilder<SearchHit>();
        foreach (var (kind, hitKind) in Kinds(person))
        {
            var wanted = documents.Where(d => d.Kind == kind).EmailsSeenBy(person, snapshot.Plan.Teams);
            if (kind is DocumentKind.Template or DocumentKind.Row)
            {
                wanted = wanted.SeenBy(person, snapshot);
            }

            foreach (var pattern in patterns)
            {
                wanted = wanted.Where(d => EF.Functions.Like(d.Words, pattern, "\\"));
            }

            // What begins so comes first. Asked apart: in the order of their change both stop as soon as they have enough.
            var found = await NewestAsync(
                wanted.Where(d => EF.Functions.Like(d.Words.Substring(0, Beginning), begins, "\\")),
                Most,
                cancel
            );
            found.AddRange(
                await NewestAsync(
                    wanted.Where(d => !EF.Functions.Like(d.Words.Substring(0, Beginning), begins, "\\")),
                    Most - found.Count,
                    cancel
                )
            );
            hits.AddRange(found.Select(d => new SearchHit(hitKind, d.Id.ToString(), d.Name, TypeName(d.CampaignType))));
            if (kind == DocumentKind.Email && found.Count < Most)
            {
                var inside = await EmailWordsSearch.FindAsync(
                    q!,
                    documents.EmailsSeenBy(person, snapshot.Plan.Teams),
                    [.. found.Select(d => d.Id)],
                    Most - found.Count,
                    db,
                    cancel
                );
                hits.AddRange(
                    inside.Select(e => new SearchHit(hitKind, e.Id.ToString(), e.Name, TypeName(e.CampaignType), null, e.Excerpt))
                );
            }
        }

        hits.AddRange(await PicturesAsync(patterns, begins, db, cancel));
        hits.AddRange(Variables(q!, snapshot));
        hits.AddRange(Snippets(q!, snapshot));
        return hits.ToImmutable();

        string TypeName(string? key) => snapshot.Plan.Find(key)?.Name ?? "";
    }

    private sealed record Listed(Guid Id, string Name, string? CampaignType);

    private static Task<List<Listed>> NewestAsync(IQueryable<StoredDocument> documents, int most, CancellationToken cancel) =>
        most == 0
            ? Task.FromResult<List<Listed>>([])
            : documents.Newest().Take(most).Select(d => new Listed(d.Id, d.Name, d.CampaignType)).ToListAsync(cancel);

    // Drafts of the library open on the desks of those who make it.
    private static IEnumerable<(DocumentKind, SearchHitKind)> Kinds(Person person)
    {
        yield return (DocumentKind.Email, SearchHitKind.Email);
        if (person.IsAnywhere(Role.Lead, Role.Designer))
        {
            yield return (DocumentKind.Template, SearchHitKind.Template);
            yield return (DocumentKind.Row, SearchHitKind.Row);
        }

        yield return (DocumentKind.HouseStyle, SearchHitKind.HouseStyle);
    }

    private static async Task<List<SearchHit>> PicturesAsync(
        List<string> patterns,
        string begins,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var wanted = db.Pictures.AsNoTracking().Where(p => p.ReplacedBy == null);
        foreach (var pattern in patterns)
        {
            wanted = wanted.Where(p => EF.Functions.Like(p.Words, pattern, "\\"));
        }

        return await wanted
            .OrderByDescending(p => EF.Functions.Like(p.Words, begins, "\\"))
            .ThenByDescending(p => p.AddedAt)
            .ThenBy(p => p.Id)
            .Take(Most)
            .Select(p => new SearchHit(SearchHitKind.Picture, p.Id, p.Name, p.Alt, null))
            .ToListAsync(cancel);
    }

    private static IEnumerable<SearchHit> Snippets(string typed, LibrarySnapshot snapshot)
    {
        var words = typed.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        return snapshot
            .Snippets.All.Where(s => !s.Retired)
            .Where(s =>
                words.All(w => $"{s.Snippet.Name} {s.Snippet.Key} {s.Snippet.Description}".Contains(w, StringComparison.OrdinalIgnoreCase))
            )
            .OrderBy(s => s.Snippet.Name, StringComparer.OrdinalIgnoreCase)
            .Take(Most)
            .Select(s => new SearchHit(SearchHitKind.Snippet, s.Id.ToString(), s.Snippet.Name, s.Snippet.Description));
    }

    private static IEnumerable<SearchHit> Variables(string typed, LibrarySnapshot snapshot)
    {
        var words = typed.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        return snapshot
            .Styles.All.OrderBy(s => s.Value.Parent is not null)
            .ThenBy(s => s.Key)
            .SelectMany(s => s.Value.Variables.Select(v => new SearchHit(SearchHitKind.Variable, v.Key, v.Label, s.Value.Name, s.Key)))
            .Where(h => words.All(w => $"{h.Name} {h.Id}".Contains(w, StringComparison.OrdinalIgnoreCase)))
            .Take(Most);
    }
}
