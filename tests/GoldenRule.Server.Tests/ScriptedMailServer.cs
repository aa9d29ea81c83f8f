using System.Collections.Concurrent;
using System.Net;
using System.Net.Security;
using System.Net.Sockets;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using System.Text;
using System.Threading;

namespace GoldenRule.Server.Tests;

/// <summary>
/// A mail server that does what tests need, by the dialogue of RFC 5321 and the STARTTLS of RFC 3207: what a recipient is called says
/// what becomes of the message. "refused@" is not taken, "dropped@" is taken and the connection ends before the answer, "cut@" ends in
/// the middle of the message, "slow@" is never answered, "later@" is put off the first time.
/// </summary>
public sealed class ScriptedMailServer : IDisposable
{
    private readonly TcpListener listener = new(IPAddress.Loopback, 0);
    private readonly X509Certificate2 certificate = SelfSigned();

    private long downUntil;
    private readonly ConcurrentDictionary<string, bool> putOff = new(StringComparer.Ordinal);

    public ScriptedMailServer()
    {
        listener.Start();
        _ = AcceptAsync();
    }

    public int Port => ((IPEndPoint)listener.LocalEndpoint).Port;

    /// <summary>False: it says nothing of STARTTLS.</summary>
    public bool OffersTls { get; set; } = true;

    /// <summary>After so many messages it ends every connection, for a while.</summary>
    public int? DownAfter { get; set; }

    /// <summary>What was taken in: recipient and message.</summary>
    public ConcurrentQueue<(string To, string Message)> Taken { get; } = new();

    public void Dispose()
    {
        listener.Dispose();
        certificate.Dispose();
    }

    private async Task AcceptAsync()
    {
        try
        {
            while (true)
            {
                _ = ServeAsync(await listener.AcceptTcpClientAsync());
            }
        }
        catch (Exception ended) when (ended is ObjectDisposedException or SocketException)
        {
            // The test is over.
        }
    }

    private async Task ServeAsync(TcpClient client)
    {
        using var connection = client;
        if (Environment.TickCount64 < downUntil)
        {
            return;
        }

        try
        {
            Stream stream = client.GetStream();
            await SayAsync(stream, "220 scripted");
            var (reader, to) = (new StreamReader(stream, Encoding.Latin1), "");
            while (await reader.ReadLineAsync() is { } line)
            {
                switch (line.Split(' ')[0].ToUpperInvariant())
                {
                    case "EHLO":
                        await SayAsync(stream, OffersTls && stream is NetworkStream ? "250-scripted\r\n250 STARTTLS" : "250 scripted");
                        break;
                    case "STARTTLS":
                        await SayAsync(stream, "220 go on");
                        var secure = new SslStream(stream);
                        await secure.AuthenticateAsServerAsync(certificate);
                        (stream, reader) = (secure, new StreamReader(secure, Encoding.Latin1));
                        break;
                    case "MAIL" when stream is NetworkStream:
                        await SayAsync(stream, "530 begin TLS first");
                        break;
                    case "RCPT":
                        to = line[(line.IndexOf('<', StringComparison.Ordinal) + 1)..line.IndexOf('>', StringComparison.Ordinal)];
                        await SayAsync(stream, AnswerTo(to));
                        break;
                    case "DATA":
                        await SayAsync(stream, "354 go on");
                        if (!await TakeAsync(reader, to))
                        {
                            return;
                        }

                        await SayAsync(stream, "250 taken");
                        break;
                    case "QUIT":
                        await SayAsync(stream, "221 bye");
                        return;
                    default:
                        await SayAsync(stream, "250 ok");
                        break;
                }
            }
        }
        catch (Exception ended) when (ended is IOException or ObjectDisposedException or SocketException)
        {
            // The other side went away.
        }
    }

    private string AnswerTo(string to) =>
        to.Split('@')[0] switch
        {
            "refused" => "550 No such mailbox here",
            "later" when putOff.TryAdd(to, true) => "451 Come again later",
            _ => "250 ok",
        };

    /// <returns>False: the connection ends here.</returns>
    private async Task<bool> TakeAsync(StreamReader reader, string to)
    {
        var message = new StringBuilder();
        while (await reader.ReadLineAsync() is { } line && line != ".")
        {
            if (to.StartsWith("cut@", StringComparison.Ordinal))
            {
                return false;
            }

            message.Append(line.StartsWith('.') ? line[1..] : line).Append("\r\n");
        }

        if (to.StartsWith("slow@", StringComparison.Ordinal))
        {
            await Task.Delay(Timeout.Infinite, new CancellationTokenSource(TimeSpan.FromSeconds(30)).Token);
        }

        if (DownAfter is { } most && Taken.Count >= most)
        {
            // Killed: this one was not taken, and nobody is answered for a moment.
            DownAfter = null;
            downUntil = Environment.TickCount64 + 500;
            return false;
        }

        Taken.Enqueue((to, message.ToString()));
        return !to.StartsWith("dropped@", StringComparison.Ordinal);
    }

    private static async Task SayAsync(Stream stream, string line) => await stream.WriteAsync(Encoding.ASCII.GetBytes(line + "\r\n"));

    private static X509Certificate2 SelfSigned()
    {
        using var key = RSA.Create(2048);
        var request = new CertificateRequest("CN=localhost", key, HashAlgorithmName.SHA256, RSASignaturePadding.Pkcs1);
        using var made = request.CreateSelfSigned(DateTimeOffset.UtcNow.AddDays(-1), DateTimeOffset.UtcNow.AddDays(1));
        return X509CertificateLoader.LoadPkcs12(made.Export(X509ContentType.Pkcs12), null);
    }
}

/// <summary>The server with a mail server that does what tests need.</summary>
public sealed class RunningWithMail : Running
{
    public ScriptedMailServer Mail { get; } = new();

    protected override IEnumerable<(string Name, string Value)> Settings =>
        [
            ("Mail:Port", $"{Mail.Port}"),
            ("Mail:CheckCertificate", "false"),
            ("Mail:Seconds", "3"),
            ("Limits:TestMessagesAnHour", "40"),
            ("Sending:ClockSpeed", "600"),
        ];

    protected override void Dispose(bool disposing)
    {
        base.Dispose(disposing);
        Mail.Dispose();
    }
}
