using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using MimeKit;

namespace GoldenRule.Server.Mail;

/// <summary>Sends what is in the outbox, one after the other, and again later what could not be sent.</summary>
public sealed partial class MailSending(
    IServiceScopeFactory scopes,
    IOptions<MailSettings> settings,
    Outbox outbox,
    MailServer server,
    MailSignal signal,
    TimeProvider clock,
    ILogger<MailSending> log
) : BackgroundService
{
    private static readonly TimeSpan Every = TimeSpan.FromSeconds(15);

    /// <summary>After these the mail is given up: a minute, five, a quarter of an hour, an hour.</summary>
    private static readonly RetryPauses Pauses = new(
        TimeSpan.FromMinutes(1),
        TimeSpan.FromMinutes(5),
        TimeSpan.FromMinutes(15),
        TimeSpan.FromHours(1)
    );

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (settings.Value.IsSet && !stoppingToken.IsCancellationRequested)
        {
            try
            {
                while (await SendNextAsync(stoppingToken)) { }
            }
            catch (Exception fault) when (!stoppingToken.IsCancellationRequested)
            {
                LogFault(log, fault.Message);
            }

            await signal.WaitAsync(Every, stoppingToken);
        }
    }

    /// <summary>False: there is none to send now.</summary>
    private async Task<bool> SendNextAsync(CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<GoldenRuleDb>();
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var now = clock.GetUtcNow().UtcDateTime;
        // Another server may be sending too.
        var mail = await db
            .OutgoingMails.FromSql($"select * from outgoing_mails where next_try <= {now} order by next_try limit 1 for update skip locked")
            .FirstOrDefaultAsync(cancel);
        if (mail is null)
        {
            return false;
        }

        mail.Tries++;
        try
        {
            await SendAsync(outbox.Open(mail), cancel);
            (mail.SentAt, mail.NextTry, mail.Problem, mail.Sealed) = (clock.GetUtcNow().UtcDateTime, null, "", []);
        }
        catch (Exception fault) when (!cancel.IsCancellationRequested)
        {
            mail.Problem = fault.Message;
            mail.NextTry = Pauses.Next(mail.Tries, now, TimeSpan.Zero);
            LogRefused(log, fault.Message);
        }

        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return true;
    }

    /// <exception cref="MailServerException">It cannot be handed in now.</exception>
    private async Task SendAsync(MimeMessage message, CancellationToken cancel)
    {
        using var client = await server.ConnectAsync(cancel);
        var (state, answer) = await server.SendAsync(client, message, message.To.Mailboxes.First(), cancel);
        if (state != SendState.Sent)
        {
            throw new MailServerException(answer);
        }

        await client.DisconnectAsync(quit: true, cancel);
    }

    [LoggerMessage(Level = LogLevel.Warning, Message = "Mail is not looked for: {Message}")]
    private static partial void LogFault(ILogger log, string message);

    [LoggerMessage(Level = LogLevel.Warning, Message = "A mail could not be sent: {Message}")]
    private static partial void LogRefused(ILogger log, string message);
}
