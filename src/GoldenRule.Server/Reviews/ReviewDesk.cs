using System.Collections.Immutable;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Reviews;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using GoldenRule.Server.People;
using GoldenRule.Server.Webhooks;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Reviews;

/// <summary>Asking for approval, taking it back and deciding.</summary>
public sealed class ReviewDesk(GoldenRuleDb db, HeldEmails emails, CompilationCache compilations, ReviewAnswers answers, TimeProvider clock)
{
    public const int LongestReason = 2_000;

    public async Task<ReviewAnswer> AskAsync(Guid id, AskForReview request, Person everywhere, CancellationToken cancel)
    {
        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        var at = await emails.HoldAsync(id, everywhere, cancel);
        if (!await db.ReviewRounds.AnyAsync(r => r.Id == request.Id, cancel))
        {
            await BeginAsync(at, request, cancel);
            await db.SaveChangesAsync(cancel);
            await TellAsync(id, cancel);
            await turn.CommitAsync(CancellationToken.None);
        }

        return await answers.AnswerAsync(at.Loaded, everywhere, cancel);
    }

    private async Task BeginAsync(HeldEmail at, AskForReview request, CancellationToken cancel)
    {
        var rule = ReviewRounds.RuleOf(at.Loaded);
        var said = request.Answers ?? ImmutableSortedDictionary<string, string>.Empty;
        if (said.Values.Concat([request.Note]).Any(words => words.Length > LongestReason))
        {
            throw ProblemException.Invalid($"Say it in at most {LongestReason:N0} characters.", "note");
        }

        var answered = said.Where(a => !string.IsNullOrWhiteSpace(a.Value)).Select(a => a.Key).ToHashSet(StringComparer.Ordinal);
        var compiled = compilations.Compile(at.Loaded, cancel);
        ProblemException.ThrowIfRefused(
            ReviewPermissions.MayAsk(at.Person, at.Stored.State, ReviewSight.Obstacles(compiled, rule.AnswerWarnings ? answered : null))
        );
        var writers = await ReviewRounds.WritersAsync(at.Stored, at.Person.Id, db, cancel);
        var people = await ReviewRounds.PeopleAsync(at.Loaded, db, cancel);
        if (ReviewPermissions.WithoutAnyone(rule, people, writers) is { IsEmpty: false } nobody)
        {
            throw ProblemException.Invalid(
                $"Nobody is left who could give {string.Join(" and ", nobody)}: all who may wrote in it, or are not there any more. "
                    + "A lead changes who approves, in Plan.",
                "people"
            );
        }

        var named = (request.People ?? []).Distinct().ToList();
        if (named.Find(p => !people.Exists(one => one.Id == p && rule.Needs.Any(n => n.IsMetBy(one)))) is var unknown && unknown != default)
        {
            throw ProblemException.Invalid("One of the people you ask may not approve it. Look again, then choose.", "people");
        }

        var seen = ReviewSight.Look(compiled, at.Loaded.Library);
        var now = clock.GetUtcNow().UtcDateTime;
        await ReviewSight.KeepAsync(db, at.Stored.Id, seen, now, cancel);
        var round = new StoredReviewRound
        {
            Id = request.Id,
            DocumentId = at.Stored.Id,
            Number = (await db.ReviewRounds.Where(r => r.DocumentId == at.Stored.Id).MaxAsync(r => (int?)r.Number, cancel) ?? 0) + 1,
            AskedBy = at.Person.Id,
            AskedAt = now,
            Note = request.Note.Trim(),
            Revision = at.Stored.Revision,
            Hash = seen.Hash,
            Rule = rule,
            Asked = named,
            Answers = new(said.Where(a => answered.Contains(a.Key)), StringComparer.Ordinal),
        };
        // Where nobody has to approve, whoever asks has said that it is done.
        if (rule.Needs.IsEmpty)
        {
            (round.State, round.ClosedAt) = (RoundState.Approved, now);
        }

        at.Stored.State = rule.Needs.IsEmpty ? EmailState.Approved : EmailState.InReview;
        db.ReviewRounds.Add(round);
        db.Record(
            clock,
            rule.Needs.IsEmpty ? LogKind.Approved : LogKind.ReviewAsked,
            at.Person.Id,
            at.Stored.Name,
            null,
            new Told(seen.Hash)
        );
        await TellIfApprovedAsync(at.Stored, cancel);
    }

