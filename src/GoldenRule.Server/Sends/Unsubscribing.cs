using System.Security.Cryptography;
using System.Text;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Sends;

/// <summary>
/// The way out of what is sent from here: an address of each reader's own, that only this server can write. One press is a POST by the
/// mail program (RFC 8058); whoever follows the link presses a button, since programs that only look follow links too.
/// </summary>
public sealed class Unsubscribing(IDataProtectionProvider protection, TimeProvider clock)
{
    public const string Path = "/unsubscribe/";

    private readonly IDataProtector addresses = protection.CreateProtector("unsubscribing");

    /// <param name="at">Scheme and host of this server, as readers reach it.</param>
    public string AddressFor(string reader, string at) => at + Path + addresses.Protect(reader);

    /// <summary>Whose it is. Null: this server did not write it.</summary>
    public string? ReaderOf(string written)
    {
        try
        {
            return addresses.Unprotect(written);
        }
        catch (CryptographicException)
        {
            return null;
        }
    }

    /// <summary>By what an address is known that is sent nothing any more.</summary>
    public static string HashOf(string address) =>
        Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(address.Trim().ToLowerInvariant())));

    public Task<int> AddAsync(IEnumerable<string> readers, GoldenRuleDb db, CancellationToken cancel)
    {
        var (hashes, now) = (readers.Select(HashOf).Distinct(StringComparer.Ordinal).ToArray(), clock.GetUtcNow().UtcDateTime);
        return db.Database.ExecuteSqlAsync(
            $"insert into unsubscribed_addresses (hash, at) select h, {now} from unnest({hashes}) h on conflict (hash) do nothing",
            cancel
        );
    }

    /// <summary>Those of the addresses that are sent nothing any more.</summary>
    public static async Task<HashSet<string>> AmongAsync(IReadOnlyCollection<string> readers, GoldenRuleDb db, CancellationToken cancel)
    {
        var hashes = readers.ToLookup(HashOf, StringComparer.Ordinal);
        var keys = hashes.Select(h => h.Key).ToArray();
        var known = await db.UnsubscribedAddresses.Where(u => keys.Contains(u.Hash)).Select(u => u.Hash).ToListAsync(cancel);
        return [.. known.SelectMany(hash => hashes[hash])];
    }
}

/// <summary>The pages behind those addresses, for readers.</summary>
public static class UnsubscribeEndpoints
{
    public static void MapUnsubscribing(this IEndpointRouteBuilder app)
    {
        app.MapGet(Unsubscribing.Path + "{reader}", (string reader, HttpContext http, Unsubscribing ways) =>
                ways.ReaderOf(reader) is { } address
                    ? ReaderPage.TellAsync(
                        http,
                        200,
                        "Unsubscribe",
                        $"{address} gets no more of these emails once you press the button.",
                        "<form method=\"post\"><button name=\"List-Unsubscribe\" value=\"One-Click\" "
                            + "style=\"font:inherit;padding:10px 18px\">Unsubscribe</button></form>"
                    )
                    : NoneAsync(http)
            )
            .AllowAnonymous()
            .ExcludeFromDescription();
        app.MapPost(
                Unsubscribing.Path + "{reader}",
                async (string reader, HttpContext http, Unsubscribing ways, GoldenRuleDb db, CancellationToken cancel) =>
                {
                    if (ways.ReaderOf(reader) is not { } address)
                    {
                        await NoneAsync(http);
                        return;
                    }

                    // RFC 8058, 3.2: the body says so, whatever else it says.
                    var said = http.Request.HasFormContentType
                        ? (await http.Request.ReadFormAsync(cancel))["List-Unsubscribe"].ToString()
                        : "";
                    if (said != "One-Click")
                    {
                        await ReaderPage.TellAsync(http, 400, "Not unsubscribed", "What was sent does not say List-Unsubscribe=One-Click.");
                        return;
                    }

                    await ways.AddAsync([address], db, cancel);
                    await ReaderPage.TellAsync(http, 200, "You are unsubscribed", $"{address} gets no more of these emails.");
                }
            )
            .AllowAnonymous()
            .DisableAntiforgery()
            .ExcludeFromDescription();
    }

    private static Task NoneAsync(HttpContext http) =>
        ReaderPage.TellAsync(http, 404, "There is no such page", "The address was cut short. Copy all of it from the email.");
}
