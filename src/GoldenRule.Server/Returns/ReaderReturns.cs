using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text;
using GoldenRule.Core.HandOffs;
using GoldenRule.Core.Reviews;
using GoldenRule.Core.Sending;
using GoldenRule.Data;
using GoldenRule.Server.Destinations;
using GoldenRule.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Returns;

/// <summary>Counts what came back of hand-offs. Events become counts at once: who did what is not kept.</summary>
public sealed class ReaderReturns(GoldenRuleDb db, HandOffLinks links, DestinationKinds kinds, TimeProvider clock)
{
    public const int MostEvents = 1_000;
    private const int LongestWord = 4_000;

    /// <exception cref="ProblemException">There is no such hand-off, or the events cannot be read.</exception>
    public async Task<EventsTaken> TakeAsync(Guid handOff, ImmutableArray<ReaderEvent> events, CancellationToken cancel)
    {
        MustBeReadable(events);
        var stored = await db.HandOffs.AsNoTracking().FirstOrDefaultAsync(h => h.Id == handOff, cancel)
            ?? throw ProblemException.NotFound("There is no such hand-off: nothing of it was sent.");
        if (events.IsEmpty)
        {
            return new(0, 0);
        }

        var record = HandOffRecord.Read(stored.Record);
        var placed = await links.GetAsync(record, db, cancel);
        var scanners = ScannerClicks.Find(events);
        var once = events.DistinctBy(e => e.Id, StringComparer.Ordinal).ToList();
        await using var turn = db.Database.CurrentTransaction is null ? await db.Database.BeginTransactionAsync(cancel) : null;
        var fresh = await NewAsync(handOff, once.ConvertAll(e => e.Id), cancel);
        var counted = once.Where(e => fresh.Contains(e.Id))
            .GroupBy(e =>
                (
                    e.Kind,
                    Link: e.Kind == ReaderEventKind.Clicked && placed.ContainsKey(e.Link) ? e.Link : "",
                    Scanner: scanners.Contains(e.Id)
                )
            );
        foreach (var alike in counted)
        {
            var (row, name) = SavedRow(placed.GetValueOrDefault(alike.Key.Link), record);
            await db.Database.ExecuteSqlAsync(
                $"""
                insert into returned_counts (hand_off_id, kind, link, scanner, row, row_name, count)
                values ({handOff}, {alike.Key.Kind.ToString()}, {alike.Key.Link}, {alike.Key.Scanner}, {row}, {name}, {alike.Count()})
                on conflict (hand_off_id, kind, link, scanner) do update set count = returned_counts.count + excluded.count
                """,
                cancel
            );
        }

        await KnowAsync(record, cancel);
        if (turn is not null)
        {
            await turn.CommitAsync(CancellationToken.None);
        }

        return new(fresh.Count, events.Length - fresh.Count);
    }

    public async Task<ReturnAnswer> AnswerAsync(HandOffRecord record, CancellationToken cancel)
    {
        var counts = await db.ReturnedCounts.AsNoTracking().Where(c => c.HandOffId == record.Id).ToListAsync(cancel);
        var placed = await links.GetAsync(record, db, cancel);
        var (total, sent) = (Total(counts), await SentFromHereAsync([record.Id], cancel));
        return new(
            total with
            {
                Sent = total.Sent + sent.GetValueOrDefault(record.Id),
            },
            [
                .. placed
                    .Values.Select(link =>
                    {
                        var (clicked, scanned) = (Clicks(link.Address, false), Clicks(link.Address, true));
                        return new LinkClicks(link, clicked, scanned, total.Clicked == 0 ? 0 : (double)clicked / total.Clicked);
                    })
                    .OrderByDescending(l => l.Clicked),
            ],
            counts.Where(c => c.Kind == nameof(ReaderEventKind.Clicked) && c.Link.Length == 0).Sum(c => c.Count)
        );

        int Clicks(string link, bool scanner) => counts.Where(c => c.Link == link && c.Scanner == scanner).Sum(c => c.Count);
    }

    /// <param name="hidden">Campaign types whose hand-offs may not be seen.</param>
    /// <param name="from">The first month that is looked at.</param>
    public async Task<ImmutableArray<ReturnGroup>> GroupAsync(
        ReturnBy by,
        ImmutableArray<string> hidden,
        DateOnly from,
        CancellationToken cancel
    )
    {
        var of = await db
            .ReturnedHandOffs.AsNoTracking()
            .Where(h => h.Month >= from && !hidden.Contains(h.CampaignType))
            .ToListAsync(cancel);
        var ids = of.ConvertAll(h => h.HandOffId);
        var sent = await SentFromHereAsync(ids, cancel);
        var counts = await db.ReturnedCounts.AsNoTracking().Where(c => ids.Contains(c.HandOffId)).ToListAsync(cancel);
        var byHandOff = counts.ToLookup(c => c.HandOffId);
        if (by == ReturnBy.Row)
        {
            return
            [
                .. counts
                    .Where(c => c.Row.Length > 0)
                    .GroupBy(c => c.Row, StringComparer.Ordinal)
                    .Select(g => new ReturnGroup(
                        g.Key,
                        g.Last().RowName,
                        g.Select(c => c.HandOffId).Distinct().Count(),
                        Total([.. g]) with
                        {
                            Sent = g.Select(c => c.HandOffId)
                                .Distinct()
                                .Sum(id => Total([.. byHandOff[id]]).Sent + sent.GetValueOrDefault(id)),
                        }
                    ))
                    .OrderByDescending(g => g.Counts.Clicked),
            ];
        }

        var groups = of.GroupBy(h => Key(h, by), StringComparer.Ordinal)
            .Select(g => new ReturnGroup(
                g.Key,
                Name(g.Last(), by),
                g.Count(),
                Total([.. g.SelectMany(h => byHandOff[h.HandOffId])]) is var total
                    ? total with
                    {
                        Sent = total.Sent + g.Sum(h => sent.GetValueOrDefault(h.HandOffId)),
                    }
                    : total
            ));
        return
        [
            .. by == ReturnBy.Month ? groups.OrderBy(g => g.Key, StringComparer.Ordinal) : groups.OrderByDescending(g => g.Counts.Sent),
        ];
    }

