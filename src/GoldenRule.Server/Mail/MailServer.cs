using System.Net.Sockets;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using MailKit;
using MailKit.Net.Smtp;
using MailKit.Security;
using Microsoft.Extensions.Options;
using MimeKit;

namespace GoldenRule.Server.Mail;

/// <summary>What came of a message that was handed in: it was sent, refused, or nobody knows.</summary>
/// <param name="Answer">What the server said, or what happened, in words.</param>
public readonly record struct MailResult(SendState State, string Answer);

/// <summary>The mail server cannot be handed anything, and why in a sentence for whoever wants to.</summary>
public sealed class MailServerException(string message, Exception? inner = null) : Exception(message, inner);

/// <summary>The server that mail is handed in to (RFC 5321, RFC 6409), as the settings say.</summary>
/// <param name="outbound">By whose rules it is connected to. Null: whoever runs this server named it.</param>
public sealed class MailServer(IOptions<MailSettings> settings, OutboundConnections? outbound = null)
{
    /// <summary>For one message, or to connect.</summary>
    private TimeSpan Longest => TimeSpan.FromSeconds(settings.Value.Seconds);

    public MailboxAddress From => MailboxAddress.Parse(settings.Value.From);

    /// <exception cref="MailServerException">It does not answer, offers no encryption, or does not let this server in.</exception>
    public async Task<SmtpClient> ConnectAsync(CancellationToken cancel)
    {
        var said = settings.Value;
        // Of two clocks that end together the socket's may be first, and says that the connection broke: ours decides.
        var client = new SmtpClient { Timeout = 2 * (int)Longest.TotalMilliseconds };
        if (!said.CheckCertificate)
        {
            client.ServerCertificateValidationCallback = (_, _, _, _) => true;
        }

        using var timed = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        timed.CancelAfter(Longest);
        try
        {
            // Nothing is handed in, and no password said, before the connection is encrypted (RFC 3207).
            var security = said.Port == 465 ? SecureSocketOptions.SslOnConnect : SecureSocketOptions.StartTls;
            var socket = outbound is null
                ? await ConnectSocketAsync(said, timed.Token)
                : await outbound.ConnectAsync(said.Host, said.Port, timed.Token);
            await client.ConnectAsync(socket, said.Host, said.Port, security, timed.Token);

            if (said.User.Length > 0)
            {
                await client.AuthenticateAsync(said.User, said.Password, timed.Token);
            }

            return client;
        }
        catch (Exception fault) when (!cancel.IsCancellationRequested)
        {
            client.Dispose();
            throw new MailServerException(Why(fault), fault);
        }
    }

    /// <summary>Hands one message in to one address. Whatever comes of it, it is tried once.</summary>
    public async Task<MailResult> SendAsync(SmtpClient client, MimeMessage message, MailboxAddress to, CancellationToken cancel)
    {
        using var timed = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        timed.CancelAfter(Longest);
        var said = new Said();
        try
        {
            var answer = await client.SendAsync(message, From, [to], timed.Token, said);
            return new(SendState.Sent, answer.ReplaceLineEndings(" "));
        }
        catch (SmtpCommandException refused)
        {
            return new(SendState.Refused, $"{(int)refused.StatusCode} {refused.Message.ReplaceLineEndings(" ")}");
        }
        catch (Exception fault) when (fault is not OutOfMemoryException)
        {
            // Without its last line the server may not take it (RFC 5321, 4.1.1.4).
            return said.Anything
                ? new(SendState.Unknown, $"The mail server did not say whether it has it: {Why(fault)}")
                : new(SendState.Refused, Why(fault));
        }
    }

    // The last piece of a message does not wait until the pieces before it are acknowledged (Nagle's algorithm): 40 ms for each.
    private static async Task<Socket> ConnectSocketAsync(MailSettings said, CancellationToken cancel)
    {
        var socket = new Socket(SocketType.Stream, ProtocolType.Tcp) { NoDelay = true };
        try
        {
            await socket.ConnectAsync(said.Host, said.Port, cancel);
            return socket;
        }
        catch
        {
            socket.Dispose();
            throw;
        }
    }

    private string Why(Exception fault) =>
        fault switch
        {
            NotSupportedException => "The mail server offers no encryption (STARTTLS), so nothing was said to it.",
            AuthenticationException => "The mail server does not let Golden Rule in: name or password are not right.",
            InwardAddressException => fault.Message,
            SslHandshakeException => "The mail server's certificate is not one to be trusted.",
            OperationCanceledException or TimeoutException => $"The mail server did not answer within {settings.Value.Seconds} seconds.",
            SocketException or IOException or ServiceNotConnectedException or SmtpProtocolException =>
                "The connection to the mail server broke off.",
            _ => fault.Message.ReplaceLineEndings(" "),
        };

    // Whether any of a message's content went out.
    private sealed class Said : ITransferProgress
    {
        public bool Anything { get; private set; }

        public void Report(long bytesTransferred, long totalSize) => Anything = true;

        public void Report(long bytesTransferred) => Anything = true;
    }
}
