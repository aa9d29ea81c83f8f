using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Library;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.AspNetCore.SignalR;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.HouseStyles;

public static class HouseStyleEndpoints
{
    public static void MapHouseStyles(this IEndpointRouteBuilder api)
    {
        var styles = api.MapGroup("/house-styles").WithTags("House styles");
        styles.MapGet("", ListAsync).WithName("listHouseStyles");
        styles.MapGet("/{id:guid}", GetAsync).WithName("getHouseStyle");
        styles.MapPost("/{id:guid}/edits", EditAsync).WithName("editHouseStyle");
        styles.MapPost("/{id:guid}/undo", (Guid id, UndoRequest request, ClaimsPrincipal user, EditRoad road, CancellationToken cancel) =>
            UndoAsync(id, request, false, user, road, cancel)).WithName("undoHouseStyle");
        styles.MapPost("/{id:guid}/redo", (Guid id, UndoRequest request, ClaimsPrincipal user, EditRoad road, CancellationToken cancel) =>
            UndoAsync(id, request, true, user, road, cancel)).WithName("redoHouseStyle");
        styles.MapGet("/{id:guid}/reach", ReachAsync).WithName("getReach");
        styles.MapPost("/{id:guid}/releases", ReleaseAsync).WithName("releaseHouseStyle");
    }

    private static async Task<ImmutableArray<HouseStyleEntry>> ListAsync(GoldenRuleDb db, LibraryKeeper library, CancellationToken cancel)
    {
        var snapshot = await library.GetAsync(db, cancel);
        return
        [
            .. snapshot.HouseStyles.Select(s => new HouseStyleEntry(s.Key, s.Value.Name, s.Value.Parent, snapshot.Newest[s.Key].Number, snapshot.Newest[s.Key].At))
                .OrderBy(s => s.Parent is not null).ThenBy(s => s.Name, StringComparer.Ordinal),
        ];
    }

    private static async Task<HouseStyleAnswer> GetAsync(Guid id, ClaimsPrincipal user, EditRoad road, CancellationToken cancel) =>
        await LayAsync(await road.LoadAsync(DocumentKind.HouseStyle, id, cancel), user, road, cancel);

    private static async Task<HouseStyleAnswer> EditAsync(Guid id, EditsRequest request, ClaimsPrincipal user, EditRoad road, CancellationToken cancel) =>
        await LayAsync(await road.EditAsync(DocumentKind.HouseStyle, id, user.Person(), request, cancel), user, road, cancel);

    private static async Task<HouseStyleAnswer> UndoAsync(Guid id, UndoRequest request, bool redo, ClaimsPrincipal user, EditRoad road, CancellationToken cancel) =>
        await LayAsync(await road.UndoAsync(DocumentKind.HouseStyle, id, user.Person(), request.Id, redo, cancel), user, road, cancel);

    private static async Task<ReachAnswer> ReachAsync(Guid id, GoldenRuleDb db, EditRoad road, CancellationToken cancel)
    {
        var kept = await road.LoadAsync(DocumentKind.HouseStyle, id, cancel);
        var emails = await db.Documents.AsNoTracking().Where(d => d.Kind == DocumentKind.Email).ToListAsync(cancel);
        var reached = emails.Select(d => (Stored: d, Email: DocumentJson.ReadDocument<Email>(d.Head)))
            .Select(e => new ReachedEmail(e.Stored.Id, e.Email, RunningOrder.Of(e.Email, kept.Library.Masters), e.Stored.State, kept.Library.IsTransactional(e.Stored.CampaignType ?? "")))
            .GroupBy(e => e.Order.Template.HouseStyle)
            // Emails of a sub-brand are reached by what it lies on.
            .Where(g => LibrarySnapshot.Chain(g.Key, kept.Library.HouseStyles).Contains(id));
        var entries = reached
            .SelectMany(g => Reach.Of(kept.Library.Style(g.Key), Validity.Layers(g.Key, (HouseStyle)kept.Document, kept), g, kept.Library.Pictures))
            .Select(r => new ReachEntry(r.Id, r.Name, r.Follows, [.. r.Stops.Select(s => s.Evidence is null ? s.Message : $"{s.Message} {s.Evidence}")]))
            .ToImmutableArray();
        return new ReachAnswer(entries.Count(e => e.Follows), entries.Count(e => !e.Follows), entries.Count(e => !e.Stops.IsEmpty), entries);
    }

    private static async Task<ReleaseAnswer> ReleaseAsync(
        Guid id, ReleaseRequest request, ClaimsPrincipal user, HttpRequest http, GoldenRuleDb db, EditRoad road, IHubContext<LiveHub> live, TimeProvider clock, CancellationToken cancel)
    {
        var person = user.Person();
        if (!person.Is(Role.Lead))
        {
            throw ProblemException.Refused(new Decision.Refused(Rules.Role, null, "The house style is released by leads only."));
        }

        var note = request.Note.Trim();
        if (note.Length is 0 or > 500)
        {
            throw ProblemException.Invalid("Say in a note of 1 to 500 characters what changed.");
        }

        var kept = await road.LoadAsync(DocumentKind.HouseStyle, id, cancel);
        if (http.Headers.IfMatch is [{ } seen] && seen != $"\"{kept.Stored.Revision}\"")
        {
            throw new ProblemException(412, "changed-since", "The draft changed", "Someone changed the draft since you looked. Look again, then release.");
        }

        _ = Validity.Layers((HouseStyle)kept.Document, kept);
        var release = new StoredRelease
        {
            DocumentId = id,
            Number = (kept.Library.Newest.GetValueOrDefault(id)?.Number ?? 0) + 1,
            Kind = DocumentKind.HouseStyle,
            Revision = kept.Stored.Revision,
            Body = StoredForm.Write(kept.Document),
            Note = note,
            AuthorId = person.Id,
            At = clock.GetUtcNow().UtcDateTime,
        };
        db.Releases.Add(release);
        await db.SaveChangesAsync(cancel);
        await live.Clients.All.SendAsync(LiveHub.Released, id, release.Number, cancel);
        return new ReleaseAnswer(release.Number, release.At);
    }

    private static async Task<HouseStyleAnswer> LayAsync(Kept kept, ClaimsPrincipal user, EditRoad road, CancellationToken cancel)
    {
        var (undo, redo) = await road.HistoryAsync(kept, user.Person().Id, cancel);
        return HouseStyleRoom.Lay(kept, user.Person(), undo, redo);
    }
}
