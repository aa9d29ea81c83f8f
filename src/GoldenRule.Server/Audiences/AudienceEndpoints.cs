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
public sealed record MergeFieldEntry(MergeField Field, int Places, ImmutableArray<FieldFormat> Formats);

/// <summary>What the lead says about readers.</summary>
/// <param name="Change">Whether the asker may say so.</param>
public sealed record AudienceAnswer(
    Guid Id,
    long Revision,
    DateTime KeptAt,
    ImmutableArray<MergeFieldEntry> Fields,
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
                                request.Id,
                                redo,
                                request.Skip ?? [],
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

        audiences.MapGet("/fields/{key}/uses", UsesAsync).WithName("listFieldUses");
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

    private static async Task<UsesAnswer> UsesAsync(
        string key,
        ClaimsPrincipal user,
        LibraryCache library,
        GoldenRuleDb db,
        CancellationToken cancel,
        string? after = null
    ) =>
        (await library.GetAsync(db, cancel)).Audiences.FindField(key) is null
            ? throw ProblemException.NotFound($"There is no field \"{key}\".")
            : await WhereUsed.FindAsync(ReferenceKind.Field, [key], user.Person(), db, after, cancel);

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
        var places = await WhereUsed.CountAsync(ReferenceKind.Field, db, cancel);
        return new AudienceAnswer(
            loaded.Stored.Id,
            loaded.Stored.Revision,
            loaded.Stored.ChangedAt,
            [.. plan.Fields.Select(f => new MergeFieldEntry(f, places.GetValueOrDefault(f.Key), MergeField.FormatsOf(f.Type)))],
            Allowance.From(Governor.Decide(person, new Core.Edits.RemoveMergeField(""), new OpenDocument.OfAudiences(plan))),
            undo,
            redo
        );
    }
}
