using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Interchange;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Mail;
using MailKit.Net.Smtp;
using Microsoft.Extensions.Options;
using MimeKit;
using MessagePart = GoldenRule.Core.Interchange.MessagePart;

namespace GoldenRule.Server.Destinations.Kinds;

/// <summary>A mail server (RFC 5321) that each message is handed in to, filled in for its reader. For small lists.</summary>
public sealed class SmtpBatches(IOptions<MailSettings> own, MailServer ownServer, OutboundConnections outbound, TimeProvider clock)
    : DestinationKind
{
    private const int Submission = 587; // RFC 6409, 3.1

    public override string Name => "smtp";

    public override string Title => "Mail server";

    public override string Explained => "Golden Rule sends itself, in batches, to a small list from a file.";

    public override ImmutableArray<PicturePolicy> Pictures => [PicturePolicy.Linked, PicturePolicy.Inside];

    public override string AddressExample => "smtp://mail.example.org:587";

    public override bool NeedsAddress => false;

    public override bool HasUser => true;

    public override string SecretName => "Password";

    public override bool TakesPushes => false;

    public override bool SendsInBatches => true;

    public override void CheckAddress(string address)
    {
        if (address.Length > 0 && !IsAddress(address, out _))
        {
            throw ProblemException.Invalid("Write the address like smtp://mail.example.org:587.", "address");
        }
    }

    public override async Task<string> TryAsync(OpenDestination to, CancellationToken cancel)
    {
        using var client = await ConnectAsync(ServerOf(to), cancel);
        await client.DisconnectAsync(quit: true, cancel);
        return "The mail server lets Golden Rule in, encrypted.";
    }

    public override async Task SendAsync(BatchWork batch, OpenDestination to, CancellationToken cancel)
    {
        var server = ServerOf(to);
        var pictures =
            to.Pictures == PicturePolicy.Inside
                ? batch.Email.Pictures.ToImmutableDictionary(p => HandedOffEmail.NameOf(p.File), p => p.Content, StringComparer.Ordinal)
                : ImmutableDictionary<string, byte[]>.Empty;
        ImmutableArray<MessagePart> attached =
        [
            .. batch.Email.Attachments.Select(a => new MessagePart(HandedOffEmail.NameOf(a.File), a.File.MediaType, a.Content)),
        ];
        SmtpClient? client = null;
        try
        {
            foreach (var recipient in batch.Recipients)
            {
                if (client is not { IsConnected: true })
                {
                    client?.Dispose();
                    client = await ConnectAsync(server, cancel);
                }

                var (content, id) = batch.For(recipient);
                MimeMessage message;
                try
                {
                    message = MessageFile.Make(content, new MessageTerms(clock.GetUtcNow(), id, recipient.Address, attached, pictures));
                }
                catch (StructureException fault)
                {
                    throw new DestinationException(fault.Message, null, fault);
                }

                if (!await batch.ClaimAsync(recipient, cancel))
                {
                    return;
                }

                // Whoever stops this server: what was begun is said to the end, or is told as not known.
                var said = await server.SendAsync(client, message, MailboxAddress.Parse(recipient.Address), CancellationToken.None);
                await batch.SettleAsync(recipient, said.State, said.Answer);
            }
        }
        finally
        {
            client?.Dispose();
        }
    }

    private MailServer ServerOf(OpenDestination to)
    {
        if (to.Address.Length == 0)
        {
            return own.Value.IsSet
                ? ownServer
                : throw new DestinationException("This server sends no mail. Give the destination an address of its own.", null);
        }

        if (!IsAddress(to.Address, out var address))
        {
            throw new DestinationException("The address is none. Write it like smtp://mail.example.org:587.", null);
        }

        var settings = new MailSettings
        {
            Host = address.Host,
            Port = address.Port > 0 ? address.Port : Submission,
            User = to.User,
            Password = to.Secret,
            From = own.Value.From,
            Seconds = own.Value.Seconds,
        };
        return new MailServer(Options.Create(settings), outbound);
    }

    private static async Task<SmtpClient> ConnectAsync(MailServer server, CancellationToken cancel)
    {
        try
        {
            return await server.ConnectAsync(cancel);
        }
        catch (MailServerException fault)
        {
            throw new DestinationException(fault.Message, TimeSpan.Zero, fault);
        }
    }

    private static bool IsAddress(string said, out Uri address) =>
        Uri.TryCreate(said, UriKind.Absolute, out address!)
        && address is { Scheme: "smtp", UserInfo: "", PathAndQuery: "" or "/", Host.Length: > 0 };
}
