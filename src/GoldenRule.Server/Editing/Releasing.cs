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
public sealed record ReleaseRequest(string Note, bool Required = false);

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
        var note = request.Note.Trim();
        if (note.Length is 0 or > 500)
        {
            throw ProblemException.Invalid("Say in a note of 1 to 500 characters what changed.");
        }

        var loaded = await pipeline.LoadAsync(kind, id, cancel);
        MustRelease(kind, person, EditPipeline.Open(loaded));
        if (seen is not null && seen != $"\"{loaded.Stored.Revision}\"")
        {
            throw new ProblemException(
                412,
                "changed-since",
                "The draft changed",
                "Someone changed the draft since you looked. Look again, then release."
            );
        }

        // Rows and templates may have come to use a variable since the draft lost it.
        var released = loaded.Library.Styles.All.GetValueOrDefault(id);
        loaded = await Validity.CompleteAsync(released is null ? null : new DocumentHead(released), loaded, db, cancel);
        if (loaded.Document is not HouseStyle)
        {
            _ = compilations.CompileOnce(loaded, cancel);
            _ = compilations.CompileStarted(loaded, cancel);
        }

        var release = new StoredRelease
        {
            DocumentId = id,
            Number = (loaded.Library.Releases.Newest.GetValueOrDefault(id)?.Number ?? 0) + 1,
            Kind = kind,
            Revision = loaded.Stored.Revision,
            Body = StoredForm.Write(loaded.Document),
            Note = note,
            Required = request.Required && kind != DocumentKind.HouseStyle,
            AuthorId = person.Id,
            At = clock.GetUtcNow().UtcDateTime,
        };
        db.AddRelease(release, loaded.Document);
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

    /// <summary>The releases of a template or row, the newest first.</summary>
    public async Task<ImmutableArray<ReleaseEntry>> ListAsync(DocumentKind kind, Guid id, CancellationToken cancel) =>
        [
            .. await db
                .Releases.Where(r => r.DocumentId == id && r.Kind == kind)
                .OrderByDescending(r => r.Number)
                .Join(db.Users, r => r.AuthorId, u => u.Id, (r, u) => new ReleaseEntry(r.Number, r.Note, u.Name, r.At))
                .ToListAsync(cancel),
        ];

    private static void MustRelease(DocumentKind kind, Person person, OpenDocument document)
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
