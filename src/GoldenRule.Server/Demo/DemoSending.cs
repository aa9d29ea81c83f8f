using System.Collections.Immutable;
using System.Globalization;
using GoldenRule.Core.HandOffs;
using GoldenRule.Core.Sending;
using GoldenRule.Data;
using GoldenRule.Server.Destinations;
using GoldenRule.Server.Returns;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Demo;

/// <summary>
/// Where the demo's emails go, and what came back of those that were handed off. Settings: "Demo:Platform:Address" and
/// "Demo:Platform:Token", a sending platform that is there.
/// </summary>
internal static class DemoSending
{
    private const int Readers = 640;

    private static readonly Guid Platform = new("0198a000-0000-7000-8000-00000000d001");
    private static readonly Guid MailServer = new("0198a000-0000-7000-8000-00000000d002");
    private static readonly Guid Download = new("0198a000-0000-7000-8000-00000000d003");

    /// <summary>The platform may be somewhere else each time.</summary>
    public static async Task KnowPlatformAsync(IConfiguration configuration, GoldenRuleDb db, DestinationKinds kinds)
    {
        if (configuration["Demo:Platform:Address"] is not { Length: > 0 } address)
        {
            return;
        }

        var known = await db.Destinations.FirstOrDefaultAsync(d => d.Id == Platform);
        if (known is null)
        {
            const string name = "Sending platform";
            var taken = await db.Destinations.AnyAsync(d => d.Name == name && d.RetiredAt == null);
            known = Make(Platform, taken ? $"{name}, simulated" : name, "platform", PicturePolicy.Uploaded);
            db.Destinations.Add(known);
        }

        (known.Address, known.Secret) = (address, kinds.Seal(configuration["Demo:Platform:Token"] ?? ""));
        await db.SaveChangesAsync();
    }

    public static async Task AddAsync(GoldenRuleDb db, ReaderReturns returns, CancellationToken cancel)
    {
        db.Destinations.Add(Make(MailServer, "Mail server for small lists", "smtp", PicturePolicy.Linked));
        db.Destinations.Add(Make(Download, "Download", "download", PicturePolicy.Inside));
        await db.SaveChangesAsync(cancel);
        foreach (var stored in await db.HandOffs.AsNoTracking().OrderBy(h => h.Address).Select(h => h.Record).ToListAsync(cancel))
        {
            var record = HandOffRecord.Read(stored);
            if (record.To is null)
            {
                var links = (await returns.AnswerAsync(record, cancel)).Links.Select(l => l.Link.Address).ToImmutableArray();
                foreach (var some in EventsOf(record, links).Chunk(ReaderReturns.MostEvents))
                {
                    await returns.TakeAsync(record.Id, [.. some], cancel);
                }
            }
        }
    }

    // Made up, and the same each time.
    private static IEnumerable<ReaderEvent> EventsOf(HandOffRecord record, ImmutableArray<string> links)
    {
        var state = (uint)record.Email.GetHashCode() | 1;
        var at = record.At.AddHours(1);
        for (var i = 0; i < Readers; i++)
        {
            var id = string.Create(CultureInfo.InvariantCulture, $"demo-{i}");
            if (Dice() < 0.008)
            {
                yield return new($"{id}-bounced", ReaderEventKind.Bounced, at, id);
                continue;
            }

            yield return new($"{id}-sent", ReaderEventKind.Sent, at, id);
            if (Dice() < 0.05)
            {
                foreach (var (n, link) in links.Index())
                {
                    var seen = at.AddSeconds(2 + (n * 0.05));
                    yield return new($"{id}-scan-{n}", ReaderEventKind.Clicked, seen, id, link, "mail-scan/2.1", at);
                }
            }

            if (Dice() < 0.47)
            {
                var opened = at.AddMinutes(5 + (Dice() * 600));
                yield return new($"{id}-opened", ReaderEventKind.Opened, opened, id, "", "Mozilla/5.0", at);
                if (Dice() < 0.3 && !links.IsEmpty)
                {
                    // What stands further up is clicked more.
                    var link = links[(int)(Dice() * Dice() * links.Length)];
                    yield return new($"{id}-clicked", ReaderEventKind.Clicked, opened.AddMinutes(1), id, link, "Mozilla/5.0", at);
                }

                if (Dice() < 0.01)
                {
                    yield return new($"{id}-left", ReaderEventKind.Unsubscribed, opened.AddMinutes(2), id);
                }
            }
        }

        double Dice()
        {
            // xorshift32 (Marsaglia, "Xorshift RNGs", 2003).
            state ^= state << 13;
            state ^= state >> 17;
            state ^= state << 5;
            return state / (double)uint.MaxValue;
        }
    }

    private static StoredDestination Make(Guid id, string name, string kind, PicturePolicy pictures) =>
        new()
        {
            Id = id,
            Name = name,
            Kind = kind,
            Profile = "mustache",
            Pictures = pictures,
            Address = "",
            User = "",
            Secret = [],
        };
}
