using System.Diagnostics.Metrics;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using Microsoft.Extensions.DependencyInjection;

namespace GoldenRule.Server.Tests;

/// <summary>What is kept in memory is bounded in bytes, and the metrics say how much it is.</summary>
public sealed class BoundedCacheTests(Running server) : IClassFixture<Running>
{
    [Fact]
    public void It_never_holds_more_than_its_bound_and_keeps_what_was_asked_for_last()
    {
        const int bound = 100_000;
        using var services = new ServiceCollection().AddMetrics().BuildServiceProvider();
        using var cache = Make("full");
        for (var i = 0; i < 5000; i++)
        {
            cache.Set(i, "kept", 1000);
            Assert.InRange(cache.Bytes, 1, bound);
        }

        cache.Set(-1, "larger than all", bound + 1);
        Assert.False(cache.TryGet(-1, out _));
        // The same key again is not counted twice.
        using var other = Make("other");
        other.Set(1, "one", 500);
        other.Set(1, "another", 700);
        Assert.Equal(700, other.Bytes);

        BoundedCache<int, string> Make(string name) =>
            new(services.GetRequiredService<IMeterFactory>(), name, bound, TimeSpan.FromMinutes(5));
    }

    [Fact]
    public async Task The_meter_says_what_each_cache_holds_and_may_hold()
    {
        var author = await server.As("imran");
        var id = server.Query(db => db.Documents.First(d => d.Kind == DocumentKind.Email).Id);
        _ = await Running.Desk(author, id);
        var meters = server.Services.GetRequiredService<IMeterFactory>();
        var said = new Dictionary<(string Instrument, string Cache), long>();
        using var listener = new MeterListener();
        listener.InstrumentPublished = (instrument, all) =>
        {
            if (instrument.Meter.Name == "GoldenRule" && instrument.Meter.Scope == meters)
            {
                all.EnableMeasurementEvents(instrument);
            }
        };
        listener.SetMeasurementEventCallback<long>(
            (instrument, value, tags, _) => said[(instrument.Name, (string?)(tags.IsEmpty ? null : tags[0].Value) ?? "")] = value
        );
        listener.Start();
        listener.RecordObservableInstruments();
        foreach (var cache in (string[])["heads", "compilations"])
        {
            Assert.InRange(said[("goldenrule.cache.size", cache)], 1_000, said[("goldenrule.cache.limit", cache)]);
        }
    }
}
