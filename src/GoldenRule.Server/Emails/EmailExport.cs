using System.Collections.Immutable;
using System.Security.Claims;
using System.Security.Cryptography;
using System.Text;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Interchange;
using GoldenRule.Data;
using GoldenRule.Server.Audiences;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Jobs;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Emails;

/// <param name="Values">Each as it is written, by the name it has in the files; what is not known is not there.</param>
public sealed record PlatformSample(Guid Id, string Name, ImmutableSortedDictionary<string, string> Values);

/// <summary>What a sending platform has to fill in, with samples.</summary>
/// <param name="Profile">How fields are written in the files.</param>
/// <param name="Subject">As the platform is given it.</param>
public sealed record PlatformFields(
    string Profile,
    string Subject,
    ImmutableArray<FieldDefinition> Fields,
    ImmutableArray<PlatformSample> Samples
);

/// <summary>A finished email taken away: HTML, text, message, bundle, sign-off sheet.</summary>
public static class EmailExport
{
    public static void MapExport(this RouteGroupBuilder emails)
    {
        emails.MapGet("/{id:guid}/html", HtmlAsync).Produces<string>(200, "text/html").WithName("getHtml");
        emails.MapGet("/{id:guid}/text", TextAsync).Produces<string>(200, "text/plain").WithName("getPlainText");
        emails.MapGet("/{id:guid}/fields", FieldsAsync).WithName("getPlatformFields");
        emails.MapGet("/{id:guid}/message", MessageAsync).Produces<string>(200, MessageFile.MediaType).WithName("getMessage");
        emails.MapGet("/{id:guid}/bundle", BundleAsync).Produces(200, null, BundleFile.MediaType).WithName("getBundle");
        emails
            .MapPost(
                "/{id:guid}/sign-off",
                async (Guid id, JobRequest request, ClaimsPrincipal user, EditPipeline pipeline, JobDesk jobs, CancellationToken cancel) =>
                {
                    _ = await pipeline.LoadAsync(DocumentKind.Email, id, cancel);
                    return await jobs.AskAsync(request.Id, SignOffWork.WorkName, id, user.Person(), cancel);
                }
            )
            .WithName("printSignOff");
    }

    /// <param name="readable">True: laid out for people; shown alike.</param>
    /// <param name="sample">The sample reader whose it is. Null: fields are written for a sending platform.</param>
    private static async Task<IResult> HtmlAsync(
        Guid id,
        HttpRequest request,
        bool? download,
        bool? proof,
        bool? readable,
        Guid? sample,
        EditPipeline pipeline,
        CompilationCache compilations,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var loaded = await pipeline.LoadAsync(DocumentKind.Email, id, cancel);
        var compiled = compilations.Compile(loaded);
        if (proof != true)
        {
            await MailFiles.KeepAsync(compiled.Sending, db, cancel);
        }

        var email = (proof, sample) switch
        {
            (true, _) => compiled.Sending,
            (_, { } one) => CompilationCache.ForSending(
                compiled,
                loaded.Library,
                PicturesHere(request),
                await SampleReaderEndpoints.FindAsync(one, loaded.Library.Audiences, db, cancel)
            ),
            _ => CompilationCache.ForPlatform(compiled, loaded.Library, PicturesHere(request)).Email,
        };
        return MailHtml.Answer(
            request.HttpContext,
            readable == true ? Encoding.UTF8.GetBytes(Readable.Format(email.HtmlText())) : email.Html(),
            download == true ? loaded.Document.Name + ".html" : null
        );
    }

    /// <param name="sample">The sample reader whose it is. Null: fields are written for a sending platform.</param>
    private static async Task<IResult> TextAsync(
        Guid id,
        bool? download,
        Guid? sample,
        EditPipeline pipeline,
        CompilationCache compilations,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var loaded = await pipeline.LoadAsync(DocumentKind.Email, id, cancel);
        var compiled = compilations.Compile(loaded);
        var text = sample is { } one
            ? CompilationCache.TextFor(
                compiled,
                loaded.Library,
                await SampleReaderEndpoints.FindAsync(one, loaded.Library.Audiences, db, cancel)
            )
            : CompilationCache.ForPlatform(compiled, loaded.Library, CompilationCache.PicturesAt).Email.PlainText();
        return Results.File(
            Encoding.UTF8.GetBytes(text),
            "text/plain; charset=utf-8",
            download == true ? loaded.Document.Name + ".txt" : null
        );
    }

