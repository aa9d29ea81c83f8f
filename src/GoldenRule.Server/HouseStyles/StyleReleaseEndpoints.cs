using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Releases;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.HouseStyles;

/// <summary>Releases of a house style: what one changes, what former ones were.</summary>
public static class StyleReleaseEndpoints
{
    public static void MapStyleReleases(this IEndpointRouteBuilder styles)
    {
        styles.MapGet("/{id:guid}/changes", ChangesAsync).WithName("listChanges");
        styles.MapGet("/{id:guid}/releases", ListAsync).WithName("listHouseStyleReleases");
        styles.MapGet("/{id:guid}/releases/{number:int}", GetAsync).WithName("getHouseStyleRelease");
        styles
            .MapPost(
                "/{id:guid}/releases",
                (Guid id, ReleaseRequest request, ClaimsPrincipal user, HttpRequest http, Releasing releasing, CancellationToken cancel) =>
                    releasing.ReleaseAsync(
                        DocumentKind.HouseStyle,
                        id,
                        user.Person(),
                        request,
                        http.Headers.IfMatch.FirstOrDefault(),
                        cancel
                    )
            )
            .WithName("releaseHouseStyle");
    }

    /// <summary>What the draft changes against the newest release.</summary>
    private static async Task<ImmutableArray<StyleChange>> ChangesAsync(Guid id, EditPipeline pipeline, CancellationToken cancel)
    {
        var loaded = await pipeline.LoadAsync(DocumentKind.HouseStyle, id, cancel);
        return StyleDifference.Between(HouseStyleRoom.ReleasedLayers(loaded), loaded.StyleLayers);
    }

    private static async Task<ImmutableArray<StyleReleaseEntry>> ListAsync(
        Guid id,
        GoldenRuleDb db,
        EditPipeline pipeline,
        CancellationToken cancel
    )
    {
        var loaded = await pipeline.LoadAsync(DocumentKind.HouseStyle, id, cancel);
        var releases = await ReadAsync(id, db, cancel);
        return
        [
            .. releases
                .Select(
                    (r, i) =>
                        new StyleReleaseEntry(
                            r.Release.Number,
                            r.Release.Note,
                            r.Author,
                            r.Release.At,
                            Changes(i == 0 ? null : releases[i - 1].Release, r.Release, loaded).Length
                        )
                )
                .Reverse(),
        ];
    }

    private static async Task<StyleReleaseAnswer> GetAsync(
        Guid id,
        int number,
        GoldenRuleDb db,
        EditPipeline pipeline,
        CancellationToken cancel
    )
    {
        var loaded = await pipeline.LoadAsync(DocumentKind.HouseStyle, id, cancel);
        var releases = await ReadAsync(id, db, cancel);
        var at = releases.FindIndex(r => r.Release.Number == number);
        if (at < 0)
        {
            throw ProblemException.NotFound($"There is no release {number} of this house style.");
        }

        var (release, author) = releases[at];
        return new StyleReleaseAnswer(
            number,
            release.Note,
            author,
            release.At,
            Contents(release),
            Changes(at == 0 ? null : releases[at - 1].Release, release, loaded)
        );
    }

    private static async Task<List<(StoredRelease Release, string Author)>> ReadAsync(Guid id, GoldenRuleDb db, CancellationToken cancel) =>
        [
            .. (
                await (
                    from r in db.Releases.AsNoTracking()
                    join a in db.Users on r.AuthorId equals a.Id
                    where r.DocumentId == id
                    orderby r.Number
                    select new { r, a.Name }
                ).ToListAsync(cancel)
            ).Select(x => (x.r, x.Name)),
        ];

    private static HouseStyle Contents(StoredRelease release) => (HouseStyle)StoredForm.Read(release.Kind, release.Body);

    // A former release may have stood on one of its parent's that is gone; it is shown on today's. What no longer resolves there
    // cannot be compared.
    private static ImmutableArray<StyleChange> Changes(StoredRelease? before, StoredRelease after, LoadedDocument loaded)
    {
        try
        {
            return StyleDifference.Between(
                before is null ? null : new StyleLayers(loaded.Library.Styles.ChainWith(loaded.Stored.Id, Contents(before))),
                new StyleLayers(loaded.Library.Styles.ChainWith(loaded.Stored.Id, Contents(after)))
            );
        }
        catch (StructureException)
        {
            return [];
        }
    }
}
