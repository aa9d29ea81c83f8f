using System.Security.Claims;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.People;

namespace GoldenRule.Server.Desks;

/// <summary>What templates and saved rows have alike beside their desk: where they are used, their standing, their releases.</summary>
public static class MasterEndpoints
{
    public static void MapMaster(this RouteGroupBuilder group, DocumentKind kind, string name)
    {
        group.MapGet("/{id:guid}/uses", async (Guid id, ClaimsPrincipal user, Room room, GoldenRuleDb db, LibraryKeeper library, CancellationToken cancel) =>
        {
            await room.MustBeThereAsync(kind, id, user.Person(), cancel);
            return await WhereUsed.OfAsync([id.ToString()], user.Person(), db, await library.GetAsync(db, cancel), cancel);
        }).WithName($"list{name}Uses");
        group.MapPut("/{id:guid}/standing", (Guid id, StandingChange change, ClaimsPrincipal user, GoldenRuleDb db, CancellationToken cancel) =>
            Standing.ChangeAsync(kind, id, change, user.Person(), db, cancel)).WithName($"set{name}Standing");
        group.MapGet("/{id:guid}/releases", async (Guid id, ClaimsPrincipal user, Room room, Releasing releasing, CancellationToken cancel) =>
        {
            await room.MustSeeAsync(kind, id, user.Person(), cancel);
            return await releasing.ListAsync(kind, id, cancel);
        }).WithName($"list{name}Releases");
        group.MapPost("/{id:guid}/releases", async (
            Guid id, ReleaseRequest request, ClaimsPrincipal user, HttpRequest http, Room room, Releasing releasing, CancellationToken cancel) =>
        {
            await room.MustSeeAsync(kind, id, user.Person(), cancel);
            return await releasing.ReleaseAsync(kind, id, user.Person(), request, http.Headers.IfMatch.FirstOrDefault(), cancel);
        }).WithName($"release{name}");
    }
}
