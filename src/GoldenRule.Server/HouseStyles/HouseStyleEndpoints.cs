using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Interchange;
using GoldenRule.Core.Releases;
using GoldenRule.Core.Specimens;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.HouseStyles;

/// <summary>House styles: making and changing them, and where their variables are used.</summary>
public static class HouseStyleEndpoints
{
    public static void MapHouseStyles(this IEndpointRouteBuilder api)
    {
        var styles = api.MapGroup("/house-styles").WithTags("House styles");
        styles.MapGet("", ListAsync).WithName("listHouseStyles");
        styles.MapPost("", MakeAsync).WithName("makeHouseStyle");
        styles.MapGet("/usual-variables", () => UsualVariables.Edits).WithName("listUsualVariables");
        styles.MapGet("/specimen-pieces", () => SpecimenPieces).WithName("listSpecimenPieces");
        styles.MapGet("/{id:guid}", GetAsync).WithName("getHouseStyle");
        styles.MapPost("/{id:guid}/edits", EditAsync).WithName("editHouseStyle");
        styles
            .MapPost(
                "/{id:guid}/undo",
                (
                    Guid id,
                    UndoRequest request,
                    ClaimsPrincipal user,
                    EditPipeline pipeline,
                    HouseStyleAnswers answers,
                    CancellationToken cancel
                ) => UndoAsync(id, request, false, user, pipeline, answers, cancel)
            )
            .WithName("undoHouseStyle");
        styles
            .MapPost(
                "/{id:guid}/redo",
                (
                    Guid id,
                    UndoRequest request,
                    ClaimsPrincipal user,
                    EditPipeline pipeline,
                    HouseStyleAnswers answers,
                    CancellationToken cancel
                ) => UndoAsync(id, request, true, user, pipeline, answers, cancel)
            )
            .WithName("redoHouseStyle");
        styles.MapGet("/{id:guid}/variables/{key}/uses", UsesAsync).WithName("listVariableUses");
        styles.MapStyleReach();
        styles.MapStyleReleases();
        styles.MapStyleExchange();
    }

    private static readonly ImmutableArray<SpecimenPiece> SpecimenPieces =
    [
        .. Specimen.Shows.Select(s => new SpecimenPiece(
            s.Key,
            Specimen.Label(s.Key),
            [.. s.Value.Select(v => new ShownProperty(v.Style, v.Property))]
        )),
    ];

    private static async Task<ImmutableArray<HouseStyleEntry>> ListAsync(GoldenRuleDb db, LibraryCache library, CancellationToken cancel)
    {
        var snapshot = await library.GetAsync(db, cancel);
        var stored = await db
            .Documents.AsNoTracking()
            .Where(d => d.Kind == DocumentKind.HouseStyle)
            .OrderBy(d => d.CreatedAt)
            .ThenBy(d => d.Id)
            .ToListAsync(cancel);
        return
        [
            .. stored
                .Select(d => (d, Style: DocumentJson.ReadDocument<HouseStyle>(d.Head)))
                .Select(s => new HouseStyleEntry(
                    s.d.Id,
                    s.Style.Name,
                    s.Style.Parent,
                    snapshot.Releases.Newest.GetValueOrDefault(s.d.Id)?.Number ?? 0,
                    s.d.ChangedAt,
                    s.Style.Variables.Length + s.Style.Styles.Sum(p => p.Value.Count)
                ))
                // The oldest that stands alone and is in use comes first: it is the one most people mean.
                .OrderBy(s => s.Parent is not null)
                .ThenBy(s => s.Release == 0),
        ];
    }

    private static async Task<HouseStyleEntry> MakeAsync(
        NewHouseStyle request,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        LibraryCache library,
        DocumentMaker maker,
        CancellationToken cancel
    )
    {
        user.Person().MustBe("House styles are made by leads only.", Role.Lead);

        var name = request.Name.Trim();
        if (name.Length is 0 or > 120 || request.Id == Guid.Empty)
        {
            throw ProblemException.Invalid("A house style has a name of 1 to 120 characters and an id made by whoever asks for it.");
        }

        var snapshot = await library.GetAsync(db, cancel);
        if (request.Parent is { } parent && !snapshot.Styles.All.ContainsKey(parent))
        {
            throw ProblemException.Invalid("A sub-brand lies on a house style that is released. Release that one first.");
        }

        var known = await db.Documents.AsNoTracking().FirstOrDefaultAsync(d => d.Id == request.Id, cancel);
        if (known is not null)
        {
            return
                known.Kind == DocumentKind.HouseStyle
                && DocumentJson.ReadDocument<HouseStyle>(known.Origin) is var made
                && made.Name == name
                && made.Parent == request.Parent
                ? new HouseStyleEntry(known.Id, known.Name, made.Parent, 0, known.ChangedAt, 0)
                : throw new ProblemException(409, "conflict", "The id is taken", "Something else was made with this id.");
        }

        var stored = maker.Stored(
            request.Id,
            DocumentKind.HouseStyle,
            user.Person(),
            new HouseStyle { Name = name, Parent = request.Parent },
            null
        );
        db.Documents.Add(stored);
        await db.SaveChangesAsync(cancel);
        return new HouseStyleEntry(request.Id, name, request.Parent, 0, stored.CreatedAt, 0);
    }

