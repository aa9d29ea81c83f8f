using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.History;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using GoldenRule.Server.Search;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Emails;

/// <summary>A new email: from a template's newest release, or from an email that is there.</summary>
/// <param name="Id">UUIDv7 made by the client: asked twice, one email is made.</param>
/// <param name="Template">Null: <paramref name="Email"/> says where it begins.</param>
/// <param name="Next">The next of a series: what was written in <paramref name="Email"/> is marked to be renewed. False: a copy.</param>
public sealed record StartEmail(Guid Id, string Name, Guid? Template = null, Guid? Email = null, bool Next = false);

/// <param name="Mine">Whoever asks made it.</param>
/// <param name="NextName">What the next of its series would be called.</param>
public sealed record EmailEntry(
    Guid Id,
    string Name,
    string CampaignType,
    EmailState State,
    string Author,
    bool Mine,
    bool Archived,
    DateTime CreatedAt,
    DateTime ChangedAt,
    long Revision,
    string NextName
);

/// <param name="Count">How many there are on all pages.</param>
/// <param name="More">There are more than that: it is not counted further.</param>
/// <param name="Next">What to ask for the page after this one; null: this is the last.</param>
/// <param name="Behind">Emails edited so lately that they are not searched by their words yet; 1,000: that many or more.</param>
public sealed record EmailPage(ImmutableArray<EmailEntry> Emails, int Count, bool More, string? Next, int Behind = 0);

/// <param name="Archived">It is not in the list any more, and can be brought back.</param>
public sealed record EmailStatus(bool Archived);

/// <summary>The list of all emails: found by words, campaign type, state and author; started, copied and archived.</summary>
public static class EmailLibrary
{
    private const int PageSize = 48;

    /// <summary>Nobody reads how many hundred thousand there are, and counting them takes longer than finding them.</summary>
    private const int MostCounted = 1000;

    /// <summary>Of what is found by words, each of which is read again for it.</summary>
    private const int MostFoundCounted = 300;

    public static void MapEmailLibrary(this RouteGroupBuilder emails)
    {
        emails.MapGet("", ListAsync).WithName("listEmails");
        emails.MapPost("", StartAsync).WithName("startEmail");
        emails.MapPut("/{id:guid}/status", SetStatusAsync).WithName("setEmailStatus");
    }

    private static async Task<EmailPage> ListAsync(
        ClaimsPrincipal user,
        GoldenRuleDb db,
        LibraryCache library,
        CancellationToken cancel,
        string? q = null,
        string? campaignType = null,
        string? state = null,
        bool mine = false,
        bool archived = false,
        string? after = null
    )
    {
        var person = user.Person();
        var asked = Named.Read<EmailState>(state, "state");
        var plan = (await library.GetAsync(db, cancel)).Plan;
        var types = campaignType is null ? null : plan.Merged.AllOf(campaignType).ToList();
        var wanted = db
            .Documents.AsNoTracking()
            .Where(d =>
                d.Kind == DocumentKind.Email
                && d.Retired == archived
                && (types == null || types.Contains(d.CampaignType!))
                && (asked == null || d.State == asked)
                && (!mine || d.CreatedBy == person.Id)
            )
            .EmailsSeenBy(person, plan.Teams);
        var behind = 0;
        var sought = await EmailWordsSearch.ReadAsync(q, db, cancel);
        if (sought is not null)
        {
            behind = await db.CountBehindAsync(MostCounted, cancel);
            wanted = await EmailWordsSearch.NarrowAsync(wanted, sought, db, cancel);
        }

        var most = sought is null ? MostCounted : MostFoundCounted;
        var count = await wanted.Select(d => d.Id).Take(most).CountAsync(cancel);
        var rows = await wanted
            .Newest(after)
            .Take(PageSize + 1)
            .Join(
                db.Users,
                d => d.CreatedBy,
                a => a.Id,
                (d, a) =>
                    new
                    {
                        d.Id,
                        d.Name,
                        d.CampaignType,
                        d.State,
                        d.CreatedBy,
                        d.Retired,
                        d.CreatedAt,
                        d.ChangedAt,
                        d.Revision,
                        Author = a.Name,
                    }
            )
            .OrderByDescending(d => d.ChangedAt)
            .ThenByDescending(d => d.Id)
            .ToListAsync(cancel);
        return new EmailPage(
            [
                .. rows.Take(PageSize)
                    .Select(d => new EmailEntry(
                        d.Id,
                        d.Name,
                        d.CampaignType ?? "",
                        d.State,
                        d.Author,
                        d.CreatedBy == person.Id,
                        d.Retired,
                        d.CreatedAt,
                        d.ChangedAt,
                        d.Revision,
                        NextName.After(d.Name)
                    )),
            ],
            count,
            count == most,
            PageKey.Next(rows, PageSize, d => new PageKey<Guid>(d.ChangedAt, d.Id)),
            behind
        );
    }

