using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Checks;

/// <param name="Usual">How grave it is unless the lead says otherwise.</param>
/// <param name="Fixed">The law or the email's own integrity speaks; it is not to be set.</param>
/// <param name="Why">Why it matters, with the source of the rule.</param>
public sealed record CheckEntry(string Name, string Label, CheckGroup Group, Severity Usual, bool Fixed, string Why);

/// <param name="Source">Where the data on mail clients is from, and its licence.</param>
/// <param name="Dated">Its day, ISO 8601.</param>
public sealed record MailClients(string Source, string Dated, ImmutableArray<MailClient> Clients);

/// <param name="Revision">To be sent back as If-Match.</param>
/// <param name="ChangedBy">Null: nobody has changed it yet.</param>
public sealed record CheckPolicyAnswer(long Revision, CheckPolicy Policy, string? ChangedBy, DateTime? ChangedAt, bool MayChange);

public static class CheckEndpoints
{
    public static void MapChecks(this IEndpointRouteBuilder api)
    {
        var checks = api.MapGroup("/checks").WithTags("Checks");
        checks
            .MapGet("", () =>
                CheckList.All.Select(c => new CheckEntry(c.Name, c.Label, c.Group, c.Usual, c.Fixed, c.Why)).ToImmutableArray()
            )
            .WithName("listChecks");
        checks
            .MapGet("/clients", () => new MailClients(ClientSupport.Source, ClientSupport.Dated, ClientSupport.Clients))
            .WithName("listMailClients");
        checks.MapGet("/policy", LookAsync).WithName("getCheckPolicy");
        checks.MapPut("/policy", SetAsync).WithName("setCheckPolicy");
    }

    private static async Task<CheckPolicyAnswer> LookAsync(
        ClaimsPrincipal user,
        GoldenRuleDb db,
        HttpResponse response,
        CancellationToken cancel
    )
    {
        var stored = await db.CheckPolicies.AsNoTracking().SingleAsync(cancel);
        var by = stored.ChangedBy is { } id ? await db.Users.Where(u => u.Id == id).Select(u => u.Name).FirstOrDefaultAsync(cancel) : null;
        response.Headers.ETag = $"\"{stored.Revision}\"";
        return new CheckPolicyAnswer(
            stored.Revision,
            DocumentJson.Read<CheckPolicy>(stored.Body),
            by,
            stored.ChangedAt,
            user.Person().Is(Role.Lead)
        );
    }

    private static async Task<CheckPolicyAnswer> SetAsync(
        CheckPolicy policy,
        ClaimsPrincipal user,
        HttpRequest request,
        HttpResponse response,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var person = user.Person();
        person.MustBe("Leads set what is checked and how severe it is.", Role.Lead);

        var types = await db.CampaignTypes.Select(t => t.Key).ToListAsync(cancel);
        var faults = policy
            .Faults()
            .Concat(
                policy
                    .CampaignTypes.Where(t => !types.Contains(t.CampaignType))
                    .Select(t => (t.Place, $"There is no campaign type \"{t.CampaignType}\"."))
            )
            .ToList();
        if (faults.Count > 0)
        {
            throw ProblemException.Invalid(string.Join(' ', faults.Select(f => f.Item2).Distinct(StringComparer.Ordinal)), faults[0].Item1);
        }

        var stored = await db.CheckPolicies.SingleAsync(cancel);
        if (request.Headers.IfMatch.FirstOrDefault() is { } seen && seen != $"\"{stored.Revision}\"")
        {
            throw ChangedSince();
        }

        db.Record(clock, LogKind.ChecksSet, person.Id, "", DocumentJson.Read<CheckPolicy>(stored.Body), policy);
        stored.Body = DocumentJson.Write(policy);
        stored.Revision++;
        stored.ChangedBy = person.Id;
        stored.ChangedAt = clock.GetUtcNow().UtcDateTime;
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateConcurrencyException)
        {
            throw ChangedSince();
        }

        return await LookAsync(user, db, response, cancel);
    }

    private static ProblemException ChangedSince() =>
        new(
            412,
            "changed-since",
            "Someone changed it meanwhile",
            "Someone else set the checks since you opened this page. Nothing of yours is lost: look at theirs, then set yours again."
        );
}
