using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Interchange;
using GoldenRule.Data;
using GoldenRule.PictureWorker;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Pictures;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.HouseStyles;

/// <summary>
/// Brand variables in and out of open formats, and colours read from a picture. Nothing is changed here: what is taken over goes
/// as edits.
/// </summary>
public static class StyleExchangeEndpoints
{
    private const int MostCharacters = 1_000_000;

    public static void MapStyleExchange(this IEndpointRouteBuilder styles)
    {
        styles.MapPost("/{id:guid}/import", ImportAsync).WithName("planImport").RequireRateLimiting(RateLimits.Costly);
        styles
            .MapGet("/{id:guid}/variables.tokens.json", TokensAsync)
            .Produces<string>(200, "application/json")
            .WithName("getDesignTokens");
        styles.MapGet("/{id:guid}/variables.css", CssAsync).Produces<string>(200, "text/css").WithName("getCssProperties");
        styles
            .MapPost("/{id:guid}/palette", PaletteOfFileAsync)
            .WithName("readPalette")
            .RequireRateLimiting(RateLimits.Costly)
            .DisableAntiforgery();
        styles
            .MapGet("/{id:guid}/palette/{picture}", PaletteOfPictureAsync)
            .WithName("getPicturePalette")
            .RequireRateLimiting(RateLimits.Costly);
    }

    /// <summary>What an import would add, change and leave.</summary>
    private static async Task<ImmutableArray<ImportEntry>> ImportAsync(
        Guid id,
        ImportRequest request,
        EditPipeline pipeline,
        CancellationToken cancel
    )
    {
        if (request.Text.Length > MostCharacters)
        {
            throw ProblemException.Invalid($"The file has {request.Text.Length:N0} characters; at most {MostCharacters:N0} are read.");
        }

        var layers = await LayersAsync(id, pipeline, cancel);
        var found =
            request.Format == ImportFormat.Css ? CssReader.Read(request.Text, cancel) : DesignTokensReader.Read(request.Text, cancel);
        return
        [
            .. ImportPlan
                .Make(found, layers)
                .Select(s => new ImportEntry(
                    s.Place,
                    s.Name,
                    s.Edit switch
                    {
                        SetStyle set => $"{set.Style}/{set.Property}",
                        SetVariable set => set.Variable.Key,
                        _ => null,
                    },
                    s.Type,
                    s.Action,
                    s.Before,
                    s.After,
                    s.Shown,
                    s.Reason,
                    s.Edit
                )),
        ];
    }

    private static async Task<IResult> TokensAsync(Guid id, EditPipeline pipeline, CancellationToken cancel)
    {
        var layers = await LayersAsync(id, pipeline, cancel);
        return Download(DesignTokens.Write(layers), "application/json", $"{FileName(layers)}.tokens.json");
    }

    private static async Task<IResult> CssAsync(
        Guid id,
        HttpRequest http,
        PublicAddress address,
        EditPipeline pipeline,
        GoldenRuleDb db,
        LibraryCache library,
        CancellationToken cancel
    )
    {
        var layers = await LayersAsync(id, pipeline, cancel);
        var pictures = (await library.GetAsync(db, cancel)).Pictures;
        return Download(
            CssProperties.Write(layers, address.Pictures(http), p => pictures.Find(p)?.Whole.Name),
            "text/css",
            $"{FileName(layers)}.css"
        );
    }

    private static async Task<ImmutableArray<PaletteEntry>> PaletteOfFileAsync(
        Guid id,
        IFormFile file,
        EditPipeline pipeline,
        PictureIntake intake,
        CancellationToken cancel
    )
    {
        var bytes = await PictureIntake.ReceiveAsync(file, cancel);
        return Colours(await intake.PixelsAsync(bytes, file.FileName, cancel), await LayersAsync(id, pipeline, cancel));
    }

    private static async Task<ImmutableArray<PaletteEntry>> PaletteOfPictureAsync(
        Guid id,
        string picture,
        EditPipeline pipeline,
        GoldenRuleDb db,
        PictureIntake intake,
        CancellationToken cancel
    )
    {
        var stored = await db.Pictures.AsNoTracking().FirstOrDefaultAsync(p => p.Id == picture, cancel)
            ?? throw ProblemException.NotFound("There is no such picture.");
        var file = await db.PictureFiles.AsNoTracking().FirstAsync(f => f.Name == stored.WholeFile, cancel);
        return Colours(await intake.PixelsAsync(file.Content, stored.Name, cancel), await LayersAsync(id, pipeline, cancel));
    }

    private static ImmutableArray<PaletteEntry> Colours(DrawnFile pixels, StyleLayers layers)
    {
        var brand = layers.Variables.Where(v => v.Type == VariableType.Colour).ToList();
        return
        [
            .. Palette
                .FromPixels(pixels.Content, pixels.Width, pixels.Height)
                .Select(p => new PaletteEntry(
                    p.Colour.ToString(),
                    Math.Round(p.Share, 4),
                    brand.FirstOrDefault(v => CieLab.Difference(Colour.Parse(layers.Explain(v.Key).Value), p.Colour) < 1)?.Label
                )),
        ];
    }

    private static async Task<StyleLayers> LayersAsync(Guid id, EditPipeline pipeline, CancellationToken cancel)
    {
        var loaded = await pipeline.LoadAsync(DocumentKind.HouseStyle, id, cancel);
        return loaded.StyleLayers;
    }

    private static string FileName(StyleLayers layers) => Naming.Key(layers.Own.Name) is { Length: > 0 } name ? name : "house-style";

    private static IResult Download(string text, string type, string name) =>
        Results.File(Encoding.UTF8.GetBytes(text), $"{type}; charset=utf-8", name);
}
