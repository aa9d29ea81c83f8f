using GoldenRule.Core.Documents;
using GoldenRule.Core.HandOffs;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using GoldenRule.Server.Mail;
using Microsoft.EntityFrameworkCore;
using MimeKit;

namespace GoldenRule.Server.HandOffs;

/// <summary>Sends what was handed off to the one person it is written to, once: the frozen message, handed in to the mail server.</summary>
public sealed class PersonalSending(
    GoldenRuleDb db,
    HeldEmails emails,
    HandOffAnswers answers,
    MailServer server,
    Outbox outbox,
    TimeProvider clock
)
{
    public async Task<HandOffAnswer> SendAsync(Guid id, Person everywhere, CancellationToken cancel)
    {
        outbox.MustSend();
        var stored = await answers.FindAsync(id, everywhere, cancel);
        var record = HandOffRecord.Read(stored.Record);
        await ClaimAsync(stored, record, everywhere, cancel);
        // From here on it counts as sent unless the server says that it is not, whoever goes away meanwhile.
        var (state, answer) = await HandInAsync(record);
        await db
            .PersonalSends.Where(s => s.HandOffId == id)
            .ExecuteUpdateAsync(s => s.SetProperty(x => x.State, state).SetProperty(x => x.Answer, answer), CancellationToken.None);
        return await answers.AnswerAsync(id, everywhere, cancel);
    }

    // Of two who send it at once, and of one who withdraws it meanwhile, one is first.
    private async Task ClaimAsync(StoredHandOff stored, HandOffRecord record, Person everywhere, CancellationToken cancel)
    {
        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        var held = await emails.HoldAsync(stored.DocumentId, everywhere, cancel);
        var withdrawn = await db.Withdrawals.AnyAsync(w => w.HandOffId == stored.Id, cancel);
        var known = await db.PersonalSends.FirstOrDefaultAsync(s => s.HandOffId == stored.Id, cancel);
        ProblemException.ThrowIfRefused(
            HandOffPermissions.MaySend(held.Person, record.To, withdrawn, known is not null and not { State: SendState.Refused })
        );
        var now = clock.GetUtcNow().UtcDateTime;
        if (known is null)
        {
            db.PersonalSends.Add(
                new StoredPersonalSend
                {
                    HandOffId = stored.Id,
                    By = held.Person.Id,
                    At = now,
                    State = SendState.Sending,
                }
            );
        }
        else
        {
            (known.By, known.At, known.State, known.Answer) = (held.Person.Id, now, SendState.Sending, "");
        }

        db.Record(clock, LogKind.PersonalMessageSent, held.Person.Id, record.Name, null, new SendTold(stored.Id, record.To!.Address));
        await db.SaveChangesAsync(cancel);
        await turn.CommitAsync(CancellationToken.None);
        db.ChangeTracker.Clear();
    }

    private async Task<MailResult> HandInAsync(HandOffRecord record)
    {
        try
        {
            var bytes = await HandOffFiles.ReadAsync(record, HandOffFileKind.Message, record.Profile, db, CancellationToken.None);
            using var stream = new MemoryStream(bytes);
            var message = await MimeMessage.LoadAsync(stream, CancellationToken.None);
            using var client = await server.ConnectAsync(CancellationToken.None);
            return await server.SendAsync(client, message, MailboxAddress.Parse(record.To!.Address), CancellationToken.None);
        }
        catch (MailServerException fault)
        {
            return new MailResult(SendState.Refused, fault.Message);
        }
    }

    private sealed record SendTold(Guid HandOff, string To);
}
