using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.TestSends;

/// <summary>Sending an email to look at, and whom outside the library it may be sent to.</summary>
public static class TestSendEndpoints
{
    private const int MostTesters = 200;

    public static void MapTestSends(this IEndpointRouteBuilder api)
    {
        var tests = api.MapGroup("/emails/{id:guid}/test-sends").WithTags("Test sends");
        tests
            .MapGet("", (Guid id, ClaimsPrincipal user, TestSendDesk desk, CancellationToken cancel) =>
                desk.ListAsync(id, user.Person(), cancel)
            )
            .WithName("listTestSends");
        tests
            .MapPost(
                "",
                (Guid id, TestSendRequest request, HttpContext http, TestSendDesk desk, PublicAddress address, CancellationToken cancel) =>
                    desk.SendAsync(id, request, http.User.Person(), address.Base(http.Request), cancel)
            )
            .RequireRateLimiting(RateLimits.Costly)
            .WithName("sendTest");
    }

    public static void MapTesters(this IEndpointRouteBuilder api)
    {
        var testers = api.MapGroup("/testers").WithTags("Test sends");
        testers.MapGet("", (GoldenRuleDb db, CancellationToken cancel) => ListAsync(db, cancel)).WithName("listTesters");
        testers.MapPut("", SetAsync).WithName("setTesters");
    }

    internal static async Task<ImmutableArray<Tester>> ListAsync(GoldenRuleDb db, CancellationToken cancel) =>
        [.. await db.Testers.AsNoTracking().OrderBy(t => t.Name).Select(t => new Tester(t.Id, t.Name, t.Address)).ToListAsync(cancel)];

    private static async Task<ImmutableArray<Tester>> SetAsync(
        ImmutableArray<Tester> testers,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var person = user.Person();
        person.MustBe("Leads of the whole library say whom tests may be sent to.", Role.Lead);
        if (testers.Length > MostTesters)
        {
            throw ProblemException.Invalid($"There are at most {MostTesters} testers; these are {testers.Length}.", "testers");
        }

        ImmutableArray<Tester> read = [.. testers.Select(t => new Tester(t.Id, PersonName.Read(t.Name), EmailAddress.Read(t.Address)))];
        if (read.GroupBy(t => t.Address, StringComparer.OrdinalIgnoreCase).FirstOrDefault(g => g.Count() > 1) is { } twice)
        {
            throw ProblemException.Invalid($"{twice.Key} stands there twice.", "testers");
        }

        if (read.Select(t => t.Id).Distinct().Count() != read.Length)
        {
            throw ProblemException.Invalid("Two testers have one id.", "testers");
        }

        var before = await ListAsync(db, cancel);
        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        await db.Testers.ExecuteDeleteAsync(cancel);
        db.Testers.AddRange(
            read.Select(t => new StoredTester
            {
                Id = t.Id,
                Name = t.Name,
                Address = t.Address,
            })
        );
        db.Record(clock, LogKind.TestersSet, person.Id, "", before, read);
        await db.SaveChangesAsync(cancel);
        await turn.CommitAsync(CancellationToken.None);
        return await ListAsync(db, cancel);
    }
}
