using System.Collections.Immutable;
using System.Security.Claims;
using System.Text;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Interchange;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Templates;

/// <summary>What a template file was made into.</summary>
/// <param name="Rows">Saved rows that came with it and were new here.</param>
/// <param name="Pictures">Pictures that came with it and were new here.</param>
public sealed record ImportedTemplate(TemplateEntry Template, ImmutableArray<string> Rows, int Pictures);

/// <summary>Templates out to a file and in from one.</summary>
public static class TemplateExchange
{
    public static void MapTemplateExchange(this RouteGroupBuilder templates)
    {
        templates.MapGet("/{id:guid}/file", ExportAsync).Produces<string>(200, "application/json").WithName("exportTemplate");
        templates.MapPost("/import", ImportAsync).WithName("importTemplate").RequireRateLimiting(RateLimits.Costly).DisableAntiforgery();
        templates
            .MapGet("/schema", () => Results.Text(TemplateFile.Schema(), "application/schema+json", Encoding.UTF8))
            .Produces<string>(200, "application/schema+json")
            .WithName("getTemplateSchema");
    }

    private static async Task<IResult> ExportAsync(
        Guid id,
        ClaimsPrincipal user,
        DocumentAccess access,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var loaded = await access.LoadAsync(DocumentKind.Template, id, user.Person(), cancel);
        var (template, library) = ((Template)loaded.Document, loaded.Library);
        var files = await db
            .PictureFiles.AsNoTracking()
            .Where(f => db.Pictures.Any(p => p.Id + "." + p.Extension == f.Name))
            .Select(f => f.Name)
            .ToListAsync(cancel);
        var names = files.ToDictionary(f => f[..f.IndexOf('.', StringComparison.Ordinal)], f => f, StringComparer.Ordinal);
        var file = TemplatePacking.Pack(
            template,
            library.Plan.Find(template.CampaignType)?.Name ?? "",
            library.Masters,
            library.Styles.For(template.HouseStyle),
            library.Pictures,
            picture =>
                names.TryGetValue(picture, out var name) && db.PictureFiles.AsNoTracking().FirstOrDefault(f => f.Name == name) is { } bytes
                    ? Convert.ToBase64String(bytes.Content)
                    : null
        );
        return Results.File(Encoding.UTF8.GetBytes(file.Write()), "application/json", template.Name + ".template.json");
    }

    private static async Task<ImportedTemplate> ImportAsync(
        IFormFile file,
        Guid id,
        string? name,
        string? campaignType,
        Guid? houseStyle,
        ClaimsPrincipal user,
        TemplateIntake intake,
        GoldenRuleDb db,
        LibraryCache library,
        CancellationToken cancel
    )
    {
        var person = user.Person();
        LibraryStatus.MustMakeSome(person);
        if (file.Length > TemplateFile.MostBytes)
        {
            throw ProblemException.TooLarge(
                $"The file weighs {file.Length / 1024 / 1024} MB; template files of at most "
                    + $"{TemplateFile.MostBytes / 1024 / 1024} MB are read. Nothing was changed."
            );
        }

        using var reader = new StreamReader(file.OpenReadStream(), Encoding.UTF8);
        var read = TemplateFile.Read(await reader.ReadToEndAsync(cancel));
        var (stored, rows, pictures) = await intake.TakeAsync(id, read, name, campaignType, houseStyle, person, cancel);
        return new ImportedTemplate(
            TemplateEndpoints.Entry(stored, person.Name, person.Id, await library.GetAsync(db, cancel)),
            rows,
            pictures
        );
    }
}
