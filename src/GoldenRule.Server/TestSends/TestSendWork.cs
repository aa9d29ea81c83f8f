using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HandOffs;
using GoldenRule.Core.Interchange;
using GoldenRule.Data;
using GoldenRule.Server.Audiences;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Jobs;
using GoldenRule.Server.Mail;
using MailKit.Net.Smtp;
using Microsoft.EntityFrameworkCore;
using MimeKit;

namespace GoldenRule.Server.TestSends;

/// <summary>
/// Sends a test, one message after the other. What becomes of each is stored before and after it is handed in, so that a server that
/// ended in between never sends one twice.
/// </summary>
public sealed class TestSendWork(
    GoldenRuleDb db,
    EditPipeline pipeline,
    CompilationCache compilations,
    MailServer server,
    TimeProvider clock
) : Work
{
    public const string WorkName = "test-send";

    public override string Name => WorkName;

    public override async Task<WorkResult> RunAsync(StoredJob job, Progress progress, CancellationToken cancel)
    {
        var send = await db.TestSends.Include(t => t.Messages.OrderBy(m => m.Number)).FirstAsync(t => t.Id == job.Id, cancel);
        foreach (var cut in send.Messages.Where(m => m.State == SendState.Sending))
        {
            (cut.State, cut.Answer) = (SendState.Unknown, "Golden Rule ended while it was handed in. It is not sent again.");
        }

        await db.SaveChangesAsync(cancel);
        var loaded = await pipeline.LoadAsync(DocumentKind.Email, send.DocumentId, cancel);
        var compiled = compilations.Compile(loaded, cancel);
        var outgoing = OutgoingEmail.Draft(compiled, loaded.Library, send.Base);
        await MailFiles.KeepAsync(compiled.Sending, db, cancel);
        var made = new Made(
            outgoing,
            TestSendRules.Combinations(compiled.Resolved.Conditions(), loaded.Library.Audiences),
            await MailFiles.AttachmentsAsync(compiled.Resolved.Email, db, cancel)
        );
        SmtpClient? client = null;
        try
        {
            foreach (var message in send.Messages.Where(m => m.State == SendState.Waiting))
            {
                await progress(message.Number - 1, send.Messages.Count, message.Address);
                if (client is not { IsConnected: true })
                {
                    client?.Dispose();
                    client = await server.ConnectAsync(cancel);
                }

                await SendAsync(client, message, send, made, cancel);
            }
        }
        catch (MailServerException fault)
        {
            // It would be the same for each of them, and take as long.
            foreach (var left in send.Messages.Where(m => m.State == SendState.Waiting))
            {
                (left.State, left.Answer, left.At) = (SendState.Refused, fault.Message, clock.GetUtcNow().UtcDateTime);
            }

            await db.SaveChangesAsync(CancellationToken.None);
        }
        finally
        {
            client?.Dispose();
        }

        await progress(send.Messages.Count, send.Messages.Count, "");
        var table = string.Join('\n', send.Messages.Select(m => $"{m.Address}\t{m.Seen}\t{m.State}\t{m.Answer}"));
        return new WorkResult("test.txt", "text/plain", System.Text.Encoding.UTF8.GetBytes(table));
    }

    private async Task SendAsync(SmtpClient client, StoredTestMessage message, StoredTestSend send, Made made, CancellationToken cancel)
    {
        MailResult result;
        try
        {
            var written = await WriteAsync(message, send, made, cancel);
            // Another server may be at the same job, where this one was taken for dead.
            var mine = db.TestMessages.Where(m => m.TestSendId == send.Id && m.Number == message.Number && m.State == SendState.Waiting);
            if (await mine.ExecuteUpdateAsync(m => m.SetProperty(x => x.State, SendState.Sending), cancel) == 0)
            {
                return;
            }

            result = await server.SendAsync(client, written, MailboxAddress.Parse(message.Address), cancel);
        }
        catch (Exception fault) when (fault is ProblemException or StructureException)
        {
            result = new MailResult(SendState.Refused, fault.Message);
        }

        (message.State, message.Answer, message.At) = (result.State, result.Answer, clock.GetUtcNow().UtcDateTime);
        // What was said to the server is said: it is stored whoever stops this.
        await db.SaveChangesAsync(CancellationToken.None);
    }

    private async Task<MimeMessage> WriteAsync(StoredTestMessage message, StoredTestSend send, Made made, CancellationToken cancel)
    {
        var email = await EmailAsync(message, made, cancel);
        var mark = message switch
        {
            { Combination: { } at } => $"[Test {at + 1} of {made.Combinations.Length}]",
            { Seen.Length: > 0 } => $"[Test, {message.Seen}]",
            _ => "[Test]",
        };
        return MessageFile.Make(
            MessageContent.From(email),
            new MessageTerms(
                clock.GetUtcNow(),
                $"{send.Id:N}.{message.Number}@{MailFiles.DomainOf(email.Source.Email.Details.SenderAddress)}",
                message.Address,
                made.Attachments,
                send.PicturesInside
                    ? (await MailFiles.PicturesAsync(email, db, cancel)).ToImmutableDictionary(
                        p => p.Name,
                        p => p.Content,
                        StringComparer.Ordinal
                    )
                    : ImmutableDictionary<string, byte[]>.Empty
            )
            {
                SubjectMark = mark,
            }
        );
    }

    private async Task<CompiledEmail> EmailAsync(StoredTestMessage message, Made made, CancellationToken cancel)
    {
        var plan = made.Outgoing.Library.Audiences;
        if (message.Reader is { } id)
        {
            return made.Outgoing.For(await SampleReaderEndpoints.FindAsync(id, plan, db, cancel));
        }

        var whole = made.Outgoing.Whole();
        if (message.Combination is not { } at)
        {
            return whole;
        }

        if (at >= made.Combinations.Length)
        {
            throw new StructureException("The email has fewer combinations than when it was asked for.");
        }

        return whole.Seen(made.Combinations[at].Holds);
    }

    private sealed record Made(
        OutgoingEmail Outgoing,
        ImmutableArray<SeenCombination> Combinations,
        ImmutableArray<Core.Interchange.MessagePart> Attachments
    );
}
