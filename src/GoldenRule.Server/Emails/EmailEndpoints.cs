using System.Collections.Immutable;
using System.Security.Claims;
using System.Text;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Resolving;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Emails;

/// <param name="Id">UUIDv7 made by the client: asked twice, one email is made.</param>
public sealed record StartEmail(Guid Id, Guid Template, string Name);

public sealed record EmailEntry(Guid Id, string Name, string CampaignType, EmailState State, string Author, DateTime ChangedAt, long Revision);

/// <param name="Next">What to ask for the page after this one; null: this is the last.</param>
public sealed record EmailPage(ImmutableArray<EmailEntry> Emails, string? Next);

public static class EmailEndpoints
{
    private const int PageSize = 48;

    public static void MapEmails(this IEndpointRouteBuilder api)
    {
        var emails = api.MapGroup("/emails").WithTags("Emails");
        emails.MapGet("", ListAsync).WithName("listEmails");
        emails.MapPost("", StartAsync).WithName("startEmail");
        emails.MapDesk(DocumentKind.Email, "Email");
        emails.MapTakingAway();
    }

    private static async Task<EmailPage> ListAsync(GoldenRuleDb db, string? campaignType, string? after, CancellationToken cancel)
    {
        var query = from d in db.Documents
                    join a in db.Users on d.CreatedBy equals a.Id
                    where d.Kind == DocumentKind.Email && (campaignType == null || d.CampaignType == campaignType)
                    select new { d, a.Name };
        if (PageKey<Guid>.Read(after) is { } key)
        {
            query = query.Where(x => x.d.ChangedAt < key.At || (x.d.ChangedAt == key.At && x.d.Id < key.Id));
        }

        var rows = await query.OrderByDescending(x => x.d.ChangedAt).ThenByDescending(x => x.d.Id).Take(PageSize + 1)
            .Select(x => new EmailEntry(x.d.Id, x.d.Name, x.d.CampaignType ?? "", x.d.State, x.Name, x.d.ChangedAt, x.d.Revision))
            .ToListAsync(cancel);
        return new EmailPage(
            [.. rows.Take(PageSize)],
            rows.Count > PageSize ? new PageKey<Guid>(rows[PageSize - 1].ChangedAt, rows[PageSize - 1].Id).ToString() : null);
    }

    private static async Task<EmailEntry> StartAsync(StartEmail request, ClaimsPrincipal user, DocumentMaker maker, CancellationToken cancel)
    {
        var person = user.Person();
        person.MustAuthor("starts emails");

        var name = DocumentMaker.Name(request.Name, "email", 200);
        var stored = await maker.MakeAsync(request.Id, DocumentKind.Email, person, snapshot =>
        {
            var mark = snapshot.Newest.GetValueOrDefault(request.Template);
            return mark is not null && snapshot.Templates.TryGetValue(request.Template, out var template) && !snapshot.Hidden.Contains(request.Template)
                ? Task.FromResult(((Document)Email.StartFrom(request.Template, mark.Number, template, name, () => Guid.CreateVersion7().ToString()), (string?)template.CampaignType))
                : throw ProblemException.NotFound("There is no such template, or it has no release yet.");
        }, cancel);
        return new EmailEntry(stored.Id, stored.Name, stored.CampaignType ?? "", stored.State, person.Name, stored.ChangedAt, stored.Revision);
    }
}
