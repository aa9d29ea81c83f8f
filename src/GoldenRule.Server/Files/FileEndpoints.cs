using System.Collections.Immutable;
using System.Security.Claims;
using System.Security.Cryptography;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Files;

/// <param name="Id">SHA-256 of its bytes.</param>
public sealed record FileEntry(string Id, string Name, string MediaType, int Bytes, DateTime AddedAt);

/// <param name="Extensions">Of the sorts that are taken.</param>
/// <param name="MostEach">Bytes of one file.</param>
/// <param name="MostTogether">Bytes of all files of an email.</param>
public sealed record FileLibrary(ImmutableArray<FileEntry> Files, ImmutableArray<string> Extensions, int MostEach, int MostTogether);

/// <summary>The files that emails may carry.</summary>
public static class FileEndpoints
{
    private const int Shown = 200;

    public static void MapFiles(this IEndpointRouteBuilder api)
    {
        var files = api.MapGroup("/files").WithTags("Files");
        files.MapGet("", ListAsync).WithName("listFiles");
        files.MapPost("", AddAsync).WithName("addFile").RequireRateLimiting(RateLimits.Costly).DisableAntiforgery();
        files
            .MapGet("/{id}", async (string id, GoldenRuleDb db, CancellationToken cancel) =>
            {
                var file = await db.Files.AsNoTracking().FirstOrDefaultAsync(f => f.Id == id, cancel)
                    ?? throw ProblemException.NotFound("There is no such file.");
                // Always to be kept, never to be shown here: what is in it is a stranger's.
                return Results.File(file.Content, file.MediaType, file.Name);
            })
            .Produces(200, null, "application/octet-stream")
            .WithName("getFile");
    }

    private static async Task<FileLibrary> ListAsync(string? search, GoldenRuleDb db, CancellationToken cancel)
    {
        var query = db.Files.AsNoTracking();
        foreach (var pattern in SearchWords.Patterns(search))
        {
            query = query.Where(f => EF.Functions.ILike(f.Name, pattern, "\\"));
        }

        var found = await query
            .OrderByDescending(f => f.AddedAt)
            .ThenByDescending(f => f.Id)
            .Take(Shown)
            .Select(f => new FileEntry(f.Id, f.Name, f.MediaType, f.Bytes, f.AddedAt))
            .ToListAsync(cancel);
        return new FileLibrary(
            [.. found],
            [.. AttachmentTypes.All.Select(t => t.Extension)],
            AttachmentTypes.MostEach,
            AttachmentTypes.MostTogether
        );
    }

    private static async Task<FileEntry> AddAsync(
        IFormFile file,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var person = user.Person();
        person.MustAuthor("adds files");

        var name = AttachmentTypes.SafeName(Path.GetFileName(file.FileName.Replace('\\', '/')));
        if (name.Length is 0 or > 200)
        {
            throw ProblemException.Invalid("A file has a name of 1 to 200 characters.");
        }

        if (file.Length > AttachmentTypes.MostEach)
        {
            throw ProblemException.TooLarge(
                $"\"{name}\" has {file.Length / 1024:N0} KB; a file has at most {AttachmentTypes.MostEach / 1024:N0}."
            );
        }

        using var stream = new MemoryStream();
        await file.CopyToAsync(stream, cancel);
        var content = stream.ToArray();
        var (type, refusal) = AttachmentTypes.Judge(name, content);
        if (type is null)
        {
            throw ProblemException.Invalid(refusal!);
        }

        var id = Convert.ToHexStringLower(SHA256.HashData(content));
        var stored = await db.Files.FirstOrDefaultAsync(f => f.Id == id, cancel);
        if (stored is null)
        {
            stored = new StoredFile
            {
                Id = id,
                Name = name,
                MediaType = type.MediaType,
                Bytes = content.Length,
                Content = content,
                AddedBy = person.Id,
                AddedAt = clock.GetUtcNow().UtcDateTime,
            };
            db.Files.Add(stored);
            await db.SaveChangesAsync(cancel);
        }

        return new FileEntry(stored.Id, stored.Name, stored.MediaType, stored.Bytes, stored.AddedAt);
    }
}
