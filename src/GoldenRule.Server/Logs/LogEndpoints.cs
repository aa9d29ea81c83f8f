using System.Collections.Immutable;
using System.Globalization;
using System.Security.Claims;
using System.Text;
using System.Text.Json;
using CsvHelper;
using CsvHelper.Configuration;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Logs;

/// <summary>One entry of the log.</summary>
/// <param name="What">In words.</param>
/// <param name="Who">Empty: nobody who is signed in.</param>
/// <param name="Whom">The person it was done to; empty: it is about something else, or they did it themselves.</param>
/// <param name="Subject">What it was done to.</param>
/// <param name="Before">JSON; null: there was nothing.</param>
/// <param name="After">JSON; null: there is nothing any more.</param>
public sealed record LogItem(
    long Sequence,
    DateTime At,
    LogKind Kind,
    string What,
    string Who,
    string Whom,
    string Subject,
    JsonElement? Before,
    JsonElement? After
);

/// <param name="Next">What to ask for the page after this one; null: this is the last.</param>
/// <param name="KeptDays">Days after which entries are deleted.</param>
/// <param name="Kinds">What there can be, in words.</param>
public sealed record LogPage(ImmutableArray<LogItem> Entries, long? Next, int KeptDays, ImmutableArray<LogKindEntry> Kinds);

public sealed record LogKindEntry(LogKind Kind, string Label);

/// <param name="Days">30 to 3,650.</param>
public sealed record LogKeeping(int Days);

/// <summary>The log, for leads: newest first, narrowed, as a file, and how long it is kept.</summary>
public static class LogEndpoints
{
    private const int PageSize = 60;
    private const int Least = 30,
        Most = 3650;

    /// <summary>Entries in one file.</summary>
    private const int MostInFile = 100_000;

    public static void MapLog(this IEndpointRouteBuilder api)
    {
        var log = api.MapGroup("/log").WithTags("Log");
        log.MapGet("", ListAsync).WithName("listLog");
        log.MapGet("/file", FileAsync).Produces<string>(200, "text/csv").WithName("getLogFile").RequireRateLimiting(RateLimits.Costly);
        log.MapPut("/keeping", KeepAsync).WithName("setLogKeeping");
    }

    private static async Task<LogPage> ListAsync(
        ClaimsPrincipal user,
        GoldenRuleDb db,
        CancellationToken cancel,
        string? kind = null,
        Guid? person = null,
        DateTime? from = null,
        DateTime? until = null,
        long? before = null
    )
    {
        Leading(user);
        var found = await Wanted(db, kind, person, from, until)
            .Where(l => before == null || l.Sequence < before)
            .Take(PageSize + 1)
            .ToListAsync(cancel);
        return new LogPage(
            await TellAsync([.. found.Take(PageSize)], db, cancel),
            found.Count > PageSize ? found[PageSize - 1].Sequence : null,
            await db.LogSettings.Select(s => s.KeptDays).SingleAsync(cancel),
            [.. Enum.GetValues<LogKind>().Select(k => new LogKindEntry(k, LogWords.Of(k)))]
        );
    }

    private static async Task<IResult> FileAsync(
        ClaimsPrincipal user,
        GoldenRuleDb db,
        CancellationToken cancel,
        string? kind = null,
        Guid? person = null,
        DateTime? from = null,
        DateTime? until = null
    )
    {
        Leading(user);
        var entries = await TellAsync(await Wanted(db, kind, person, from, until).Take(MostInFile).ToListAsync(cancel), db, cancel);
        await using var text = new StringWriter(CultureInfo.InvariantCulture);
        // A cell that a spreadsheet would take for a formula is written so that it takes it for words.
        await using (
            var csv = new CsvWriter(
                text,
                new CsvConfiguration(CultureInfo.InvariantCulture) { NewLine = "\r\n", InjectionOptions = InjectionOptions.Escape },
                leaveOpen: true
            )
        )
        {
            foreach (var head in (string[])["When (UTC)", "Who", "What", "Whom", "Subject", "Before", "After"])
            {
                csv.WriteField(head);
            }

            foreach (var entry in entries)
            {
                await csv.NextRecordAsync();
                csv.WriteField(entry.At.ToString("yyyy-MM-dd HH:mm:ss", CultureInfo.InvariantCulture));
                csv.WriteField(entry.Who);
                csv.WriteField(entry.What);
                csv.WriteField(entry.Whom);
                csv.WriteField(entry.Subject);
                csv.WriteField(entry.Before?.GetRawText());
                csv.WriteField(entry.After?.GetRawText());
            }
        }

        return Results.File([.. Encoding.UTF8.Preamble, .. Encoding.UTF8.GetBytes(text.ToString())], "text/csv; charset=utf-8", "Log.csv");
    }

    private static async Task<LogPage> KeepAsync(
        LogKeeping keeping,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var by = Leading(user);
        if (keeping.Days is < Least or > Most)
        {
            throw ProblemException.Invalid($"The log is kept for {Least} to {Most:N0} days.", "days");
        }

        var setting = await db.LogSettings.SingleAsync(cancel);
        db.Record(clock, LogKind.LogKeptFor, by.Id, "", new LogKeeping(setting.KeptDays), keeping);
        setting.KeptDays = keeping.Days;
        await db.SaveChangesAsync(cancel);
        return await ListAsync(user, db, cancel);
    }

    private static Person Leading(ClaimsPrincipal user)
    {
        var person = user.Person();
        person.MustBe("The log is read by leads of the whole library.", Role.Lead);
        return person;
    }

    private static IQueryable<LogEntry> Wanted(GoldenRuleDb db, string? kind, Guid? person, DateTime? from, DateTime? until)
    {
        var wanted = Named.Read<LogKind>(kind, "kind");
        var (after, before) = (from?.ToUniversalTime(), until?.ToUniversalTime());
        return db
            .Log.AsNoTracking()
            .Where(l =>
                (wanted == null || l.Kind == wanted)
                && (person == null || l.PersonId == person || l.OfPersonId == person)
                && (after == null || l.At >= after)
                && (before == null || l.At < before)
            )
            .OrderByDescending(l => l.Sequence);
    }

    private static async Task<ImmutableArray<LogItem>> TellAsync(List<LogEntry> entries, GoldenRuleDb db, CancellationToken cancel)
    {
        var ids = entries.SelectMany(e => new[] { e.PersonId, e.OfPersonId }).OfType<Guid>().ToHashSet();
        var names = await db.Users.Where(u => ids.Contains(u.Id)).ToDictionaryAsync(u => u.Id, u => u.Name, cancel);
        return
        [
            .. entries.Select(e => new LogItem(
                e.Sequence,
                e.At,
                e.Kind,
                LogWords.Of(e.Kind),
                Name(e.PersonId),
                e.OfPersonId == e.PersonId ? "" : Name(e.OfPersonId),
                e.Subject,
                Json(e.Before),
                Json(e.After)
            )),
        ];

        // An invitation that was withdrawn leaves nobody behind.
        string Name(Guid? id) => id is { } one ? names.GetValueOrDefault(one, "Someone who never came") : "";
    }

    private static JsonElement? Json(string? written) => written is null ? null : JsonSerializer.Deserialize<JsonElement>(written);
}