    private static string Key(ReturnedHandOff of, ReturnBy by) =>
        by switch
        {
            ReturnBy.Template => of.Template,
            ReturnBy.CampaignType => of.CampaignType,
            _ => of.Month.ToString("yyyy-MM", System.Globalization.CultureInfo.InvariantCulture),
        };

    private static string Name(ReturnedHandOff of, ReturnBy by) =>
        by switch
        {
            ReturnBy.Template => of.TemplateName,
            ReturnBy.CampaignType => of.CampaignTypeName,
            _ => of.Month.ToString("yyyy-MM", System.Globalization.CultureInfo.InvariantCulture),
        };

    // Of what a destination that tells nothing was handed, such as a mail server, it is known here.
    private Task<Dictionary<Guid, int>> SentFromHereAsync(List<Guid> handOffs, CancellationToken cancel)
    {
        var silent = kinds.All.Where(k => !k.TellsEvents).Select(k => k.Name).ToList();
        return db
            .Batches.Join(
                db.Sends,
                b => b.SendId,
                s => s.Id,
                (b, s) =>
                    new
                    {
                        b.Sent,
                        s.HandOffId,
                        s.DestinationId,
                    }
            )
            .Where(b => handOffs.Contains(b.HandOffId) && db.Destinations.Any(d => d.Id == b.DestinationId && silent.Contains(d.Kind)))
            .GroupBy(b => b.HandOffId)
            .Select(g => new { g.Key, Sent = g.Sum(b => b.Sent) })
            .ToDictionaryAsync(g => g.Key, g => g.Sent, cancel);
    }

    private static ReturnCounts Total(IReadOnlyCollection<ReturnedCount> counts)
    {
        return new(
            Of(ReaderEventKind.Sent),
            Of(ReaderEventKind.Bounced),
            Of(ReaderEventKind.Opened),
            counts.Where(c => c.Kind == nameof(ReaderEventKind.Clicked) && !c.Scanner).Sum(c => c.Count),
            counts.Where(c => c.Scanner).Sum(c => c.Count),
            Of(ReaderEventKind.Unsubscribed)
        );

        int Of(ReaderEventKind kind) => counts.Where(c => c.Kind == kind.ToString()).Sum(c => c.Count);
    }

    private async Task<HashSet<string>> NewAsync(Guid handOff, IReadOnlyCollection<string> ids, CancellationToken cancel)
    {
        var byHash = ids.ToDictionary(id => Convert.ToHexString(HashOf(id)), id => id, StringComparer.Ordinal);
        var (hashes, now) = (ids.Select(HashOf).ToArray(), clock.GetUtcNow().UtcDateTime);
        var stored = await db
            .Database.SqlQuery<byte[]>(
                $"""
                insert into counted_events (hand_off_id, hash, at) select {handOff}, h, {now} from unnest({hashes}) h
                on conflict do nothing returning hash as "Value"
                """
            )
            .ToListAsync(cancel);
        return [.. stored.Select(hash => byHash[Convert.ToHexString(hash)])];
    }

    private Task<int> KnowAsync(HandOffRecord record, CancellationToken cancel)
    {
        var template = record.Versions.FirstOrDefault(v => v.Source == SeenSource.Template);
        var month = new DateOnly(record.At.Year, record.At.Month, 1);
        return db.Database.ExecuteSqlAsync(
            $"""
            insert into returned_hand_offs (hand_off_id, template, template_name, campaign_type, campaign_type_name, month)
            values ({record.Id}, {template?.Key ?? ""}, {template?.Name ?? ""}, {record.CampaignType}, {record.CampaignTypeName}, {month})
            on conflict do nothing
            """,
            cancel
        );
    }

    private static (string Key, string Name) SavedRow(PlacedLink? link, HandOffRecord record) =>
        link is { Row.Length: > 0 } && record.Versions.FirstOrDefault(v => v.Source == SeenSource.Row && v.Row == link.Row) is { } row
            ? (row.Key, row.Name)
            : ("", "");

    private static void MustBeReadable(ImmutableArray<ReaderEvent> events)
    {
        if (events.Length > MostEvents)
        {
            throw ProblemException.Invalid($"At most {MostEvents:N0} events are told at once; these are {events.Length:N0}.", "events");
        }

        for (var i = 0; i < events.Length; i++)
        {
            var one = events[i];
            if (
                one.Id.Length is 0 or > LongestWord
                || one.Link.Length > LongestWord
                || one.Agent.Length > LongestWord
                || one.Message.Length > LongestWord
            )
            {
                throw ProblemException.Invalid(
                    $"Event {i + 1} has no id, or a part of more than {LongestWord:N0} characters.",
                    $"events/{i}"
                );
            }
        }
    }

    private static byte[] HashOf(string id) => SHA256.HashData(Encoding.UTF8.GetBytes(id));
}
