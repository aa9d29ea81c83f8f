using System.Collections.Immutable;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Reviews;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Reviews;

/// <summary>
/// Asking for approval, taking it back and deciding. Whatever changes how an email stands holds its row, as an edit does: of an edit
/// and a decision at the same time one is first, and the other is judged by what that left.
/// </summary>
public sealed class ReviewDesk(
    GoldenRuleDb db,
    LibraryCache library,
    HeadCache heads,
    DocumentAccess access,
    CompilationCache compilations,
    TimeProvider clock
)
{
    public const int LongestReason = 2_000;

    public async Task<ReviewAnswer> LookAsync(Guid id, Person person, CancellationToken cancel) =>
        await AnswerAsync(await access.LoadAsync(DocumentKind.Email, id, person, cancel), person, cancel);

    public async Task<ReviewAnswer> AskAsync(Guid id, AskForReview request, Person everywhere, CancellationToken cancel)
    {
        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        var at = await HoldAsync(id, everywhere, cancel);
        if (!await db.ReviewRounds.AnyAsync(r => r.Id == request.Id, cancel))
        {
            await BeginAsync(at, request, cancel);
            await db.SaveChangesAsync(cancel);
            await TellAsync(id, cancel);
            await turn.CommitAsync(CancellationToken.None);
        }

        return await AnswerAsync(at.Loaded, everywhere, cancel);
    }

    private async Task BeginAsync(Held at, AskForReview request, CancellationToken cancel)
    {
        var rule = RuleOf(at.Loaded);
        var answers = request.Answers ?? ImmutableSortedDictionary<string, string>.Empty;
        if (answers.Values.Concat([request.Note]).Any(said => said.Length > LongestReason))
        {
            throw ProblemException.Invalid($"Say it in at most {LongestReason:N0} characters.", "note");
        }

        var answered = answers.Where(a => !string.IsNullOrWhiteSpace(a.Value)).Select(a => a.Key).ToHashSet(StringComparer.Ordinal);
        var compiled = compilations.Compile(at.Loaded, cancel);
        Must(ReviewPermissions.MayAsk(at.Person, at.Stored.State, ReviewSight.Obstacles(compiled, rule.AnswerWarnings ? answered : null)));
        var writers = await WritersAsync(at.Stored, at.Person.Id, cancel);
        var people = await PeopleAsync(at.Loaded, cancel);
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
            Answers = new(answers.Where(a => answered.Contains(a.Key)), StringComparer.Ordinal),
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
    }

    public async Task<ReviewAnswer> TakeBackAsync(Guid id, Person everywhere, CancellationToken cancel)
    {
        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        var at = await HoldAsync(id, everywhere, cancel);
        Must(ReviewPermissions.MayTakeBack(at.Person, at.Stored.State));
        if (await OpenAsync(id, cancel) is { } round)
        {
            (round.State, round.ClosedAt) = (RoundState.TakenBack, clock.GetUtcNow().UtcDateTime);
        }

        at.Stored.State = EmailState.Draft;
        db.Record(clock, LogKind.ReviewTakenBack, at.Person.Id, at.Stored.Name);
        await db.SaveChangesAsync(cancel);
        await TellAsync(id, cancel);
        await turn.CommitAsync(CancellationToken.None);
        return await AnswerAsync(at.Loaded, everywhere, cancel);
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
        var at = await HoldAsync(id, everywhere, cancel);
        var stored = await OpenAsync(id, cancel);
        var compiled = compilations.Compile(at.Loaded, cancel);
        var seen = ReviewSight.Look(compiled, at.Loaded.Library);
        var writers = stored is null ? [] : await WritersAsync(at.Stored, stored.AskedBy, cancel);
        var round = stored is null ? null : Round(stored);
        Must(ReviewPermissions.MayDecide(at.Person, round, writers, seen.Hash));
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
        await db.SaveChangesAsync(cancel);
        await TellAsync(id, cancel);
        await turn.CommitAsync(CancellationToken.None);
        return await AnswerAsync(at.Loaded, everywhere, cancel);
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
            .ReviewRounds.Where(r => r.DocumentId == stored.Id)
            .OrderByDescending(r => r.Number)
            .FirstOrDefaultAsync(cancel);
        if (approved is not { State: RoundState.Approved, Rule: { Overtaken: WhenOvertaken.AskAgain, Needs.IsEmpty: false } })
        {
            return null;
        }

        var snapshot = await library.GetAsync(db, cancel);
        var loaded = new LoadedDocument(stored, heads.Load(stored, snapshot.Masters), snapshot);
        var seen = ReviewSight.Look(compilations.CompileOnce(loaded, cancel), snapshot);
        return await ApprovedHashAsync(approved, cancel) == seen.Hash ? null : (approved, seen);
    }

    /// <summary>What was approved last: of the last decision, or where nobody decides of the asking.</summary>
    private async Task<string> ApprovedHashAsync(StoredReviewRound round, CancellationToken cancel) =>
        await db
            .ReviewDecisions.Where(d => d.RoundId == round.Id)
            .OrderByDescending(d => d.Sequence)
            .Select(d => d.Hash)
            .FirstOrDefaultAsync(cancel)
        ?? round.Hash;

    private async Task<ReviewAnswer> AnswerAsync(LoadedDocument loaded, Person everywhere, CancellationToken cancel)
    {
        var (stored, snapshot, rule) = (loaded.Stored, loaded.Library, RuleOf(loaded));
        var person = EditPipeline.Open(loaded).As(everywhere);
        var compiled = compilations.Compile(loaded, cancel);
        var hash = ReviewSight.Look(compiled, snapshot).Hash;
        var rounds = await db
            .ReviewRounds.AsNoTracking()
            .Include(r => r.Decisions.OrderBy(d => d.Sequence))
            .Where(r => r.DocumentId == stored.Id)
            .OrderByDescending(r => r.Number)
            .ToListAsync(cancel);
        var people = await PeopleAsync(loaded, cancel);
        var writers = await WritersAsync(stored, rounds.FirstOrDefault()?.AskedBy ?? stored.CreatedBy, cancel);
        var names = await NamesAsync(rounds, cancel);
        var open = rounds.FirstOrDefault(r => r.State == RoundState.Open);
        var approved = rounds.FirstOrDefault(r => r.State == RoundState.Approved);
        var changed =
            stored.State == EmailState.Approved
            && approved is not null
            && (approved.Decisions.Count > 0 ? approved.Decisions[^1].Hash : approved.Hash) != hash;
        var carries = approved?.Rule.Overtaken == WhenOvertaken.CarryOver || approved?.Rule.Needs.IsEmpty == true;
        var answers = rounds.FirstOrDefault()?.Answers ?? [];
        var warnings = compiled.Findings.Where(ReviewSight.IsWarning).Select(f => (Key: ReviewSight.KeyOf(f), f.Message)).ToList();
        var obstacles = ReviewSight.Obstacles(compiled, null);
        var decide = ReviewPermissions.MayDecide(person, open is null ? null : Round(open), writers, hash);
        return new ReviewAnswer(
            stored.Id,
            stored.Name,
            stored.CampaignType ?? "",
            snapshot.Plan.Find(stored.CampaignType)?.Name ?? "",
            stored.State,
            stored.Revision,
            hash,
            changed && !carries,
            changed && carries,
            obstacles,
            [.. warnings.DistinctBy(w => w.Key).Select(w => new WarningEntry(w.Key, w.Message, answers.GetValueOrDefault(w.Key, "")))],
            compiled.Findings.Count(f => f is { Severity: Severity.Advise, ToFill: false }),
            rule.AnswerWarnings,
            [.. rule.Needs.Select(n => new ApprovalEntry(n.Name, null, null, null, "", false, May(n, people, writers), []))],
            [.. rounds.Select(r => Entry(r, hash, people, writers, names, person.Is(Role.Lead)))],
            Allowance.From(ReviewPermissions.MayAsk(person, stored.State, obstacles)),
            Allowance.From(ReviewPermissions.MayTakeBack(person, stored.State)),
            Allowance.From(decide),
            decide is Decision.Allowed ? ReviewPermissions.NeedOf(person, Round(open!), hash)?.Name : null,
            await AgainstAsync(loaded, rounds, cancel)
        );
    }

    private static RoundEntry Entry(
        StoredReviewRound round,
        string hash,
        List<Person> people,
        HashSet<Guid> writers,
        Dictionary<Guid, string> names,
        bool forLead
    )
    {
        PersonEntry Named(Guid id) => new(id, names.GetValueOrDefault(id, ""));
        return new RoundEntry(
            round.Number,
            round.State,
            Named(round.AskedBy),
            round.AskedAt,
            round.ByItself,
            round.Note,
            [.. round.Asked.Select(Named)],
            round.ClosedAt,
            [
                .. Round(round)
                    .Standing(hash)
                    .Select(s => new ApprovalEntry(
                        s.Need.Name,
                        s.Decision?.Verdict,
                        s.Decision is { } by ? Named(by.Person) : null,
                        s.Decision?.At,
                        s.Decision?.Reason ?? "",
                        s.Holds,
                        round.State == RoundState.Open ? May(s.Need, people, writers) : [],
                        forLead && s.Decision is { } one
                            ?
                            [
                                .. round
                                    .Decisions.Where(d => d.PersonId == one.Person)
                                    .SelectMany(d => d.SameBrowserAs)
                                    .Distinct()
                                    .Select(Named),
                            ]
                            : []
                    )),
            ]
        );
    }

    private static ImmutableArray<PersonEntry> May(ApprovalNeed need, List<Person> people, HashSet<Guid> writers) =>
        [.. people.Where(p => need.IsMetBy(p) && !writers.Contains(p.Id)).Select(p => new PersonEntry(p.Id, p.Name))];

    public async Task<ReviewComparison> CompareAsync(Guid id, ReviewAgainst against, Person person, CancellationToken cancel)
    {
        var loaded = await access.LoadAsync(DocumentKind.Email, id, person, cancel);
        var now = ReviewSight.Look(compilations.Compile(loaded, cancel), loaded.Library);
        var (label, before) = await FormerAsync(loaded, against, cancel)
            ?? throw ProblemException.NotFound("There is nothing of that sort to compare it with.");
        return new ReviewComparison(
            against,
            new ComparedSide(label, before.Html()),
            new ComparedSide("Now", now.Html()),
            WordMarks.Compare(before.Text, now.Text),
            SeenDifference.Between(before, now),
            [
                .. now.Details.Select(f => new CommentableField("", "", f.Name, f.Label, f.Words)),
                .. from row in now.Rows
                from block in row.Blocks
                from field in block.Fields
                where field.Words.Length > 0
                select new CommentableField(row.Id, block.Id, field.Name, $"{row.Name}, {block.Name}", field.Words),
            ]
        );
    }

    private async Task<(string Label, SeenEmail Seen)?> FormerAsync(LoadedDocument loaded, ReviewAgainst against, CancellationToken cancel)
    {
        var id = loaded.Stored.Id;
        switch (against)
        {
            case ReviewAgainst.Approval or ReviewAgainst.Asked:
                var rounds = db.ReviewRounds.AsNoTracking().Where(r => r.DocumentId == id);
                var round = await (
                    against == ReviewAgainst.Approval
                        ? rounds.Where(r => r.State == RoundState.Approved || r.State == RoundState.Overtaken)
                        : rounds.Where(r => r.State != RoundState.Open)
                )
                    .OrderByDescending(r => r.Number)
                    .FirstOrDefaultAsync(cancel);
                return
                    round is not null
                    && await ReviewSight.FindAsync(
                        db,
                        id,
                        against == ReviewAgainst.Approval ? await ApprovedHashAsync(round, cancel) : round.Hash,
                        cancel
                    )
                        is { } seen
                    ? (against == ReviewAgainst.Approval ? "As approved" : "As asked before", seen)
                    : null;
            case ReviewAgainst.Earlier:
                return
                    await EarlierAsync(loaded, cancel) is { } other
                    && await ReviewSight.FindAsync(db, other.Id, other.Hash, cancel) is { } approved
                    ? (other.Name, approved)
                    : null;
            default:
                var email = (Email)loaded.Document;
                var (template, next) = (loaded.Layout.Order.Template, 0);
                var begun = Email.StartFrom(email.Template, email.TemplateRelease, template, email.Name, () => $"new-{next++}");
                return (
                    $"As {template.Name} begins",
                    ReviewSight.Look(
                        compilations.CompileOnce(new LoadedDocument(loaded.Stored, begun, loaded.Library), cancel),
                        loaded.Library
                    )
                );
        }
    }

    private async Task<(Guid Id, string Name, string Hash)?> EarlierAsync(LoadedDocument loaded, CancellationToken cancel)
    {
        var (id, template) = (loaded.Stored.Id, ((Email)loaded.Document).Template.ToString());
        var found = await db
            .ReviewRounds.AsNoTracking()
            .Where(r =>
                r.DocumentId != id
                && r.State == RoundState.Approved
                && db.References.Any(u =>
                    u.DocumentId == r.DocumentId && u.Kind == Core.Releases.ReferenceKind.Template && u.Key == template
                )
            )
            .OrderByDescending(r => r.AskedAt)
            .Join(db.Documents, r => r.DocumentId, d => d.Id, (r, d) => new { Round = r, d.Name })
            .FirstOrDefaultAsync(cancel);
        return found is null ? null : (found.Round.DocumentId, found.Name, await ApprovedHashAsync(found.Round, cancel));
    }

    private async Task<ImmutableArray<ReviewAgainst>> AgainstAsync(
        LoadedDocument loaded,
        List<StoredReviewRound> rounds,
        CancellationToken cancel
    )
    {
        var against = ImmutableArray.CreateBuilder<ReviewAgainst>();
        if (rounds.Exists(r => r.State is RoundState.Approved or RoundState.Overtaken))
        {
            against.Add(ReviewAgainst.Approval);
        }

        if (rounds.Exists(r => r.State != RoundState.Open))
        {
            against.Add(ReviewAgainst.Asked);
        }

        if (await EarlierAsync(loaded, cancel) is not null)
        {
            against.Add(ReviewAgainst.Earlier);
        }

        against.Add(ReviewAgainst.Template);
        return against.ToImmutable();
    }

    private static ReviewRule RuleOf(LoadedDocument loaded) =>
        loaded.Library.Plan.Find(loaded.Stored.CampaignType)?.ReviewRule ?? ReviewRule.Usual;

    internal static ReviewRound Round(StoredReviewRound stored) =>
        new(
            stored.Number,
            stored.AskedBy,
            stored.Revision,
            stored.Rule.Needs,
            stored.Rule.Overtaken,
            [
                .. stored
                    .Decisions.OrderBy(d => d.Sequence)
                    .Select(d => new ReviewDecision(d.Need, d.PersonId, d.Verdict, d.Reason, d.At, d.Hash)),
            ],
            stored.State
        );

    private async Task<Dictionary<Guid, string>> NamesAsync(List<StoredReviewRound> rounds, CancellationToken cancel)
    {
        var ids = rounds
            .SelectMany(r => r.Decisions.SelectMany(d => d.SameBrowserAs.Prepend(d.PersonId)).Concat(r.Asked).Append(r.AskedBy))
            .Distinct()
            .ToList();
        return await db.Users.Where(u => ids.Contains(u.Id)).ToDictionaryAsync(u => u.Id, u => u.Name, cancel);
    }

    private async Task<List<Person>> PeopleAsync(LoadedDocument loaded, CancellationToken cancel)
    {
        var open = EditPipeline.Open(loaded);
        return [.. (await Everyone.ListAsync(db, cancel)).Select(open.As)];
    }

    /// <summary>Whoever wrote in it, began it or asked: none of them approves it.</summary>
    private async Task<HashSet<Guid>> WritersAsync(StoredDocument stored, Guid asker, CancellationToken cancel) =>
        [
            .. await db.Edits.Where(e => e.DocumentId == stored.Id).Select(e => e.AuthorId).Distinct().ToListAsync(cancel),
            stored.CreatedBy,
            asker,
        ];

    private Task<StoredReviewRound?> OpenAsync(Guid id, CancellationToken cancel) =>
        db.ReviewRounds.Include(r => r.Decisions).FirstOrDefaultAsync(r => r.DocumentId == id && r.State == RoundState.Open, cancel);

    private async Task<Held> HoldAsync(Guid id, Person everywhere, CancellationToken cancel)
    {
        await access.MustSeeAsync(DocumentKind.Email, id, everywhere, cancel);
        var stored = await db.Locked(id, null).FirstOrDefaultAsync(cancel);
        if (stored is not { Kind: DocumentKind.Email })
        {
            throw EditPipeline.NotFound(DocumentKind.Email);
        }

        var snapshot = await library.GetAsync(db, cancel);
        var loaded = new LoadedDocument(stored, heads.Load(stored, snapshot.Masters), snapshot);
        return new Held(stored, loaded, EditPipeline.Open(loaded).As(everywhere));
    }

    private Task TellAsync(Guid id, CancellationToken cancel) => LiveNews.TellAsync(db, id, LiveHub.Reviewed, "", "", cancel);

    private static void Must(Decision decision)
    {
        switch (decision)
        {
            // Not a question of who asks.
            case Decision.Refused { Rule: Rules.State } refused:
                throw new ProblemException(409, "state", "It is not the time for this", refused.Reason);
            case Decision.Refused refused:
                throw ProblemException.Refused(refused);
            default:
                break;
        }
    }

    /// <param name="Person">With the roles that hold for it.</param>
    private sealed record Held(StoredDocument Stored, LoadedDocument Loaded, Person Person);

    private sealed record Told(string Hash, string? Approval = null);
}
