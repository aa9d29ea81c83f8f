using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Jobs;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.HouseStyles;

/// <summary>What a release of a house style would do: whom it reaches at once, and as a job what it would break.</summary>
public static class StyleReachEndpoints
{
    private const int PageSize = 60;

    private const string Checkers = "What a release would do is checked by leads and designers.";

    public static void MapStyleReach(this IEndpointRouteBuilder styles)
    {
        styles.MapGet("/{id:guid}/reach", FindAsync).WithName("getReach");
        styles.MapPost("/{id:guid}/reach/checks", CheckAsync).WithName("checkReach");
        styles.MapGet("/{id:guid}/reach/checks/{job:guid}", FindingsAsync).WithName("listReachFindings");
    }

    private static async Task<ReachAnswer> FindAsync(
        Guid id,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        EditPipeline pipeline,
        CancellationToken cancel,
        string? after = null
    )
    {
        var loaded = await pipeline.LoadAsync(DocumentKind.HouseStyle, id, cancel);
        return await StyleReach.FindAsync(id, user.Person(), loaded.Library, db, after, cancel);
    }

    // Each change of the draft asks anew: what was asked about it as it was before need not be known any more.
    private static async Task<JobEntry> CheckAsync(
        Guid id,
        JobRequest request,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        EditPipeline pipeline,
        JobDesk jobs,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var person = user.Person();
        person.MustBe(Checkers, Role.Lead, Role.Designer);
        _ = await pipeline.LoadAsync(DocumentKind.HouseStyle, id, cancel);
        await JobEndpoints.StopAllAsync(
            db.Jobs.Where(j => j.Work == ReachWork.WorkName && j.Document == id && j.AskedBy == person.Id && j.Id != request.Id),
            clock,
            cancel
        );
        // Of those nobody reads what they found any more.
        await db
            .JobFindings.Where(f =>
                db.Jobs.Any(j =>
                    j.Id == f.JobId && j.Work == ReachWork.WorkName && j.Document == id && j.AskedBy == person.Id && j.Id != request.Id
                )
            )
            .ExecuteDeleteAsync(cancel);
        return await jobs.AskAsync(request.Id, ReachWork.WorkName, id, person, cancel);
    }

    private static async Task<ReachFindings> FindingsAsync(
        Guid id,
        Guid job,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        CancellationToken cancel,
        int after = 0
    )
    {
        // The job first: what it has found by the time it has ended is then all there.
        var entry = await JobEndpoints.FindAsync(job, user.Person(), db, cancel);
        // It names emails of all teams: whoever asked for it as a designer is shown it as one.
        user.Person().MustBe(Checkers, Role.Lead, Role.Designer);
        if (entry.Document != id || entry.Work != ReachWork.WorkName)
        {
            throw ProblemException.NotFound("There is no such check of this house style's reach.");
        }

        var found = await db
            .JobFindings.Where(f => f.JobId == job && f.Sequence > after)
            .OrderBy(f => f.Sequence)
            .Take(PageSize)
            .Select(f => new { f.Sequence, f.Body })
            .ToListAsync(cancel);
        return new ReachFindings(
            entry,
            await db.JobFindings.Where(f => f.JobId == job).MaxAsync(f => (int?)f.Sequence, cancel) ?? 0,
            [.. found.Select(f => DocumentJson.Read<ReachFinding>(f.Body))],
            found.Count == 0 ? null : found[^1].Sequence
        );
    }
}
