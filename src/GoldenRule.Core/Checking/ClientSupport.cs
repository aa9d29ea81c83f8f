using System.Collections.Frozen;
using System.Collections.Immutable;
using System.Text.Json;

namespace GoldenRule.Core.Checking;

/// <summary>A mail client on one platform.</summary>
public sealed record MailClient(string Key, string Name);

/// <summary>A feature of HTML, CSS or picture formats, with what each client makes of it.</summary>
/// <param name="Support">One letter a client, in the order of <see cref="ClientSupport.Clients"/>: y yes, a partly, n no, -
/// nobody knows.</param>
public sealed record ClientFeature(string Slug, string Title, string Category, string Support);

/// <summary>
/// What mail clients support, from the open dataset that ships with the core (see client-support.json for its source, licence and
/// date).
/// </summary>
public static class ClientSupport
{
    private static readonly DataSet Data = Load();

    private static readonly FrozenDictionary<string, MailClient> ByKey = Data.Clients.ToFrozenDictionary(
        c => c.Key,
        StringComparer.Ordinal
    );

    /// <summary>Where the data is from, under which licence.</summary>
    public static string Source => Data.Source;

    /// <summary>The day it was last changed, ISO 8601.</summary>
    public static string Dated => Data.Dated;

    public static ImmutableArray<MailClient> Clients => Data.Clients;

    public static ImmutableArray<ClientFeature> Features => Data.Features;

    /// <summary>Null: there is no such client.</summary>
    public static MailClient? Find(string key) => ByKey.GetValueOrDefault(key);

    /// <summary>Shares of readers per client, adding up to 1; all alike where the lead has set none.</summary>
    public static ImmutableArray<double> Shares(CheckPolicy policy)
    {
        var total = policy.Clients.Values.Sum();
        return [.. Clients.Select(c => total > 0 ? policy.Clients.GetValueOrDefault(c.Key) / total : 1.0 / Clients.Length)];
    }

    private static DataSet Load()
    {
        using var stream = typeof(ClientSupport).Assembly.GetManifestResourceStream("client-support.json")!;
        return JsonSerializer.Deserialize<DataSet>(stream, JsonSerializerOptions.Web)!;
    }

    private sealed record DataSet(string Source, string Dated, ImmutableArray<MailClient> Clients, ImmutableArray<ClientFeature> Features);
}
