using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Governance;
using GoldenRule.Core.History;
using GoldenRule.Core.Releases;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace GoldenRule.Server.Snippets;

/// <summary>Snippets: made, changed, retired, and where they stand. What one says holds at once, in every draft.</summary>
public static class SnippetEndpoints
{
    /// <summary>Of the whole library.</summary>
    private const int Most = 2_000;

    private const int HistoryShown = 30;

    private const int GoingOutShown = 20;

    public static void MapSnippets(this IEndpointRouteBuilder api)
    {
        var snippets = api.MapGroup("/snippets").WithTags("Snippets");
        snippets.MapGet("", ListAsync).WithName("listSnippets");
        snippets.MapPost("", MakeAsync).WithName("makeSnippet");
        snippets.MapGet("/{id:guid}", GetAsync).WithName("getSnippet");
        snippets.MapPost("/{id:guid}/edits", EditAsync).WithName("editSnippet");
        foreach (var redo in new[] { false, true })
        {
            snippets
                .MapPost(
                    redo ? "/{id:guid}/redo" : "/{id:guid}/undo",
                    async (
                        Guid id,
                        UndoRequest request,
                        ClaimsPrincipal user,
                        EditPipeline pipeline,
                        GoldenRuleDb db,
                        CancellationToken cancel
                    ) =>
                        await LayAsync(
                            await pipeline.UndoAsync(DocumentKind.Snippet, id, user.Person(), request, redo, cancel),
                            user.Person(),
                            pipeline,
                            db,
                            cancel
                        )
                )
                .WithName(redo ? "redoSnippet" : "undoSnippet");
        }

        snippets.MapPut("/{id:guid}/status", ChangeStatusAsync).WithName("setSnippetStatus");
        snippets.MapGet("/{id:guid}/uses", UsesAsync).WithName("listSnippetUses");
        api.MapGet("/nodes", NodesAsync).WithTags("Snippets").WithName("listNodes");
    }

    private static async Task<ImmutableArray<SnippetEntry>> ListAsync(
        ClaimsPrincipal user,
        GoldenRuleDb db,
        LibraryCache library,
        CancellationToken cancel
    )
    {
        var snapshot = await library.GetAsync(db, cancel);
        var places = await WhereUsed.CountAsync(ReferenceKind.Snippet, user.Person(), snapshot.Plan.Teams, db, cancel);
        var now = snapshot.Clock.GetUtcNow().UtcDateTime;
        var values = snapshot.Snippets.At(now).For(snapshot.Audiences, "en-GB");
        return
        [
            .. snapshot
                .Snippets.All.OrderBy(s => s.Snippet.Name, StringComparer.OrdinalIgnoreCase)
                .ThenBy(s => s.Id)
                .Select(s => Entry(s, values, now, places.GetValueOrDefault(s.Snippet.Key))),
        ];
    }

    private static SnippetEntry Entry(CataloguedSnippet of, InlineValues values, DateTime now, int places)
    {
        var snippet = of.Snippet;
        var index = snippet.IndexAt(now);
        return new SnippetEntry(
            of.Id,
            snippet.Key,
            snippet.Name,
            snippet.Type,
            snippet.Description,
            snippet.CampaignTypes,
            snippet.Values[index].Value is FieldValue.Image image
                ? image.Picture
                : values.Words(new InlineNode(InlineKind.Snippet, snippet.Key)),
            index + 1 < snippet.Values.Length ? snippet.Values[index + 1].From : null,
            snippet.Expires,
            snippet.HasExpired(now),
            of.Retired,
            places
        );
    }

    private static async Task<SnippetAnswer> MakeAsync(
        NewSnippet request,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        LibraryCache library,
        DocumentMaker maker,
        EditPipeline pipeline,
        CancellationToken cancel
    )
    {
        user.Person().MustBe("Snippets are made by leads and designers.", Role.Lead, Role.Designer);
        if (request.Id == Guid.Empty)
        {
            throw ProblemException.Invalid("A snippet has an id made by whoever asks for it.");
        }

        var name = DocumentMaker.Name(request.Name, "snippet");
        await maker.MakeAsync(
            request.Id,
            DocumentKind.Snippet,
            user.Person(),
            snapshot =>
            {
                if (snapshot.Snippets.Find(request.Key) is { } taken)
                {
                    throw Taken(request.Key, taken.Snippet.Name);
                }

                if (snapshot.Snippets.All.Count() >= Most)
                {
                    throw ProblemException.Invalid($"A library holds at most {Most:N0} snippets.");
                }

                return Task.FromResult<(Document, string?)>(
                    (
                        new Snippet
                        {
                            Name = name,
                            Key = request.Key,
                            Type = request.Type,
                            Description = request.Description,
                            Values = [new ScheduledValue("first", "", request.Value ?? Snippet.Empty(request.Type))],
                        },
                        null
                    )
                );
            },
            cancel
        );
        return await LayAsync(await pipeline.LoadAsync(DocumentKind.Snippet, request.Id, cancel), user.Person(), pipeline, db, cancel);
    }

