using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Releases;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Pictures;

/// <param name="Address">Where the file stands on this server.</param>
public sealed record PictureFileEntry(string Address, int Width, int Height, int Bytes);

/// <param name="Files">The widest first; the first is the whole picture.</param>
/// <param name="FocalX">Share of the width from the left that a crop keeps in sight.</param>
/// <param name="ReplacedBy">The picture that took its place everywhere.</param>
public sealed record PictureEntry(
    string Id,
    string Name,
    string Alt,
    bool Decorative,
    ImmutableArray<string> Tags,
    int Width,
    int Height,
    int Bytes,
    bool Moves,
    string Address,
    ImmutableArray<PictureFileEntry> Files,
    PictureFileEntry? PhoneCrop,
    double FocalX,
    double FocalY,
    string? ReplacedBy,
    DateTime AddedAt
);

/// <param name="Next">Key of the next page; null: this is the last.</param>
public sealed record PicturePage(ImmutableArray<PictureEntry> Pictures, int Count, string? Next);

public sealed record TagEntry(string Tag, int Pictures);

/// <summary>What is to change; what is left out stays.</summary>
public sealed record PictureChange(
    string? Name = null,
    string? Alt = null,
    bool? Decorative = null,
    ImmutableArray<string>? Tags = null,
    double? FocalX = null,
    double? FocalY = null
);

public sealed record ReplacementRequest(string By);

public static class PictureEndpoints
{
    private const int PageSize = 60;

    private const int MostTags = 12;

    public static void MapPictures(this IEndpointRouteBuilder api)
    {
        var pictures = api.MapGroup("/pictures").WithTags("Pictures");
        pictures.MapGet("", ListAsync).WithName("listPictures");
        pictures.MapPost("", AddAsync).WithName("addPicture").RequireRateLimiting(RateLimits.Costly).DisableAntiforgery();
        pictures.MapGet("/tags", TagsAsync).WithName("listPictureTags");
        pictures
            .MapGet("/{id}", async (string id, GoldenRuleDb db, CancellationToken cancel) => Entry(await FindAsync(db, id, cancel)))
            .WithName("getPicture");
        pictures.MapPatch("/{id}", ChangeAsync).WithName("changePicture");
        pictures.MapGet("/{id}/uses", UsesAsync).WithName("listPictureUses");
        pictures
            .MapPut(
                "/{id}/replacement",
                (string id, ReplacementRequest request, ClaimsPrincipal user, GoldenRuleDb db, CancellationToken cancel) =>
                    ReplaceAsync(id, request.By, user, db, cancel)
            )
            .WithName("replacePicture");
        pictures
            .MapDelete("/{id}/replacement", (string id, ClaimsPrincipal user, GoldenRuleDb db, CancellationToken cancel) =>
                ReplaceAsync(id, null, user, db, cancel)
            )
            .WithName("unreplacePicture");
    }

    /// <summary>Files are fetched by mail clients, which sign in nowhere; the address is the content's own hash.</summary>
    public static void MapPictureFiles(this IEndpointRouteBuilder routes) =>
        routes.MapGet("/pictures/{file}", FileAsync).AllowAnonymous().ExcludeFromDescription();

    /// <summary>Sets what people say of a picture, and what search finds it by.</summary>
    public static void Describe(this StoredPicture picture, string name, string alt, IEnumerable<string> tags)
    {
        (picture.Name, picture.Alt, picture.Tags) = (name, alt, [.. tags]);
        picture.Words = string.Join(' ', picture.Tags.Prepend(alt).Prepend(name)).ToLowerInvariant();
    }

