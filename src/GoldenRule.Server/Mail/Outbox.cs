using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.Extensions.Options;
using MimeKit;

namespace GoldenRule.Server.Mail;

/// <summary>What is to be sent. It is stored with what it tells of, and sent after that: see <see cref="MailSending"/>.</summary>
public sealed class Outbox(IOptions<MailSettings> settings, IDataProtectionProvider protection, TimeProvider clock, MailSignal signal)
{
    private readonly IDataProtector sealing = protection.CreateProtector("outgoing mail");

    public bool Sends => settings.Value.IsSet;

    /// <exception cref="ProblemException">This server sends no mail.</exception>
    public void MustSend()
    {
        if (!Sends)
        {
            throw ProblemException.Invalid("This server sends no mail. Whoever runs it sets Mail:Host and Mail:From.");
        }
    }

    /// <summary>Puts a mail beside what else is about to be saved.</summary>
    public void Add(GoldenRuleDb db, Account to, AccountMail mail)
    {
        MustSend();
        var message = new MimeMessage
        {
            Subject = mail.Subject,
            Body = new BodyBuilder { TextBody = mail.Text, HtmlBody = mail.Html }.ToMessageBody(),
        };
        message.From.Add(MailboxAddress.Parse(settings.Value.From));
        message.To.Add(new MailboxAddress(to.Name, to.Email!));
        using var written = new MemoryStream();
        message.WriteTo(written);
        var now = clock.GetUtcNow().UtcDateTime;
        db.OutgoingMails.Add(
            new OutgoingMail
            {
                Id = Guid.CreateVersion7(),
                AccountId = to.Id,
                Sealed = sealing.Protect(written.ToArray()),
                AskedAt = now,
                NextTry = now,
            }
        );
    }

    /// <summary>What was added is saved by now.</summary>
    public void Saved() => signal.Release();

    public MimeMessage Open(OutgoingMail mail)
    {
        using var read = new MemoryStream(sealing.Unprotect(mail.Sealed));
        return MimeMessage.Load(read);
    }
}

/// <summary>Wakes the sending.</summary>
public sealed class MailSignal : IDisposable
{
    private readonly SemaphoreSlim waiting = new(0);

    public void Release() => waiting.Release();

    public Task<bool> WaitAsync(TimeSpan most, CancellationToken cancel) => waiting.WaitAsync(most, cancel);

    public void Dispose() => waiting.Dispose();
}
