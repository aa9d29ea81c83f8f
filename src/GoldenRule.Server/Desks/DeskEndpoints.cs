using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Governance;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Releases;
using GoldenRule.Core.Resolving;
using GoldenRule.Data;
using GoldenRule.Server.Audiences;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;

namespace GoldenRule.Server.Desks;

/// <param name="Base">The revision the sender had seen when they were made: what others set since is a conflict.</param>
/// <param name="StyleVersion">The house style version the sender had seen.</param>
/// <param name="Own">Edits of the same window that were stored since; they are none. Null: there are none.</param>
/// <param name="Seen">The revision the sender has seen by now, where that is newer; null: it is not.</param>
public sealed record DeskEdits(
    long Base,
    ImmutableArray<SentEdit> Edits,
    string? StyleVersion = null,
    ImmutableArray<Guid>? Own = null,
    long? Seen = null
);

/// <param name="Id">UUIDv7 made by the client.</param>
/// <param name="Skip">Steps that could not be taken back and are passed over; null: none.</param>
public sealed record DeskUndo(Guid Id, long Base, string? StyleVersion = null, ImmutableArray<Guid>? Skip = null);

/// <summary>A saved row that a place takes.</summary>
public sealed record RowOffer(Guid Id, int Release, string Name, string RowKind, string Description, string? Instruction);

/// <summary>Whether a row may be moved to a place.</summary>
/// <param name="Zone">Null: the running order itself.</param>
public sealed record RowPlaceEntry(string? Zone, Allowance Allowance);

/// <summary>Whether the head equals the replay of its edits.</summary>
public sealed record ReplayAnswer(long Revision, bool Equal);

