using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.HandOffs;
using GoldenRule.Core.Reviews;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using GoldenRule.Server.Reviews;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.HandOffs;

/// <summary>What there is of an email to be handed off, and what was, as one person sees it.</summary>
public sealed class HandOffAnswers(
    GoldenRuleDb db,
    LibraryCache library,
    DocumentAccess access,
    CompilationCache compilations,
    TimeProvider clock
)
{
    private static readonly TimeSpan LongestSending = TimeSpan.FromMinutes(5);

    public async Task<EmailHandOffs> ListAsync(Guid email, Person everywhere, CancellationToken cancel)
    {
        var loaded = await access.LoadAsync(DocumentKind.Email, email, everywhere, cancel);
        var (person, compiled) = (EditPipeline.Open(loaded).As(everywhere), compilations.Compile(loaded, cancel));
        var seen = ReviewSight.Look(compiled, loaded.Library);
        var round = await LastRoundAsync(email, cancel);
        return new EmailHandOffs(
            loaded.Stored.State,
            seen.Hash,
            Allowance.From(HandOffPermissions.MayHandOff(person, loaded.Stored.State, Obstacles(loaded, compiled, seen, round))),
            Allowance.From(HandOffPermissions.MayCorrect(person, loaded.Stored.State)),
            ProfileChoice.List(loaded.Library.Audiences),
            compiled.Inspected.Inspection.HasFields || compiled.Resolved.HasConditions,
            await MarksAsync(email, cancel)
        );
    }

    public async Task<HandOffAnswer> AnswerAsync(Guid id, Person everywhere, CancellationToken cancel)
    {
        var stored = await FindAsync(id, everywhere, cancel);
        var document = await db
            .Documents.AsNoTracking()
            .Where(d => d.Id == stored.DocumentId)
            .Select(d => new { d.State, d.CampaignType })
            .FirstAsync(cancel);
        var teams = (await library.GetAsync(db, cancel)).Plan.Teams;
        var person = teams.For(everywhere, document.CampaignType is { } type ? [type] : []);
        var (record, all) = (HandOffRecord.Read(stored.Record), await MarksAsync(stored.DocumentId, cancel));
        var withdrawal = all.First(m => m.Id == id).Withdrawal;
        var sending = stored.Sending is { } sent
            ? new PersonalSendEntry(
                // A server that ended in between cannot say any more.
                sent.State == SendState.Sending
                && sent.At < clock.GetUtcNow().UtcDateTime - LongestSending
                    ? SendState.Unknown
                    : sent.State,
                sent.Answer,
                new PersonEntry(sent.By, await db.Users.Where(u => u.Id == sent.By).Select(u => u.Name).FirstOrDefaultAsync(cancel) ?? ""),
                sent.At
            )
            : null;
        return new HandOffAnswer(
            record,
            stored.Seal,
            record.PageAddress,
            stored.Page.Until,
            BrowserPages.IsOpen(withdrawal is not null, stored.Page.Until, clock),
            document.State,
            withdrawal,
            sending,
            all,
            Allowance.From(
                HandOffPermissions.MaySend(
                    person,
                    record.To,
                    withdrawal is not null,
                    stored.Sending is not null and not { State: SendState.Refused }
                )
            ),
            Allowance.From(HandOffPermissions.MayWithdraw(person, withdrawal is not null)),
            Allowance.From(HandOffPermissions.MayCorrect(person, document.State)),
            Allowance.From(HandOffPermissions.MaySetPage(person, withdrawal is not null))
        );
    }

    /// <exception cref="ProblemException">There is none that this person may see.</exception>
    public async Task<StoredHandOff> FindAsync(Guid id, Person person, CancellationToken cancel)
    {
        var stored = await db
            .HandOffs.AsNoTracking()
            .Include(h => h.Page)
            .Include(h => h.Withdrawal)
            .Include(h => h.Sending)
            .FirstOrDefaultAsync(h => h.Id == id, cancel)
            ?? throw ProblemException.NotFound("There is no such hand-off.");
        await access.MustSeeAsync(stored.DocumentId, person, cancel);
        return stored;
    }

    /// <param name="round">The last, with its decisions.</param>
    public static HandOffObstacles Obstacles(LoadedDocument loaded, CompiledRevision compiled, SeenEmail seen, StoredReviewRound? round)
    {
        var ask = ReviewSight.Obstacles(compiled, null);
        var carries = round is { Rule: { Overtaken: WhenOvertaken.CarryOver } or { Needs.IsEmpty: true } };
        return new HandOffObstacles(
            ask.Blockers,
            ask.ToFill,
            round is not { State: RoundState.Approved } || (!carries && ReviewRounds.ApprovedHash(round) != seen.Hash),
            Updates.MustTake((Email)loaded.Document, loaded.Library)
        );
    }

    public Task<StoredReviewRound?> LastRoundAsync(Guid email, CancellationToken cancel) =>
        db
            .ReviewRounds.AsNoTracking()
            .Include(r => r.Decisions)
            .Where(r => r.DocumentId == email)
            .OrderByDescending(r => r.Number)
            .FirstOrDefaultAsync(cancel);

    private async Task<ImmutableArray<HandOffMark>> MarksAsync(Guid email, CancellationToken cancel)
    {
        var found = await db
            .HandOffs.AsNoTracking()
            .Where(h => h.DocumentId == email)
            .OrderByDescending(h => h.Number)
            .Select(h => new
            {
                h.Id,
                h.Number,
                h.By,
                h.At,
                h.Withdrawal,
            })
            .ToListAsync(cancel);
        var people = found.SelectMany(h => new[] { h.By, h.Withdrawal?.By ?? h.By }).Distinct().ToList();
        var names = await db.Users.Where(u => people.Contains(u.Id)).ToDictionaryAsync(u => u.Id, u => u.Name, cancel);
        return
        [
            .. found.Select(h => new HandOffMark(
                h.Id,
                h.Number,
                Named(h.By),
                h.At,
                h.Withdrawal is { } w ? new WithdrawalEntry(Named(w.By), w.At, w.Reason) : null
            )),
        ];

        PersonEntry Named(Guid id) => new(id, names.GetValueOrDefault(id, ""));
    }
}
