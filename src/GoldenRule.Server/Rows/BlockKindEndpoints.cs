using System.Collections.Immutable;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Specimens;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;

namespace GoldenRule.Server.Rows;

/// <summary>A block kind, with a new block to put into a row under an id of one's own.</summary>
/// <param name="Start">The same with wording that says what belongs where, for whoever makes rows.</param>
/// <param name="LeastWidth">CSS pixels below which it falls apart, filled in.</param>
/// <param name="Look">Every look property with every choice.</param>
public sealed record BlockKindEntry(
    string Name,
    string Label,
    string About,
    KindGroup Group,
    Block Block,
    Block Start,
    int LeastWidth,
    ImmutableArray<DeskLook> Look
);

public static class BlockKindEndpoints
{
    public static void MapBlockKinds(this IEndpointRouteBuilder api)
    {
        api.MapGet("/block-kinds", ListAsync).WithTags("Rows").WithName("listBlockKinds");
        api.MapGet("/block-kinds/specimen", SpecimenAsync).Produces<string>(200, "text/html").WithTags("Rows").WithName("getBlockSpecimen");
    }

    private static async Task<ImmutableArray<BlockKindEntry>> ListAsync(GoldenRuleDb db, LibraryCache library, CancellationToken cancel)
    {
        var snapshot = await library.GetAsync(db, cancel);
        var least = snapshot.Styles.All.IsEmpty
            ? ImmutableDictionary<string, int>.Empty
            : BlockSpecimen.LeastWidths(snapshot.Styles.For(snapshot.Styles.First), snapshot.Pictures);
        return
        [
            .. BlockKinds.All.Select(k => new BlockKindEntry(
                k.Name,
                k.Label,
                k.About,
                k.Group,
                k.New("new"),
                k.Start("new"),
                least.GetValueOrDefault(k.Name),
                [.. k.Look.Select(p => new DeskLook(p.Name, p.Label, p.Default, p.Choices))]
            )),
        ];
    }

    // Every kind with everything filled in, in a house style: to look at, and for the tests to measure.
    private static async Task<IResult> SpecimenAsync(
        string? kind,
        Guid? houseStyle,
        bool? options,
        HttpContext http,
        GoldenRuleDb db,
        LibraryCache library,
        CancellationToken cancel
    )
    {
        var snapshot = await library.GetAsync(db, cancel);
        var style = houseStyle
            ?? snapshot.Styles.All.OrderBy(s => s.Value.Parent is not null).ThenBy(s => s.Key).Select(s => s.Key).FirstOrDefault();
        if (kind is not null && BlockKinds.All.All(k => k.Name != kind))
        {
            throw ProblemException.NotFound("There is no such block kind.");
        }

        return MailHtml.Answer(
            http,
            BlockSpecimen.Compile(snapshot.Styles.For(style), CompilationCache.PicturesAt, snapshot.Pictures, kind, options == true).Html()
        );
    }
}
