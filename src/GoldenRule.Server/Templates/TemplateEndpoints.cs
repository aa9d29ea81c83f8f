using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Interchange;
using GoldenRule.Core.Resolving;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Templates;

/// <param name="Release">The newest; 0: there is none yet.</param>
/// <param name="ReleasedAt">Null: it has no release.</param>
/// <param name="Zones">Each in words: what it is called and how many it takes.</param>
/// <param name="Mine">Whoever asks answers for it.</param>
public sealed record TemplateEntry(
    Guid Id,
    string Name,
    string Description,
    string CampaignType,
    ImmutableArray<string> Tags,
    int Release,
    DateTime? ReleasedAt,
    MasterState State,
    bool Private,
    string Owner,
    bool Mine,
    int Rows,
    ImmutableArray<string> Zones,
    DateTime ChangedAt,
    long Revision
);

/// <param name="Next">Key of the next page; null: this is the last.</param>
public sealed record TemplatePage(ImmutableArray<TemplateEntry> Templates, int Count, string? Next);

/// <summary>A draft of a template or a row, where something is to be said in one or the other.</summary>
/// <param name="Row">False: it is a template.</param>
public sealed record MasterEntry(bool Row, Guid Id, string Name, long Revision, int Release);

/// <summary>What a new template begins with: one of these, or nothing.</summary>
/// <param name="Starter">Name of a ready-made one.</param>
public sealed record TemplateSource(Guid? Template = null, Guid? Email = null, string? Starter = null);

/// <param name="Id">UUIDv7 made by the client: asked twice, one is made.</param>
/// <param name="HouseStyle">Null: the first there is, or that of the source.</param>
public sealed record NewTemplate(Guid Id, string Name, string CampaignType, Guid? HouseStyle = null, TemplateSource? From = null);

/// <summary>A ready-made template.</summary>
/// <param name="For">The sort of campaign it suits, in words.</param>
public sealed record StarterEntry(string Name, string Label, string For, string About);

public static class TemplateEndpoints
{
    private const int PageSize = 48;

    /// <summary>So many of someone's emails say what templates they use.</summary>
    private const int Lately = 30;

    public static void MapTemplates(this IEndpointRouteBuilder api)
    {
        api.MapGet("/masters", MastersAsync).WithTags("Templates").WithName("listMasters");
        api.MapGet("/starters", () => Starters.All.Select(s => new StarterEntry(s.Name, s.Label, s.For, s.About)).ToImmutableArray())
            .WithTags("Templates")
            .WithName("listStarters");
        api.MapGet("/starters/{name}/html", StarterHtmlAsync)
            .Produces<string>(200, "text/html")
            .WithTags("Templates")
            .WithName("getStarterHtml");

        var templates = api.MapGroup("/templates").WithTags("Templates");
        templates.MapGet("", ListAsync).WithName("listTemplates");
        templates.MapPost("", MakeAsync).WithName("makeTemplate");
        templates.MapDesk(DocumentKind.Template, "Template");
        templates.MapGet("/{id:guid}/html", HtmlAsync).Produces<string>(200, "text/html").WithName("getTemplateHtml");
        templates.MapMaster(DocumentKind.Template, "Template");
        templates.MapTemplateExchange();
    }

    private static async Task<TemplatePage> ListAsync(
        ClaimsPrincipal user,
        GoldenRuleDb db,
        LibraryCache library,
        CancellationToken cancel,
        string? q = null,
        string? campaignType = null,
        bool retired = false,
        bool mine = false,
        bool recent = false,
        string? after = null
    )
    {
        var (person, snapshot) = (user.Person(), await library.GetAsync(db, cancel));
        var types = campaignType is null ? null : snapshot.Plan.Merged.AllOf(campaignType).ToList();
        var wanted = db
            .Documents.AsNoTracking()
            .Where(d => d.Kind == DocumentKind.Template)
            .SeenBy(person, snapshot)
            .Where(d => d.Retired == retired && (types == null || types.Contains(d.CampaignType!)) && (!mine || d.Owner == person.Id));
        if (recent)
        {
            var used = await UsedLatelyAsync(person.Id, db, cancel);
            wanted = wanted.Where(d => used.Contains(d.Id));
        }

        foreach (var pattern in SearchWords.Patterns(q))
        {
            wanted = wanted.Where(d => EF.Functions.Like(d.Words, pattern, "\\"));
        }

        var count = await wanted.CountAsync(cancel);
        var page = await wanted.Newest(after).Take(PageSize + 1).ToListAsync(cancel);
        var owners = page.Select(p => p.Owner).Distinct().ToList();
        var names = await db.Users.Where(u => owners.Contains(u.Id)).ToDictionaryAsync(u => u.Id, u => u.Name, cancel);
        return new TemplatePage(
            [.. page.Take(PageSize).Select(d => Entry(d, names[d.Owner], person.Id, snapshot))],
            count,
            PageKey.Next(page, PageSize, d => new PageKey<Guid>(d.ChangedAt, d.Id))
        );
    }

    /// <summary>Templates of the emails that a person changed last.</summary>
    private static Task<List<Guid>> UsedLatelyAsync(Guid person, GoldenRuleDb db, CancellationToken cancel) =>
        db
            .Database.SqlQuery<Guid>(
                $"""
                select distinct (head->>'template')::uuid as "Value"
                from (
                    select head from documents
                    where kind = 'Email' and created_by = {person}
                    order by changed_at desc limit {Lately}
                ) newest
                """
            )
            .ToListAsync(cancel);

