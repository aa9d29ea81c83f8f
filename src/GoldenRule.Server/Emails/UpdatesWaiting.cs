using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Emails;

/// <summary>An email that could take newer releases, and what that would mean.</summary>
/// <param name="By">Who began it.</param>
public sealed record WaitingUpdate(
    Guid Id,
    string Name,
    string CampaignType,
    EmailState State,
    string By,
    long Revision,
    UpdateAnswer Update
);

/// <param name="Next">Key of the next page; null: this is the last.</param>
public sealed record WaitingUpdates(ImmutableArray<WaitingUpdate> Emails, string? Next);

/// <param name="Revision">As it was shown: one that was changed since is not touched.</param>
/// <param name="Edit">UUIDv7 made by the client: sent twice, it is taken once.</param>
public sealed record UpdateToTake(Guid Id, long Revision, Guid Edit);

/// <param name="Problem">Why it was not taken; null: it was.</param>
public sealed record UpdateTaken(Guid Id, string? Problem);

/// <summary>
/// Updates of many emails: shown first, then taken in each by itself, as its own step of its own history. One that cannot be taken
/// keeps no other from it.
/// </summary>
public static class UpdatesWaiting
{
    private const int PageSize = 20;

    private const int MostChunks = 5;

    /// <summary>So many are taken with one request; whoever takes more sends several, and sees how far it is.</summary>
    private const int MostAtOnce = 20;

    public static void MapUpdatesWaiting(this IEndpointRouteBuilder api)
    {
        var updates = api.MapGroup("/updates").WithTags("Emails");
        updates.MapGet("", ListAsync).WithName("listUpdates");
        updates.MapPost("", TakeAsync).WithName("takeUpdates");
    }

    /// <param name="of">The template or saved row that was released. Null: whatever one's own emails are made from.</param>
    private static async Task<WaitingUpdates> ListAsync(
        ClaimsPrincipal user,
        GoldenRuleDb db,
        LibraryCache library,
        HeadCache heads,
        CompilationCache compilations,
        CancellationToken cancel,
        Guid? of = null,
        string? after = null
    )
    {
        var (person, snapshot) = (user.Person(), await library.GetAsync(db, cancel));
        var newest = of is null
            ? null
            : snapshot.Releases.Newest.GetValueOrDefault(of.Value) ?? throw ProblemException.NotFound("It has no release.");
        var emails = (
            newest is not null
                ? MasterReach.Emails(newest.Kind, newest.Document, db, newest.Number)
                : db.Documents.Where(d =>
                    d.Kind == DocumentKind.Email && d.CreatedBy == person.Id && !d.Retired && d.State != EmailState.HandedOff
                )
        )
            .AsNoTracking()
            .EmailsSeenBy(person, snapshot.Plan.Teams);
        var (found, last) = (ImmutableArray.CreateBuilder<WaitingUpdate>(), false);
        // Whoever has many that wait for nothing asks on: no request reads them all.
        for (var chunks = 0; chunks < MostChunks && found.Count < PageSize && !last; chunks++)
        {
            var chunk = await emails.Newest(after).Take(PageSize * 4).ToListAsync(cancel);
            last = chunk.Count < PageSize * 4;
            foreach (var stored in chunk)
            {
                after = new PageKey<Guid>(stored.ChangedAt, stored.Id).ToString();
                var loaded = heads.Open(stored, snapshot);
                if (Updates.Wait((Email)loaded.Document, snapshot))
                {
                    var by = await db.Users.Where(u => u.Id == stored.CreatedBy).Select(u => u.Name).FirstOrDefaultAsync(cancel) ?? "";
                    var update = await Updates.FindAsync(loaded, person, compilations, db, cancel);
                    found.Add(
                        new WaitingUpdate(stored.Id, stored.Name, stored.CampaignType ?? "", stored.State, by, stored.Revision, update)
                    );
                    if (found.Count == PageSize)
                    {
                        last = last && stored == chunk[^1];
                        break;
                    }
                }
            }
        }

        return new WaitingUpdates(found.ToImmutable(), last ? null : after);
    }

    private static async Task<ImmutableArray<UpdateTaken>> TakeAsync(
        ImmutableArray<UpdateToTake> updates,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        DocumentAccess access,
        EditPipeline pipeline,
        CancellationToken cancel
    )
    {
        if (updates.Length > MostAtOnce)
        {
            throw ProblemException.Invalid($"At most {MostAtOnce} updates are taken with one request. Send them in several.");
        }

        var taken = ImmutableArray.CreateBuilder<UpdateTaken>();
        foreach (var one in updates)
        {
            db.ChangeTracker.Clear();
            taken.Add(new UpdateTaken(one.Id, await ProblemOfAsync(one)));
        }

        return taken.ToImmutable();

        async Task<string?> ProblemOfAsync(UpdateToTake one)
        {
            try
            {
                var loaded = await access.LoadAsync(DocumentKind.Email, one.Id, user.Person(), cancel);
                if (Updates.ToNewest((Email)loaded.Document, loaded.Library) is not { } update)
                {
                    return null;
                }

                if (loaded.Stored.Revision != one.Revision)
                {
                    return "It was changed since you looked. Look again, then take it.";
                }

                var edits = new EditsRequest(one.Revision, [new SentEdit(one.Edit, one.Edit, update)]);
                await pipeline.EditAsync(DocumentKind.Email, one.Id, user.Person(), edits, cancel);
                return null;
            }
            catch (ProblemException refused)
            {
                return refused.Message;
            }
            catch (StructureException fault)
            {
                return fault.Message;
            }
        }
    }
}
