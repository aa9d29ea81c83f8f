using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Editing;

/// <summary>An email that nobody else changes until the transaction ends.</summary>
/// <param name="Person">Whoever asks, with the roles that hold for it.</param>
public sealed record HeldEmail(StoredDocument Stored, LoadedDocument Loaded, Person Person);

/// <summary>
/// Whatever changes how an email stands holds its row, as an edit does: of an edit and a decision at the same time one is first, and
/// the other is judged by what that left.
/// </summary>
public sealed class HeldEmails(GoldenRuleDb db, LibraryCache library, HeadCache heads, DocumentAccess access)
{
    public async Task<HeldEmail> HoldAsync(Guid id, Person everywhere, CancellationToken cancel)
    {
        await access.MustSeeAsync(DocumentKind.Email, id, everywhere, cancel);
        var stored = await db.Locked(id, null).FirstOrDefaultAsync(cancel);
        if (stored is not { Kind: DocumentKind.Email })
        {
            throw EditPipeline.NotFound(DocumentKind.Email);
        }

        var loaded = await LoadAsync(stored, cancel);
        return new HeldEmail(stored, loaded, EditPipeline.Open(loaded).As(everywhere));
    }

    public async Task<LoadedDocument> LoadAsync(StoredDocument stored, CancellationToken cancel)
    {
        var snapshot = await library.GetAsync(db, cancel);
        return heads.Open(stored, snapshot);
    }
}
