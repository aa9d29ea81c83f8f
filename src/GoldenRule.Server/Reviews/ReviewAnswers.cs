using System.Collections.Immutable;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Reviews;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Reviews;

/// <summary>How an email stands with those who approve it, as one person sees it.</summary>
public sealed class ReviewAnswers(GoldenRuleDb db, DocumentAccess access, CompilationCache compilations, ReviewComparisons comparisons)
{
    public async Task<ReviewAnswer> LookAsync(Guid id, Person person, CancellationToken cancel) =>
        await AnswerAsync(await access.LoadAsync(DocumentKind.Email, id, person, cancel), person, cancel);

    public async Task<ReviewAnswer> AnswerAsync(LoadedDocument loaded, Person everywhere, CancellationToken cancel)
    {
        var (stored, snapshot, rule) = (loaded.Stored, loaded.Library, ReviewRounds.RuleOf(loaded));
        var person = EditPipeline.Open(loaded).As(everywhere);
        var compiled = compilations.Compile(loaded, cancel);
        var hash = ReviewSight.Look(compiled, snapshot).Hash;
        var rounds = await db
            .ReviewRounds.AsNoTracking()
            .Include(r => r.Decisions.OrderBy(d => d.Sequence))
            .Where(r => r.DocumentId == stored.Id)
            .OrderByDescending(r => r.Number)
            .ToListAsync(cancel);
        var people = await ReviewRounds.PeopleAsync(loaded, db, cancel);
        var writers = await ReviewRounds.WritersAsync(stored, rounds.FirstOrDefault()?.AskedBy ?? stored.CreatedBy, db, cancel);
        var names = await NamesAsync(rounds, cancel);
        var open = rounds.FirstOrDefault(r => r.State == RoundState.Open);
        var approved = rounds.FirstOrDefault(r => r.State == RoundState.Approved);
        var changed = stored.State == EmailState.Approved && approved is not null && ReviewRounds.ApprovedHash(approved) != hash;
        var carries = approved?.Rule.Overtaken == WhenOvertaken.CarryOver || approved?.Rule.Needs.IsEmpty == true;
        var answers = rounds.FirstOrDefault()?.Answers ?? [];
        var warnings = compiled.Findings.Where(ReviewSight.IsWarning).Select(f => (Key: ReviewSight.KeyOf(f), f.Message)).ToList();
        var obstacles = ReviewSight.Obstacles(compiled, null);
        var decide = ReviewPermissions.MayDecide(person, open is null ? null : ReviewRounds.Round(open), writers, hash);
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
            decide is Decision.Allowed ? ReviewPermissions.NeedOf(person, ReviewRounds.Round(open!), hash)?.Name : null,
            await comparisons.AgainstAsync(loaded, rounds, cancel)
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
                .. ReviewRounds
                    .Round(round)
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

    private async Task<Dictionary<Guid, string>> NamesAsync(List<StoredReviewRound> rounds, CancellationToken cancel)
    {
        var ids = rounds
            .SelectMany(r => r.Decisions.SelectMany(d => d.SameBrowserAs.Prepend(d.PersonId)).Concat(r.Asked).Append(r.AskedBy))
            .Distinct()
            .ToList();
        return await db.Users.Where(u => ids.Contains(u.Id)).ToDictionaryAsync(u => u.Id, u => u.Name, cancel);
    }
}
