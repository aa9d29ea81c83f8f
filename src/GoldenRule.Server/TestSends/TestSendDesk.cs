using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.HandOffs;
using GoldenRule.Data;
using GoldenRule.Server.Audiences;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Jobs;
using GoldenRule.Server.Logs;
using GoldenRule.Server.Mail;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.TestSends;

/// <summary>
/// Takes tests in, and tells what came of them. How many messages one person may send in an hour: "Limits:TestMessagesAnHour" (60).
/// </summary>
public sealed class TestSendDesk(
    GoldenRuleDb db,
    DocumentAccess access,
    CompilationCache compilations,
    JobDesk jobs,
    Outbox outbox,
    IConfiguration configuration,
    TimeProvider clock
)
{
    private const int LastShown = 5;

    private int MostAnHour => configuration.GetValue("Limits:TestMessagesAnHour", 60);

    public async Task<TestSends> ListAsync(Guid email, Person everywhere, CancellationToken cancel)
    {
        var loaded = await access.LoadAsync(DocumentKind.Email, email, everywhere, cancel);
        var person = EditPipeline.Open(loaded).As(everywhere);
        var resolved = compilations.Compile(loaded, cancel).Resolved;
        var conditions = resolved.Conditions();
        var last = await db
            .TestSends.AsNoTracking()
            .Include(t => t.Messages.OrderBy(m => m.Number))
            .Where(t => t.DocumentId == email)
            .OrderByDescending(t => t.AskedAt)
            .Take(LastShown)
            .ToListAsync(cancel);
        var ids = last.ConvertAll(t => t.Id);
        var states = await db.Jobs.Where(j => ids.Contains(j.Id)).ToDictionaryAsync(j => j.Id, j => j.State, cancel);
        var people = last.Select(t => t.AskedBy).Distinct().ToList();
        var names = await db.Users.Where(u => people.Contains(u.Id)).ToDictionaryAsync(u => u.Id, u => u.Name, cancel);
        var solved = conditions.IsEmpty ? null : resolved.Inline.Conditions.Solve(conditions);
        return new TestSends(
            outbox.Sends,
            Math.Max(0, MostAnHour - await SentThisHourAsync(person.Id, cancel)),
            [.. TestSendRules.Combinations(conditions, loaded.Library.Audiences).Select(c => c.Readers)],
            solved?.IsComplete == false ? null : (int)(solved?.Count ?? 0),
            Allowance.From(TestSendRules.MaySend(person, others: true)),
            await TestSendEndpoints.ListAsync(db, cancel),
            [
                .. last.Select(t => new TestSendEntry(
                    t.Id,
                    new PersonEntry(t.AskedBy, names.GetValueOrDefault(t.AskedBy, "")),
                    t.AskedAt,
                    t.Revision,
                    t.PicturesInside,
                    states.GetValueOrDefault(t.Id, JobState.Waiting),
                    [.. t.Messages.Select(m => new TestMessageEntry(m.Address, m.Seen, m.State, m.Answer, m.At))]
                )),
            ]
        );
    }

    /// <param name="at">Scheme and host of this server, as readers reach it.</param>
    public async Task<TestSends> SendAsync(Guid email, TestSendRequest request, Person everywhere, string at, CancellationToken cancel)
    {
        outbox.MustSend();
        var loaded = await access.LoadAsync(DocumentKind.Email, email, everywhere, cancel);
        var person = EditPipeline.Open(loaded).As(everywhere);
        var (people, testers) = (request.People.Distinct().ToList(), (request.Testers ?? []).Distinct().ToList());
        ProblemException.ThrowIfRefused(TestSendRules.MaySend(person, testers.Count > 0 || people.Exists(p => p != person.Id)));
        if (!await db.TestSends.AnyAsync(t => t.Id == request.Id, cancel))
        {
            var to = await AddressesAsync(people, testers, cancel);
            var ways = await WaysAsync(request, loaded, cancel);
            await MustBeWithinLimitAsync(to.Count * ways.Count, person, cancel);
            var send = new StoredTestSend
            {
                Id = request.Id,
                DocumentId = email,
                AskedBy = person.Id,
                AskedAt = clock.GetUtcNow().UtcDateTime,
                Revision = loaded.Stored.Revision,
                PicturesInside = request.PicturesInside,
                Base = at,
            };
            send.Messages.AddRange(
                to.SelectMany(address => ways.Select(way => (Address: address, Way: way)))
                    .Select(
                        (one, i) =>
                            new StoredTestMessage
                            {
                                TestSendId = request.Id,
                                Number = i + 1,
                                Address = one.Address,
                                Reader = one.Way.Reader,
                                Combination = one.Way.Combination,
                                Seen = one.Way.Seen,
                            }
                    )
            );
            db.TestSends.Add(send);
            db.Record(
                clock,
                LogKind.TestSent,
                person.Id,
                loaded.Stored.Name,
                null,
                new TestTold(email, send.Revision, to, send.Messages.Count)
            );
            await db.SaveChangesAsync(cancel);
        }

        // Asked again after this alone was lost, the job is made then.
        await jobs.AskAsync(request.Id, TestSendWork.WorkName, email, everywhere, cancel);
        return await ListAsync(email, everywhere, cancel);
    }

    private async Task<List<string>> AddressesAsync(List<Guid> people, List<Guid> testers, CancellationToken cancel)
    {
        var accounts = await db
            .Users.Where(u => people.Contains(u.Id) && u.DeactivatedAt == null && u.ErasedAt == null)
            .Select(u => u.Email!)
            .ToListAsync(cancel);
        var named = await db.Testers.Where(t => testers.Contains(t.Id)).Select(t => t.Address).ToListAsync(cancel);
        if (accounts.Count != people.Count || named.Count != testers.Count)
        {
            throw ProblemException.Invalid("One of those you chose is not here any more. Look again, then choose.", "people");
        }

        var to = accounts.Concat(named).Distinct(StringComparer.OrdinalIgnoreCase).ToList();
        return to.Count switch
        {
            0 => throw ProblemException.Invalid("Choose who gets it.", "people"),
            > TestSendRules.MostAddresses => throw ProblemException.Invalid(
                $"A test goes to at most {TestSendRules.MostAddresses} addresses; these are {to.Count}.",
                "people"
            ),
            _ => to,
        };
    }

    private async Task<List<Way>> WaysAsync(TestSendRequest request, LoadedDocument loaded, CancellationToken cancel)
    {
        var readers = (request.Readers ?? []).Distinct().ToList();
        if (readers.Count > TestSendRules.MostWays)
        {
            throw ProblemException.Invalid(
                $"A test is sent as at most {TestSendRules.MostWays} readers; these are {readers.Count}.",
                "readers"
            );
        }

        var ways = new List<Way>();
        foreach (var id in readers)
        {
            ways.Add(new Way(id, null, (await SampleReaderEndpoints.FindAsync(id, loaded.Library.Audiences, db, cancel)).Name));
        }

        if (request.Combinations)
        {
            var conditions = compilations.Compile(loaded, cancel).Resolved.Conditions();
            ways.AddRange(TestSendRules.Combinations(conditions, loaded.Library.Audiences).Select((c, i) => new Way(null, i, c.Readers)));
        }

        return ways.Count > 0 ? ways : [new Way(null, null, "")];
    }

    private async Task MustBeWithinLimitAsync(int messages, Person person, CancellationToken cancel)
    {
        var left = MostAnHour - await SentThisHourAsync(person.Id, cancel);
        if (messages > left)
        {
            throw ProblemException.TooMuch(
                $"This would be {messages} messages, and you can send {Math.Max(0, left)} more within the hour. "
                    + "Choose fewer, or send it later.",
                600
            );
        }
    }

    private Task<int> SentThisHourAsync(Guid person, CancellationToken cancel)
    {
        var since = clock.GetUtcNow().UtcDateTime.AddHours(-1);
        return db.TestMessages.CountAsync(
            m => db.TestSends.Any(t => t.Id == m.TestSendId && t.AskedBy == person && t.AskedAt > since),
            cancel
        );
    }

    private sealed record Way(Guid? Reader, int? Combination, string Seen);

    private sealed record TestTold(Guid Email, long Revision, List<string> To, int Messages);
}
