using System.Linq.Expressions;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Jobs;

/// <param name="Done">Steps done, of <paramref name="Total"/>; a total of 0: not known yet.</param>
/// <param name="Step">What is being done, or why it failed.</param>
/// <param name="Result">Name of the file that came out; null: there is none yet.</param>
public sealed record JobEntry(
    Guid Id,
    string Work,
    Guid? Document,
    JobState State,
    int Done,
    int Total,
    string Step,
    string? Result,
    DateTime AskedAt,
    DateTime? EndedAt
);

/// <param name="Id">UUIDv7 made by the client: asked twice, one job is made.</param>
public sealed record JobRequest(Guid Id);

/// <summary>Asking for long work, and looking how far it is.</summary>
public static class JobEndpoints
{
    public static void MapJobs(this IEndpointRouteBuilder api)
    {
        var jobs = api.MapGroup("/jobs").WithTags("Jobs");
        jobs.MapGet("/{id:guid}", (Guid id, ClaimsPrincipal user, DocumentAccess access, GoldenRuleDb db, CancellationToken cancel) =>
                SeenAsync(id, user.Person(), access, db, cancel)
            )
            .WithName("getJob");
        jobs.MapDelete("/{id:guid}", StopAsync).WithName("stopJob");
        jobs.MapGet(
                "/{id:guid}/result",
                async (Guid id, ClaimsPrincipal user, DocumentAccess access, GoldenRuleDb db, CancellationToken cancel) =>
                {
                    _ = await SeenAsync(id, user.Person(), access, db, cancel);
                    var made = await db
                        .Jobs.Where(j => j.Id == id && j.State == JobState.Done)
                        .Select(j => new
                        {
                            j.Result,
                            j.ResultType,
                            j.ResultName,
                        })
                        .FirstOrDefaultAsync(cancel);
                    return made?.Result is { } content
                        ? Results.File(content, made.ResultType, made.ResultName)
                        : throw ProblemException.NotFound("That job has no result yet.");
                }
            )
            .Produces(200, null, "application/octet-stream")
            .WithName("getJobResult");
    }

    /// <summary>Stops what is not done yet; what has ended stays as it is.</summary>
    private static async Task<JobEntry> StopAsync(
        Guid id,
        ClaimsPrincipal user,
        DocumentAccess access,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var person = user.Person();
        _ = await SeenAsync(id, person, access, db, cancel);
        await StopAllAsync(db.Jobs.Where(j => j.Id == id), clock, cancel);
        return await FindAsync(id, person, db, cancel);
    }

    internal static Task StopAllAsync(IQueryable<StoredJob> jobs, TimeProvider clock, CancellationToken cancel) =>
        jobs.Where(j => j.State == JobState.Waiting || j.State == JobState.Running)
            .ExecuteUpdateAsync(
                j => j.SetProperty(x => x.State, JobState.Stopped).SetProperty(x => x.EndedAt, clock.GetUtcNow().UtcDateTime),
                cancel
            );

    /// <summary>A job without what came out, which may be large.</summary>
    internal static readonly Expression<Func<StoredJob, JobEntry>> Entry = j => new JobEntry(
        j.Id,
        j.Work,
        j.Document,
        j.State,
        j.Done,
        j.Total,
        j.Step,
        j.ResultName,
        j.AskedAt,
        j.EndedAt
    );

    private static async Task<JobEntry> SeenAsync(Guid id, Person person, DocumentAccess access, GoldenRuleDb db, CancellationToken cancel)
    {
        var found = await FindAsync(id, person, db, cancel);
        // As long as what it is about is there for them.
        if (found.Document is { } about)
        {
            await access.MustSeeAsync(about, person, cancel);
        }

        return found;
    }

    // What someone asked for is theirs, and the leads'.
    internal static async Task<JobEntry> FindAsync(Guid id, Person person, GoldenRuleDb db, CancellationToken cancel)
    {
        var isLead = person.Is(Core.Documents.Role.Lead);
        return await db.Jobs.Where(j => j.Id == id && (isLead || j.AskedBy == person.Id)).Select(Entry).FirstOrDefaultAsync(cancel)
            ?? throw ProblemException.NotFound("There is no such job.");
    }
}
