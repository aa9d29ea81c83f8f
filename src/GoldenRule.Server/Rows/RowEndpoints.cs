using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Rows;

/// <summary>A saved row as the library lists it.</summary>
/// <param name="Release">The newest; 0: there is none yet.</param>
/// <param name="Mine">Whoever asks answers for it.</param>
public sealed record RowEntry(
    Guid Id,
    string Name,
    string RowKind,
    ImmutableArray<string> CampaignTypes,
    string Description,
    string? Instruction,
    ImmutableArray<string> Tags,
    Guid? VariantOf,
    string Varies,
    int Release,
    MasterState State,
    bool Private,
    string Owner,
    bool Mine,
    DateTime ChangedAt,
    long Revision
);

/// <param name="Next">Key of the next page; null: this is the last.</param>
public sealed record RowPage(ImmutableArray<RowEntry> Rows, int Count, string? Next);

/// <summary>A row of a document, to make a saved row from.</summary>
public sealed record RowSource(DocumentKind Kind, Guid Document, string Row);

/// <summary>A new saved row: empty, a variant of another, or from a row that stands somewhere.</summary>
/// <param name="Id">UUIDv7 made by the client: asked twice, one is made.</param>
/// <param name="VariantOf">The saved row that it is a variant of; it begins as its copy.</param>
/// <param name="Varies">What the variant varies.</param>
/// <param name="From">Null together with <paramref name="VariantOf"/>: it begins with one empty column.</param>
public sealed record NewRow(
    Guid Id,
    string Name,
    string? RowKind = null,
    ImmutableArray<string>? CampaignTypes = null,
    string? Description = null,
    Guid? VariantOf = null,
    string? Varies = null,
    RowSource? From = null
);

public static class RowEndpoints
{
    private const int PageSize = 60;

    public static void MapRows(this IEndpointRouteBuilder api)
    {
        var rows = api.MapGroup("/rows").WithTags("Rows");
        rows.MapGet("", ListAsync).WithName("listRows");
        rows.MapPost("", MakeAsync).WithName("makeRow");
        rows.MapDesk(DocumentKind.Row, "Row");
        rows.MapGet("/{id:guid}/html", HtmlAsync).Produces<string>(200, "text/html").WithName("getRowHtml");
        rows.MapMaster(DocumentKind.Row, "Row");
    }

    private static async Task<RowPage> ListAsync(
        ClaimsPrincipal user,
        GoldenRuleDb db,
        LibraryCache library,
        CancellationToken cancel,
        string? q = null,
        string? kind = null,
        string? campaignType = null,
        string? state = null,
        bool mine = false,
        string? after = null
    )
    {
        var (person, snapshot) = (user.Person(), await library.GetAsync(db, cancel));
        var wantedState = Named.Read<MasterState>(state, "state");
        var kinds = kind is null ? null : snapshot.Plan.RowKinds.Merged.AllOf(kind).ToList();
        var types = campaignType is null ? null : snapshot.Plan.Merged.AllOf(campaignType).ToList();
        var wanted = db.Documents.AsNoTracking().Where(d => d.Kind == DocumentKind.Row).SeenBy(person, snapshot);
        foreach (var pattern in SearchWords.Patterns(q))
        {
            wanted = wanted.Where(d => EF.Functions.Like(d.Words, pattern, "\\"));
        }

        wanted = wanted.Where(d =>
            (kinds == null || kinds.Contains(d.RowKind!))
            && (types == null || d.Serves.Count == 0 || d.Serves.Any(s => types.Contains(s)))
            && (!mine || d.Owner == person.Id)
            && (wantedState == null ? !d.Retired : wantedState != MasterState.Retired || d.Retired)
        );
        if (wantedState is MasterState.Draft or MasterState.Released or MasterState.Changed)
        {
            var released = snapshot.Releases.Newest.Keys.ToList();
            wanted = wanted.Where(d => !d.Retired && released.Contains(d.Id) == (wantedState != MasterState.Draft));
        }

        var count = await wanted.CountAsync(cancel);
        var page = await wanted
            .Newest(after)
            .Take(PageSize + 1)
            .Join(db.Users, d => d.Owner, u => u.Id, (d, u) => new { Stored = d, Owner = u.Name })
            .ToListAsync(cancel);
        // A join does not keep the order.
        page = [.. page.OrderByDescending(p => p.Stored.ChangedAt).ThenByDescending(p => p.Stored.Id)];
        return new RowPage(
            [
                .. page.Take(PageSize)
                    .Select(p => Entry(p.Stored, p.Owner, person.Id, snapshot))
                    .Where(e => wantedState is null or MasterState.Draft or MasterState.Retired || e.State == wantedState),
            ],
            count,
            PageKey.Next(page, PageSize, p => new PageKey<Guid>(p.Stored.ChangedAt, p.Stored.Id))
        );
    }