    private static ProblemException Taken(string key, string by) =>
        new(409, "key-taken", "The technical name is taken", $"\"{by}\" has the technical name \"{key}\" already. Choose another.");

    private static async Task<SnippetAnswer> GetAsync(
        Guid id,
        ClaimsPrincipal user,
        EditPipeline pipeline,
        GoldenRuleDb db,
        CancellationToken cancel
    ) => await LayAsync(await pipeline.LoadAsync(DocumentKind.Snippet, id, cancel), user.Person(), pipeline, db, cancel);

    private static async Task<SnippetAnswer> EditAsync(
        Guid id,
        EditsRequest request,
        ClaimsPrincipal user,
        EditPipeline pipeline,
        GoldenRuleDb db,
        CancellationToken cancel
    ) =>
        await LayAsync(
            await pipeline.EditAsync(DocumentKind.Snippet, id, user.Person(), request, cancel),
            user.Person(),
            pipeline,
            db,
            cancel
        );

    private static async Task<SnippetAnswer> LayAsync(
        LoadedDocument loaded,
        Person person,
        EditPipeline pipeline,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var (undo, redo) = await pipeline.HistoryAsync(loaded, person.Id, cancel);
        var (snippet, now) = ((Snippet)loaded.Document, loaded.Library.Clock.GetUtcNow().UtcDateTime);
        return new SnippetAnswer(
            loaded.Stored.Id,
            loaded.Stored.Revision,
            loaded.Stored.ChangedAt,
            snippet,
            loaded.Stored.Retired,
            snippet.IndexAt(now),
            Instant
                .FromDateTimeUtc(now)
                .InZone(DateTimeZoneProviders.Tzdb[snippet.Zone])
                .ToDateTimeUnspecified()
                .ToString(Snippet.MomentForm, System.Globalization.CultureInfo.InvariantCulture),
            snippet.HasExpired(now),
            Allowance.From(SnippetDecisions.MayChange(EditPipeline.Open(loaded).As(person), snippet)),
            Allowance.From(Governor.Decide(person, new ReplaceSnippet(null), EditPipeline.Open(loaded))),
            await GoingOutAsync(snippet, now, loaded.Library.Plan.Teams.HiddenFrom(person), db, cancel),
            await ChangesAsync(loaded.Stored.Id, db, cancel),
            undo,
            redo
        );
    }

    private static async Task<ImmutableArray<SnippetGoingOut>> GoingOutAsync(
        Snippet snippet,
        DateTime now,
        ImmutableArray<string> hidden,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var today = DateOnly.FromDateTime(now).ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
        var found = await SnippetUses
            .GoingOut(snippet.Key, today, GoingOutShown, hidden, db)
            .AsNoTracking()
            .Select(d => new
            {
                d.Id,
                d.Name,
                d.Head,
            })
            .ToListAsync(cancel);
        return
        [
            .. found.Select(d =>
            {
                var day = DocumentJson.ReadDocument<Email>(d.Head).Details.SendDay;
                return new SnippetGoingOut(
                    d.Id,
                    d.Name,
                    day,
                    Core.Compiling.RenderContext.DayOf(day) is { } on
                        && snippet.HasExpired(on.ToDateTime(new TimeOnly(12, 0), DateTimeKind.Utc))
                );
            }),
        ];
    }

