using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Releases;
using GoldenRule.Core.Updates;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.HouseStyles;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Desks;

/// <summary>What a release of a template or saved row would do to the emails that stand on an earlier one, once they take it.</summary>
/// <param name="Library">With the draft as the next release.</param>
/// <param name="Next">Its number.</param>
public sealed record MasterReach(DocumentKind Kind, Guid Id, int Next, LibrarySnapshot Library)
{
    public static MasterReach Of(LoadedDocument loaded)
    {
        var (id, library) = (loaded.Stored.Id, loaded.Library);
        var next = (library.Releases.Newest.GetValueOrDefault(id)?.Number ?? 0) + 1;
        var masters = loaded.Document switch
        {
            SavedRow row => library.Masters.With([KeyValuePair.Create((id, next), row)]),
            Template template => library.Masters.With(id, next, template),
            _ => throw ProblemException.NotFound("Only templates and saved rows are taken by release."),
        };
        return new MasterReach(loaded.Stored.Kind, id, next, library with { Masters = masters });
    }

    /// <summary>
    /// The emails that stand on it themselves and are not handed off; those that have a row by their template follow that.
    /// </summary>
    /// <param name="olderThan">Only those that stand on a release before this one. Null: on any.</param>
    public static IQueryable<StoredDocument> Emails(DocumentKind kind, Guid id, GoldenRuleDb db, int? olderThan = null)
    {
        var (reference, key) = (kind == DocumentKind.Row ? ReferenceKind.Row : ReferenceKind.Template, id.ToString());
        return db.Documents.Where(d =>
            d.Kind == DocumentKind.Email
            && d.State != EmailState.HandedOff
            && !d.Retired
            && db.References.Any(r =>
                r.DocumentId == d.Id
                && r.Kind == reference
                && r.Key == key
                && r.Release == StoredReference.OfHead
                && (olderThan == null || r.TargetRelease < olderThan)
            )
        );
    }

    /// <summary>The edit by which an email would take it.</summary>
    public TakeUpdate Update(Email email) =>
        Rebase.Plan(
            email,
            Kind == DocumentKind.Template ? Next : email.TemplateRelease,
            Kind == DocumentKind.Template
                ? ImmutableSortedDictionary<string, int>.Empty
                : email
                    .Zones.Values.SelectMany(z => z)
                    .Where(r => r.Own is null && r.Master == Id)
                    .ToImmutableSortedDictionary(r => r.Id, _ => Next, StringComparer.Ordinal),
            Library.Masters,
            Library.Pictures
        );

    /// <summary>What would break in an email, each as a sentence: blockers that it would get, and what would lose its place.</summary>
    /// <exception cref="StructureException">It cannot be drawn.</exception>
    public ImmutableArray<string> Breaks(Email email, string campaignType, DateOnly today, CancellationToken cancel)
    {
        var update = Update(email);
        var (before, after) = (Reached(email, campaignType, today), Reached((Email)update.Apply(email), campaignType, today));
        var blockers = Reach.NewBlockers(before, StyleOf(before), after, StyleOf(after), Library.Pictures, cancel);
        return
        [
            .. blockers.Select(ReachFinding.Sentence),
            .. update.Aside.Values.Where(a => a.Piece.Length > 0 || !a.Rows.IsEmpty).Select(a => $"Loses its place: {a.Where}. {a.Why}"),
        ];
    }

    private ReachedEmail Reached(Email email, string campaignType, DateOnly today) =>
        new(email, RunningOrder.From(email, Library.Masters), Library.CheckContextFor(campaignType, today), Library.InlineFor(email));

    private Core.HouseStyles.StyleLayers StyleOf(ReachedEmail email) => Library.Styles.For(email.Order.Template.HouseStyle);
}
