using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Pictures;

/// <param name="Address">Where the file stands on this server.</param>
public sealed record PictureEntry(string Id, string Name, string Alt, int Width, int Height, int Bytes, string Address);

public static class PictureEndpoints
{
    private const int Most = 500;

    public static void MapPictures(this IEndpointRouteBuilder api)
    {
        api.MapGet("/pictures", ListAsync).WithTags("Pictures").WithName("listPictures");
        api.MapPost("/pictures", AddAsync).WithTags("Pictures").WithName("addPicture").DisableAntiforgery();
    }

    /// <summary>Files are fetched by mail clients, which sign in nowhere; the address is the content's own hash.</summary>
    public static void MapPictureFiles(this IEndpointRouteBuilder routes) =>
        routes.MapGet("/pictures/{file}", FileAsync).AllowAnonymous().ExcludeFromDescription();

    private static async Task<ImmutableArray<PictureEntry>> ListAsync(GoldenRuleDb db, CancellationToken cancel) =>
    [
        .. (await db.Pictures.OrderByDescending(p => p.AddedAt).ThenBy(p => p.Id).Take(Most)
            .Select(p => new { p.Id, p.Name, p.Alt, p.Width, p.Height, p.Weight, p.Extension }).ToListAsync(cancel))
            .Select(p => new PictureEntry(p.Id, p.Name, p.Alt, p.Width, p.Height, p.Weight, $"/pictures/{p.Id}.{p.Extension}")),
    ];

    private static async Task<PictureEntry> AddAsync(IFormFile file, ClaimsPrincipal user, GoldenRuleDb db, TimeProvider clock, CancellationToken cancel)
    {
        if (!user.Person().Is(Role.Lead, Role.Designer, Role.Author))
        {
            throw ProblemException.Refused(new Decision.Refused(Rules.Role, null, "Reviewers read and approve; a lead, designer or author adds pictures."));
        }

        if (file.Length > PictureIntake.MostBytes)
        {
            throw new ProblemException(422, "picture", "The picture was not taken", $"The file has {file.Length / 1048576.0:0.0} MB; pictures have at most 5.");
        }

        using var bytes = new MemoryStream();
        await file.CopyToAsync(bytes, cancel);
        var picture = PictureIntake.Take(bytes.ToArray(), Path.GetFileNameWithoutExtension(file.FileName), clock.GetUtcNow().UtcDateTime);
        var known = await db.Pictures.FirstOrDefaultAsync(p => p.Id == picture.Id, cancel);
        if (known is null)
        {
            db.Pictures.Add(known = picture);
            await db.SaveChangesAsync(cancel);
        }

        return new PictureEntry(known.Id, known.Name, known.Alt, known.Width, known.Height, known.Weight, $"/pictures/{known.Id}.{known.Extension}");
    }

    private static async Task<IResult> FileAsync(string file, GoldenRuleDb db, HttpContext http, CancellationToken cancel)
    {
        var id = Path.GetFileNameWithoutExtension(file);
        var found = await db.Pictures.AsNoTracking().Where(p => p.Id == id).Select(p => new { p.Content, p.Extension }).FirstOrDefaultAsync(cancel);
        if (found is null || file != $"{id}.{found.Extension}")
        {
            throw ProblemException.NotFound("There is no such picture.");
        }

        http.Response.Headers.CacheControl = "public, max-age=31536000, immutable";
        http.Response.Headers.XContentTypeOptions = "nosniff";
        return Results.Bytes(found.Content, found.Extension switch { "png" => "image/png", "gif" => "image/gif", _ => "image/jpeg" });
    }
}
