using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Editing;

/// <summary>A release that is to be made later.</summary>
/// <param name="At">In UTC, within the next year.</param>
public sealed record PlanRelease(string Note, DateTime At, bool Required = false);

/// <param name="By">Who planned it.</param>
/// <param name="DraftChanged">The draft is another since: it will not be made.</param>
/// <param name="Problem">Why it was not made when its moment came; empty: it has not come.</param>
public sealed record PlannedReleaseAnswer(string Note, DateTime At, bool Required, string By, bool DraftChanged, string Problem);

/// <summary>A planned release as the log tells it.</summary>
internal sealed record PlanTold(DocumentKind Kind, Guid Id, DateTime At, string Note);

/// <summary>
/// Releases of templates and saved rows at a moment. What was looked at when it was planned is released, or nothing is: a draft that
/// was changed since, and somebody who may not release any more, leave it undone, and whoever planned it is told.
/// </summary>
public sealed class ReleasePlans(GoldenRuleDb db, EditPipeline pipeline, Releasing releasing, TimeProvider clock)
{
    private static readonly TimeSpan Longest = TimeSpan.FromDays(366);

    public async Task<PlannedReleaseAnswer?> FindAsync(Guid id, CancellationToken cancel) =>
        await db
            .PlannedReleases.Where(p => p.DocumentId == id)
            .Join(db.Documents, p => p.DocumentId, d => d.Id, (p, d) => new { Plan = p, d.Revision })
            .Select(x => new PlannedReleaseAnswer(
                x.Plan.Note,
                x.Plan.At,
                x.Plan.Required,
                db.Users.Where(u => u.Id == x.Plan.PlannedBy).Select(u => u.Name).FirstOrDefault() ?? "",
                x.Plan.Revision != x.Revision,
                x.Plan.Problem
            ))
            .FirstOrDefaultAsync(cancel);

    /// <summary>Plans it, in place of one that is planned already.</summary>
    /// <param name="seen">The revision the asker saw, as If-Match writes it; null: any.</param>
    public async Task PlanAsync(DocumentKind kind, Guid id, PlanRelease request, Person person, string? seen, CancellationToken cancel)
    {
        var note = Releasing.Note(request.Note);
        var (now, at) = (clock.GetUtcNow().UtcDateTime, request.At.ToUniversalTime());
        if (at <= now || at > now + Longest)
        {
            throw ProblemException.Invalid("Choose a moment that is still to come, within a year.", "at");
        }

        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        _ = await db.Locked(id, null).AsNoTracking().FirstOrDefaultAsync(cancel);
        var loaded = await pipeline.LoadAsync(kind, id, cancel);
        Releasing.MustRelease(kind, person, EditPipeline.Open(loaded));
        Releasing.MustBeSeen(loaded.Stored, seen);
        await releasing.MustBeCompleteAsync(loaded, cancel);
        var plan = await db.PlannedReleases.FirstOrDefaultAsync(p => p.DocumentId == id, cancel);
        if (plan is null)
        {
            plan = new PlannedRelease
            {
                DocumentId = id,
                Kind = kind,
                PlannedBy = person.Id,
                Revision = loaded.Stored.Revision,
                Note = note,
                At = at,
            };
            db.PlannedReleases.Add(plan);
        }

        (plan.PlannedBy, plan.Revision, plan.Note, plan.Required, plan.At, plan.Problem) = (
            person.Id,
            loaded.Stored.Revision,
            note,
            request.Required,
            at,
            ""
        );
        db.Record(clock, LogKind.ReleasePlanned, person.Id, loaded.Document.Name, null, new PlanTold(kind, id, at, note));
        await db.SaveChangesAsync(cancel);
        await turn.CommitAsync(CancellationToken.None);
    }

    /// <summary>Nothing is released by itself any more.</summary>
    public async Task WithdrawAsync(DocumentKind kind, Guid id, Person person, CancellationToken cancel)
    {
        var loaded = await pipeline.LoadAsync(kind, id, cancel);
        Releasing.MustRelease(kind, person, EditPipeline.Open(loaded));
        if (await db.PlannedReleases.FirstOrDefaultAsync(p => p.DocumentId == id, cancel) is { } plan)
        {
            db.PlannedReleases.Remove(plan);
            db.Record(clock, LogKind.ReleaseWithdrawn, person.Id, loaded.Document.Name, new PlanTold(kind, id, plan.At, plan.Note));
            await db.SaveChangesAsync(cancel);
        }
    }

    /// <summary>Makes one whose moment has come.</summary>
    /// <returns>False: there is none.</returns>
    public async Task<bool> MakeNextAsync(CancellationToken cancel)
    {
        db.ChangeTracker.Clear();
        var now = clock.GetUtcNow().UtcDateTime;
        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        // Another server may be looking too.
        var plan = await db
            .PlannedReleases.FromSql(
                $"select * from planned_releases where problem = '' and at <= {now} order by at limit 1 for update skip locked"
            )
            .AsNoTracking()
            .FirstOrDefaultAsync(cancel);
        if (plan is null)
        {
            return false;
        }

        var (name, problem) = await MakeAsync(plan, cancel);
        if (problem.Length > 0)
        {
            db.ChangeTracker.Clear();
            await db
                .PlannedReleases.Where(p => p.DocumentId == plan.DocumentId)
                .ExecuteUpdateAsync(p => p.SetProperty(x => x.Problem, problem), cancel);
            db.Record(
                clock,
                LogKind.ReleaseNotMade,
                null,
                name,
                null,
                new PlanTold(plan.Kind, plan.DocumentId, plan.At, problem),
                plan.PlannedBy
            );
            await db.SaveChangesAsync(cancel);
        }

        await turn.CommitAsync(CancellationToken.None);
        return true;
    }

    // What it is called, and why it is not made; empty: it is.
    private async Task<(string Name, string Problem)> MakeAsync(PlannedRelease plan, CancellationToken cancel)
    {
        var name = await db.Documents.Where(d => d.Id == plan.DocumentId).Select(d => d.Name).FirstAsync(cancel);
        var person = (await Everyone.ListAsync(db, cancel)).Find(p => p.Id == plan.PlannedBy);
        if (person is null)
        {
            return (name, "Whoever planned it is not there any more.");
        }

        try
        {
            await releasing.ReleaseAsync(
                plan.Kind,
                plan.DocumentId,
                person,
                new ReleaseRequest(plan.Note, plan.Required),
                $"\"{plan.Revision}\"",
                cancel
            );
            return (name, "");
        }
        catch (ProblemException refused)
        {
            return (
                name,
                refused.Details.Status switch
                {
                    412 => "The draft was changed after it was planned.",
                    403 => $"{person.Name} may not release it any more.",
                    _ => refused.Details.Detail ?? "It could not be made.",
                }
            );
        }
        catch (StructureException fault)
        {
            return (name, fault.Message);
        }
    }
}

/// <summary>Looks for releases whose moment has come.</summary>
public sealed class PlannedReleasing(IServiceScopeFactory scopes, ILogger<PlannedReleasing> log)
    : Recurring(TimeSpan.FromSeconds(5), scopes, log)
{
    protected override async Task RunAsync(IServiceProvider services, CancellationToken cancel)
    {
        while (await services.GetRequiredService<ReleasePlans>().MakeNextAsync(cancel)) { }
    }
}
