using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Reviews;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using GoldenRule.Server.People;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Reviews;

/// <summary>Who approves an email: asked, taken back, decided, compared with what was; and the rule of each campaign type.</summary>
public static class ReviewEndpoints
{
    public static void MapReviews(this IEndpointRouteBuilder api)
    {
        var review = api.MapGroup("/emails/{id:guid}/review").WithTags("Reviews");
        review
            .MapGet("", (Guid id, ClaimsPrincipal user, ReviewAnswers answers, CancellationToken cancel) =>
                answers.LookAsync(id, user.Person(), cancel)
            )
            .WithName("getReview");
        review
            .MapPost("/rounds", (Guid id, AskForReview request, ClaimsPrincipal user, ReviewDesk reviews, CancellationToken cancel) =>
                reviews.AskAsync(id, request, user.Person(), cancel)
            )
            .WithName("askForReview");
        review
            .MapDelete("/rounds/open", (Guid id, ClaimsPrincipal user, ReviewDesk reviews, CancellationToken cancel) =>
                reviews.TakeBackAsync(id, user.Person(), cancel)
            )
            .WithName("takeBackFromReview");
        review
            .MapPost("/decisions", (Guid id, Decide decide, HttpContext http, ReviewDesk reviews, CancellationToken cancel) =>
                reviews.DecideAsync(id, decide, http.User.Person(), KnownBrowsers.Hash(http), cancel)
            )
            .WithName("decideReview");
        review
            .MapGet(
                "/comparison",
                (Guid id, string? against, int? handOff, ClaimsPrincipal user, ReviewComparisons comparisons, CancellationToken cancel) =>
                    comparisons.CompareAsync(id, Named.Read<ReviewAgainst>(against, "against"), handOff, user.Person(), cancel)
            )
            .WithName("compareReview");
        api.MapPut("/campaign-types/{key}/review-rule", SetRuleAsync).WithTags("Plan").WithName("setReviewRule");
    }

    private static async Task<StoredSetting> SetRuleAsync(
        string key,
        ReviewRule rule,
        [FromHeader(Name = "If-Match")] string? seen,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var person = user.Person();
        person.MustBe("Leads of the whole library say who approves.", Role.Lead);
        if (rule.Fault() is { } fault)
        {
            throw ProblemException.Invalid(fault, "needs");
        }

        await using var turn = await db.TakeTurnAsync("plan", cancel);
        var type = await db.CampaignTypes.FirstOrDefaultAsync(t => t.Key == key && t.MergedInto == null, cancel)
            ?? throw ProblemException.NotFound("There is no such campaign type any more.");
        var people = rule.Needs.SelectMany(n => n.People).Distinct().ToList();
        if (await db.Users.CountAsync(u => people.Contains(u.Id) && u.DeactivatedAt == null && u.ErasedAt == null, cancel) != people.Count)
        {
            throw ProblemException.Invalid("One of these people is not here any more. Look again, then choose.", "needs");
        }

        var before = type.ReviewRule;
        SetVersion.Require(
            seen,
            SetVersion.Of(before),
            before.Needs.IsEmpty ? "Nobody approves now." : $"Now it is {string.Join(", ", before.Needs.Select(n => n.Name))}."
        );
        type.ReviewRule = rule with { Needs = [.. rule.Needs.Select(n => n with { Name = n.Name.Trim() })] };
        db.Record(clock, LogKind.ReviewRuleSet, person.Id, type.Name, before, type.ReviewRule);
        await db.SaveChangesAsync(cancel);
        await turn.CommitAsync(CancellationToken.None);
        return new StoredSetting(SetVersion.Of(type.ReviewRule));
    }
}
