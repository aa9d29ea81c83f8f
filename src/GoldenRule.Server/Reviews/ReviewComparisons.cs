using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Reviews;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Reviews;

/// <summary>What an email is compared with, and what is not as it was.</summary>
public sealed class ReviewComparisons(GoldenRuleDb db, DocumentAccess access, CompilationCache compilations)
{
    /// <param name="wanted">Null: the first of what it can be compared with.</param>
    /// <param name="handOff">Number of the hand-off that is meant, where one is. Null: the last.</param>
    public async Task<ReviewComparison> CompareAsync(Guid id, ReviewAgainst? wanted, int? handOff, Person person, CancellationToken cancel)
    {
        var loaded = await access.LoadAsync(DocumentKind.Email, id, person, cancel);
        var against = wanted ?? (await AgainstAsync(loaded, await RoundsAsync(id, cancel), cancel))[0];
        var now = ReviewSight.Look(compilations.Compile(loaded, cancel), loaded.Library);
        var (label, before) = await FormerAsync(loaded, against, handOff, cancel)
            ?? throw ProblemException.NotFound("There is nothing of that sort to compare it with.");
        return new ReviewComparison(
            now.Hash,
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

    private async Task<(string Label, SeenEmail Seen)?> FormerAsync(
        LoadedDocument loaded,
        ReviewAgainst against,
        int? handOff,
        CancellationToken cancel
    )
    {
        var id = loaded.Stored.Id;
        switch (against)
        {
            case ReviewAgainst.Approval or ReviewAgainst.Asked:
                var rounds = db.ReviewRounds.AsNoTracking().Include(r => r.Decisions).Where(r => r.DocumentId == id);
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
                        against == ReviewAgainst.Approval ? ReviewRounds.ApprovedHash(round) : round.Hash,
                        cancel
                    )
                        is { } seen
                    ? (against == ReviewAgainst.Approval ? "As approved" : "As asked before", seen)
                    : null;
            case ReviewAgainst.HandOff:
                return await HandOffs.HandOffFiles.SeenAsync(id, handOff, db, cancel) is var (number, frozen)
                    ? ($"As handed off, {number}", frozen)
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
                    $"The template {template.Name}",
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
        return found is null ? null : (found.Round.DocumentId, found.Name, ReviewRounds.ApprovedHash(found.Round));
    }

    private Task<List<StoredReviewRound>> RoundsAsync(Guid id, CancellationToken cancel) =>
        db.ReviewRounds.AsNoTracking().Where(r => r.DocumentId == id).ToListAsync(cancel);

    internal async Task<ImmutableArray<ReviewAgainst>> AgainstAsync(
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

        if (await db.HandOffs.AnyAsync(h => h.DocumentId == loaded.Stored.Id, cancel))
        {
            against.Add(ReviewAgainst.HandOff);
        }

        if (await EarlierAsync(loaded, cancel) is not null)
        {
            against.Add(ReviewAgainst.Earlier);
        }

        against.Add(ReviewAgainst.Template);
        return against.ToImmutable();
    }
}