    private Task TellIfApprovedAsync(StoredDocument email, CancellationToken cancel) =>
        email.State == EmailState.Approved
            ? WebhookEvents.AddAsync(
                WebhookEvents.Approved,
                new WebhookEvents.EmailTold(email.Id, email.Name, email.CampaignType ?? ""),
                db,
                clock,
                cancel
            )
            : Task.CompletedTask;

    public async Task<ReviewAnswer> TakeBackAsync(Guid id, Person everywhere, CancellationToken cancel)
    {
        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        var at = await emails.HoldAsync(id, everywhere, cancel);
        ProblemException.ThrowIfRefused(ReviewPermissions.MayTakeBack(at.Person, at.Stored.State));
        if (await OpenAsync(id, cancel) is { } round)
        {
            (round.State, round.ClosedAt) = (RoundState.TakenBack, clock.GetUtcNow().UtcDateTime);
        }

        at.Stored.State = EmailState.Draft;
        db.Record(clock, LogKind.ReviewTakenBack, at.Person.Id, at.Stored.Name);
        await db.SaveChangesAsync(cancel);
        await TellAsync(id, cancel);
        await turn.CommitAsync(CancellationToken.None);
        return await answers.AnswerAsync(at.Loaded, everywhere, cancel);
    }

    /// <param name="browser">Hash of the browser it is decided in. Null: it is not known.</param>
    public async Task<ReviewAnswer> DecideAsync(Guid id, Decide decide, Person everywhere, string? browser, CancellationToken cancel)
    {
        var reason = decide.Reason.Trim();
        if (reason.Length > LongestReason)
        {
            throw ProblemException.Invalid($"Say it in at most {LongestReason:N0} characters.", "reason");
        }

        if (decide.Verdict == ReviewVerdict.AskForChanges && reason.Length == 0)
        {
            throw ProblemException.Invalid("Say what is to be changed.", "reason");
        }

        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        var at = await emails.HoldAsync(id, everywhere, cancel);
        var stored = await OpenAsync(id, cancel);
        var compiled = compilations.Compile(at.Loaded, cancel);
        var seen = ReviewSight.Look(compiled, at.Loaded.Library);
        var writers = stored is null ? [] : await ReviewRounds.WritersAsync(at.Stored, stored.AskedBy, db, cancel);
        var round = stored is null ? null : ReviewRounds.Round(stored);
        ProblemException.ThrowIfRefused(ReviewPermissions.MayDecide(at.Person, round, writers, seen.Hash));
        if (seen.Hash != decide.Hash)
        {
            throw new ProblemException(
                409,
                "seen-changed",
                "It has changed since you looked",
                "What you looked at is not what there is now: something it takes by reference changed. Look again, then decide."
            );
        }

        var now = clock.GetUtcNow().UtcDateTime;
        var need = ReviewPermissions.NeedOf(at.Person, round!, seen.Hash)!;
        var shared = await KnownBrowsers.AlsoOfAsync(browser, at.Person.Id, writers, db, cancel);
        var after = round!.With(new ReviewDecision(need.Name, at.Person.Id, decide.Verdict, reason, now, seen.Hash));
        await ReviewSight.KeepAsync(db, id, seen, now, cancel);
        db.ReviewDecisions.Add(
            new StoredReviewDecision
            {
                RoundId = stored!.Id,
                Sequence = after.Decisions.Length,
                Need = need.Name,
                PersonId = at.Person.Id,
                Verdict = decide.Verdict,
                Reason = reason,
                At = now,
                Hash = seen.Hash,
                SameBrowserAs = shared,
            }
        );
        if (shared.Count > 0 && decide.Verdict == ReviewVerdict.Approve)
        {
            db.Record(clock, LogKind.ApprovedFromWritersBrowser, at.Person.Id, at.Stored.Name, null, new { Writers = shared }, shared[0]);
        }

        stored.State = after.State;
        stored.ClosedAt = after.State == RoundState.Open ? null : now;
        at.Stored.State = after.State switch
        {
            RoundState.Approved => EmailState.Approved,
            RoundState.ChangesAsked => EmailState.Draft,
            _ => EmailState.InReview,
        };
        db.Record(
            clock,
            decide.Verdict == ReviewVerdict.Approve ? LogKind.Approved : LogKind.ChangesAsked,
            at.Person.Id,
            at.Stored.Name,
            null,
            new Told(seen.Hash, need.Name)
        );
        await TellIfApprovedAsync(at.Stored, cancel);
        await db.SaveChangesAsync(cancel);
        await TellAsync(id, cancel);
        await turn.CommitAsync(CancellationToken.None);
        return await answers.AnswerAsync(at.Loaded, everywhere, cancel);
    }

