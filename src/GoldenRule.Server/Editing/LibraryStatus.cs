using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Editing;

/// <summary>How a template or saved row stands in the library. What is left out stays.</summary>
/// <param name="Retired">It is not offered any more; what uses it goes on.</param>
/// <param name="Private">Only its owner and the leads see it.</param>
/// <param name="Owner">Who answers for it.</param>
/// <param name="Heir">With Retired: what takes its place; null: nothing is named.</param>
public sealed record LibraryStatusChange(bool? Retired = null, bool? Private = null, Guid? Owner = null, Guid? Heir = null);

/// <summary>Whether a master's newest release is what its draft says.</summary>
public enum MasterState
{
    /// <summary>It has no release yet.</summary>
    Draft,

    Released,

    /// <summary>The draft is ahead of the newest release.</summary>
    Changed,

    Retired,
}

public static class LibraryStatus
{
    public static MasterState StateFor(bool retired, long revision, ReleaseMark? newest) =>
        newest switch
        {
            _ when retired => MasterState.Retired,
            null => MasterState.Draft,
            _ when newest.Revision == revision => MasterState.Released,
            _ => MasterState.Changed,
        };

    public static async Task ChangeAsync(
        DocumentKind kind,
        Guid id,
        LibraryStatusChange change,
        Person everywhere,
        GoldenRuleDb db,
        LibraryCache library,
        CancellationToken cancel
    )
    {
        MustMakeSome(everywhere);
        var stored = await db.Documents.FirstOrDefaultAsync(d => d.Id == id && d.Kind == kind, cancel) ?? throw EditPipeline.NotFound(kind);
        var teams = (await library.GetAsync(db, cancel)).Plan.Teams;
        var types = Types(stored.CampaignType, stored.Serves);
        var person = teams.For(everywhere, types);
        if (IsHidden(stored.Private, stored.Owner, person))
        {
            throw EditPipeline.NotFound(kind);
        }

        MustMake(everywhere, types, teams);
        if (change is { Private: not null } or { Owner: not null } && stored.Owner != person.Id && !person.Is(Role.Lead))
        {
            throw ProblemException.Refused(
                new Decision.Refused(Rules.Role, null, "Its owner or a lead says who sees it and who answers for it.")
            );
        }

        if (change.Owner is { } owner && !await db.Users.AnyAsync(u => u.Id == owner, cancel))
        {
            throw ProblemException.Invalid("There is no such person to answer for it.");
        }

        if (change.Retired is { } retired)
        {
            await MustFollowAsync(change, stored, db, cancel);
            (stored.Retired, stored.Heir) = (retired, change.Heir);
        }

        stored.Private = change.Private ?? stored.Private;
        stored.Owner = change.Owner ?? stored.Owner;
        await db.SaveChangesAsync(cancel);
    }

    // What takes its place is of the same kind, and there for everyone.
    private static async Task MustFollowAsync(LibraryStatusChange change, StoredDocument stored, GoldenRuleDb db, CancellationToken cancel)
    {
        if (change.Heir is not { } heir)
        {
            return;
        }

        var isOffered =
            change.Retired == true
            && heir != stored.Id
            && await db.Documents.AnyAsync(
                d => d.Id == heir && d.Kind == stored.Kind && !d.Retired && !d.Private && db.Releases.Any(r => r.DocumentId == d.Id),
                cancel
            );
        if (!isOffered)
        {
            throw ProblemException.Invalid("What takes its place is released, shared and not retired itself. Choose another.", "heir");
        }
    }

    /// <summary>Whether it is not even there for someone: it is private, and neither theirs nor are they a lead.</summary>
    public static bool IsHidden(bool isPrivate, Guid owner, Person person) => isPrivate && owner != person.Id && !person.Is(Role.Lead);

    /// <summary>Keys of the campaign types of a template or saved row; none: all.</summary>
    public static ImmutableArray<string> Types(string? campaignType, IReadOnlyCollection<string> serves) =>
        campaignType is null ? [.. serves] : [campaignType];

    private const string Makers = "Rows and templates are made by leads and designers. An author fills them in.";

    /// <summary>Rows and templates are made by leads and designers, of all teams or of those that the campaign types belong to.</summary>
    /// <param name="campaignTypes">What it is for; none: all.</param>
    public static void MustMake(Person person, ImmutableArray<string> campaignTypes, TeamPlan teams) =>
        person.MustBeFor(campaignTypes, teams, Makers, Role.Lead, Role.Designer);

    /// <summary>For whoever makes rows and templates of any team.</summary>
    public static void MustMakeSome(Person person) => person.MustBeAnywhere(Makers, Role.Lead, Role.Designer);

    /// <summary>
    /// Masters that a person sees in lists: authors what is released and offered, makers also drafts and what is retired.
    /// </summary>
    public static IQueryable<StoredDocument> SeenBy(this IQueryable<StoredDocument> documents, Person person, LibrarySnapshot library)
    {
        if (!person.IsAnywhere(Role.Lead, Role.Designer))
        {
            var released = library.Releases.Newest.Keys.Where(id => !library.Releases.Hidden.Contains(id)).ToList();
            return documents.Where(d => released.Contains(d.Id));
        }

        return person.Is(Role.Lead) ? documents : documents.Where(d => !d.Private || d.Owner == person.Id);
    }

    /// <summary>Emails that are there for a person; documents of other kinds stay.</summary>
    public static IQueryable<StoredDocument> EmailsSeenBy(this IQueryable<StoredDocument> documents, Person person, TeamPlan teams)
    {
        var hidden = teams.HiddenFrom(person);
        return hidden.IsEmpty
            ? documents
            : documents.Where(d => d.Kind != DocumentKind.Email || d.CampaignType == null || !hidden.Contains(d.CampaignType));
    }
}
