using System.Diagnostics.Metrics;
using System.Text;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HandOffs;
using GoldenRule.Core.Reviews;
using GoldenRule.Core.Sending;
using GoldenRule.Data;
using GoldenRule.Server.HandOffs;
using GoldenRule.Server.Hosting;

namespace GoldenRule.Server.Returns;

/// <summary>
/// The links of hand-offs by their addresses, as they are in every profile that was written. A hand-off never changes: what was read of
/// it once is kept, as every page of events and every look at what came back asks for it.
/// </summary>
public sealed class HandOffLinks(IMeterFactory meters) : IDisposable
{
    private const int BytesOfLink = 400;

    private readonly BoundedCache<Guid, IReadOnlyDictionary<string, PlacedLink>> known = new(
        meters,
        "hand-off-links",
        8 << 20,
        TimeSpan.FromMinutes(30)
    );

    public async Task<IReadOnlyDictionary<string, PlacedLink>> GetAsync(HandOffRecord record, GoldenRuleDb db, CancellationToken cancel)
    {
        if (known.TryGet(record.Id, out var found))
        {
            return found;
        }

        var links = await ReadAsync(record, db, cancel);
        known.Set(record.Id, links, (links.Count + 1) * BytesOfLink);
        return links;
    }

    private static async Task<Dictionary<string, PlacedLink>> ReadAsync(HandOffRecord record, GoldenRuleDb db, CancellationToken cancel)
    {
        var seen = DocumentJson.Read<SeenEmail>(
            Encoding.UTF8.GetString(await HandOffFiles.ReadAsync(record, HandOffFileKind.Seen, "", db, cancel))
        );
        var links = new Dictionary<string, PlacedLink>(StringComparer.Ordinal);
        foreach (var profile in record.Profiles)
        {
            var html = await HandOffFiles.ReadAsync(record, HandOffFileKind.Html, profile.Key, db, cancel);
            foreach (var link in LinkPlaces.Find(Encoding.UTF8.GetString(html), seen))
            {
                links.TryAdd(link.Address, link);
            }
        }

        return links;
    }

    public void Dispose() => known.Dispose();
}
