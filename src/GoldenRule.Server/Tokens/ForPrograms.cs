using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HandOffs;
using GoldenRule.Data;
using GoldenRule.Server.HandOffs;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Returns;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Tokens;

/// <summary>A hand-off as programs find it.</summary>
/// <param name="ChangedAt">When it was made, or withdrawn.</param>
/// <param name="Corrects">The one that it takes the place of. Null: none.</param>
/// <param name="Files">Each is fetched under files/ and its name.</param>
public sealed record FoundHandOff(
    Guid Id,
    Guid Email,
    int Number,
    string Name,
    string CampaignType,
    string Subject,
    DateTime At,
    DateTime ChangedAt,
    bool Withdrawn,
    Guid? Corrects,
    string Profile,
    ImmutableArray<HandOffFile> Files
);

/// <param name="Since">What to ask with the next time. What changed in the last seconds may come again.</param>
/// <param name="More">There is more: ask again at once.</param>
public sealed record FoundHandOffs(ImmutableArray<FoundHandOff> All, string Since, bool More);

/// <summary>What programs with a token use: finding and fetching hand-offs, and telling what readers did.</summary>
public static class ForPrograms
{
    private const int MostFound = 100;

    /// <summary>What is stored at the same time may be seen in another order: so much comes again.</summary>
    private static readonly TimeSpan SeenAgain = TimeSpan.FromSeconds(10);

    public static void MapForPrograms(this IEndpointRouteBuilder app)
    {
        var programs = app.MapGroup("/api/hand-offs").WithTags("For programs").RequireRateLimiting(RateLimits.Programs);
        programs.MapGet("", ListAsync).Produces<FoundHandOffs>().RequireAuthorization(TokenScopes.ReadHandOffs).WithName("findHandOffs");
        programs
            .MapGet("/{id:guid}/files/{**name}", FileAsync)
            .Produces(200, null, "application/octet-stream")
            .RequireAuthorization(TokenScopes.ReadHandOffs)
            .WithName("fetchHandOffFile");
        programs
            .MapPost("/{id:guid}/events", (Guid id, EventsRequest request, ReaderReturns returns, CancellationToken cancel) =>
                returns.TakeAsync(id, request.Events, cancel)
            )
            .RequireAuthorization(TokenScopes.ReportEvents)
            .WithName("reportEvents");
    }

    /// <param name="since">As an answer before said it. Null: from the beginning.</param>
    private static async Task<IResult> ListAsync(
        HttpContext http,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel,
        string? since = null,
        int limit = MostFound
    )
    {
        var (after, last) = PageKey<Guid>.Read(since is "" ? null : since) ?? new(DateTime.UnixEpoch, Guid.Empty);
        var page = Math.Clamp(limit, 1, MostFound);
        var found = await db
            .HandOffs.AsNoTracking()
            .Select(h => new { Stored = h, Changed = h.Withdrawal == null ? h.At : h.Withdrawal.At })
            .Where(h => h.Changed > after || (h.Changed == after && h.Stored.Id > last))
            .OrderBy(h => h.Changed)
            .ThenBy(h => h.Stored.Id)
            .Take(page + 1)
            .Select(h => new
            {
                h.Stored.Record,
                h.Changed,
                Withdrawn = h.Stored.Withdrawal != null,
            })
            .ToListAsync(cancel);
        var all = found.Take(page).Select(h => Found(HandOffRecord.Read(h.Record), h.Changed, h.Withdrawn)).ToImmutableArray();
        var more = found.Count > page;
        var newest = all.IsEmpty ? after : all[^1].ChangedAt;
        var next = NextTime(more, newest, all.IsEmpty ? last : all[^1].Id, (clock.GetUtcNow() - SeenAgain).UtcDateTime);
        var json = DocumentJson.Write(new FoundHandOffs(all, next, more));
        var tag = $"\"{Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(DocumentJson.Write(all))))[..32]}\"";
        http.Response.Headers.ETag = tag;
        http.Response.Headers.CacheControl = "private, no-cache";
        return http.Request.Headers.IfNoneMatch.ToString().Contains(tag, StringComparison.Ordinal)
            ? Results.StatusCode(304)
            : Results.Text(json, "application/json", Encoding.UTF8);
    }

    private static async Task<IResult> FileAsync(Guid id, string name, HttpContext http, GoldenRuleDb db, CancellationToken cancel)
    {
        var stored = await db.HandOffs.AsNoTracking().Where(h => h.Id == id).Select(h => h.Record).FirstOrDefaultAsync(cancel);
        if (
            stored is null
            || HandOffRecord.Read(stored).Files.FirstOrDefault(f => f.Name == name) is not { } file
            || await HandOffFiles.FindAsync(file, db, cancel) is not { } content
        )
        {
            throw ProblemException.NotFound("There is no such file of a hand-off.");
        }

        // The bytes never change: their hash is their tag (RFC 9110, 8.8.3).
        http.Response.Headers.ETag = $"\"{file.Sha256}\"";
        http.Response.Headers.CacheControl = "private, no-cache";
        http.Response.Headers.ContentDisposition = "attachment";
        return http.Request.Headers.IfNoneMatch.ToString().Contains(file.Sha256, StringComparison.Ordinal)
            ? Results.StatusCode(304)
            : Results.Bytes(content, file.MediaType);
    }

    // Within a sequence of pages exactly from there; at its end a little before.
    private static string NextTime(bool more, DateTime newest, Guid id, DateTime safe) =>
        (more || newest < safe ? new PageKey<Guid>(newest, id) : new PageKey<Guid>(safe, Guid.Empty)).ToString();

    private static FoundHandOff Found(HandOffRecord record, DateTime changed, bool withdrawn) =>
        new(
            record.Id,
            record.Email,
            record.Number,
            record.Name,
            record.CampaignType,
            record.Details.Subject,
            record.At,
            changed,
            withdrawn,
            record.Corrects,
            record.Profile,
            [.. record.Files.Where(f => f.Kind is not (HandOffFileKind.Merge or HandOffFileKind.Seen))]
        );
}
