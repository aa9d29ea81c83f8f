using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Releases;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Audiences;

/// <param name="Places">How many documents it stands in.</param>
/// <param name="Formats">How it may be written.</param>
/// <param name="Comparisons">What may be asked of it.</param>
public sealed record MergeFieldEntry(
    MergeField Field,
    int Places,
    ImmutableArray<FieldFormat> Formats,
    ImmutableArray<AskedComparison> Comparisons
);

/// <param name="Most">How many values it takes; 0: none.</param>
public sealed record AskedComparison(Comparison Comparison, int Most);

/// <param name="Readers">Its condition as a sentence.</param>
/// <param name="Places">How many documents show something to it.</param>
public sealed record AudienceEntry(Audience Audience, string Readers, int Places);

/// <param name="Faults">Why it cannot be asked.</param>
public sealed record ConditionSaid(string Readers, ImmutableArray<string> Faults);

/// <summary>What the lead says about readers.</summary>
/// <param name="Profiles">How sending platforms write all this, beside Mustache.</param>
/// <param name="Change">Whether the asker may say so.</param>
public sealed record AudienceAnswer(
    Guid Id,
    long Revision,
    DateTime KeptAt,
    ImmutableArray<MergeFieldEntry> Fields,
    ImmutableArray<AudienceEntry> Audiences,
    ImmutableArray<ExportProfile> Profiles,
    Allowance Change,
    bool CanUndo,
    bool CanRedo
);

/// <summary>The fields that are known of readers.</summary>
public static class AudienceEndpoints
{
    public static void MapAudiences(this IEndpointRouteBuilder api)
    {
        var audiences = api.MapGroup("/audiences").WithTags("Audiences");
        audiences.MapGet("", GetAsync).WithName("getAudiences");
        audiences.MapPost("/edits", EditAsync).WithName("editAudiences");
        foreach (var redo in new[] { false, true })
        {
            audiences
                .MapPost(
                    redo ? "/redo" : "/undo",
                    async (UndoRequest request, ClaimsPrincipal user, EditPipeline pipeline, GoldenRuleDb db, CancellationToken cancel) =>
                        await LayAsync(
                            await pipeline.UndoAsync(
                                DocumentKind.Audiences,
                                await IdAsync(db, cancel),
                                user.Person(),
                                request,
                                redo,
                                cancel
                            ),
                            user.Person(),
                            pipeline,
                            db,
                            cancel
                        )
                )
                .WithName(redo ? "redoAudiences" : "undoAudiences");
        }

        foreach (
            var (path, kind) in (ReadOnlySpan<(string, ReferenceKind)>)
                [("/fields", ReferenceKind.Field), ("/named", ReferenceKind.Audience)]
        )
        {
            audiences
                .MapGet(
                    path + "/{key}/uses",
                    (
                        string key,
                        ClaimsPrincipal user,
                        LibraryCache library,
                        GoldenRuleDb db,
                        CancellationToken cancel,
                        string? after = null
                    ) => UsesAsync(kind, key, user, library, db, after, cancel)
                )
                .WithName($"list{kind}Uses");
        }

        audiences.MapPost("/sentence", SentenceAsync).WithName("sayCondition");
        api.MapSampleReaders();
    }

    // There is one, made by a migration.
    private static Task<Guid> IdAsync(GoldenRuleDb db, CancellationToken cancel) =>
        db.Documents.Where(d => d.Kind == DocumentKind.Audiences).Select(d => d.Id).SingleAsync(cancel);

    private static async Task<AudienceAnswer> GetAsync(
        ClaimsPrincipal user,
        EditPipeline pipeline,
        GoldenRuleDb db,
        CancellationToken cancel
    ) =>
        await LayAsync(
            await pipeline.LoadAsync(DocumentKind.Audiences, await IdAsync(db, cancel), cancel),
            user.Person(),
            pipeline,
            db,
            cancel
        );

    private static async Task<AudienceAnswer> EditAsync(
        EditsRequest request,
        ClaimsPrincipal user,
        EditPipeline pipeline,
        GoldenRuleDb db,
        CancellationToken cancel
    ) =>
        await LayAsync(
            await pipeline.EditAsync(DocumentKind.Audiences, await IdAsync(db, cancel), user.Person(), request, cancel),
            user.Person(),
            pipeline,
            db,
            cancel
        );

    // In the words that everything else says it in, while it is being made.
    private static async Task<ConditionSaid> SentenceAsync(
        Condition condition,
        LibraryCache library,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        Condition.Check(condition, "condition");
        var plan = (await library.GetAsync(db, cancel)).Audiences;
        return new ConditionSaid(
            ConditionWords.Sentence(condition, plan),
            [.. condition.Leaves().Select(l => Conditions.Fault(l, plan)).OfType<string>().Distinct()]
        );
    }

    private static async Task<UsesAnswer> UsesAsync(
        ReferenceKind kind,
        string key,
        ClaimsPrincipal user,
        LibraryCache library,
        GoldenRuleDb db,
        string? after,
        CancellationToken cancel
    )
    {
        var snapshot = await library.GetAsync(db, cancel);
        var plan = snapshot.Audiences;
        var known = kind == ReferenceKind.Field ? plan.FindField(key) is not null : plan.FindAudience(key) is not null;
        return !known
            ? throw ProblemException.NotFound($"There is no {kind.ToString().ToLowerInvariant()} \"{key}\".")
            : await WhereUsed.FindAsync(kind, [key], user.Person(), snapshot.Plan.Teams, db, after, cancel);
    }

    private static async Task<AudienceAnswer> LayAsync(
        LoadedDocument loaded,
        Person person,
        EditPipeline pipeline,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var plan = (AudiencePlan)loaded.Document;
        var (undo, redo) = await pipeline.HistoryAsync(loaded, person.Id, cancel);
        var places = await WhereUsed.CountAsync(ReferenceKind.Field, person, loaded.Library.Plan.Teams, db, cancel);
        var shown = await WhereUsed.CountAsync(ReferenceKind.Audience, person, loaded.Library.Plan.Teams, db, cancel);
        return new AudienceAnswer(
            loaded.Stored.Id,
            loaded.Stored.Revision,
            loaded.Stored.ChangedAt,
            [
                .. plan.Fields.Select(f => new MergeFieldEntry(
                    f,
                    places.GetValueOrDefault(f.Key),
                    MergeField.FormatsOf(f.Type),
                    [.. Conditions.Of(f.Type).Select(c => new AskedComparison(c, Conditions.Values(c).Most))]
                )),
            ],
            [
                .. plan.Audiences.Select(a => new AudienceEntry(
                    a,
                    ConditionWords.Sentence(a.Condition, plan),
                    shown.GetValueOrDefault(a.Key)
                )),
            ],
            plan.Profiles,
            Allowance.From(Governor.Decide(person, new Core.Edits.RemoveMergeField(""), new OpenDocument.OfAudiences(plan))),
            undo,
            redo
        );
    }
}