    private static async Task<PicturePage> ListAsync(
        GoldenRuleDb db,
        CancellationToken cancel,
        string? q = null,
        string? tag = null,
        bool replaced = false,
        string? after = null
    )
    {
        var wanted = db.Pictures.AsNoTracking().Where(p => p.ReplacedBy != null == replaced);
        foreach (var pattern in SearchWords.Patterns(q))
        {
            wanted = wanted.Where(p => EF.Functions.Like(p.Words, pattern, "\\"));
        }

        if (tag is { Length: > 0 })
        {
            wanted = wanted.Where(p => p.Tags.Contains(tag));
        }

        var count = await wanted.CountAsync(cancel);
        if (PageKey<string>.Read(after) is { } key)
        {
            wanted = wanted.Where(p => p.AddedAt < key.At || (p.AddedAt == key.At && string.Compare(p.Id, key.Id) < 0));
        }

        var page = await wanted.OrderByDescending(p => p.AddedAt).ThenByDescending(p => p.Id).Take(PageSize + 1).ToListAsync(cancel);
        return new PicturePage(
            [.. page.Take(PageSize).Select(Entry)],
            count,
            PageKey.Next(page, PageSize, p => new PageKey<string>(p.AddedAt, p.Id))
        );
    }

    private static async Task<ImmutableArray<TagEntry>> TagsAsync(GoldenRuleDb db, CancellationToken cancel) =>
        [
            .. (
                await db
                    .Database.SqlQuery<TagCount>(
                        $"""
                        select tag, count(*)::int as pictures
                        from pictures, unnest(tags) as tag
                        where replaced_by is null
                        group by tag order by tag
                        """
                    )
                    .ToListAsync(cancel)
            ).Select(t => new TagEntry(t.Tag, t.Pictures)),
        ];

    private static async Task<PictureEntry> AddAsync(
        IFormFile file,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        PictureIntake intake,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        user.Person().MustAuthor("adds pictures");
        var bytes = await PictureIntake.ReceiveAsync(file, cancel);
        var taken = await intake.TakeAsync(bytes, Path.GetFileName(file.FileName), user.Person().Id, clock.GetUtcNow().UtcDateTime, cancel);
        var known = await db.Pictures.AsNoTracking().FirstOrDefaultAsync(p => p.Id == taken.Picture.Id, cancel);
        if (known is not null)
        {
            return Entry(known);
        }

        db.Pictures.Add(taken.Picture);
        await AddFilesAsync(db, taken.Files, cancel);
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException) when (!cancel.IsCancellationRequested)
        {
            // The same picture came in twice at once: the other request was first.
            db.ChangeTracker.Clear();
            return Entry(await db.Pictures.AsNoTracking().FirstAsync(p => p.Id == taken.Picture.Id, cancel));
        }