    private static RowEntry Entry(StoredDocument stored, string owner, Guid person, LibrarySnapshot library)
    {
        var row = (SavedRow)StoredForm.Read(DocumentKind.Row, stored.Head);
        var newest = library.Releases.Newest.GetValueOrDefault(stored.Id);
        return new RowEntry(
            stored.Id,
            stored.Name,
            row.RowKind,
            row.CampaignTypes,
            row.Description,
            row.Instruction,
            row.Tags,
            row.VariantOf,
            row.Varies,
            newest?.Number ?? 0,
            LibraryStatus.StateFor(stored.Retired, stored.Revision, newest),
            stored.Private,
            owner,
            stored.Owner == person,
            stored.ChangedAt,
            stored.Revision
        );
    }

    private static async Task<RowEntry> MakeAsync(
        NewRow request,
        ClaimsPrincipal user,
        DocumentAccess access,
        DocumentMaker maker,
        GoldenRuleDb db,
        LibraryCache library,
        CancellationToken cancel
    )
    {
        var person = user.Person();
        LibraryStatus.MustMakeSome(person);
        var name = DocumentMaker.Name(request.Name, "row");
        var stored = await maker.MakeAsync(
            request.Id,
            DocumentKind.Row,
            person,
            async snapshot =>
            {
                var begun = await BeginAsync(request, person, access, cancel);
                LibraryStatus.MustMake(person, request.CampaignTypes ?? begun.CampaignTypes, snapshot.Plan.Teams);
                return (
                    begun with
                    {
                        Name = name,
                        RowKind = request.RowKind ?? begun.RowKind,
                        CampaignTypes = request.CampaignTypes ?? begun.CampaignTypes,
                        Description = request.Description ?? begun.Description,
                    },
                    null
                );
            },
            cancel
        );
        return Entry(stored, person.Name, person.Id, await library.GetAsync(db, cancel));
    }

    private static async Task<SavedRow> BeginAsync(
        NewRow request,
        Core.Documents.Person person,
        DocumentAccess access,
        CancellationToken cancel
    )
    {
        static string Id() => Guid.CreateVersion7().ToString();
        if (request.VariantOf is { } origin)
        {
            var of = (SavedRow)(await access.LoadAsync(DocumentKind.Row, origin, person, cancel)).Document;
            return Renewed.WithNewIds(of, Id) with { VariantOf = origin, Varies = request.Varies ?? "" };
        }

        if (request.From is { } from)
        {
            var loaded = await access.LoadAsync(from.Kind, from.Document, person, cancel);
            var found = loaded.Layout.Order.Find(from.Row) ?? throw ProblemException.NotFound("There is no such row there.");
            return Renewed.WithNewIds(Detached.Filled(found), Id) with { Tags = [] };
        }

        return new SavedRow
        {
            Name = request.Name,
            RowKind = request.RowKind ?? RowKind.Main,
            Row = new Row { Id = Id(), Columns = [new Column { Id = Id() }] },
        };
    }

    // A saved row is shown as the only row of an email; its draft to those who make it.
    private static async Task<IResult> HtmlAsync(
        Guid id,
        bool? draft,
        HttpContext http,
        ClaimsPrincipal user,
        DocumentAccess access,
        GoldenRuleDb db,
        LibraryCache library,
        CancellationToken cancel
    )
    {
        await access.MustBeThereAsync(DocumentKind.Row, id, user.Person(), cancel);
        var snapshot = await library.GetAsync(db, cancel);
        var row =
            draft == true
                ? (SavedRow)(await access.LoadAsync(DocumentKind.Row, id, user.Person(), cancel)).Document
                : snapshot.Releases.Rows.GetValueOrDefault(id)
                    ?? throw ProblemException.NotFound("There is no such saved row, or it has no release yet.");
        var layout = DocumentLayout.LayOut(row, snapshot);
        var resolved = layout.Resolve(snapshot);
        return MailHtml.Answer(http, Compiler.Compile(resolved, CompilationCache.PicturesAt, Purpose.Sending).Html());
    }
}
