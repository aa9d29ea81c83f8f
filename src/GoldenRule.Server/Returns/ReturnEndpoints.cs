using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.HandOffs;
using GoldenRule.Data;
using GoldenRule.Server.HandOffs;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;

namespace GoldenRule.Server.Returns;

/// <summary>What came back, of one hand-off and of what they have in common.</summary>
public static class ReturnEndpoints
{
    private const int Months = 12;

    public static void MapReturns(this IEndpointRouteBuilder api)
    {
        api.MapGet(
                "/hand-offs/{id:guid}/returns",
                async (Guid id, ClaimsPrincipal user, HandOffAnswers answers, ReaderReturns returns, CancellationToken cancel) =>
                    await returns.AnswerAsync(HandOffRecord.Read((await answers.FindAsync(id, user.Person(), cancel)).Record), cancel)
            )
            .WithTags("What came back")
            .WithName("getReturns");
        api.MapGet("/returns", GroupAsync).WithTags("What came back").WithName("listReturns");
    }

    /// <param name="by">"row", "template", "campaign-type" or "month".</param>
    private static async Task<ImmutableArray<ReturnGroup>> GroupAsync(
        ClaimsPrincipal user,
        ReaderReturns returns,
        Editing.LibraryCache library,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel,
        string by = "month"
    )
    {
        var today = DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime);
        var from = new DateOnly(today.Year, today.Month, 1).AddMonths(1 - Months);
        var plan = (await library.GetAsync(db, cancel)).Plan;
        return await returns.GroupAsync(
            Named.Read<ReturnBy>(by, "by") ?? ReturnBy.Month,
            plan.Teams.HiddenFrom(user.Person()),
            from,
            cancel
        );
    }
}