    /// <summary>
    /// Looks at an approved email anew: where what was approved changed by itself, and the rule says so, the same people are asked
    /// again.
    /// </summary>
    /// <returns>Whether they were.</returns>
    public async Task<bool> LookAgainAsync(Guid id, CancellationToken cancel)
    {
        // Most are as they were: nobody who edits waits for those.
        if (await OvertakenAsync(await db.Documents.AsNoTracking().FirstOrDefaultAsync(d => d.Id == id, cancel), cancel) is null)
        {
            return false;
        }

        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        var stored = await db.Locked(id, null).FirstOrDefaultAsync(cancel);
        if (await OvertakenAsync(stored, cancel) is not var (approved, seen) || stored is null)
        {
            return false;
        }

        var now = clock.GetUtcNow().UtcDateTime;
        approved.State = RoundState.Overtaken;
        await ReviewSight.KeepAsync(db, id, seen, now, cancel);
        db.ReviewRounds.Add(
            new StoredReviewRound
            {
                Id = Guid.CreateVersion7(),
                DocumentId = id,
                Number = approved.Number + 1,
                AskedBy = approved.AskedBy,
                AskedAt = now,
                ByItself = true,
                Revision = stored.Revision,
                Hash = seen.Hash,
                Rule = approved.Rule,
                Asked = [.. approved.Asked],
                Answers = new(approved.Answers, StringComparer.Ordinal),
            }
        );
        stored.State = EmailState.InReview;
        db.Record(clock, LogKind.ApprovalOvertaken, null, stored.Name, null, new Told(seen.Hash));
        await db.SaveChangesAsync(cancel);
        await TellAsync(id, cancel);
        await turn.CommitAsync(CancellationToken.None);
        return true;
    }

    private async Task<(StoredReviewRound Round, SeenEmail Now)?> OvertakenAsync(StoredDocument? stored, CancellationToken cancel)
    {
        if (stored is not { State: EmailState.Approved })
        {
            return null;
        }

        var approved = await db
            .ReviewRounds.Include(r => r.Decisions)
            .Where(r => r.DocumentId == stored.Id)
            .OrderByDescending(r => r.Number)
            .FirstOrDefaultAsync(cancel);
        if (approved is not { State: RoundState.Approved, Rule: { Overtaken: WhenOvertaken.AskAgain, Needs.IsEmpty: false } })
        {
            return null;
        }

        var loaded = await emails.LoadAsync(stored, cancel);
        var seen = ReviewSight.Look(compilations.CompileOnce(loaded, cancel), loaded.Library);
        return ReviewRounds.ApprovedHash(approved) == seen.Hash ? null : (approved, seen);
    }

    private Task<StoredReviewRound?> OpenAsync(Guid id, CancellationToken cancel) =>
        db.ReviewRounds.Include(r => r.Decisions).FirstOrDefaultAsync(r => r.DocumentId == id && r.State == RoundState.Open, cancel);

    private Task TellAsync(Guid id, CancellationToken cancel) => LiveNews.TellAsync(db, id, LiveHub.Reviewed, "", "", cancel);

    private sealed record Told(string Hash, string? Approval = null);
}
