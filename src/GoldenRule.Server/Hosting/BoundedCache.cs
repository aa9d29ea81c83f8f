using System.Diagnostics.CodeAnalysis;
using System.Diagnostics.Metrics;
using Microsoft.Extensions.Caching.Memory;

namespace GoldenRule.Server.Hosting;

/// <summary>
/// Keeps what can be made again, up to so many bytes: what was not asked for longest goes first. How much each holds is told by the
/// meter "GoldenRule" (<c>dotnet-counters monitor --counters GoldenRule</c>, or whatever reads .NET metrics).
/// </summary>
public sealed class BoundedCache<TKey, TValue> : IDisposable
    where TKey : notnull
{
    private readonly MemoryCache kept;
    private readonly TimeSpan idle;

    /// <param name="name">As the metrics say it.</param>
    /// <param name="mostBytes">As its entries are weighed.</param>
    /// <param name="idle">What is not asked for as long goes.</param>
    public BoundedCache(IMeterFactory meters, string name, long mostBytes, TimeSpan idle)
    {
        kept = new MemoryCache(new MemoryCacheOptions { SizeLimit = mostBytes, TrackStatistics = true });
        this.idle = idle;
        MostBytes = mostBytes;
        var meter = meters.Create("GoldenRule");
        meter.CreateObservableGauge("goldenrule.cache.size", () => Told(Bytes), "By", "What a cache holds, as it is weighed");
        meter.CreateObservableGauge("goldenrule.cache.limit", () => Told(MostBytes), "By", "What a cache holds at most");
        meter.CreateObservableGauge("goldenrule.cache.entries", () => Told(kept.Count), "{entry}", "How many entries a cache holds");

        Measurement<long> Told(long value) => new(value, new KeyValuePair<string, object?>("cache", name));
    }

    public long MostBytes { get; }

    public long Bytes => kept.GetCurrentStatistics()?.CurrentEstimatedSize ?? 0;

    public bool TryGet(TKey key, [MaybeNullWhen(false)] out TValue value) => kept.TryGetValue(key, out value);

    /// <param name="bytes">About what it takes.</param>
    public void Set(TKey key, TValue value, long bytes) =>
        kept.Set(key, value, new MemoryCacheEntryOptions { Size = bytes, SlidingExpiration = idle });

    public void Dispose() => kept.Dispose();
}
