using System.Collections.Immutable;
using GoldenRule.Core.Coverage;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Releases;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Home;

/// <param name="From">The first day of it.</param>
public sealed record HealthPoint(DateOnly From, double Value);

/// <param name="Gaps">Row kinds that campaign types need and nothing serves.</param>
/// <param name="UpdatesWaiting">Emails that stand on an older release of their template or of a row.</param>
/// <param name="UnlinkedRows">Rows of emails that are not handed off which no longer follow their saved row.</param>
/// <param name="WentOut">Emails handed off, by month.</param>
/// <param name="DaysToApproval">From the start of an email to its last approval, median, by month; months without any are left out.</param>
public sealed record HealthAnswer(
    int Gaps,
    int UpdatesWaiting,
    int UnlinkedRows,
    ImmutableArray<HealthPoint> WentOut,
    ImmutableArray<HealthPoint> DaysToApproval
);

/// <summary>How the library is, in a few figures for leads.</summary>
public sealed class LibraryHealth(GoldenRuleDb db, LibraryCache library, TimeProvider clock)
{
    private const int Months = 6;

    public async Task<HealthAnswer> LookAsync(Person person, CancellationToken cancel)
    {
        person.MustBe("Leads of the whole library see how it is.", Role.Lead);
        var snapshot = await library.GetAsync(db, cancel);
        var coverage = await Server.Coverage.CoverageEndpoints.LookAsync(person, db, library, cancel);
        var now = clock.GetUtcNow().UtcDateTime;
        var first = new DateTime(now.Year, now.Month, 1, 0, 0, 0, DateTimeKind.Utc).AddMonths(1 - Months);
        var sent = await db
            .Database.SqlQuery<Counted>(
                $"""
                select m.month::date as "from", count(d.id)::float8 as value
                from generate_series({first}, {now}, interval '1 month') as m(month)
                left join documents d on d.kind = 'Email' and d.state = 'HandedOff'
                    and d.changed_at >= m.month and d.changed_at < m.month + interval '1 month'
                group by 1 order by 1
                """
            )
            .ToListAsync(cancel);
        var days = await db
            .Database.SqlQuery<Counted>(
                $"""
                select date_trunc('month', r.closed_at)::date as "from",
                    percentile_cont(0.5) within group (order by extract(epoch from r.closed_at - d.created_at) / 86400)::float8 as value
                from review_rounds r join documents d on d.id = r.document_id
                where r.state in ('Approved', 'Overtaken') and r.closed_at >= {first}
                group by 1 order by 1
                """
            )
            .ToListAsync(cancel);
        return new HealthAnswer(
            coverage.Cells.Count(c => c.State == CoverageState.Missing),
            await BehindAsync(snapshot, cancel),
            await UnlinkedAsync(cancel),
            [.. sent.Select(s => new HealthPoint(s.From, s.Value))],
            [.. days.Select(s => new HealthPoint(s.From, Math.Round(Math.Max(s.Value, 0), 1)))]
        );
    }

    private async Task<int> BehindAsync(LibrarySnapshot snapshot, CancellationToken cancel)
    {
        var masters = snapshot
            .Releases.Newest.Where(n => n.Value.Kind is DocumentKind.Template or DocumentKind.Row && n.Value.Number > 1)
            .ToList();
        var (keys, numbers) = (masters.Select(m => m.Key.ToString()).ToArray(), masters.Select(m => m.Value.Number).ToArray());
        return await db
            .Database.SqlQuery<int>(
                $"""
                select count(distinct d.id)::int as "Value"
                from unnest({keys}, {numbers}) as n(key, number)
                join document_references r on r.kind in ('Template', 'Row') and r.key = n.key and r.release = 0
                    and r.target_release < n.number
                join documents d on d.id = r.document_id and d.kind = 'Email' and d.state <> 'HandedOff' and not d.retired
                """
            )
            .SingleAsync(cancel);
    }

    private Task<int> UnlinkedAsync(CancellationToken cancel) =>
        db
            .Database.SqlQuery<int>(
                $"""
                select count(*)::int as "Value"
                from documents d, jsonb_each(d.head->'zones') z, jsonb_array_elements(z.value) r
                where d.kind = 'Email' and d.state <> 'HandedOff' and not d.retired
                    and jsonb_typeof(r->'own') = 'object' and jsonb_typeof(r->'master') = 'string'
                """
            )
            .SingleAsync(cancel);

    private sealed record Counted(DateOnly From, double Value);
}
