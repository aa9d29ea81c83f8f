using System.Collections.Immutable;
using System.Globalization;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Interchange;
using GoldenRule.Core.Reviews;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Home;

/// <param name="Day">"2026-12-05".</param>
/// <param name="Revision">Of the email: setting another day is an edit of what was seen.</param>
/// <param name="MayMove">Whether whoever asks may set another day.</param>
public sealed record CalendarEntry(
    Guid Id,
    string Name,
    string CampaignType,
    string CampaignTypeName,
    EmailState State,
    string With,
    string Day,
    long Revision,
    bool MayMove
);

/// <summary>A snippet that says nothing any more from a day on.</summary>
public sealed record CalendarExpiry(Guid Id, string Name, string Day, int Uses);

public sealed record CalendarAnswer(ImmutableArray<CalendarEntry> Emails, ImmutableArray<CalendarExpiry> Snippets);

/// <summary>What goes out when.</summary>
public sealed class SendCalendar(GoldenRuleDb db, LibraryCache library, TimeProvider clock)
{
    private const int MostDays = 100;
    private const int MostEmails = 1_000;

    public async Task<CalendarAnswer> ListAsync(DateOnly from, DateOnly until, Person everywhere, CancellationToken cancel)
    {
        if (until < from || until.DayNumber - from.DayNumber > MostDays)
        {
            throw ProblemException.Invalid($"Ask for 1 to {MostDays} days.", "until");
        }

        var snapshot = await library.GetAsync(db, cancel);
        var emails = await FindAsync(from, until, everywhere, snapshot, cancel);
        var ids = emails.ConvertAll(e => e.Id);
        var open = await db
            .ReviewRounds.AsNoTracking()
            .Where(r => r.State == RoundState.Open && ids.Contains(r.DocumentId))
            .ToDictionaryAsync(r => r.DocumentId, r => r.Rule, cancel);
        return new CalendarAnswer(
            [
                .. emails.Select(e =>
                {
                    var person = snapshot.Plan.Teams.ForEmail(everywhere, e.CampaignType);
                    return new CalendarEntry(
                        e.Id,
                        e.Name,
                        e.CampaignType ?? "",
                        snapshot.Plan.Find(e.CampaignType)?.Name ?? "",
                        e.State,
                        open.TryGetValue(e.Id, out var rule) ? string.Join(", ", rule.Needs.Select(n => n.Name)) : "",
                        e.Day,
                        e.Revision,
                        e.State == EmailState.Draft && person.Is(Role.Lead, Role.Designer, Role.Author)
                    );
                }),
            ],
            await ExpiriesAsync(from, until, snapshot, cancel)
        );
    }

    public async Task<string> FileAsync(Person everywhere, CancellationToken cancel)
    {
        var snapshot = await library.GetAsync(db, cancel);
        var today = DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime);
        var emails = await FindAsync(today.AddDays(-30), today.AddDays(365), everywhere, snapshot, cancel);
        return SendCalendarFile.Write(
            emails.Select(e => new SendingDay(
                e.Id,
                e.Name,
                snapshot.Plan.Find(e.CampaignType)?.Name ?? "",
                e.State switch
                {
                    EmailState.InReview => "in review",
                    EmailState.HandedOff => "handed off",
                    EmailState.Approved => "approved",
                    _ => "draft",
                },
                DateOnly.ParseExact(e.Day, "yyyy-MM-dd", CultureInfo.InvariantCulture),
                e.ChangedAt
            ))
        );
    }

    // The day stands in the email itself; an index finds it there.
    private async Task<List<Sending>> FindAsync(
        DateOnly from,
        DateOnly until,
        Person everywhere,
        LibrarySnapshot snapshot,
        CancellationToken cancel
    )
    {
        var (first, last) = (Written(from), Written(until));
        var days = await db
            .Database.SqlQuery<SentOn>(
                $"""
                select id, head -> 'details' ->> 'sendDay' as day from documents
                where kind = 'Email' and not retired and head -> 'details' ->> 'sendDay' between {first} and {last}
                order by day, id limit {MostEmails}
                """
            )
            .ToListAsync(cancel);
        var ids = days.ConvertAll(d => d.Id);
        var found = await db
            .Documents.AsNoTracking()
            .Where(d => ids.Contains(d.Id))
            .EmailsSeenBy(everywhere, snapshot.Plan.Teams)
            .Select(d => new Sending(d.Id, d.Name, d.CampaignType, d.State, d.Revision, d.ChangedAt, ""))
            .ToDictionaryAsync(d => d.Id, cancel);
        return
        [
            .. days.Where(d => found.ContainsKey(d.Id) && Core.Compiling.RenderContext.DayOf(d.Day) is not null)
                .Select(d => found[d.Id] with { Day = d.Day }),
        ];
    }

    private async Task<ImmutableArray<CalendarExpiry>> ExpiriesAsync(
        DateOnly from,
        DateOnly until,
        LibrarySnapshot snapshot,
        CancellationToken cancel
    )
    {
        var expiring = snapshot
            .Snippets.All.Where(s => !s.Retired && s.Snippet.Expires.Length > 0)
            .Select(s =>
                (s.Id, s.Snippet, Day: DateOnly.FromDateTime(Core.Audiences.Snippet.Moment(s.Snippet.Expires) ?? DateTime.MinValue))
            )
            .Where(s => s.Day >= from && s.Day <= until)
            .ToList();
        var entries = ImmutableArray.CreateBuilder<CalendarExpiry>();
        foreach (var (id, snippet, day) in expiring)
        {
            var uses = await db
                .References.Where(r => r.Kind == Core.Releases.ReferenceKind.Snippet && r.Key == snippet.Key && r.Release == 0)
                .Join(
                    db.Documents.Where(d => d.Kind == DocumentKind.Email && d.State != EmailState.HandedOff && !d.Retired),
                    r => r.DocumentId,
                    d => d.Id,
                    (r, d) => d.Id
                )
                .Distinct()
                .CountAsync(cancel);
            entries.Add(new CalendarExpiry(id, snippet.Name, Written(day), uses));
        }

        return entries.ToImmutable();
    }

    private static string Written(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    private sealed record SentOn(Guid Id, string Day);

    private sealed record Sending(
        Guid Id,
        string Name,
        string? CampaignType,
        EmailState State,
        long Revision,
        DateTime ChangedAt,
        string Day
    );
}
