using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Destinations;

/// <summary>All sorts of destinations, and their secrets, which are stored encrypted.</summary>
public sealed class DestinationKinds(IEnumerable<DestinationKind> kinds, IDataProtectionProvider protection)
{
    private readonly IDataProtector secrets = protection.CreateProtector("destination's secret");

    public ImmutableArray<DestinationKind> All { get; } = [.. kinds];

    /// <exception cref="ProblemException">There is no such kind.</exception>
    public DestinationKind Get(string name) =>
        All.FirstOrDefault(k => k.Name == name)
        ?? throw ProblemException.Invalid($"A destination is one of: {string.Join(", ", All.Select(k => k.Name))}.", "kind");

    public byte[] Seal(string secret) => secret.Length == 0 ? [] : secrets.Protect(Encoding.UTF8.GetBytes(secret));

    /// <exception cref="DestinationException">Its secret cannot be read any more.</exception>
    public OpenDestination Open(StoredDestination stored)
    {
        try
        {
            var secret = stored.Secret.Length == 0 ? "" : Encoding.UTF8.GetString(secrets.Unprotect(stored.Secret));
            return new(stored.Id, stored.Name, stored.Profile, stored.Pictures, stored.Address, stored.User, secret);
        }
        catch (CryptographicException fault)
        {
            throw new DestinationException("Its secret was stored under a key that is lost. Type it in again.", null, fault);
        }
    }

    /// <exception cref="ProblemException">There is none that is still offered.</exception>
    public static async Task<StoredDestination> FindAsync(Guid id, GoldenRuleDb db, CancellationToken cancel) =>
        await db.Destinations.FirstOrDefaultAsync(d => d.Id == id && d.RetiredAt == null, cancel)
        ?? throw ProblemException.NotFound("There is no such destination.");

    /// <summary>The same, and nobody else changes it until the transaction ends.</summary>
    public static async Task<StoredDestination> FindToChangeAsync(Guid id, GoldenRuleDb db, CancellationToken cancel) =>
        await db
            .Destinations.FromSql($"select * from destinations where id = {id} and retired_at is null for update")
            .FirstOrDefaultAsync(cancel)
        ?? throw ProblemException.NotFound("There is no such destination.");

    /// <summary>Another text once anything that people set is another.</summary>
    public static string VersionOf(StoredDestination of) => SetVersion.Of(of.Name, of.Profile, of.Pictures, of.Address, of.User, of.Secret);
}