/// <summary>The same desk for emails, templates and saved rows.</summary>
public static class DeskEndpoints
{
    /// <param name="name">What ends the names of the operations: "Email", "Template" or "Row".</param>
    public static void MapDesk(this RouteGroupBuilder group, DocumentKind kind, string name)
    {
        group
            .MapGet(
                "/{id:guid}/desk",
                (
                    Guid id,
                    ClaimsPrincipal user,
                    HttpResponse response,
                    DocumentAccess access,
                    Desk desk,
                    bool? asAuthor,
                    long? seen,
                    string? styleVersion,
                    CancellationToken cancel
                ) => LookAsync(kind, id, user, response, access, desk, asAuthor == true, seen, styleVersion, cancel)
            )
            .WithName($"get{name}Desk");
        group
            .MapPost(
                "/{id:guid}/edits",
                async (
                    Guid id,
                    DeskEdits request,
                    ClaimsPrincipal user,
                    DocumentAccess access,
                    EditPipeline pipeline,
                    Desk desk,
                    CancellationToken cancel
                ) =>
                {
                    var person = user.Person();
                    await access.MustSeeAsync(kind, id, person, cancel);
                    var (loaded, laid) = await pipeline.EditAsync(
                        kind,
                        id,
                        person,
                        new EditsRequest(request.Base, request.Edits, request.Own),
                        now => (now, desk.Changed(now, request.Seen ?? request.Base, request.StyleVersion, person)),
                        cancel
                    );
                    return await desk.WithHistoryAsync(laid, loaded, person, cancel);
                }
            )
            .WithName($"edit{name}");
        foreach (var redo in new[] { false, true })
        {
            group
                .MapPost(
                    redo ? "/{id:guid}/redo" : "/{id:guid}/undo",
                    async (
                        Guid id,
                        DeskUndo request,
                        ClaimsPrincipal user,
                        DocumentAccess access,
                        EditPipeline pipeline,
                        Desk desk,
                        CancellationToken cancel
                    ) =>
                    {
                        var person = user.Person();
                        await access.MustSeeAsync(kind, id, person, cancel);
                        var (loaded, laid) = await pipeline.UndoAsync(
                            kind,
                            id,
                            person,
                            new UndoRequest(request.Id, request.Skip),
                            redo,
                            now => (now, desk.Changed(now, request.Base, request.StyleVersion, person)),
                            cancel
                        );
                        return await desk.WithHistoryAsync(laid, loaded, person, cancel);
                    }
                )
                .WithName((redo ? "redo" : "undo") + name);
        }

        group
            .MapGet("/{id:guid}/offers", (Guid id, string? zone, ClaimsPrincipal user, DocumentAccess access, CancellationToken cancel) =>
                OffersAsync(kind, id, zone, user, access, cancel)
            )
            .WithName($"list{name}RowOffers");
        group
            .MapGet(
                "/{id:guid}/order/{row}/places",
                (Guid id, string row, ClaimsPrincipal user, DocumentAccess access, CancellationToken cancel) =>
                    PlacesAsync(kind, id, row, user, access, cancel)
            )
            .WithName($"list{name}RowPlaces");
        group
            .MapGet(
                "/{id:guid}/order/{row}",
                (Guid id, string row, bool? detached, ClaimsPrincipal user, DocumentAccess access, CancellationToken cancel) =>
                    RowAsync(kind, id, row, detached == true, user, access, cancel)
            )
            .WithName($"get{name}Row");
        group
            .MapGet(
                "/{id:guid}/why",
                (Guid id, ClaimsPrincipal user, DocumentAccess access, CancellationToken cancel, string? row = null) =>
                    WhyAsync(kind, id, row, user, access, cancel)
            )
            .WithName($"explain{name}");
        group
            .MapGet(
                "/{id:guid}/replay",
                async (Guid id, ClaimsPrincipal user, DocumentAccess access, EditPipeline pipeline, CancellationToken cancel) =>
                {
                    await access.MustSeeAsync(kind, id, user.Person(), cancel);
                    var (revision, replayed, head) = await pipeline.ReplayAsync(kind, id, cancel);
                    return new ReplayAnswer(revision, StoredForm.Write(replayed) == StoredForm.Write(head));
                }
            )
            .WithName($"check{name}Replay");
        group
            .MapGet(
                "/{id:guid}/draft/text",
                async (Guid id, ClaimsPrincipal user, DocumentAccess access, CompilationCache compilations, CancellationToken cancel) =>
                    DeskViews.Text(await access.LoadAsync(kind, id, user.Person(), cancel), compilations, user.Person())
            )
            .WithName($"get{name}DraftText");
        group
            .MapGet(
                "/{id:guid}/draft/inbox",
                async (Guid id, ClaimsPrincipal user, DocumentAccess access, CompilationCache compilations, CancellationToken cancel) =>
                    DeskViews.Inbox(compilations.Compile(await access.LoadAsync(kind, id, user.Person(), cancel)))
            )
            .WithName($"get{name}DraftInbox");
        group
            .MapGet(
                "/{id:guid}/draft/view",
                async (
                    Guid id,
                    string view,
                    ClaimsPrincipal user,
                    DocumentAccess access,
                    CompilationCache compilations,
                    CancellationToken cancel
                ) =>
                    DeskViews.Simulated(
                        compilations.Compile(await access.LoadAsync(kind, id, user.Person(), cancel)),
                        Named.Read<ProofView>(view, "view")!.Value
                    )
            )
            .WithName($"get{name}DraftView");
        group
            .MapGet(
                "/{id:guid}/draft/reader",
                async (
                    Guid id,
                    Guid? reader,
                    string? values,
                    string? day,
                    ClaimsPrincipal user,
                    DocumentAccess access,
                    GoldenRuleDb db,
                    CancellationToken cancel
                ) =>
                {
                    var loaded = await access.LoadAsync(kind, id, user.Person(), cancel);
                    return DeskViews.ForReader(
                        loaded,
                        (reader, values) switch
                        {
                            ({ } one, _) => await SampleReaderEndpoints.FindAsync(one, loaded.Library.Audiences, db, cancel),
                            (_, { } made) => SampleReaderEndpoints.MadeUp(made, loaded.Library.Audiences),
                            _ => null,
                        },
                        string.IsNullOrEmpty(day)
                            ? null
                            : RenderContext.DayOf(day)
                                ?? throw ProblemException.Invalid($"\"{day}\" is no day; write it like 2026-11-30.", "day"),
                        cancel
                    );
                }
            )
            .WithName($"get{name}ReaderView");
        group
            .MapGet(
                "/{id:guid}/report",
                async (Guid id, ClaimsPrincipal user, DocumentAccess access, CompilationCache compilations, CancellationToken cancel) =>
                    DeskViews.Report(await access.LoadAsync(kind, id, user.Person(), cancel), compilations)
            )
            .WithName($"get{name}Report");
    }

