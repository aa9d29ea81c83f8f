using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Interchange;
using GoldenRule.Data;
using GoldenRule.Server.Destinations;
using GoldenRule.Server.Emails;
using GoldenRule.Server.HandOffs;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Sends;

/// <summary>A batch as the database has it: each step is stored before the next, so that nobody gets anything twice.</summary>
internal sealed class StoredBatchWork(
    StoredSend send,
    StoredBatch batch,
    HandedOffEmail email,
    ImmutableArray<StoredRecipient> recipients,
    GoldenRuleDb db,
    BrowserPages pages,
    Unsubscribing ways,
    Func<Task> told
) : BatchWork($"{send.Id:N}/{batch.Number}", send.Id, email, recipients)
{
    /// <summary>A mail server that says "later" (RFC 5321, 4.2.1) is asked this often.</summary>
    private const int MostTries = 3;

    private DateTime toldAt = DateTime.MinValue;

    public override async Task<bool> ClaimAsync(StoredRecipient recipient, CancellationToken cancel)
    {
        // One statement: whoever pauses or stops at this moment is first, or second.
        var claimed = await db.Database.ExecuteSqlAsync(
            $"""
            update send_recipients set state = 'Sending'
            where send_id = {Send} and position = {recipient.Position} and state = 'Waiting'
              and exists (select 1 from sends where id = {Send} and state in ('Running', 'Stopping'))
            """,
            cancel
        );
        return claimed == 1;
    }

    public override async Task<bool> ClaimAllAsync(CancellationToken cancel)
    {
        await db.Database.ExecuteSqlAsync(
            $"""
            update send_recipients set state = 'Sending'
            where send_id = {Send} and batch = {batch.Number} and state = 'Waiting'
              and exists (select 1 from sends where id = {Send} and state in ('Running', 'Stopping'))
            """,
            cancel
        );
        return !await db.Recipients.AnyAsync(r => r.SendId == Send && r.Batch == batch.Number && r.State == SendState.Waiting, cancel);
    }

    public override Task SettleAsync(IReadOnlyCollection<int> positions, SendState state, string answer) =>
        db
            .Recipients.Where(r => r.SendId == Send && positions.Contains(r.Position))
            .ExecuteUpdateAsync(r => r.SetProperty(x => x.State, state).SetProperty(x => x.Answer, answer));

    public override async Task SettleAsync(StoredRecipient recipient, SendState state, string answer)
    {
        var later = state == SendState.Refused && answer is ['4', ..] && recipient.Tries + 1 < MostTries;
        await db
            .Recipients.Where(r => r.SendId == Send && r.Position == recipient.Position)
            .ExecuteUpdateAsync(r =>
                r.SetProperty(x => x.State, later ? SendState.Waiting : state)
                    .SetProperty(x => x.Batch, later ? 0 : batch.Number)
                    .SetProperty(x => x.Tries, x => x.Tries + 1)
                    .SetProperty(x => x.Answer, answer)
            );
        // As many as anyone can read.
        if (DateTime.UtcNow - toldAt > TimeSpan.FromSeconds(1))
        {
            toldAt = DateTime.UtcNow;
            await told();
        }
    }

    public override (MessageContent Content, string MessageId) For(StoredRecipient recipient)
    {
        var values = DocumentJson.Read<ImmutableSortedDictionary<string, string>>(recipient.Values);
        var reader = new SampleReader(Guid.Empty, recipient.Address, values);
        var content = Email.Merge.For(reader, pages.AddressFor(Email.Record, reader)) with
        {
            Unsubscribe = ways.AddressFor(recipient.Address, send.Base),
        };
        return (content, $"{Send:N}.{recipient.Position}@{MailFiles.DomainOf(Email.Record.Details.SenderAddress)}");
    }
}