    private static async Task<HouseStyleAnswer> GetAsync(
        Guid id,
        ClaimsPrincipal user,
        EditPipeline pipeline,
        HouseStyleAnswers answers,
        CancellationToken cancel
    ) => await LayAsync(await pipeline.LoadAsync(DocumentKind.HouseStyle, id, cancel), user, pipeline, answers, cancel);

    private static async Task<HouseStyleAnswer> EditAsync(
        Guid id,
        EditsRequest request,
        ClaimsPrincipal user,
        EditPipeline pipeline,
        HouseStyleAnswers answers,
        CancellationToken cancel
    )
    {
        var person = user.Person();
        var (loaded, laid) = await pipeline.EditAsync(
            DocumentKind.HouseStyle,
            id,
            person,
            request,
            now => (now, HouseStyleRoom.Lay(now, person)),
            cancel
        );
        var (undo, redo) = await pipeline.HistoryAsync(loaded, person.Id, cancel);
        return answers.Changed(request.Seen ?? request.Base, loaded, laid with { CanUndo = undo, CanRedo = redo });
    }

    private static async Task<HouseStyleAnswer> UndoAsync(
        Guid id,
        UndoRequest request,
        bool redo,
        ClaimsPrincipal user,
        EditPipeline pipeline,
        HouseStyleAnswers answers,
        CancellationToken cancel
    ) =>
        await LayAsync(
            await pipeline.UndoAsync(DocumentKind.HouseStyle, id, user.Person(), request, redo, cancel),
            user,
            pipeline,
            answers,
            cancel
        );

    private static async Task<VariableUsesAnswer> UsesAsync(
        Guid id,
        string key,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        EditPipeline pipeline,
        CancellationToken cancel
    )
    {
        var loaded = await pipeline.LoadAsync(DocumentKind.HouseStyle, id, cancel);
        var layers = loaded.StyleLayers;
        var variable = layers.Find(key) ?? throw ProblemException.NotFound($"There is no brand variable \"{key}\".");
        string[] keys = [variable.Key, .. variable.Formerly];
        var used = await WhereUsed.FindAsync(ReferenceKind.Variable, keys, user.Person(), loaded.Library.Plan.Teams, db, null, cancel);
        return new VariableUsesAnswer(
            [.. HouseStyleRoom.Uses(layers, loaded.Library)[variable.Key]],
            [.. used.Uses.Where(u => u.Kind == DocumentKind.Email).Select(e => new NamedUse(e.Id, e.Name))],
            used.Emails,
            await NarrowedAsync(keys, db, loaded.Library, cancel),
            used.Unread
        );
    }

    // Drafts that narrow it, and releases whose draft does no more.
    private static async Task<ImmutableArray<NarrowedEntry>> NarrowedAsync(
        string[] keys,
        GoldenRuleDb db,
        LibrarySnapshot library,
        CancellationToken cancel
    )
    {
        var stored = await WhereUsed.Masters(ReferenceKind.Override, keys, db).OrderBy(d => d.Name).ThenBy(d => d.Id).ToListAsync(cancel);
        return
        [
            .. from d in stored
            let draft = Narrowed(StoredForm.Read(d.Kind, d.Head), keys)
            let newest = d.Kind == DocumentKind.Row
                ? (Document?)library.Releases.Rows.GetValueOrDefault(d.Id)
                : library.Releases.Templates.GetValueOrDefault(d.Id)
            let released = newest is null ? null : Narrowed(newest, keys)
            where draft is not null || released is not null
            select new NarrowedEntry(
                d.Kind == DocumentKind.Row,
                d.Id,
                d.Name,
                d.Revision,
                library.Releases.Newest.GetValueOrDefault(d.Id)?.Number ?? 0,
                draft?.Value,
                draft?.Dark,
                draft == released
            ),
        ];
    }

    private static NarrowedValue? Narrowed(Document master, string[] keys) =>
        (master is Template template ? template.Narrowed : ((SavedRow)master).Narrowed).FirstOrDefault(n => keys.Contains(n.Key)).Value;

    private static async Task<HouseStyleAnswer> LayAsync(
        LoadedDocument loaded,
        ClaimsPrincipal user,
        EditPipeline pipeline,
        HouseStyleAnswers answers,
        CancellationToken cancel
    )
    {
        var (undo, redo) = await pipeline.HistoryAsync(loaded, user.Person().Id, cancel);
        return answers.Whole(loaded, HouseStyleRoom.Lay(loaded, user.Person()) with { CanUndo = undo, CanRedo = redo });
    }
}
