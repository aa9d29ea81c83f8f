using System.Collections.Immutable;
using System.Diagnostics.Metrics;
using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.HandOffs;
using GoldenRule.Core.Merging;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.HandOffs;

/// <summary>A page as it is given out.</summary>
/// <param name="Compressed">The same by Brotli (RFC 7932).</param>
public sealed record BrowserPage(byte[] Html, byte[] Compressed, string ETag);

/// <summary>
/// The web pages of hand-offs, for readers whose mail program shows an email badly. What was frozen is kept ready; whether it is still
/// there is asked again every few seconds, by every server for itself.
/// </summary>
public sealed class BrowserPages : IDisposable
{
    private static readonly TimeSpan LookAgain = TimeSpan.FromSeconds(5);

    /// <summary>How long an address with a reader's own values opens.</summary>
    public static readonly TimeSpan ReaderAddressesHold = TimeSpan.FromDays(400);

    private readonly IServiceScopeFactory scopes;
    private readonly TimeProvider clock;
    private readonly ITimeLimitedDataProtector readers;
    private readonly BoundedCache<string, Known> known;

    public BrowserPages(IServiceScopeFactory scopes, IDataProtectionProvider protection, TimeProvider clock, IMeterFactory meters)
    {
        (this.scopes, this.clock) = (scopes, clock);
        readers = protection.CreateProtector("reader's page").ToTimeLimitedDataProtector();
        known = new(meters, "browser-pages", 64 << 20, TimeSpan.FromMinutes(30));
    }

    public static bool IsOpen(bool withdrawn, DateOnly? until, TimeProvider clock) =>
        !withdrawn && (until is not { } last || DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime) <= last);

    /// <summary>It is asked for anew: something about it changed.</summary>
    public void Forget(string address)
    {
        if (known.TryGet(address, out var page))
        {
            page.LookedAt = DateTimeOffset.MinValue;
        }
    }

    /// <summary>What everybody gets. Null: there is no such page, or no longer.</summary>
    public async Task<(BrowserPage? Page, bool Gone)> FindAsync(string address, CancellationToken cancel)
    {
        var page = await KnownAsync(address, cancel);
        // What was written to one person opens by the address in their message alone.
        page = page is { IsPersonal: true } ? null : page;
        var open = page is not null && IsOpen(page.Withdrawn, page.Until, clock);
        return (open ? page!.ForEverybody : null, page is not null && !open);
    }

    /// <summary>The address of a page with one reader's values. Only this server can write one, or read it.</summary>
    public string AddressFor(HandOffRecord record, SampleReader reader)
    {
        var own = record.Fields.Where(f => reader.Values.ContainsKey(f.Key)).ToDictionary(f => f.Key, f => reader.Values[f.Key]);
        return AddressFor(record.Id, record.PageAddress, own);
    }

    /// <summary>The same of an email that is written to one person.</summary>
    public string AddressFor(Guid handOff, string page) => AddressFor(handOff, page, []);

    private string AddressFor(Guid handOff, string page, Dictionary<string, string> values) =>
        $"{page}?reader={readers.Protect(JsonSerializer.Serialize(new Sealed(handOff, values)), ReaderAddressesHold)}";

    /// <exception cref="CryptographicException">The address was not written here, is of another page, or is too old.</exception>
    public async Task<byte[]?> FindForAsync(string address, string reader, CancellationToken cancel)
    {
        var page = await KnownAsync(address, cancel);
        if (page is null || !IsOpen(page.Withdrawn, page.Until, clock))
        {
            return null;
        }

        var said = JsonSerializer.Deserialize<Sealed>(readers.Unprotect(reader))!;
        if (said.HandOff != page.Id)
        {
            throw new CryptographicException("The address is of another page.");
        }

        if (page.IsPersonal)
        {
            return page.ForEverybody.Html;
        }

        var one = new SampleReader(Guid.Empty, "", said.Values.ToImmutableSortedDictionary(StringComparer.Ordinal));
        return Encoding.UTF8.GetBytes(AsPage(page.Merge.HtmlFor(one, $"{page.Merge.PageAddress}?reader={reader}"), page.Merge));
    }

    private async Task<Known?> KnownAsync(string address, CancellationToken cancel)
    {
        var now = clock.GetUtcNow();
        if (known.TryGet(address, out var page) && now - page.LookedAt < LookAgain)
        {
            return page;
        }

        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<GoldenRuleDb>();
        var found = await db
            .HandOffs.AsNoTracking()
            .Where(h => h.Address == address)
            .Select(h => new
            {
                h.Id,
                h.Page.Until,
                Withdrawn = h.Withdrawal != null,
            })
            .FirstOrDefaultAsync(cancel);
        if (found is null)
        {
            return null;
        }

        if (page is null)
        {
            var record = HandOffRecord.Read(await db.HandOffs.Where(h => h.Id == found.Id).Select(h => h.Record).FirstAsync(cancel));
            var merge = await HandOffFiles.MergeAsync(record, db, cancel);
            page = new Known(found.Id, merge, Make(merge), record.To is not null);
            known.Set(address, page, (page.ForEverybody.Html.Length * 4L) + 4_096);
        }

        (page.Until, page.Withdrawn, page.LookedAt) = (found.Until, found.Withdrawn, now);
        return page;
    }

    // Of somebody of whom nothing is known.
    private static BrowserPage Make(MergeEmail merge)
    {
        var html = Encoding.UTF8.GetBytes(AsPage(merge.HtmlFor(MergeReader.Unknown), merge));
        using var compressed = new MemoryStream();
        using (var brotli = new BrotliStream(compressed, CompressionLevel.Optimal, leaveOpen: true))
        {
            brotli.Write(html);
        }

        return new BrowserPage(html, compressed.ToArray(), $"\"{FrozenEmail.Sha256(html)[..32]}\"");
    }

    // Search engines leave it alone (the robots meta tag, WHATWG MetaExtensions). Its pictures come from here, wherever that is by now.
    private static string AsPage(string html, MergeEmail merge) =>
        html.Replace(
                "<meta charset=\"utf-8\">",
                "<meta charset=\"utf-8\"><meta name=\"robots\" content=\"noindex\">",
                StringComparison.Ordinal
            )
            .Replace(merge.PicturesAt, CompilationCache.PicturesAt, StringComparison.Ordinal);

    public void Dispose() => known.Dispose();

    private sealed class Known(Guid id, MergeEmail merge, BrowserPage forEverybody, bool isPersonal)
    {
        public Guid Id => id;

        public MergeEmail Merge => merge;

        public BrowserPage ForEverybody => forEverybody;

        public bool IsPersonal => isPersonal;

        public DateOnly? Until { get; set; }

        public bool Withdrawn { get; set; }

        public DateTimeOffset LookedAt { get; set; }
    }

    private sealed record Sealed(Guid HandOff, Dictionary<string, string> Values);
}
