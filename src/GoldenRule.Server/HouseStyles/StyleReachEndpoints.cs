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
    public static void MapStyleReach(this IEndpointRouteBuilder styles)
    {
        styles.MapGet("/{id:guid}/reach", FindAsync).WithName("getReach");
        styles.MapReachChecks(DocumentKind.HouseStyle, ReachWork.WorkName, "");
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
}
