using System.Collections.Immutable;
using System.Security.Claims;
using System.Text;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Resolving;
using GoldenRule.Data;
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

/// <param name="Base">The revision the sender had seen.</param>
/// <param name="StyleVersion">The house style version the sender had seen.</param>
public sealed record DeskEdits(long Base, string? StyleVersion, ImmutableArray<SentEdit> Edits);

/// <param name="Id">UUIDv7 made by the client.</param>
public sealed record DeskUndo(Guid Id, long Base, string? StyleVersion);

/// <summary>A saved row that a zone takes.</summary>
public sealed record RowOffer(Guid Id, int Release, string Name, RowKind RowKind, string Description, string? Instruction);

/// <param name="Why">Why it matters, with the source of the rule.</param>
public sealed record CheckEntry(string Name, string Why);

/// <summary>Whether the head equals the replay of its edits.</summary>
public sealed record ReplayAnswer(long Revision, bool Equal);

public static class EmailEndpoints
{
    private const int PageSize = 48;

    public static void MapEmails(this IEndpointRouteBuilder api)
    {
        api.MapGet("/checks", () => CheckList.All.Select(c => new CheckEntry(c.Name, c.Why)).ToImmutableArray()).WithTags("Emails").WithName("listChecks");
        var emails = api.MapGroup("/emails").WithTags("Emails");
        emails.MapGet("", ListAsync).WithName("listEmails");
        emails.MapPost("", StartAsync).WithName("startEmail");
        emails.MapGet("/{id:guid}/desk", DeskAsync).WithName("getDesk");
        emails.MapPost("/{id:guid}/edits", EditAsync).WithName("editEmail");
        emails.MapPost("/{id:guid}/undo", (Guid id, DeskUndo request, ClaimsPrincipal user, EditRoad road, ProofPress press, Desk desk, CancellationToken cancel) =>
            UndoAsync(id, request, false, user, road, press, desk, cancel)).WithName("undoEmail");
        emails.MapPost("/{id:guid}/redo", (Guid id, DeskUndo request, ClaimsPrincipal user, EditRoad road, ProofPress press, Desk desk, CancellationToken cancel) =>
            UndoAsync(id, request, true, user, road, press, desk, cancel)).WithName("redoEmail");
        emails.MapGet("/{id:guid}/zones/{zone}/rows", OffersAsync).WithName("listRowsForZone");
        emails.MapGet("/{id:guid}/why", WhyAsync).WithName("whyValue");
        emails.MapGet("/{id:guid}/replay", ReplayAsync).WithName("checkReplay");
        emails.MapGet("/{id:guid}/html", HtmlAsync).Produces<string>(200, "text/html").WithName("getHtml");
        emails.MapGet("/{id:guid}/text", TextAsync).Produces<string>(200, "text/plain").WithName("getPlainText");
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

    private static async Task<EmailEntry> StartAsync(StartEmail request, ClaimsPrincipal user, GoldenRuleDb db, LibraryKeeper library, TimeProvider clock, CancellationToken cancel)
    {
        var person = user.Person();
        if (!person.Is(Role.Lead, Role.Designer, Role.Author))
        {
            throw ProblemException.Refused(new Decision.Refused(Rules.Role, null, "Reviewers read and approve; a lead, designer or author starts emails."));
        }

        var name = request.Name.Trim();
        if (name.Length is 0 or > 200)
        {
            throw ProblemException.Invalid("Give the email a name of 1 to 200 characters.");
        }

        var known = await db.Documents.AsNoTracking().FirstOrDefaultAsync(d => d.Id == request.Id, cancel);
        if (known is null)
        {
            var snapshot = await library.GetAsync(db, cancel);
            var mark = snapshot.Newest.GetValueOrDefault(request.Template);
            if (mark is null || !snapshot.Templates.TryGetValue(request.Template, out var template))
            {
                throw ProblemException.NotFound("There is no such template, or it has no release yet.");
            }

            var email = Email.StartFrom(request.Template, mark.Number, template, name, () => Guid.CreateVersion7().ToString());
            var json = StoredForm.Write(email);
            var now = clock.GetUtcNow().UtcDateTime;
            known = new StoredDocument
            {
                Id = request.Id, Kind = DocumentKind.Email, Name = name, CampaignType = template.CampaignType,
                Origin = json, Head = json, CreatedBy = person.Id, CreatedAt = now, ChangedAt = now,
            };
            db.Documents.Add(known);
            await db.SaveChangesAsync(cancel);
        }
        else if (known.Kind != DocumentKind.Email || known.CreatedBy != person.Id)
        {
            throw new ProblemException(409, "conflict", "The id is taken", "Another document has this id. Ask again with a new one.");
        }

        return new EmailEntry(known.Id, known.Name, known.CampaignType ?? "", known.State, person.Name, known.ChangedAt, known.Revision);
    }

    private static async Task<DeskAnswer> DeskAsync(Guid id, ClaimsPrincipal user, HttpResponse response, EditRoad road, Desk desk, CancellationToken cancel)
    {
        var kept = await road.LoadAsync(DocumentKind.Email, id, cancel);
        response.Headers.ETag = $"\"{kept.Stored.Revision}\"";
        return await desk.WholeAsync(kept, user.Person(), cancel);
    }

    private static async Task<DeskAnswer> EditAsync(Guid id, DeskEdits request, ClaimsPrincipal user, EditRoad road, ProofPress press, Desk desk, CancellationToken cancel)
    {
        var before = press.Last(id);
        var kept = await road.EditAsync(DocumentKind.Email, id, user.Person(), new EditsRequest(request.Base, request.Edits), cancel);
        return await desk.ChangedAsync(kept, before, request.Base, request.StyleVersion, user.Person(), cancel);
    }

    private static async Task<DeskAnswer> UndoAsync(Guid id, DeskUndo request, bool redo, ClaimsPrincipal user, EditRoad road, ProofPress press, Desk desk, CancellationToken cancel)
    {
        var before = press.Last(id);
        var kept = await road.UndoAsync(DocumentKind.Email, id, user.Person(), request.Id, redo, cancel);
        return await desk.ChangedAsync(kept, before, request.Base, request.StyleVersion, user.Person(), cancel);
    }

    private static async Task<ImmutableArray<RowOffer>> OffersAsync(Guid id, string zone, EditRoad road, CancellationToken cancel)
    {
        var kept = await road.LoadAsync(DocumentKind.Email, id, cancel);
        var order = RunningOrder.Of((Email)kept.Document, kept.Library.Masters);
        var found = order.FindZone(zone) ?? throw ProblemException.NotFound("There is no such zone in this email.");
        return
        [
            .. kept.Library.Rows
                .Where(r => found.Takes(r.Key, r.Value.RowKind))
                .Where(r => r.Value.CampaignTypes.IsEmpty || r.Value.CampaignTypes.Contains(order.Template.CampaignType) || found.Rows.Contains(r.Key))
                .OrderBy(r => r.Value.RowKind).ThenBy(r => r.Value.Name, StringComparer.Ordinal)
                .Select(r => new RowOffer(r.Key, kept.Library.Newest[r.Key].Number, r.Value.Name, r.Value.RowKind, r.Value.Description, r.Value.Instruction)),
        ];
    }

    private static async Task<ImmutableArray<Said>> WhyAsync(Guid id, string row, string piece, string field, EditRoad road, CancellationToken cancel)
    {
        var kept = await road.LoadAsync(DocumentKind.Email, id, cancel);
        var order = RunningOrder.Of((Email)kept.Document, kept.Library.Masters);
        var found = order.Find(row) ?? throw ProblemException.NotFound("That row is not in the email.");
        var block = found.FindBlock(piece) ?? throw ProblemException.NotFound("That row has no such piece.");
        return block.Content.ContainsKey(field)
            ? Provenance.OfField(found, order.Template.Name, block, field)
            : Provenance.OfLook(found, order.Template.Name, block, field);
    }

    private static async Task<ReplayAnswer> ReplayAsync(Guid id, EditRoad road, CancellationToken cancel)
    {
        var (revision, replayed, head) = await road.ReplayAsync(DocumentKind.Email, id, cancel);
        return new ReplayAnswer(revision, StoredForm.Write(replayed) == StoredForm.Write(head));
    }

    private static async Task<IResult> HtmlAsync(Guid id, HttpRequest request, bool? download, bool? proof, EditRoad road, ProofPress press, CancellationToken cancel)
    {
        var kept = await road.LoadAsync(DocumentKind.Email, id, cancel);
        var pressed = press.Press(kept);
        var html = proof == true ? pressed.Sending : ProofPress.ForSending(pressed, $"{request.Scheme}://{request.Host}{ProofPress.PicturesAt}");
        return MailHtml.Answer(request.HttpContext, html.Html(), download == true ? kept.Document.Name + ".html" : null);
    }

    private static async Task<IResult> TextAsync(Guid id, bool? download, EditRoad road, ProofPress press, CancellationToken cancel)
    {
        var kept = await road.LoadAsync(DocumentKind.Email, id, cancel);
        return Results.File(
            Encoding.UTF8.GetBytes(press.Press(kept).Sending.PlainText()),
            "text/plain; charset=utf-8",
            download == true ? kept.Document.Name + ".txt" : null);
    }
}
