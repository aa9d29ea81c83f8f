using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Thumbnails;

/// <summary>A document that is to be seen small.</summary>
/// <param name="Draft">A template or saved row as its draft stands; else its newest release. An email is always as it stands.</param>
public sealed record ThumbnailSubject(DocumentKind Kind, Guid Id, bool Draft = false, ThumbnailScreen Screen = ThumbnailScreen.Desktop)
{
    internal bool IsHead => Draft || Kind == DocumentKind.Email;
}

/// <summary>Documents that are to be seen small, at most 100.</summary>
public sealed record ThumbnailRequest(ImmutableArray<ThumbnailSubject> Subjects);

/// <summary>The small picture of a document.</summary>
/// <param name="Id">By which its file is asked for; null: there is none.</param>
/// <param name="Width">Pixels.</param>
/// <param name="Height">Pixels; less than the most where the document is short.</param>
/// <param name="Coming">It is being drawn: ask again in a second.</param>
public sealed record Thumbnail(string? Id, int Width, int Height, bool Coming);

/// <summary>Small pictures of documents as they look now, instead of the documents themselves.</summary>
public static class ThumbnailEndpoints
{
    private const int Most = 100;

    private static readonly Thumbnail Nothing = new(null, 0, 0, false);

    public static void MapThumbnails(this RouteGroupBuilder api)
    {
        var thumbnails = api.MapGroup("/thumbnails").WithTags("Thumbnails");
        thumbnails.MapPost("", FindAsync).WithName("findThumbnails");
        thumbnails.MapGet("/{id}", FileAsync).Produces<byte[]>(200, "image/webp").WithName("getThumbnail");
    }

    private static async Task<ImmutableArray<Thumbnail>> FindAsync(
        ThumbnailRequest request,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        LibraryCache library,
        ThumbnailContents contents,
        ThumbnailDrawing drawing,
        CancellationToken cancel
    )
    {
        var subjects = request.Subjects;
        if (subjects.Length > Most || subjects.Any(s => s.Kind is not (DocumentKind.Email or DocumentKind.Template or DocumentKind.Row)))
        {
            throw ProblemException.Invalid($"Ask for at most {Most} emails, templates and saved rows at once.");
        }

        var (person, snapshot) = (user.Person(), await library.GetAsync(db, cancel));
        var orders = await contents.FindAsync(subjects, person, snapshot, db, again: false, cancel);
        var ids = orders.OfType<ThumbnailOrder>().Select(o => o.Id).ToHashSet(StringComparer.Ordinal);
        var drawn = await db
            .Thumbnails.Where(t => ids.Contains(t.Id))
            .Select(t => new Thumbnail(t.Id, t.Width, t.Height, false))
            .ToDictionaryAsync(t => t.Id!, StringComparer.Ordinal, cancel);
        var missing = subjects.Where((_, i) => orders[i] is { } o && !drawn.ContainsKey(o.Id) && !drawing.IsAsked(o.Id)).ToList();
        foreach (var order in await contents.FindAsync(missing, person, snapshot, db, again: true, cancel))
        {
            drawing.Ask(order);
        }

        return
        [
            .. orders.Select(o => o is null ? Nothing : drawn.GetValueOrDefault(o.Id) ?? Nothing with { Coming = drawing.IsComing(o.Id) }),
        ];
    }

    private static async Task<IResult> FileAsync(string id, HttpContext http, GoldenRuleDb db, CancellationToken cancel)
    {
        var content = await db.Thumbnails.Where(t => t.Id == id).Select(t => t.Content).FirstOrDefaultAsync(cancel)
            ?? throw ProblemException.NotFound("There is no such thumbnail.");
        // Its name is the hash of what it shows.
        http.Response.Headers.CacheControl = "private, max-age=31536000, immutable";
        return Results.Bytes(content, "image/webp");
    }
}
