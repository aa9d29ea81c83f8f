using System.Net;
using System.Net.Sockets;

namespace GoldenRule.Server.Hosting;

/// <summary>The address belongs to this machine or its network, which nobody outside may have this server ask.</summary>
public sealed class InwardAddressException(string host)
    : IOException(
        $"{host} is an address within this network, which Golden Rule does not ask. Whoever runs it can allow it: Outbound:Allow."
    );

/// <summary>
/// Connections to addresses that people typed in. Decided on the address that is connected to, after every name was looked up and
/// for each redirection anew; redirections are not followed. Settings: "Outbound:Allow" (networks like 127.0.0.1/32 that may be asked
/// although they are inward), "Outbound:Seconds" (20).
/// </summary>
public sealed class OutboundConnections : IDisposable
{
    private const int LargestAnswer = 8 << 20;

    // The special-purpose address registries (RFC 6890), multicast (RFC 5771, RFC 4291) and addresses that carry an IPv4 one.
    private static readonly IPNetwork[] Inward =
    [
        .. (
            (string[])
                [
                    "0.0.0.0/8",
                    "10.0.0.0/8",
                    "100.64.0.0/10",
                    "127.0.0.0/8",
                    "169.254.0.0/16",
                    "172.16.0.0/12",
                    "192.0.0.0/24",
                    "192.168.0.0/16",
                    "198.18.0.0/15",
                    "224.0.0.0/4",
                    "240.0.0.0/4",
                    "::/127",
                    "64:ff9b::/96",
                    "64:ff9b:1::/48",
                    "100::/64",
                    "2001::/23",
                    "2002::/16",
                    "fc00::/7",
                    "fe80::/10",
                    "fec0::/10",
                    "ff00::/8",
                ]
        ).Select(IPNetwork.Parse),
    ];

    private readonly IPNetwork[] allowed;

    public OutboundConnections(IConfiguration configuration)
    {
        allowed = [.. (configuration.GetSection("Outbound:Allow").Get<string[]>() ?? []).Select(IPNetwork.Parse)];
        Longest = TimeSpan.FromSeconds(configuration.GetValue("Outbound:Seconds", 20));
        Http = new HttpClient(
            new SocketsHttpHandler
            {
                AllowAutoRedirect = false,
                UseProxy = false,
                UseCookies = false,
                AutomaticDecompression = DecompressionMethods.All,
                PooledConnectionLifetime = TimeSpan.FromMinutes(2),
                ConnectCallback = async (context, cancel) =>
                    new NetworkStream(await ConnectAsync(context.DnsEndPoint.Host, context.DnsEndPoint.Port, cancel), ownsSocket: true),
            }
        )
        {
            Timeout = Longest,
            MaxResponseContentBufferSize = LargestAnswer,
        };
    }

    /// <summary>For one question and its answer.</summary>
    public TimeSpan Longest { get; }

    public HttpClient Http { get; }

    /// <exception cref="InwardAddressException">No address of the host may be asked.</exception>
    public async Task<Socket> ConnectAsync(string host, int port, CancellationToken cancel)
    {
        var addresses = IPAddress.TryParse(host.Trim('[', ']'), out var one) ? [one] : await Dns.GetHostAddressesAsync(host, cancel);
        var may = addresses.Where(MayAsk).ToArray();
        if (may.Length == 0)
        {
            throw new InwardAddressException(host);
        }

        var socket = new Socket(SocketType.Stream, ProtocolType.Tcp) { NoDelay = true };
        try
        {
            await socket.ConnectAsync(may, port, cancel);
            return socket;
        }
        catch
        {
            socket.Dispose();
            throw;
        }
    }

    public bool MayAsk(IPAddress address)
    {
        var plain = address.IsIPv4MappedToIPv6 ? address.MapToIPv4() : address;
        return allowed.Any(n => n.Contains(plain)) || !Inward.Any(n => n.Contains(plain));
    }

    /// <summary>Reads an address of the web that somebody typed in: https, and http only where it is allowed to be inward.</summary>
    /// <exception cref="ProblemException">It is none.</exception>
    public Uri ReadAddress(string said, string field)
    {
        if (
            said.Length > 2_000
            || !Uri.TryCreate(said.Trim(), UriKind.Absolute, out var address)
            || address.Scheme is not ("https" or "http")
            || address.UserInfo.Length > 0
            || address.Fragment.Length > 0
        )
        {
            throw ProblemException.Invalid("Write the address like https://sending.example.org/hook.", field);
        }

        if (IPAddress.TryParse(address.Host.Trim('[', ']'), out var literal) && !MayAsk(literal))
        {
            throw ProblemException.Invalid(new InwardAddressException(address.Host).Message, field);
        }

        return address.Scheme == "https" || (literal is not null && allowed.Any(n => n.Contains(literal)))
            ? address
            : throw ProblemException.Invalid("The address begins with https: what is sent there is nobody else's.", field);
    }

    public void Dispose() => Http.Dispose();
}