    private static async Task<ImmutableArray<SnippetChange>> ChangesAsync(Guid id, GoldenRuleDb db, CancellationToken cancel)
    {
        var edits = await (
            from e in db.Edits.AsNoTracking()
            where e.DocumentId == id
            orderby e.Sequence descending
            join u in db.Users on e.AuthorId equals u.Id into authors
            from u in authors.DefaultIfEmpty()
            select new
            {
                e.Step,
                e.At,
                e.Body,
                Author = u == null ? "" : u.Name,
            }
        )
            .Take(HistoryShown * 4)
            .ToListAsync(cancel);
        return
        [
            .. edits
                .GroupBy(e => e.Step)
                .Take(HistoryShown)
                .Select(step => new SnippetChange(
                    step.First().At,
                    step.First().Author,
                    HistoryWords.Tell([.. step.Reverse().Select(e => SnippetHistory.Tell(DocumentJson.ReadEdit<Edit>(e.Body)))])
                )),
        ];
    }

    private static async Task<SnippetAnswer> ChangeStatusAsync(
        Guid id,
        SnippetStatus status,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        EditPipeline pipeline,
        CancellationToken cancel
    )
    {
        var loaded = await pipeline.LoadAsync(DocumentKind.Snippet, id, cancel);
        EditPipeline.Open(loaded).As(user.Person()).MustBe("Snippets are retired by leads only.", Role.Lead);
        var stored = await db.Documents.FirstOrDefaultAsync(d => d.Id == id && d.Kind == DocumentKind.Snippet, cancel)
            ?? throw EditPipeline.NotFound(DocumentKind.Snippet);
        stored.Retired = status.Retired;
        await db.SaveChangesAsync(cancel);
        db.ChangeTracker.Clear();
        return await LayAsync(await pipeline.LoadAsync(DocumentKind.Snippet, id, cancel), user.Person(), pipeline, db, cancel);
    }

    private static async Task<UsesAnswer> UsesAsync(
        Guid id,
        ClaimsPrincipal user,
        EditPipeline pipeline,
        GoldenRuleDb db,
        CancellationToken cancel,
        string? after = null
    )
    {
        var loaded = await pipeline.LoadAsync(DocumentKind.Snippet, id, cancel);
        return await SnippetUses.FindAsync(((Snippet)loaded.Document).Key, user.Person(), loaded.Library.Plan.Teams, db, after, cancel);
    }

    // What can be put into the words of an email of that campaign type, language and day.
    private static async Task<ImmutableArray<NodeOffer>> NodesAsync(
        GoldenRuleDb db,
        LibraryCache library,
        CancellationToken cancel,
        string campaignType = "",
        string language = "en-GB",
        string day = ""
    )
    {
        var snapshot = await library.GetAsync(db, cancel);
        var email = new Email
        {
            Name = "",
            Template = Guid.Empty,
            TemplateRelease = 0,
            Language = language.Length is > 0 and < 36 ? language : "en-GB",
            Details = new EmailDetails { SendDay = day },
        };
        var values = snapshot.InlineFor(email);
        return
        [
            .. snapshot.Audiences.Fields.Select(f => new NodeOffer(
                InlineKind.Field,
                f.Key,
                f.Label,
                f.Type.ToString(),
                f.Description,
                values.Words(new InlineNode(InlineKind.Field, f.Key)),
                null,
                f.Retired ? "It is retired." : null
            )),
            .. snapshot
                .Snippets.All.OrderBy(s => s.Snippet.Name, StringComparer.OrdinalIgnoreCase)
                .Select(s =>
                {
                    var shown = values.Snippets.Find(s.Snippet.Key)!;
                    return new NodeOffer(
                        InlineKind.Snippet,
                        s.Snippet.Key,
                        s.Snippet.Name,
                        s.Snippet.Type.ToString(),
                        s.Snippet.Description,
                        values.Words(new InlineNode(InlineKind.Snippet, s.Snippet.Key)),
                        shown.Value switch
                        {
                            FieldValue.Link link => link.Href,
                            FieldValue.Image image => image.Picture,
                            _ => null,
                        },
                        WhyNot(s, shown, campaignType)
                    );
                }),
        ];
    }

    // Null: it is offered.
    private static string? WhyNot(CataloguedSnippet of, ShownSnippet shown, string campaignType) =>
        of switch
        {
            { Retired: true } => "It is retired.",
            { Snippet.ReplacedBy: not null } => "Another took its place.",
            _ when shown.Expired => "It has expired by then.",
            { Snippet.CampaignTypes: { IsEmpty: false } types } when campaignType.Length > 0 && !types.Contains(campaignType) =>
                "It is not for this campaign type.",
            _ => null,
        };
}
