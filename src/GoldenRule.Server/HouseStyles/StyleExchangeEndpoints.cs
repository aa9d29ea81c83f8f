using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Interchange;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Pictures;
using Microsoft.EntityFrameworkCore;
using SkiaSharp;

namespace GoldenRule.Server.HouseStyles;

/// <summary>Brand variables in and out of open formats, and colours read from a picture. Nothing is changed here: what is taken over goes as edits.</summary>
public static class StyleExchangeEndpoints
{
    private const int MostCharacters = 1_000_000;

    /// <summary>Pixels across at which a picture's colours are counted: enough for areas, and quick.</summary>
    private const int CountedWidth = 480;

    public static void MapStyleExchange(this IEndpointRouteBuilder styles)
    {
        styles.MapPost("/{id:guid}/import", ImportAsync).WithName("planImport");
        styles.MapGet("/{id:guid}/variables.tokens.json", TokensAsync).Produces<string>(200, "application/json").WithName("getDesignTokens");
        styles.MapGet("/{id:guid}/variables.css", CssAsync).Produces<string>(200, "text/css").WithName("getCssProperties");
        styles.MapPost("/{id:guid}/palette", PaletteOfFileAsync).WithName("readPalette").DisableAntiforgery();
        styles.MapGet("/{id:guid}/palette/{picture}", PaletteOfPictureAsync).WithName("getPicturePalette");
    }

    /// <summary>What an import would add, change and leave.</summary>
    private static async Task<ImmutableArray<ImportEntry>> ImportAsync(Guid id, ImportRequest request, EditRoad road, CancellationToken cancel)
    {
        if (request.Text.Length > MostCharacters)
        {
            throw ProblemException.Invalid($"The file has {request.Text.Length:N0} characters; at most {MostCharacters:N0} are read.");
        }

        var layers = await LayersAsync(id, road, cancel);
        var found = request.Format == ImportFormat.Css ? CssReader.Read(request.Text) : DesignTokensReader.Read(request.Text);
        return
        [
            .. ImportPlan.Of(found, layers).Select(s => new ImportEntry(
                s.Place,
                s.Name,
                s.Edit switch { SetStyle set => $"{set.Style}/{set.Property}", SetVariable set => set.Variable.Key, _ => null },
                s.Type,
                s.Action,
                s.Before,
                s.After,
                s.Shown,
                s.Reason,
                s.Edit)),
        ];
    }

    private static async Task<IResult> TokensAsync(Guid id, EditRoad road, CancellationToken cancel)
    {
        var layers = await LayersAsync(id, road, cancel);
        return Download(DesignTokens.Write(layers), "application/json", $"{FileName(layers)}.tokens.json");
    }

    private static async Task<IResult> CssAsync(Guid id, HttpRequest http, EditRoad road, GoldenRuleDb db, LibraryKeeper library, CancellationToken cancel)
    {
        var layers = await LayersAsync(id, road, cancel);
        var pictures = (await library.GetAsync(db, cancel)).Pictures;
        return Download(CssProperties.Write(layers, $"{http.Scheme}://{http.Host}{ProofPress.PicturesAt}", p => pictures.Find(p)?.Whole.Name), "text/css", $"{FileName(layers)}.css");
    }

    private static async Task<ImmutableArray<PaletteEntry>> PaletteOfFileAsync(Guid id, IFormFile file, EditRoad road, CancellationToken cancel)
    {
        var bytes = await PictureSource.ReceiveAsync(file, cancel);
        return await ColoursAsync(bytes, file.FileName, await LayersAsync(id, road, cancel), cancel);
    }

    private static async Task<ImmutableArray<PaletteEntry>> PaletteOfPictureAsync(Guid id, string picture, EditRoad road, GoldenRuleDb db, CancellationToken cancel)
    {
        var stored = await db.Pictures.AsNoTracking().FirstOrDefaultAsync(p => p.Id == picture, cancel) ?? throw ProblemException.NotFound("There is no such picture.");
        var file = await db.PictureFiles.AsNoTracking().FirstAsync(f => f.Name == stored.WholeFile, cancel);
        return await ColoursAsync(file.Content, stored.Name, await LayersAsync(id, road, cancel), cancel);
    }

    private static Task<ImmutableArray<PaletteEntry>> ColoursAsync(byte[] file, string name, StyleLayers layers, CancellationToken cancel) =>
        PictureSource.UseAsync(file, name, source => Colours(source, layers), cancel);

    private static ImmutableArray<PaletteEntry> Colours(PictureSource source, StyleLayers layers)
    {
        var width = Math.Min(CountedWidth, source.Bitmap.Width);
        // The nearest pixel is taken, so that making it smaller mixes no colours.
        using var counted = source.Bitmap.Resize(
            PictureSource.Pixels(width, Math.Max(1, (int)Math.Round((double)source.Bitmap.Height * width / source.Bitmap.Width))), new SKSamplingOptions(SKFilterMode.Nearest));
        var brand = layers.Variables.Where(v => v.Type == VariableType.Colour).ToList();
        return
        [
            .. Palette.Of(counted.GetPixelSpan(), counted.Width, counted.Height).Select(p => new PaletteEntry(
                p.Colour.ToString(),
                Math.Round(p.Share, 4),
                brand.FirstOrDefault(v => CieLab.Difference(Colour.Parse(layers.Explain(v.Key).Value), p.Colour) < 1)?.Label)),
        ];
    }

    private static async Task<StyleLayers> LayersAsync(Guid id, EditRoad road, CancellationToken cancel)
    {
        var kept = await road.LoadAsync(DocumentKind.HouseStyle, id, cancel);
        return Validity.Layers((HouseStyle)kept.Document, kept);
    }

    private static string FileName(StyleLayers layers) => Naming.Key(layers.Own.Name) is { Length: > 0 } name ? name : "house-style";

    private static IResult Download(string text, string type, string name) => Results.File(Encoding.UTF8.GetBytes(text), $"{type}; charset=utf-8", name);
}