    private static async Task<DeskAnswer> LookAsync(
        DocumentKind kind,
        Guid id,
        ClaimsPrincipal user,
        HttpResponse response,
        DocumentAccess access,
        Desk desk,
        bool asAuthor,
        long? seen,
        string? styleVersion,
        CancellationToken cancel
    )
    {
        var person = user.Person();
        var loaded = await access.LoadAsync(kind, id, person, cancel);
        response.Headers.ETag = $"\"{loaded.Stored.Revision}\"";
        if (asAuthor && kind != DocumentKind.Email)
        {
            return desk.AsAuthor(loaded);
        }

        var laid = seen is { } revision ? desk.Changed(loaded, revision, styleVersion, person) : desk.Whole(loaded, person);
        return await desk.WithHistoryAsync(laid, loaded, person, cancel);
    }

    // A zone is offered what it takes; a template's running order everything that serves its campaign type.
    private static async Task<ImmutableArray<RowOffer>> OffersAsync(
        DocumentKind kind,
        Guid id,
        string? zone,
        ClaimsPrincipal user,
        DocumentAccess access,
        CancellationToken cancel
    )
    {
        var loaded = await access.LoadAsync(kind, id, user.Person(), cancel);
        var order = loaded.Layout.Order;
        var found = zone is null ? null : order.FindZone(zone) ?? throw ProblemException.NotFound("There is no such zone here.");
        return
        [
            .. RowOffers
                .ForPlace((OpenDocument.OfRows)EditPipeline.Open(loaded), found)
                .OrderBy(o => loaded.Library.Plan.RowKinds.OrderOf(o.Row.RowKind))
                .ThenBy(o => o.Row.Name, StringComparer.Ordinal)
                .Select(o => new RowOffer(o.Id, o.Release, o.Row.Name, o.Row.RowKind, o.Row.Description, o.Row.Instruction)),
        ];
    }

    /// <summary>A row as it stands, with all that is filled in: what detaching it, or saving it, would hold.</summary>
    private static async Task<SavedRow> RowAsync(
        DocumentKind kind,
        Guid id,
        string row,
        bool detached,
        ClaimsPrincipal user,
        DocumentAccess access,
        CancellationToken cancel
    )
    {
        var loaded = await access.LoadAsync(kind, id, user.Person(), cancel);
        var found = loaded.Layout.Order.Find(row) ?? throw ProblemException.NotFound("There is no such row here.");
        return detached ? Detached.FromRow(found) : Detached.Filled(found);
    }

    // Asked when a row is picked up: what does not take it says so before it is put down.
    private static async Task<ImmutableArray<RowPlaceEntry>> PlacesAsync(
        DocumentKind kind,
        Guid id,
        string row,
        ClaimsPrincipal user,
        DocumentAccess access,
        CancellationToken cancel
    )
    {
        var loaded = await access.LoadAsync(kind, id, user.Person(), cancel);
        var (order, open) = (loaded.Layout.Order, EditPipeline.Open(loaded));
        return
        [
            .. order
                .Template.Order.OfType<Zone>()
                .Select(z => (string?)z.Id)
                .Prepend(null)
                .Select(zone => new RowPlaceEntry(zone, Allowance.From(Governor.Decide(user.Person(), new MoveRow(row, zone, 0), open)))),
        ];
    }

    // Of a row, or where none is named of what the inbox shows.
    private static async Task<ImmutableArray<ExplainedValue>> WhyAsync(
        DocumentKind kind,
        Guid id,
        string? row,
        ClaimsPrincipal user,
        DocumentAccess access,
        CancellationToken cancel
    )
    {
        var loaded = await access.LoadAsync(kind, id, user.Person(), cancel);
        var (order, here) = (loaded.Layout.Order, $"This {kind.ToString().ToLowerInvariant()}");
        if (row is null)
        {
            return loaded.Document is Email email ? Provenance.OfDetails(email, order.Template, here) : [];
        }

        var found = order.Find(row) ?? throw ProblemException.NotFound("There is no such row here.");
        var resolved = loaded.Layout.Resolve(loaded.Library);
        var style = resolved.Rows.FirstOrDefault(r => r.Id == row)?.Style ?? resolved.Style;
        return new Provenance(
            here,
            kind == DocumentKind.Email ? ((Email)loaded.Document).Template : null,
            order.Template,
            style,
            loaded.Library.InlineFor(loaded.Layout.Email),
            loaded.Library.Pictures
        ).OfRow(found);
    }
}
