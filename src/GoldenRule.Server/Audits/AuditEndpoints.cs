using System.Collections.Immutable;
using System.Globalization;
using System.Security.Claims;
using System.Text.Json;
using CsvHelper;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Jobs;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Audits;

/// <summary>Findings counted by one thing they have in common.</summary>
/// <param name="Key">A check's name, a template's name or a campaign type's key.</param>
/// <param name="Documents">In how many documents.</param>
public sealed record AuditCount(string Key, string Label, int Stop, int Warn, int Advise, int Documents);

/// <param name="Findings">Those asked for, the worst first.</param>
/// <param name="Count">How many there are in all of those asked for.</param>
public sealed record AuditAnswer(
    Guid Job,
    DateTime At,
    int Documents,
    int Clean,
    ImmutableArray<AuditCount> ByCheck,
    ImmutableArray<AuditCount> ByTemplate,
    ImmutableArray<AuditCount> ByCampaignType,
    ImmutableArray<AuditFinding> Findings,
    int Count
);

/// <param name="Job">The newest run, which may still be going on; null: there was none yet.</param>
/// <param name="Audit">The newest that is done.</param>
public sealed record AuditRoom(JobEntry? Job, AuditAnswer? Audit);

/// <summary>The checks run over the whole library.</summary>
public static class AuditEndpoints
{
    private const int Shown = 200;

    public static void MapAudits(this IEndpointRouteBuilder api)
    {
        var audits = api.MapGroup("/audits").WithTags("Audits");
        audits
            .MapPost("", (JobRequest request, ClaimsPrincipal user, JobDesk jobs, CancellationToken cancel) =>
            {
                MustAudit(user.Person());
                return jobs.AskAsync(request.Id, AuditWork.WorkName, null, user.Person(), cancel);
            })
            .WithName("startAudit")
            .RequireRateLimiting(RateLimits.Costly);
        audits.MapGet("/newest", NewestAsync).WithName("getNewestAudit");
        audits
            .MapGet("/newest.csv", async (GoldenRuleDb db, ClaimsPrincipal user, CancellationToken cancel) =>
            {
                MustAudit(user.Person());
                var (_, result) = await ReadAsync(db, cancel) ?? throw ProblemException.NotFound("There was no audit yet. Run one first.");
                return Results.File(Csv(result), "text/csv; charset=utf-8", $"audit {result.At:yyyy-MM-dd}.csv");
            })
            .Produces<string>(200, "text/csv")
            .WithName("getNewestAuditCsv");
    }

    private static async Task<AuditRoom> NewestAsync(
        string? check,
        string? template,
        string? campaignType,
        string? severity,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        MustAudit(user.Person());
        var newest = await db
            .Jobs.AsNoTracking()
            .Where(j => j.Work == AuditWork.WorkName)
            .OrderByDescending(j => j.AskedAt)
            .Select(JobEndpoints.Entry)
            .FirstOrDefaultAsync(cancel);
        if (await ReadAsync(db, cancel) is not { } read)
        {
            return new AuditRoom(newest, null);
        }

        var (job, result) = read;
        var types = await db.CampaignTypes.ToDictionaryAsync(t => t.Key, t => t.Name, StringComparer.Ordinal, cancel);
        var grave = Named.Read<Severity>(severity, "severity");
        var asked = result
            .Findings.Where(f =>
                (grave is null || f.Severity == grave)
                && (check is null || f.Check == check)
                && (template is null || f.Template == template)
                && (campaignType is null || f.CampaignType == campaignType)
            )
            .OrderByDescending(f => f.Severity)
            .ThenBy(f => f.Name, StringComparer.Ordinal)
            .ToList();
        return new AuditRoom(
            newest,
            new AuditAnswer(
                job,
                result.At,
                result.Documents,
                result.Clean,
                Count(result, f => f.Check, key => CheckList.Find(key)?.Label ?? "Cannot be read"),
                Count(result, f => f.Template, key => key.Length > 0 ? key : "Saved rows"),
                Count(result, f => f.CampaignType, key => types.GetValueOrDefault(key, key.Length > 0 ? key : "All")),
                [.. asked.Take(Shown)],
                asked.Count
            )
        );
    }

    private static async Task<(Guid Job, AuditResult Result)?> ReadAsync(GoldenRuleDb db, CancellationToken cancel)
    {
        var done = await db
            .Jobs.AsNoTracking()
            .Where(j => j.Work == AuditWork.WorkName && j.State == JobState.Done)
            .OrderByDescending(j => j.AskedAt)
            .Select(j => new { j.Id, j.Result })
            .FirstOrDefaultAsync(cancel);
        return done?.Result is { } content ? (done.Id, JsonSerializer.Deserialize<AuditResult>(content, DocumentJson.Options)!) : null;
    }

    private static ImmutableArray<AuditCount> Count(AuditResult result, Func<AuditFinding, string> by, Func<string, string> label) =>
        [
            .. result
                .Findings.GroupBy(by, StringComparer.Ordinal)
                .Select(g => new AuditCount(
                    g.Key,
                    label(g.Key),
                    g.Count(f => f.Severity == Severity.Stop),
                    g.Count(f => f.Severity == Severity.Warn),
                    g.Count(f => f.Severity == Severity.Advise),
                    g.Select(f => f.Document).Distinct().Count()
                ))
                .OrderByDescending(c => c.Stop)
                .ThenByDescending(c => c.Warn)
                .ThenByDescending(c => c.Advise)
                .ThenBy(c => c.Label, StringComparer.Ordinal),
        ];

    // RFC 4180. What a table program would take for a formula is set behind a quote.
    private static byte[] Csv(AuditResult result)
    {
        using var stream = new MemoryStream();
        using (var text = new StreamWriter(stream, new System.Text.UTF8Encoding(encoderShouldEmitUTF8Identifier: true), leaveOpen: true))
        using (
            var csv = new CsvWriter(
                text,
                new CsvHelper.Configuration.CsvConfiguration(CultureInfo.InvariantCulture)
                {
                    InjectionOptions = CsvHelper.Configuration.InjectionOptions.Escape,
                    NewLine = "\r\n",
                }
            )
        )
        {
            csv.WriteRecords(
                result
                    .Findings.OrderByDescending(f => f.Severity)
                    .ThenBy(f => f.Name, StringComparer.Ordinal)
                    .Select(f => new
                    {
                        f.Severity,
                        f.Check,
                        f.Message,
                        Evidence = f.Evidence ?? "",
                        f.Kind,
                        f.Name,
                        f.Template,
                        f.CampaignType,
                        f.State,
                        Row = f.Row ?? "",
                        f.Document,
                    })
            );
        }

        return stream.ToArray();
    }

    // An audit names every document, drafts of the library among them.
    private static void MustAudit(Person person)
    {
        person.MustBe("Leads and designers audit the library.", Role.Lead, Role.Designer);
    }
}
