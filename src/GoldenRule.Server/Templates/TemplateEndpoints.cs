using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Templates;

public sealed record TemplateEntry(Guid Id, string Name, string Description, string CampaignType, int Release, DateTime ReleasedAt, int Rows, ImmutableArray<string> Zones);

public sealed record CampaignTypeEntry(string Key, string Name, string Team, bool Transactional);

/// <summary>A draft of a template or a row that others are made from.</summary>
/// <param name="Row">False: it is a template.</param>
public sealed record MasterEntry(bool Row, Guid Id, string Name, long Revision, int Release);

public sealed record MasterAnswer(Guid Id, long Revision, string Name);

public static class TemplateEndpoints
{
    public static void MapTemplates(this IEndpointRouteBuilder api)
    {
        api.MapGet("/campaign-types", async (GoldenRuleDb db, LibraryKeeper library, CancellationToken cancel) =>
            (await library.GetAsync(db, cancel)).CampaignTypes.Select(t => new CampaignTypeEntry(t.Key, t.Name, t.Team, t.Transactional)).ToImmutableArray())
            .WithTags("Templates").WithName("listCampaignTypes");

        api.MapGet("/masters", MastersAsync).WithTags("Templates").WithName("listMasters");

        var templates = api.MapGroup("/templates").WithTags("Templates");
        templates.MapGet("", ListAsync).WithName("listTemplates");
        templates.MapGet("/{id:guid}/html", HtmlAsync).Produces<string>(200, "text/html").WithName("getTemplateHtml");
        templates.MapPost("/{id:guid}/edits", (Guid id, EditsRequest request, ClaimsPrincipal user, EditRoad road, CancellationToken cancel) =>
            EditAsync(DocumentKind.Template, id, request, user, road, cancel)).WithName("editTemplate");
        templates.MapPost("/{id:guid}/releases", (Guid id, ReleaseRequest request, ClaimsPrincipal user, HttpRequest http, Releasing releasing, CancellationToken cancel) =>
            releasing.ReleaseAsync(DocumentKind.Template, id, user.Person(), request, http.Headers.IfMatch.FirstOrDefault(), cancel)).WithName("releaseTemplate");

        var rows = api.MapGroup("/rows").WithTags("Rows");
        rows.MapGet("/{id:guid}/html", RowHtmlAsync).Produces<string>(200, "text/html").WithName("getRowHtml");
        rows.MapPost("/{id:guid}/edits", (Guid id, EditsRequest request, ClaimsPrincipal user, EditRoad road, CancellationToken cancel) =>
            EditAsync(DocumentKind.Row, id, request, user, road, cancel)).WithName("editRow");
        rows.MapPost("/{id:guid}/releases", (Guid id, ReleaseRequest request, ClaimsPrincipal user, HttpRequest http, Releasing releasing, CancellationToken cancel) =>
            releasing.ReleaseAsync(DocumentKind.Row, id, user.Person(), request, http.Headers.IfMatch.FirstOrDefault(), cancel)).WithName("releaseRow");
    }

    private static async Task<ImmutableArray<TemplateEntry>> ListAsync(GoldenRuleDb db, LibraryKeeper library, CancellationToken cancel)
    {
        var snapshot = await library.GetAsync(db, cancel);
        return
        [
            .. snapshot.Templates.Select(t => new TemplateEntry(
                t.Key,
                t.Value.Name,
                t.Value.Description,
                t.Value.CampaignType,
                snapshot.Newest[t.Key].Number,
                snapshot.Newest[t.Key].At,
                t.Value.Order.OfType<PlacedRow>().Count(),
                [.. t.Value.Order.OfType<Zone>().Select(z => $"{z.Name}, {z.Least} to {z.Most}")])).OrderBy(t => t.Name, StringComparer.Ordinal),
        ];
    }

    private static async Task<ImmutableArray<MasterEntry>> MastersAsync(GoldenRuleDb db, LibraryKeeper library, CancellationToken cancel)
    {
        var snapshot = await library.GetAsync(db, cancel);
        return
        [
            .. (await db.Documents.Where(d => d.Kind == DocumentKind.Template || d.Kind == DocumentKind.Row).OrderBy(d => d.Kind == DocumentKind.Row).ThenBy(d => d.Name).ThenBy(d => d.Id)
                .Select(d => new { d.Kind, d.Id, d.Name, d.Revision }).ToListAsync(cancel))
                .Select(d => new MasterEntry(d.Kind == DocumentKind.Row, d.Id, d.Name, d.Revision, snapshot.Newest.GetValueOrDefault(d.Id)?.Number ?? 0)),
        ];
    }

    private static async Task<MasterAnswer> EditAsync(DocumentKind kind, Guid id, EditsRequest request, ClaimsPrincipal user, EditRoad road, CancellationToken cancel)
    {
        var kept = await road.EditAsync(kind, id, user.Person(), request, cancel);
        return new MasterAnswer(id, kept.Stored.Revision, kept.Document.Name);
    }

    private static async Task<IResult> HtmlAsync(Guid id, HttpContext http, GoldenRuleDb db, LibraryKeeper library, CancellationToken cancel)
    {
        var snapshot = await library.GetAsync(db, cancel);
        var template = snapshot.Templates.GetValueOrDefault(id) ?? throw ProblemException.NotFound("There is no such template.");
        var next = 0;
        var email = Email.StartFrom(id, snapshot.Newest[id].Number, template, template.Name, () => $"row{next++}");
        return MailHtml.Answer(http, Compile(email, snapshot));
    }

    // A saved row is shown as the only row of an email, in the first house style there is.
    private static async Task<IResult> RowHtmlAsync(Guid id, HttpContext http, GoldenRuleDb db, LibraryKeeper library, CancellationToken cancel)
    {
        var snapshot = await library.GetAsync(db, cancel);
        var row = snapshot.Rows.GetValueOrDefault(id) ?? throw ProblemException.NotFound("There is no such saved row.");
        var style = snapshot.HouseStyles.OrderBy(s => s.Value.Parent is not null).ThenBy(s => s.Key).First().Key;
        var placed = new OrderedRow(new PlacedRow { Id = "row", Master = id, Release = snapshot.Newest[id].Number }, row, null, NoFills, NoFills);
        var email = new Email { Name = row.Name, Template = Guid.Empty, TemplateRelease = 0 };
        var template = new Template { Name = row.Name, CampaignType = "", HouseStyle = style };
        var resolved = new ResolvedEmail(email, template, snapshot.Style(style), snapshot.Pictures, [Resolver.Resolve(placed, snapshot.Style(style))]);
        return MailHtml.Answer(http, Compiler.Compile(resolved, ProofPress.PicturesAt, Purpose.Sending).Html());
    }

    private static ImmutableSortedDictionary<string, PieceFill> NoFills => ImmutableSortedDictionary<string, PieceFill>.Empty;

    private static byte[] Compile(Email email, LibrarySnapshot snapshot)
    {
        var order = RunningOrder.Of(email, snapshot.Masters);
        var resolved = Resolver.Resolve(email, order, snapshot.Style(order.Template.HouseStyle), snapshot.Pictures);
        return Compiler.Compile(resolved, ProofPress.PicturesAt, Purpose.Sending).Html();
    }
}
