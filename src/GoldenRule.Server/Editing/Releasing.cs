using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Editing;

/// <param name="Note">What changed, 1 to 500 characters.</param>
/// <param name="Required">What is made from an older release must take this one before hand-off; of rows and templates.</param>
/// <param name="Again">An older release that is made again as the newest; null: the draft is released. Of rows and templates.</param>
public sealed record ReleaseRequest(string Note, bool Required = false, int? Again = null);

public sealed record ReleaseAnswer(int Release, DateTime At);

public sealed record ReleaseEntry(int Number, string Note, string Author, DateTime At);

/// <summary>A release as the log tells it.</summary>
internal sealed record ReleaseTold(DocumentKind Kind, Guid Id, int Release, string Note);

/// <summary>Makes a numbered, unchanging release of a master's draft.</summary>
public sealed class Releasing(GoldenRuleDb db, EditPipeline pipeline, CompilationCache compilations, TimeProvider clock)
{
    /// <param name="seen">The revision the asker saw, as If-Match writes it; null: any.</param>
    public async Task<ReleaseAnswer> ReleaseAsync(
        DocumentKind kind,
        Guid id,
        Person person,
        ReleaseRequest request,
        string? seen,
        CancellationToken cancel
    )
    {
        var note = Note(request.Note);
        var loaded = await pipeline.LoadAsync(kind, id, cancel);
        MustRelease(kind, person, EditPipeline.Open(loaded));
        MustBeSeen(loaded.Stored, seen);
        var revision = loaded.Stored.Revision;
        if (request.Again is { } number)
        {
            (loaded, revision) = await FormerAsync(loaded, number, cancel);
        }

        loaded = await MustBeCompleteAsync(loaded, cancel);
        var release = new StoredRelease
        {
            DocumentId = id,
            Number = (loaded.Library.Releases.Newest.GetValueOrDefault(id)?.Number ?? 0) + 1,
            Kind = kind,
            Revision = revision,
            Body = StoredForm.Write(loaded.Document),
            Note = note,
            Required = request.Required && kind != DocumentKind.HouseStyle,
            AuthorId = person.Id,
            At = clock.GetUtcNow().UtcDateTime,
        };
        db.AddRelease(release, loaded.Document);
        // What was planned is made, or comes too late.
        db.PlannedReleases.RemoveRange(await db.PlannedReleases.Where(p => p.DocumentId == id).ToListAsync(cancel));
        db.Record(clock, LogKind.Released, person.Id, loaded.Document.Name, null, new ReleaseTold(kind, id, release.Number, note));
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException fault) when (fault.IsTaken())
        {
            throw new ProblemException(
                412,
                "changed-since",
                "Released by another",
                $"Someone made release {release.Number} a moment ago. Look again, then release."
            );
        }

        return new ReleaseAnswer(release.Number, release.At);
    }

    /// <summary>What is released is complete, and can be drawn.</summary>
    /// <exception cref="StructureException">It cannot be released, and why.</exception>
    internal async Task<LoadedDocument> MustBeCompleteAsync(LoadedDocument loaded, CancellationToken cancel)
    {
        // Rows and templates may have come to use a variable since the draft lost it.
        var released = loaded.Library.Styles.All.GetValueOrDefault(loaded.Stored.Id);
        loaded = await Validity.CompleteAsync(released is null ? null : new DocumentHead(released), loaded, db, cancel);
        if (loaded.Document is not HouseStyle)
        {
            _ = compilations.CompileOnce(loaded, cancel);
            _ = compilations.CompileStarted(loaded, cancel);
        }

        return loaded;
    }

    /// <summary>The releases of a template or row, the newest first.</summary>
    public async Task<ImmutableArray<ReleaseEntry>> ListAsync(DocumentKind kind, Guid id, CancellationToken cancel) =>
        [
            .. await db
                .Releases.Where(r => r.DocumentId == id && r.Kind == kind)
                .OrderByDescending(r => r.Number)
                .Join(db.Users, r => r.AuthorId, u => u.Id, (r, u) => new ReleaseEntry(r.Number, r.Note, u.Name, r.At))
                .ToListAsync(cancel),
        ];

    /// <summary>A document as one of its releases has it, and the revision of the draft that was made from.</summary>
    /// <exception cref="ProblemException">There is no such release, or it cannot be made again.</exception>
    public async Task<(LoadedDocument Then, long Revision)> FormerAsync(LoadedDocument loaded, int number, CancellationToken cancel)
    {
        var (id, kind) = (loaded.Stored.Id, loaded.Stored.Kind);
        if (kind == DocumentKind.HouseStyle)
        {
            throw ProblemException.Invalid("A house style goes back by its draft: undo what was changed, then release.");
        }

        var former = await db.Releases.AsNoTracking().FirstOrDefaultAsync(r => r.DocumentId == id && r.Number == number, cancel)
            ?? throw ProblemException.NotFound($"There is no release {number} of it.");
        return (loaded with { Head = new DocumentHead(StoredForm.Read(kind, former.Body)), CompiledRevision = null }, former.Revision);
    }

    /// <exception cref="ProblemException">It is empty or too long.</exception>
    internal static string Note(string written) =>
        written.Trim() is { Length: > 0 and <= 500 } note
            ? note
            : throw ProblemException.Invalid("Say in a note of 1 to 500 characters what changed.", "note");

    /// <param name="seen">The revision the asker saw, as If-Match writes it; null: any.</param>
    /// <exception cref="ProblemException">The draft is another by now.</exception>
    internal static void MustBeSeen(StoredDocument stored, string? seen)
    {
        if (seen is not null && seen != $"\"{stored.Revision}\"")
        {
            throw new ProblemException(
                412,
                "changed-since",
                "The draft changed",
                "Someone changed the draft since you looked. Look again, then release."
            );
        }
    }

    internal static void MustRelease(DocumentKind kind, Person person, OpenDocument document)
    {
        if (kind == DocumentKind.HouseStyle)
        {
            person.MustBe("The house style is released by leads only.", Role.Lead);
        }
        else
        {
            person.MustBeFor(
                document.CampaignTypes,
                document.Teams,
                "Rows and templates are released by leads and designers only.",
                Role.Lead,
                Role.Designer
            );
        }
    }
}