    private static async Task<ImmutableArray<MasterEntry>> MastersAsync(
        ClaimsPrincipal user,
        GoldenRuleDb db,
        LibraryCache library,
        CancellationToken cancel
    )
    {
        var snapshot = await library.GetAsync(db, cancel);
        return
        [
            .. (
                await db
                    .Documents.Where(d => (d.Kind == DocumentKind.Template || d.Kind == DocumentKind.Row) && !d.Retired)
                    .SeenBy(user.Person(), snapshot)
                    .OrderBy(d => d.Kind == DocumentKind.Row)
                    .ThenBy(d => d.Name)
                    .ThenBy(d => d.Id)
                    .Select(d => new
                    {
                        d.Kind,
                        d.Id,
                        d.Name,
                        d.Revision,
                    })
                    .ToListAsync(cancel)
            ).Select(d => new MasterEntry(
                d.Kind == DocumentKind.Row,
                d.Id,
                d.Name,
                d.Revision,
                snapshot.Releases.Newest.GetValueOrDefault(d.Id)?.Number ?? 0
            )),
        ];
    }

    internal static TemplateEntry Entry(StoredDocument stored, string owner, Guid person, LibrarySnapshot library)
    {
        var newest = library.Releases.Newest.GetValueOrDefault(stored.Id);
        // What can be started from is the release; only where there is none the draft speaks.
        var template = library.Releases.Templates.GetValueOrDefault(stored.Id)
            ?? (Template)StoredForm.Read(DocumentKind.Template, stored.Head);
        return new TemplateEntry(
            stored.Id,
            stored.Name,
            template.Description,
            template.CampaignType,
            template.Tags,
            newest?.Number ?? 0,
            newest?.At,
            LibraryStatus.StateFor(stored.Retired, stored.Revision, newest),
            stored.Private,
            owner,
            stored.Owner == person,
            template.Order.OfType<PlacedRow>().Count(),
            [.. template.Order.OfType<Zone>().Select(z => $"{z.Name}, {z.Least} to {z.Most}")],
            stored.ChangedAt,
            stored.Revision
        );
    }

    private static async Task<TemplateEntry> MakeAsync(
        NewTemplate request,
        ClaimsPrincipal user,
        DocumentAccess access,
        DocumentMaker maker,
        GoldenRuleDb db,
        LibraryCache library,
        CancellationToken cancel
    )
    {
        var person = user.Person();
        LibraryStatus.MustMake(person, [request.CampaignType], (await library.GetAsync(db, cancel)).Plan.Teams);
        var name = DocumentMaker.Name(request.Name, "template");
        var stored = await maker.MakeAsync(
            request.Id,
            DocumentKind.Template,
            person,
            async snapshot =>
            {
                var begun = await BeginAsync(request, person, access, snapshot, cancel);
                return (
                    begun with
                    {
                        Name = name,
                        CampaignType = request.CampaignType,
                        HouseStyle = request.HouseStyle ?? begun.HouseStyle,
                    },
                    request.CampaignType
                );
            },
            cancel
        );
        return Entry(stored, person.Name, person.Id, await library.GetAsync(db, cancel));
    }

    private static async Task<Template> BeginAsync(
        NewTemplate request,
        Core.Documents.Person person,
        DocumentAccess access,
        LibrarySnapshot library,
        CancellationToken cancel
    )
    {
        var style = request.HouseStyle ?? library.Styles.First;
        switch (request.From)
        {
            case { Template: { } origin }:
                return (Template)(await access.LoadAsync(DocumentKind.Template, origin, person, cancel)).Document;
            case { Email: { } origin }:
                var email = (Email)(await access.LoadAsync(DocumentKind.Email, origin, person, cancel)).Document;
                return Renewed.FromEmail(email, library.Masters.Template(email.Template, email.TemplateRelease), request.Name);
            case { Starter: { } starter }:
                return Starters.Begin(starter, library.Styles.For(style)) with { HouseStyle = style };
            default:
                return new Template
                {
                    Name = request.Name,
                    CampaignType = request.CampaignType,
                    HouseStyle = style,
                };
        }
    }

    // What an email started from it would begin as; its draft to those who make it.
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
        await access.MustBeThereAsync(DocumentKind.Template, id, user.Person(), cancel);
        var snapshot = await library.GetAsync(db, cancel);
        var template =
            draft == true
                ? (Template)(await access.LoadAsync(DocumentKind.Template, id, user.Person(), cancel)).Document
                : snapshot.Releases.Templates.GetValueOrDefault(id)
                    ?? throw ProblemException.NotFound("There is no such template, or it has no release yet.");
        return MailHtml.Answer(http, Compile(DocumentLayout.AsStarted(template, snapshot), snapshot));
    }

    private static async Task<IResult> StarterHtmlAsync(
        string name,
        Guid? houseStyle,
        HttpContext http,
        GoldenRuleDb db,
        LibraryCache library,
        CancellationToken cancel
    )
    {
        var snapshot = await library.GetAsync(db, cancel);
        var style = houseStyle ?? snapshot.Styles.First;
        return MailHtml.Answer(
            http,
            Compile(
                DocumentLayout.AsStarted(Starters.Begin(name, snapshot.Styles.For(style)) with { HouseStyle = style }, snapshot),
                snapshot
            )
        );
    }

    private static byte[] Compile(DocumentLayout layout, LibrarySnapshot snapshot)
    {
        var resolved = layout.Resolve(snapshot);
        return Compiler.Compile(resolved, CompilationCache.PicturesAt, Purpose.Sending).Html();
    }
}
