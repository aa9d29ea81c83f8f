using System.Security.Claims;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Releases;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Jobs;
using GoldenRule.Server.People;

namespace GoldenRule.Server.Desks;

/// <param name="Planned">Null: none is.</param>
public sealed record PlannedReleases(PlannedReleaseAnswer? Planned);

/// <summary>What templates and saved rows have alike beside their desk: where they are used, their status, their releases.</summary>
public static class MasterEndpoints
{
    public static void MapMaster(this RouteGroupBuilder group, DocumentKind kind, string name)
    {
        group
            .MapGet(
                "/{id:guid}/uses",
                async (
                    Guid id,
                    ClaimsPrincipal user,
                    DocumentAccess access,
                    GoldenRuleDb db,
                    LibraryCache library,
                    CancellationToken cancel,
                    string? after = null
                ) =>
                {
                    await access.MustBeThereAsync(kind, id, user.Person(), cancel);
                    var reference = kind == DocumentKind.Row ? ReferenceKind.Row : ReferenceKind.Template;
                    var teams = (await library.GetAsync(db, cancel)).Plan.Teams;
                    return await WhereUsed.FindAsync(reference, [id.ToString()], user.Person(), teams, db, after, cancel);
                }
            )
            .WithName($"list{name}Uses");
        group.MapReachChecks(kind, MasterReachWork.WorkName, name);
        group
            .MapGet(
                "/{id:guid}/reach/{email:guid}/html",
                async (Guid id, Guid email, ClaimsPrincipal user, HttpContext http, DocumentAccess access, CancellationToken cancel) =>
                {
                    var person = user.Person();
                    var reach = MasterReach.Of(await access.LoadAsync(kind, id, person, cancel));
                    var reached = (Email)(await access.LoadAsync(DocumentKind.Email, email, person, cancel)).Document;
                    return MailHtml.Answer(http, Updates.Compiled((Email)reach.Update(reached).Apply(reached), reach.Library));
                }
            )
            .Produces<string>(200, "text/html")
            .WithName($"get{name}ReachHtml");
        group
            .MapPut(
                "/{id:guid}/status",
                (
                    Guid id,
                    LibraryStatusChange change,
                    ClaimsPrincipal user,
                    GoldenRuleDb db,
                    LibraryCache library,
                    CancellationToken cancel
                ) => LibraryStatus.ChangeAsync(kind, id, change, user.Person(), db, library, cancel)
            )
            .WithName($"set{name}LibraryStatus");
        group
            .MapGet(
                "/{id:guid}/releases",
                async (Guid id, ClaimsPrincipal user, DocumentAccess access, Releasing releasing, CancellationToken cancel) =>
                {
                    await access.MustSeeAsync(kind, id, user.Person(), cancel);
                    return await releasing.ListAsync(kind, id, cancel);
                }
            )
            .WithName($"list{name}Releases");
        group
            .MapGet(
                "/{id:guid}/releases/{number:int}/html",
                async (
                    Guid id,
                    int number,
                    ClaimsPrincipal user,
                    HttpContext http,
                    DocumentAccess access,
                    Releasing releasing,
                    CancellationToken cancel
                ) =>
                {
                    var loaded = await access.LoadAsync(kind, id, user.Person(), cancel);
                    var (then, _) = await releasing.FormerAsync(loaded, number, cancel);
                    var resolved = DocumentLayout.AsStarted(then.Document, then.Library).Resolve(then.Library);
                    return MailHtml.Answer(http, Compiler.Compile(resolved, CompilationCache.PicturesAt, Purpose.Sending).Html());
                }
            )
            .Produces<string>(200, "text/html")
            .WithName($"get{name}ReleaseHtml");
        group
            .MapPost(
                "/{id:guid}/releases",
                async (
                    Guid id,
                    ReleaseRequest request,
                    ClaimsPrincipal user,
                    HttpRequest http,
                    DocumentAccess access,
                    Releasing releasing,
                    CancellationToken cancel
                ) =>
                {
                    await access.MustSeeAsync(kind, id, user.Person(), cancel);
                    return await releasing.ReleaseAsync(kind, id, user.Person(), request, http.Headers.IfMatch.FirstOrDefault(), cancel);
                }
            )
            .WithName($"release{name}");
        group.MapPlannedRelease(kind, name);
    }

    private static void MapPlannedRelease(this RouteGroupBuilder group, DocumentKind kind, string name)
    {
        group
            .MapGet(
                "/{id:guid}/planned-release",
                async (Guid id, ClaimsPrincipal user, DocumentAccess access, ReleasePlans plans, CancellationToken cancel) =>
                {
                    await access.MustSeeAsync(kind, id, user.Person(), cancel);
                    return new PlannedReleases(await plans.FindAsync(id, cancel));
                }
            )
            .WithName($"get{name}PlannedRelease");
        group
            .MapPut(
                "/{id:guid}/planned-release",
                async (
                    Guid id,
                    PlanRelease request,
                    ClaimsPrincipal user,
                    HttpRequest http,
                    DocumentAccess access,
                    ReleasePlans plans,
                    CancellationToken cancel
                ) =>
                {
                    await access.MustSeeAsync(kind, id, user.Person(), cancel);
                    await plans.PlanAsync(kind, id, request, user.Person(), http.Headers.IfMatch.FirstOrDefault(), cancel);
                    return new PlannedReleases(await plans.FindAsync(id, cancel));
                }
            )
            .WithName($"plan{name}Release");
        group
            .MapDelete(
                "/{id:guid}/planned-release",
                async (Guid id, ClaimsPrincipal user, DocumentAccess access, ReleasePlans plans, CancellationToken cancel) =>
                {
                    await access.MustSeeAsync(kind, id, user.Person(), cancel);
                    await plans.WithdrawAsync(kind, id, user.Person(), cancel);
                }
            )
            .WithName($"withdraw{name}PlannedRelease");
    }
}
