using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Threading.Channels;
using GoldenRule.Data;
using GoldenRule.PictureWorker;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Jobs;
using GoldenRule.Server.Pictures;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;

namespace GoldenRule.Server.Thumbnails;

/// <summary>What a thumbnail is drawn from.</summary>
/// <param name="Id">The hash of it.</param>
/// <param name="Pictures">Names of the picture files that it shows.</param>
public sealed record ThumbnailOrder(string Id, string Html, ThumbnailScreen Screen, ImmutableArray<string> Pictures);

/// <summary>
/// Draws thumbnails that were asked for, many at once, in the background. Nothing is lost with it: what is still missing is asked
/// for again by whoever looks, at whichever server.
/// </summary>
public sealed class ThumbnailDrawing(
    IServiceScopeFactory scopes,
    HeadlessChromium chromium,
    PictureWorkers workers,
    TimeProvider clock,
    ILogger<ThumbnailDrawing> log
) : BackgroundService
{
    /// <summary>Waiting at most; the rest asks again. Their HTML is what this bounds.</summary>
    private const int MostWaiting = 240;

    private const string PicturesAt = Core.Interchange.BundleFile.PicturesAt;

    /// <summary>What could not be drawn is not tried again before.</summary>
    private static readonly TimeSpan Rest = TimeSpan.FromMinutes(10);

    /// <summary>Thumbnails that are older are drawn anew when somebody looks.</summary>
    private static readonly TimeSpan Kept = TimeSpan.FromDays(90);

    private readonly Channel<ThumbnailOrder> waiting = Channel.CreateUnbounded<ThumbnailOrder>();
    private readonly ConcurrentDictionary<string, bool> asked = new(StringComparer.Ordinal);
    private readonly MemoryCache failed = new(new MemoryCacheOptions { SizeLimit = 2000 });

    /// <summary>Whether it waits or is being drawn.</summary>
    public bool IsAsked(string id) => asked.ContainsKey(id);

    /// <summary>Whether it is worth asking again soon: it waits, or has to be asked for once more. False: it could not be drawn.</summary>
    public bool IsComing(string id) => !failed.TryGetValue(id, out _);

    /// <summary>Has it drawn, unless too many wait or it could not be drawn lately.</summary>
    public void Ask(ThumbnailOrder? order)
    {
        if (order is not null && IsComing(order.Id) && asked.Count < MostWaiting && asked.TryAdd(order.Id, true))
        {
            waiting.Writer.TryWrite(order);
        }
    }

    public override void Dispose()
    {
        failed.Dispose();
        base.Dispose();
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (await waiting.Reader.WaitToReadAsync(stoppingToken))
        {
            var orders = new List<ThumbnailOrder>();
            while (orders.Count < ThumbnailSheet.Most && waiting.Reader.TryRead(out var order))
            {
                orders.Add(order);
            }

            if (!await DrawAsync(orders, stoppingToken))
            {
                // One of them spoils it for all, or all fail: each by itself tells.
                foreach (var order in orders)
                {
                    if (orders.Count == 1 || !await DrawAsync([order], stoppingToken))
                    {
                        failed.Set(order.Id, true, new MemoryCacheEntryOptions { Size = 1, AbsoluteExpirationRelativeToNow = Rest });
                    }
                }
            }

            orders.ForEach(order => asked.TryRemove(order.Id, out _));
        }
    }

    private async Task<bool> DrawAsync(List<ThumbnailOrder> orders, CancellationToken cancel)
    {
        try
        {
            await using var scope = scopes.CreateAsyncScope();
            var db = scope.ServiceProvider.GetRequiredService<GoldenRuleDb>();
            var names = orders.SelectMany(o => o.Pictures).ToHashSet(StringComparer.Ordinal);
            var files = await db.PictureFiles.AsNoTracking().Where(f => names.Contains(f.Name)).ToListAsync(cancel);
            var (width, height) = ThumbnailSheet.Size(orders.Count);
            var page = await chromium.DrawAsync(
                ThumbnailSheet.Write([.. orders.Select(o => (o.Html, o.Screen))]),
                files.Select(f => (PicturesAt + f.Name, f.Content)),
                width,
                height,
                cancel
            );
            var drawn = await workers.RunAsync(
                new PictureRequest(page, "thumbnails", PictureTask.Tiles, Tiles: ThumbnailSheet.Tiles(orders.Count)),
                cancel
            );
            var now = clock.GetUtcNow().UtcDateTime;
            foreach (var (order, file) in orders.Zip(drawn.Files))
            {
                // Another server may have drawn it meanwhile.
                await db.Database.ExecuteSqlAsync(
                    $"""
                    insert into thumbnails (id, content, width, height, made_at)
                    values ({order.Id}, {file.Content}, {file.Width}, {file.Height}, {now}) on conflict do nothing
                    """,
                    cancel
                );
            }

            await db.Thumbnails.Where(t => t.MadeAt < now - Kept).ExecuteDeleteAsync(cancel);
            return true;
        }
        catch (Exception fault) when (fault is not OperationCanceledException || !cancel.IsCancellationRequested)
        {
            log.LogWarning(fault, "{Count} thumbnails could not be drawn", orders.Count);
            return false;
        }
    }
}