    // What a sending platform is told of the fields, and what it would hold of each sample reader.
    private static async Task<PlatformFields> FieldsAsync(
        Guid id,
        EditPipeline pipeline,
        CompilationCache compilations,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var loaded = await pipeline.LoadAsync(DocumentKind.Email, id, cancel);
        var export = CompilationCache.ForPlatform(compilations.Compile(loaded), loaded.Library, CompilationCache.PicturesAt);
        var readers = await SampleReaderEndpoints.AllAsync(loaded.Library.Audiences, db, cancel);
        return new PlatformFields(
            ExportProfile.Mustache.Name,
            export.Email.Source.Email.Details.Subject,
            export.Fields,
            [
                .. readers.Select(r => new PlatformSample(
                    r.Id,
                    r.Name,
                    FieldExport.Data(r, loaded.Library.Audiences, ((Email)loaded.Document).Language)
                )),
            ]
        );
    }

    /// <param name="embed">True: pictures are carried inside.</param>
    /// <param name="to">Address of the one it is for.</param>
    /// <param name="sample">The sample reader whose it is. Null: fields say their samples.</param>
    private static async Task<IResult> MessageAsync(
        Guid id,
        HttpRequest request,
        bool? embed,
        string? to,
        Guid? sample,
        EditPipeline pipeline,
        CompilationCache compilations,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        if (
            to is not null
            && (!MimeKit.MailboxAddress.TryParse(to, out var reader) || !reader.Address.Contains('@', StringComparison.Ordinal))
        )
        {
            throw ProblemException.Invalid($"\"{to}\" is not an address. Write it like reader@example.org.", "to");
        }

        var loaded = await pipeline.LoadAsync(DocumentKind.Email, id, cancel);
        var compiled = compilations.Compile(loaded);
        var sender = compiled.Resolved.Email.Details.SenderAddress;
        if (!MailAddresses.IsOne(sender))
        {
            throw ProblemException.Invalid(
                $"{(sender.Length == 0 ? "The email has no sending address" : $"\"{sender}\" is no sending address")}, "
                    + "and no message goes without one. Write it in the details, like post@larkfell.example.org.",
                "details/senderAddress"
            );
        }

        await MailFiles.KeepAsync(compiled.Sending, db, cancel);
        var email = CompilationCache.ForSending(
            compiled,
            loaded.Library,
            PicturesHere(request),
            sample is { } one ? await SampleReaderEndpoints.FindAsync(one, loaded.Library.Audiences, db, cancel) : null
        );
        var attached = compiled.Resolved.Email.Attachments.Select(a => a.File).ToList();
        var files =
            attached.Count == 0
                ? []
                : await db
                    .Files.AsNoTracking()
                    .Where(f => attached.Contains(f.Id))
                    .ToDictionaryAsync(f => f.Id, f => f.Content, StringComparer.Ordinal, cancel);
        // The same revision gives the same message.
        var hash = Convert.ToHexStringLower(SHA256.HashData(email.Html()))[..16];
        var message = MessageFile.Write(
            email,
            new MessageTerms(
                new DateTimeOffset(loaded.Stored.ChangedAt, TimeSpan.Zero),
                $"{id:N}.{loaded.Stored.Revision}.{hash}@{sender[(sender.LastIndexOf('@') + 1)..]}",
                to,
                [
                    .. compiled
                        .Resolved.Email.Attachments.Where(a => files.ContainsKey(a.File))
                        .Select(a => new MessagePart(AttachmentTypes.SafeName(a.Name), a.MediaType, files[a.File])),
                ],
                embed == true
                    ? (await MailFiles.PicturesAsync(email, db, cancel)).ToImmutableDictionary(
                        p => p.Name,
                        p => p.Content,
                        StringComparer.Ordinal
                    )
                    : ImmutableDictionary<string, byte[]>.Empty
            )
        );
        return Results.File(message, MessageFile.MediaType, loaded.Document.Name + ".eml");
    }

    private static async Task<IResult> BundleAsync(
        Guid id,
        EditPipeline pipeline,
        CompilationCache compilations,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var loaded = await pipeline.LoadAsync(DocumentKind.Email, id, cancel);
        var export = CompilationCache.ForPlatform(compilations.Compile(loaded), loaded.Library, BundleFile.PicturesAt);
        return Results.File(
            BundleFile.Write(export.Email, await MailFiles.OfAsync(export.Email, db, cancel), export),
            BundleFile.MediaType,
            loaded.Document.Name + ".zip"
        );
    }

    private static string PicturesHere(HttpRequest request) =>
        request.HttpContext.RequestServices.GetRequiredService<PublicAddress>().Pictures(request);
}