    private static async Task<EmailEntry> StartAsync(
        StartEmail request,
        ClaimsPrincipal user,
        DocumentMaker maker,
        DocumentAccess access,
        CancellationToken cancel
    )
    {
        var person = user.Person();
        person.MustAuthor("starts emails");
        var name = DocumentMaker.Name(request.Name, "email");
        var stored = await maker.MakeAsync(
            request.Id,
            DocumentKind.Email,
            person,
            async snapshot =>
            {
                var (email, type) = request switch
                {
                    { Template: { } template, Email: null } => FromTemplate(template, name, snapshot),
                    { Email: { } origin, Template: null } => FromEmail(
                        await access.LoadAsync(DocumentKind.Email, origin, person, cancel),
                        name,
                        request.Next
                    ),
                    _ => throw ProblemException.Invalid("An email is started from a template or from an email; say which."),
                };
                MustWrite(person, type, snapshot.Plan);
                return (email, type);
            },
            cancel
        );
        return new EmailEntry(
            stored.Id,
            stored.Name,
            stored.CampaignType ?? "",
            stored.State,
            person.Name,
            true,
            false,
            stored.CreatedAt,
            stored.ChangedAt,
            stored.Revision,
            NextName.After(stored.Name)
        );
    }

    private static void MustWrite(Person person, string? type, LibraryPlan plan)
    {
        person.MustAuthor("starts emails", LibraryStatus.Types(type, []), plan.Teams);
        if (plan.Find(type) is { Retired: true } retired)
        {
            throw ProblemException.Invalid($"The campaign type \"{retired.Name}\" is retired: no new emails are made for it.");
        }
    }

    private static (Document, string?) FromTemplate(Guid id, string name, LibrarySnapshot library) =>
        library.Releases.Newest.GetValueOrDefault(id) is { } mark
        && library.Releases.Templates.TryGetValue(id, out var template)
        && !library.Releases.Hidden.Contains(id)
            ? (Email.StartFrom(id, mark.Number, template, name, () => Guid.CreateVersion7().ToString()), template.CampaignType)
            : throw ProblemException.NotFound("There is no such template, or it has no release yet.");

    // The next of a series begins on the newest releases; what has no place there is set aside in it.
    private static (Document, string?) FromEmail(LoadedDocument origin, string name, bool next)
    {
        var email = (Email)origin.Document;
        string NewId() => Guid.CreateVersion7().ToString();
        if (!next)
        {
            return (NextIssue.Copy(email, name, NewId), origin.Stored.CampaignType);
        }

        var rolled = NextIssue.Next(email, name, NewId);
        return (Updates.ToNewest(rolled, origin.Library) is { } update ? update.Apply(rolled) : rolled, origin.Stored.CampaignType);
    }

    private static async Task SetStatusAsync(
        Guid id,
        EmailStatus status,
        ClaimsPrincipal user,
        DocumentAccess access,
        GoldenRuleDb db,
        LibraryCache library,
        CancellationToken cancel
    )
    {
        var person = user.Person();
        person.MustAuthor("archives emails");
        await access.MustSeeAsync(DocumentKind.Email, id, person, cancel);
        var teams = (await library.GetAsync(db, cancel)).Plan.Teams;
        var stored = await db.Documents.FirstOrDefaultAsync(d => d.Id == id && d.Kind == DocumentKind.Email, cancel)
            ?? throw EditPipeline.NotFound(DocumentKind.Email);
        if (stored.CreatedBy != person.Id && !teams.ForEmail(person, stored.CampaignType).Is(Role.Lead))
        {
            throw ProblemException.Refused(
                new Decision.Refused(Rules.Role, null, "Whoever made an email, or a lead, archives it and brings it back.")
            );
        }

        stored.Retired = status.Archived;
        await db.SaveChangesAsync(cancel);
    }
}
