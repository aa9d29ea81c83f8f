using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.HouseStyles;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Jobs;

/// <summary>What a release would break, found as a job: asked for, and read while it goes on.</summary>
public static class ReachChecks
{
    private const int PageSize = 60;

    private const string Checkers = "What a release would do is checked by leads and designers.";

    /// <param name="work">The job that finds it.</param>
    /// <param name="name">Of what is released, in the names of the routes; empty for house styles.</param>
    public static void MapReachChecks(this IEndpointRouteBuilder group, DocumentKind kind, string work, string name)
    {
        group
            .MapPost(
                "/{id:guid}/reach/checks",
                (
                    Guid id,
                    JobRequest request,
                    ClaimsPrincipal user,
                    GoldenRuleDb db,
                    DocumentAccess access,
                    JobDesk jobs,
                    TimeProvider clock,
                    CancellationToken cancel
                ) => CheckAsync(kind, work, id, request, user.Person(), db, access, jobs, clock, cancel)
            )
            .WithName($"check{name}Reach");
        group
            .MapGet(
                "/{id:guid}/reach/checks/{job:guid}",
                (Guid id, Guid job, ClaimsPrincipal user, GoldenRuleDb db, LibraryCache library, CancellationToken cancel, int after = 0) =>
                    FindingsAsync(work, id, job, user.Person(), db, library, after, cancel)
            )
            .WithName($"list{name}ReachFindings");
    }

    // Each change of the draft asks anew: what was asked about it as it was before need not be known any more.
    private static async Task<JobEntry> CheckAsync(
        DocumentKind kind,
        string work,
        Guid id,
        JobRequest request,
        Person person,
        GoldenRuleDb db,
        DocumentAccess access,
        JobDesk jobs,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        if (kind == DocumentKind.HouseStyle)
        {
            person.MustBe(Checkers, Role.Lead, Role.Designer);
        }
        else
        {
            person.MustBeAnywhere(Checkers, Role.Lead, Role.Designer);
        }

        _ = await access.LoadAsync(kind, id, person, cancel);
        var former = db.Jobs.Where(j => j.Work == work && j.Document == id && j.AskedBy == person.Id && j.Id != request.Id);
        await JobEndpoints.StopAllAsync(former, clock, cancel);
        // Of those nobody reads what they found any more.
        await db.JobFindings.Where(f => former.Any(j => j.Id == f.JobId)).ExecuteDeleteAsync(cancel);
        return await jobs.AskAsync(request.Id, work, id, person, cancel);
    }

    private static async Task<ReachFindings> FindingsAsync(
        string work,
        Guid id,
        Guid job,
        Person person,
        GoldenRuleDb db,
        LibraryCache library,
        int after,
        CancellationToken cancel
    )
    {
        // The job first: what it has found by the time it has ended is then all there.
        var entry = await JobEndpoints.FindAsync(job, person, db, cancel);
        // Whoever asked for it as a designer is shown it as one.
        person.MustBeAnywhere(Checkers, Role.Lead, Role.Designer);
        if (entry.Document != id || entry.Work != work)
        {
            throw ProblemException.NotFound("There is no such check of its reach.");
        }

        var found = await db
            .JobFindings.Where(f => f.JobId == job && f.Sequence > after)
            .OrderBy(f => f.Sequence)
            .Take(PageSize)
            .Select(f => new { f.Sequence, f.Body })
            .ToListAsync(cancel);
        var read = found.ConvertAll(f => DocumentJson.Read<ReachFinding>(f.Body));
        // It looked at emails of all teams.
        var ids = read.ConvertAll(f => f.Id);
        var seen = await db
            .Documents.Where(d => ids.Contains(d.Id))
            .EmailsSeenBy(person, (await library.GetAsync(db, cancel)).Plan.Teams)
            .Select(d => d.Id)
            .ToListAsync(cancel);
        return new ReachFindings(
            entry,
            await db.JobFindings.Where(f => f.JobId == job).MaxAsync(f => (int?)f.Sequence, cancel) ?? 0,
            [.. read.Where(f => seen.Contains(f.Id))],
            found.Count == 0 ? null : found[^1].Sequence
        );
    }
}
