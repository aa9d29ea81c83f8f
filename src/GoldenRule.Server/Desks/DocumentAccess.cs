using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Desks;

/// <summary>Opens documents for those who may see them. What someone may not see is not there for them.</summary>
public sealed class DocumentAccess(GoldenRuleDb db, LibraryCache library, EditPipeline pipeline)
{
    public async Task<LoadedDocument> LoadAsync(DocumentKind kind, Guid id, Person person, CancellationToken cancel)
    {
        var loaded = await pipeline.LoadAsync(kind, id, cancel);
        MustSee(kind, Mark.Of(loaded.Stored), person, loaded.Library.Plan.Teams);
        return loaded;
    }

    /// <summary>An email as it stood at a revision, beside what it is now.</summary>
    public async Task<(LoadedDocument Now, Email Former)> AtAsync(Guid email, long revision, Person person, CancellationToken cancel)
    {
        await MustSeeAsync(DocumentKind.Email, email, person, cancel);
        return await pipeline.AtAsync(email, revision, cancel);
    }

    /// <summary>Whatever kind of document it is.</summary>
    public async Task MustSeeAsync(Guid id, Person person, CancellationToken cancel)
    {
        var kind = await db.Documents.Where(d => d.Id == id).Select(d => (DocumentKind?)d.Kind).FirstOrDefaultAsync(cancel)
            ?? throw ProblemException.NotFound("There is no such document.");
        if (kind is DocumentKind.Email or DocumentKind.Template or DocumentKind.Row)
        {
            await MustSeeAsync(kind, id, person, cancel);
        }
    }

    public async Task MustSeeAsync(DocumentKind kind, Guid id, Person person, CancellationToken cancel)
    {
        // Where all emails are there for someone it need not be asked which this is: every key would wait for it.
        if (kind == DocumentKind.Email && person.Roles.Length > 0)
        {
            return;
        }

        MustSee(kind, await FindAsync(kind, id, cancel), person, await TeamsAsync(cancel));
    }

    /// <summary>What is released is for everyone; a private one is not even there for others.</summary>
    public async Task MustBeThereAsync(DocumentKind kind, Guid id, Person person, CancellationToken cancel) =>
        MustBeThere(kind, await FindAsync(kind, id, cancel), person, await TeamsAsync(cancel));

    private static void MustSee(DocumentKind kind, Mark mark, Person person, TeamPlan teams)
    {
        MustBeThere(kind, mark, person, teams);
        // Drafts of the library are for those who make it, for whatever campaign type.
        if (kind is DocumentKind.Template or DocumentKind.Row)
        {
            person.MustBeAnywhere("Templates and saved rows are changed by leads and designers only.", Role.Lead, Role.Designer);
        }
    }

    private static void MustBeThere(DocumentKind kind, Mark mark, Person person, TeamPlan teams)
    {
        var isThere =
            kind == DocumentKind.Email
                ? teams.Sees(person, mark.CampaignType)
                : !LibraryStatus.IsHidden(mark.Private, mark.Owner, teams.For(person, mark.Types));
        if (!isThere)
        {
            throw EditPipeline.NotFound(kind);
        }
    }

    private async Task<Mark> FindAsync(DocumentKind kind, Guid id, CancellationToken cancel) =>
        await db
            .Documents.Where(d => d.Id == id && d.Kind == kind)
            .Select(d => new Mark(d.Private, d.Owner, d.CampaignType, d.Serves))
            .FirstOrDefaultAsync(cancel)
        ?? throw EditPipeline.NotFound(kind);

    private async Task<TeamPlan> TeamsAsync(CancellationToken cancel) => (await library.GetAsync(db, cancel)).Plan.Teams;

    /// <summary>What of a document says who sees it.</summary>
    private sealed record Mark(bool Private, Guid Owner, string? CampaignType, List<string> Serves)
    {
        public ImmutableArray<string> Types => LibraryStatus.Types(CampaignType, Serves);

        public static Mark Of(StoredDocument stored) => new(stored.Private, stored.Owner, stored.CampaignType, stored.Serves);
    }
}
