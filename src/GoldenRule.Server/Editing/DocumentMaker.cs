using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Validation;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Editing;

/// <summary>Makes new documents. Asked twice with one id, one is made.</summary>
public sealed class DocumentMaker(GoldenRuleDb db, LibraryCache library, CompilationCache compilations, TimeProvider clock)
{
    /// <param name="make">Called only where there is no document of that id yet.</param>
    /// <param name="campaignType">Of an email: it has it by its template.</param>
    public async Task<StoredDocument> MakeAsync(
        Guid id,
        DocumentKind kind,
        Person person,
        Func<LibrarySnapshot, Task<(Document Document, string? CampaignType)>> make,
        CancellationToken cancel
    )
    {
        if (await FindAsync(id, kind, person, cancel) is { } known)
        {
            return known;
        }

        var snapshot = await library.GetAsync(db, cancel);
        var (document, campaignType) = await make(snapshot);
        DocumentBounds.Check(document, null);
        // What comes from outside is held to the same rules as what is edited here.
        var loaded = await Validity.CompleteAsync(
            null,
            new LoadedDocument(Stored(id, kind, person, document, campaignType), document, snapshot),
            db,
            cancel
        );
        if (document.HasRows)
        {
            _ = compilations.CompileOnce(loaded, cancel);
        }

        var stored = Stored(id, kind, person, loaded.Document, campaignType);
        db.Documents.Add(stored);
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException fault) when (fault.IsTaken())
        {
            // Asked twice at the same moment.
            db.ChangeTracker.Clear();
            return await FindAsync(id, kind, person, cancel)
                ?? throw new ProblemException(
                    409,
                    "key-taken",
                    "The technical name is taken",
                    "Someone has just taken that technical name. Choose another."
                );
        }

        return stored;
    }

    private async Task<StoredDocument?> FindAsync(Guid id, DocumentKind kind, Person person, CancellationToken cancel)
    {
        var known = await db.Documents.AsNoTracking().FirstOrDefaultAsync(d => d.Id == id, cancel);
        return known is null || (known.Kind == kind && known.CreatedBy == person.Id)
            ? known
            : throw new ProblemException(409, "conflict", "The id is taken", "Another document has this id. Ask again with a new one.");
    }

    public StoredDocument Stored(Guid id, DocumentKind kind, Person person, Document document, string? campaignType)
    {
        var json = StoredForm.Write(document);
        var now = clock.GetUtcNow().UtcDateTime;
        var stored = new StoredDocument
        {
            Id = id,
            Kind = kind,
            Name = document.Name,
            CampaignType = campaignType,
            Origin = json,
            Head = json,
            CreatedBy = person.Id,
            Owner = person.Id,
            CreatedAt = now,
            ChangedAt = now,
        };
        stored.UpdateIndexColumns(document);
        stored.AddReferences(document);
        return stored;
    }

    /// <summary>A name as someone typed it, without blanks around it.</summary>
    public static string Name(string name, string what, int most = Document.LongestName) =>
        name.Trim() is { Length: > 0 } trimmed && trimmed.Length <= most
            ? trimmed
            : throw ProblemException.Invalid($"Give the {what} a name of 1 to {most} characters.");
}
