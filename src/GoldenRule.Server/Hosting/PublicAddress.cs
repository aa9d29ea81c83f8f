using GoldenRule.Server.Editing;
using Microsoft.AspNetCore.HostFiltering;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.AspNetCore.HttpOverrides;

namespace GoldenRule.Server.Hosting;

/// <summary>
/// Where readers and colleagues reach this server, as the settings say: "PublicAddress" (https://mail.larkfell.example.org)
/// and "Proxies" (addresses whose forwarded headers are believed). Without the first it is what the request was sent to,
/// which then can only be a loopback name.
/// </summary>
public sealed class PublicAddress(IConfiguration configuration, IServer server)
{
    private readonly string? _address = configuration["PublicAddress"]?.TrimEnd('/');

    public bool IsHttps => _address?.StartsWith("https://", StringComparison.OrdinalIgnoreCase) == true;

    /// <summary>Scheme and host, without a slash at the end.</summary>
    public string Base(HttpRequest request) => _address ?? $"{request.Scheme}://{request.Host}";

    /// <summary>The same where nobody asks: by the settings, or where this server listens.</summary>
    public string OfServer() =>
        _address
        ?? (server.Features.Get<IServerAddressesFeature>()?.Addresses.FirstOrDefault() ?? configuration["urls"]?.Split(';')[0])?.TrimEnd(
            '/'
        )
        ?? "";

    /// <summary>What the names of pictures are written after in what goes out.</summary>
    public string Pictures(HttpRequest request) => Base(request) + CompilationCache.PicturesAt;

    /// <summary>The page for browsers of emails that were not handed off yet.</summary>
    public const string DraftPage = "draft";

    /// <summary>What the addresses of pages for browsers begin with.</summary>
    public const string BrowserPages = "/view/";

    /// <summary>Requests for other hosts are refused, and only proxies that are named say where a request came from.</summary>
    public static void Configure(IServiceCollection services, IConfiguration configuration)
    {
        services.AddSingleton<PublicAddress>();
        services.PostConfigure<HostFilteringOptions>(o =>
        {
            if (Uri.TryCreate(configuration["PublicAddress"], UriKind.Absolute, out var address))
            {
                o.AllowedHosts = [.. o.AllowedHosts, address.Host];
            }
        });
        services.Configure<ForwardedHeadersOptions>(o =>
        {
            o.KnownIPNetworks.Clear();
            o.KnownProxies.Clear();
            foreach (var proxy in configuration.GetSection("Proxies").Get<string[]>() ?? [])
            {
                o.KnownProxies.Add(System.Net.IPAddress.Parse(proxy));
            }

            o.ForwardedHeaders =
                o.KnownProxies.Count == 0
                    ? ForwardedHeaders.None
                    : ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto | ForwardedHeaders.XForwardedHost;
        });
    }
}