        return Entry(taken.Picture);
    }

    private static async Task<PictureEntry> ChangeAsync(
        string id,
        PictureChange change,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        PictureIntake intake,
        CancellationToken cancel
    )
    {
        user.Person().MustAuthor("describes pictures");
        var picture = await FindAsync(db, id, cancel);
        var (name, alt) = (change.Name?.Trim() ?? picture.Name, change.Alt?.Trim() ?? picture.Alt);
        ImmutableArray<string> tags =
        [
            .. (change.Tags ?? [.. picture.Tags])
                .Select(t => t.Trim().ToLowerInvariant())
                .Where(t => t.Length > 0)
                .Distinct(StringComparer.Ordinal)
                .Order(StringComparer.Ordinal),
        ];
        if (name.Length is 0 or > 200 || alt.Length > 500 || tags.Length > MostTags || tags.Any(t => t.Length > 40))
        {
            throw ProblemException.Invalid(
                $"A picture has a name of 1 to 200 characters, an alt text of up to 500, and up to {MostTags} tags of up to 40."
            );
        }

        picture.Describe(name, alt, tags);
        picture.Decorative = change.Decorative ?? picture.Decorative;
        if (change.FocalX is not null || change.FocalY is not null)
        {
            (picture.FocalX, picture.FocalY) = (
                Math.Clamp(change.FocalX ?? picture.FocalX, 0, 1),
                Math.Clamp(change.FocalY ?? picture.FocalY, 0, 1)
            );
            var whole = await db.PictureFiles.AsNoTracking().FirstAsync(f => f.Name == picture.WholeFile, cancel);
            if (await intake.CropAsync(whole.Content, picture.FocalX, picture.FocalY, cancel) is { } crop)
            {
                picture.PhoneCrop = crop.File;
                await AddFilesAsync(db, [crop.Stored], cancel);
            }
        }

        await db.SaveChangesAsync(cancel);
        return Entry(picture);
    }

    // Everything that shows it shows the other from now on, but for what was handed off; nothing that shows it is edited.
    private static async Task<PictureEntry> ReplaceAsync(
        string id,
        string? by,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        user.Person().MustBe("A picture is replaced everywhere by leads and designers only.", Role.Lead, Role.Designer);

        var picture = await FindAsync(db, id, cancel);
        for (var at = by; at is not null; at = (await FindAsync(db, at, cancel)).ReplacedBy)
        {
            if (at == id)
            {
                throw ProblemException.Invalid("The other picture is itself replaced by this one. Put it back first.");
            }
        }

        picture.ReplacedBy = by;
        await db.SaveChangesAsync(cancel);
        return Entry(picture);
    }

    private static async Task<UsesAnswer> UsesAsync(
        string id,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        LibraryCache library,
        CancellationToken cancel,
        string? after = null
    )
    {
        var picture = await FindAsync(db, id, cancel);
        var teams = (await library.GetAsync(db, cancel)).Plan.Teams;
        // What was replaced by it shows it too.
        var ids = await db
            .Database.SqlQuery<string>(
                $"""
                with recursive shown(id) as (
                    select {picture.Id} union select p.id from pictures p join shown on p.replaced_by = shown.id
                )
                select id as "Value" from shown
                """
            )
            .ToListAsync(cancel);
        return await WhereUsed.FindAsync(ReferenceKind.Picture, ids, user.Person(), teams, db, after, cancel);
    }

    private static async Task<IResult> FileAsync(string file, GoldenRuleDb db, HttpContext http, CancellationToken cancel)
    {
        var found = await db.PictureFiles.AsNoTracking().FirstOrDefaultAsync(f => f.Name == file, cancel)
            ?? throw ProblemException.NotFound("There is no such file.");
        http.Response.Headers.CacheControl = "public, max-age=31536000, immutable";
        http.Response.Headers.XContentTypeOptions = "nosniff";
        var type = AttachmentTypes.MediaTypeOf(file);
        return Results.Bytes(found.Content, type.StartsWith("text/", StringComparison.Ordinal) ? $"{type}; charset=utf-8" : type);
    }

    private static async Task AddFilesAsync(GoldenRuleDb db, IEnumerable<StoredPictureFile> files, CancellationToken cancel)
    {
        foreach (var file in files)
        {
            if (!await db.PictureFiles.AnyAsync(f => f.Name == file.Name, cancel))
            {
                db.PictureFiles.Add(file);
            }
        }
    }

    private static async Task<StoredPicture> FindAsync(GoldenRuleDb db, string id, CancellationToken cancel) =>
        await db.Pictures.FirstOrDefaultAsync(p => p.Id == id, cancel) ?? throw ProblemException.NotFound("There is no such picture.");

    private static PictureEntry Entry(StoredPicture p) =>
        new(
            p.Id,
            p.Name,
            p.Alt,
            p.Decorative,
            [.. p.Tags],
            p.Width,
            p.Height,
            p.Weight,
            p.Extension == "gif",
            $"/pictures/{p.WholeFile}",
            [.. p.Smaller.Prepend(new PictureFile(p.WholeFile, p.Width, p.Height, p.Weight)).Select(File)],
            p.PhoneCrop is null ? null : File(p.PhoneCrop),
            p.FocalX,
            p.FocalY,
            p.ReplacedBy,
            p.AddedAt
        );

    private static PictureFileEntry File(PictureFile file) => new($"/pictures/{file.Name}", file.Width, file.Height, file.Bytes);

    private sealed record TagCount(string Tag, int Pictures);
}
