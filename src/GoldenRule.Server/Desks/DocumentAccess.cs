using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Desks;

/// <summary>Opens documents for those who may see them. What someone may not see is not there for them.</summary>
public sealed class DocumentAccess(GoldenRuleDb db, EditPipeline pipeline)
{
    public async Task<LoadedDocument> LoadAsync(DocumentKind kind, Guid id, Person person, CancellationToken cancel)
    {
        var loaded = await pipeline.LoadAsync(kind, id, cancel);
        if (kind == DocumentKind.Email)
        {
            return loaded;
        }

        if (LibraryStatus.IsHidden(loaded.Stored.Private, loaded.Stored.Owner, person))
        {
            throw EditPipeline.NotFound(kind);
        }

        MustMake(person);
        return loaded;
    }

    /// <summary>Whatever kind of document it is.</summary>
    public async Task MustSeeAsync(Guid id, Person person, CancellationToken cancel)
    {
        var kind = await db.Documents.Where(d => d.Id == id).Select(d => (DocumentKind?)d.Kind).FirstOrDefaultAsync(cancel)
            ?? throw ProblemException.NotFound("There is no such document.");
        if (kind is DocumentKind.Template or DocumentKind.Row)
        {
            await MustSeeAsync(kind, id, person, cancel);
        }
    }

    public async Task MustSeeAsync(DocumentKind kind, Guid id, Person person, CancellationToken cancel)
    {
        if (kind == DocumentKind.Email)
        {
            return;
        }

        await MustBeThereAsync(kind, id, person, cancel);
        MustMake(person);
    }

    /// <summary>What is released is for everyone; a private one is not even there for others.</summary>
    public async Task MustBeThereAsync(DocumentKind kind, Guid id, Person person, CancellationToken cancel)
    {
        var found = await db
            .Documents.Where(d => d.Id == id && d.Kind == kind)
            .Select(d => new { d.Private, d.Owner })
            .FirstOrDefaultAsync(cancel);
        if (found is null || LibraryStatus.IsHidden(found.Private, found.Owner, person))
        {
            throw EditPipeline.NotFound(kind);
        }
    }

    // Drafts of the library are for those who make it.
    private static void MustMake(Person person) =>
        person.MustBe("Templates and saved rows are changed by leads and designers only.", Role.Lead, Role.Designer);
}
