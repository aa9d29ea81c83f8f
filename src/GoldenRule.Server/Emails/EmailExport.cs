using System.Collections.Immutable;
using System.Security.Claims;
using System.Security.Cryptography;
using System.Text;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Interchange;
using GoldenRule.Data;
using GoldenRule.Server.Audiences;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Jobs;
using GoldenRule.Server.Logs;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Emails;

/// <param name="Values">Each as it is written, by the name it has in the files; what is not known is not there.</param>
/// <param name="Holding">Which conditions hold, by their names in the files.</param>
public sealed record PlatformSample(
    Guid Id,
    string Name,
    ImmutableSortedDictionary<string, string> Values,
    ImmutableSortedDictionary<string, bool> Holding
);

/// <param name="Key">Technical name.</param>
public sealed record ProfileChoice(string Key, string Name)
{
    internal static ImmutableArray<ProfileChoice> List(AudiencePlan plan) =>
        [.. plan.AllProfiles.Select(p => new ProfileChoice(p.Key, p.Name))];
}

/// <summary>What a sending platform has to fill in and work out, with samples.</summary>
/// <param name="Profile">How fields and conditions are written in the files.</param>
/// <param name="Profiles">All there are, the usual one first.</param>
/// <param name="Subject">As the platform is given it.</param>
/// <param name="Faults">What the profile cannot say; the files are not given while there are any.</param>
/// <param name="Combinations">In how many ways readers can see it; null: more than are written as emails of their own.</param>
public sealed record PlatformFields(
    string Profile,
    ImmutableArray<ProfileChoice> Profiles,
    string Subject,
    ImmutableArray<FieldDefinition> Fields,
    ImmutableArray<ConditionDefinition> Conditions,
    ImmutableArray<Unsayable> Faults,
    int? Combinations,
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
                async (
                    Guid id,
                    JobRequest request,
                    ClaimsPrincipal user,
                    DocumentAccess access,
                    GoldenRuleDb db,
                    JobDesk jobs,
                    CancellationToken cancel
                ) =>
                {
                    var loaded = await access.LoadAsync(DocumentKind.Email, id, user.Person(), cancel);
                    MustBeUpToDate(loaded);
                    await TellAsync(loaded, user, "approval sheet", db, cancel);
                    return await jobs.AskAsync(request.Id, SignOffWork.WorkName, id, user.Person(), cancel);
                }
            )
            .WithName("printSignOff");
    }

    /// <param name="readable">True: laid out for people; shown alike.</param>
    /// <param name="sample">The sample reader whose it is. Null: fields are written for a sending platform.</param>
    private static async Task<IResult> HtmlAsync(
        Guid id,
        ClaimsPrincipal user,
        HttpRequest request,
        bool? download,
        bool? proof,
        bool? readable,
        Guid? sample,
        string? profile,
        DocumentAccess access,
        CompilationCache compilations,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var loaded = await access.LoadAsync(DocumentKind.Email, id, user.Person(), cancel);
        var compiled = compilations.Compile(loaded);
        if (proof != true)
        {
            MustBeUpToDate(loaded);
            await MailFiles.KeepAsync(compiled.Sending, db, cancel);
        }

        var email = (proof, sample) switch
        {
            (true, _) => compiled.Sending,
            (_, { } one) => Outgoing(compiled, loaded, request)
                .For(await SampleReaderEndpoints.FindAsync(one, loaded.Library.Audiences, db, cancel)),
            _ => Written(Outgoing(compiled, loaded, request), profile).Email,
        };
        if (download == true)
        {
            await TellAsync(loaded, user, "HTML", db, cancel);
        }

        var html = readable == true ? Readable.Format(email.HtmlText()) : email.HtmlText();
        var mark = MarkOf(loaded);
        return MailHtml.Answer(
            request.HttpContext,
            Encoding.UTF8.GetBytes(proof == true ? html : mark.MarkHtml(html)),
            download == true ? mark.FileName(loaded.Document.Name, ".html") : null
        );
    }

    /// <param name="sample">The sample reader whose it is. Null: fields are written for a sending platform.</param>
    private static async Task<IResult> TextAsync(
        Guid id,
        ClaimsPrincipal user,
        HttpRequest request,
        bool? download,
        Guid? sample,
        string? profile,
        DocumentAccess access,
        CompilationCache compilations,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var loaded = await access.LoadAsync(DocumentKind.Email, id, user.Person(), cancel);
        MustBeUpToDate(loaded);
        var compiled = compilations.Compile(loaded);
        var outgoing = Outgoing(compiled, loaded, request);
        var text = sample is { } one
            ? outgoing.TextFor(await SampleReaderEndpoints.FindAsync(one, loaded.Library.Audiences, db, cancel))
            : Written(outgoing, profile).PlainText;
        if (download == true)
        {
            await TellAsync(loaded, user, "plain text", db, cancel);
        }

        var mark = MarkOf(loaded);
        return Results.File(
            Encoding.UTF8.GetBytes(mark.MarkText(text)),
            "text/plain; charset=utf-8",
            download == true ? mark.FileName(loaded.Document.Name, ".txt") : null
        );
    }

    // What a sending platform is told of the fields, and what it would hold of each sample reader.
    private static async Task<PlatformFields> FieldsAsync(
        Guid id,
        ClaimsPrincipal user,
        string? profile,
        DocumentAccess access,
        CompilationCache compilations,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var loaded = await access.LoadAsync(DocumentKind.Email, id, user.Person(), cancel);
        var (compiled, plan) = (compilations.Compile(loaded), loaded.Library.Audiences);
        var export = new OutgoingEmail(compiled, loaded.Library, CompilationCache.PicturesAt).ForPlatform(Profile(plan, profile));
        var readers = await SampleReaderEndpoints.AllAsync(plan, db, cancel);
        var combinations = compiled.Resolved.Inline.Conditions.Solve(compiled.Resolved.Conditions());
        return new PlatformFields(
            export.Profile.Key,
            ProfileChoice.List(plan),
            export.Email.Source.Email.Details.Subject,
            export.Fields,
            export.Conditions,
            export.Faults,
            combinations is { IsComplete: true, Count: var count } && count <= CombinationExport.Most ? (int)count : null,
            [
                .. readers.Select(r => new PlatformSample(
                    r.Id,
                    r.Name,
                    FieldExport.Data(r, plan, ((Email)loaded.Document).Language, export.Profile),
                    export.Holding(r, plan)
                )),
            ]
        );
    }

    // What the lead requires is in all that leaves, also on paper.
    private static void MustBeUpToDate(LoadedDocument loaded)
    {
        if (Updates.MustTake((Email)loaded.Document, loaded.Library))
        {
            throw new ProblemException(
                409,
                "state",
                "An update must be taken first",
                "A newer release of what it is made from must be taken before it leaves. Take the update, then export it."
            );
        }
    }

    /// <param name="key">Null: the one that is always there.</param>
    /// <exception cref="ProblemException">There is none of that key.</exception>
    internal static ExportProfile Profile(AudiencePlan plan, string? key) =>
        plan.AllProfiles.FirstOrDefault(p => p.Key == (key ?? ExportProfile.Mustache.Key))
        ?? throw ProblemException.Invalid($"There is no export profile \"{key}\".", "profile");

    // What cannot be said is refused with its places: a file with a gap would go to everyone.
    private static FieldExport Written(OutgoingEmail outgoing, string? profile) =>
        Whole(outgoing.ForPlatform(Profile(outgoing.Library.Audiences, profile)));

    private static FieldExport Whole(FieldExport export) =>
        export.Faults is [var first, .. var more]
            ? throw ProblemException.Invalid(
                $"{first.Where}: {first.What}{(more.IsEmpty ? "" : $" And {more.Length} more.")} Choose another profile, or take the "
                    + "bundle with one email for each combination.",
                first.Where
            )
            : export;

    private static DraftMark MarkOf(LoadedDocument loaded) => DraftMark.For(loaded.Stored.State, loaded.Stored.Revision);

    /// <param name="embed">True: pictures are carried inside.</param>
    /// <param name="unsent">True: mail programs open it as a message that is still to be sent.</param>
    /// <param name="to">Address of the one it is for.</param>
    /// <param name="sample">The sample reader whose it is. Null: fields say their samples.</param>
    private static async Task<IResult> MessageAsync(
        Guid id,
        ClaimsPrincipal user,
        HttpRequest request,
        bool? embed,
        bool? unsent,
        string? to,
        Guid? sample,
        DocumentAccess access,
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

        var loaded = await access.LoadAsync(DocumentKind.Email, id, user.Person(), cancel);
        MustBeUpToDate(loaded);
        var compiled = compilations.Compile(loaded);
        var domain = MailFiles.DomainOf(compiled.Resolved.Email.Details.SenderAddress);
        await MailFiles.KeepAsync(compiled.Sending, db, cancel);
        var outgoing = Outgoing(compiled, loaded, request);
        var email = sample is { } one
            ? outgoing.For(await SampleReaderEndpoints.FindAsync(one, loaded.Library.Audiences, db, cancel))
            : outgoing.Whole();
        // The same revision gives the same message.
        var hash = Convert.ToHexStringLower(SHA256.HashData(email.Html()))[..16];
        var (content, mark) = (MessageContent.From(email), MarkOf(loaded));
        var message = MessageFile.Write(
            content with
            {
                Html = mark.MarkHtml(content.Html),
                FlowingText = mark.MarkText(content.FlowingText),
            },
            new MessageTerms(
                new DateTimeOffset(loaded.Stored.ChangedAt, TimeSpan.Zero),
                $"{id:N}.{loaded.Stored.Revision}.{hash}@{domain}",
                to ?? (outgoing.To is { Address: { Length: > 0 } person } ? person : null),
                await MailFiles.AttachmentsAsync(compiled.Resolved.Email, db, cancel),
                embed == true
                    ? (await MailFiles.PicturesAsync(email, db, cancel)).ToImmutableDictionary(
                        p => p.Name,
                        p => p.Content,
                        StringComparer.Ordinal
                    )
                    : ImmutableDictionary<string, byte[]>.Empty
            )
            {
                SubjectMark = mark.Subject,
                IsUnsent = unsent == true,
            }
        );
        await TellAsync(loaded, user, "message", db, cancel);
        return Results.File(message, MessageFile.MediaType, mark.FileName(loaded.Document.Name, ".eml"));
    }

    /// <param name="combinations">True: one email for each combination of conditions that a reader can meet.</param>
    private static async Task<IResult> BundleAsync(
        Guid id,
        ClaimsPrincipal user,
        HttpRequest request,
        string? profile,
        bool? combinations,
        DocumentAccess access,
        CompilationCache compilations,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var loaded = await access.LoadAsync(DocumentKind.Email, id, user.Person(), cancel);
        MustBeUpToDate(loaded);
        var compiled = compilations.Compile(loaded);
        var outgoing = Outgoing(compiled, loaded, request) with { PicturesAt = BundleFile.PicturesAt };
        var mark = MarkOf(loaded);
        if (combinations == true)
        {
            var emails = outgoing.ForEachCombination(Profile(loaded.Library.Audiences, profile));
            var files = new SortedDictionary<string, byte[]>(StringComparer.Ordinal);
            foreach (var email in emails)
            {
                foreach (var (name, content) in await MailFiles.OfAsync(Whole(email.Export).Email, db, cancel))
                {
                    files[name] = content;
                }
            }

            await TellAsync(loaded, user, "ZIP, one for each audience", db, cancel);
            return Results.File(
                BundleFile.Write(
                    CombinationExport.Files(emails).Select(f => (f.Name, mark.MarkFile(f.Name, f.Content))),
                    files.Select(f => (f.Key, f.Value))
                ),
                BundleFile.MediaType,
                mark.FileName(loaded.Document.Name, ".zip")
            );
        }

        var export = Written(outgoing, profile);
        await TellAsync(loaded, user, "ZIP", db, cancel);
        return Results.File(
            BundleFile.Write(
                BundleFile.Own(export.Email, export).Select(f => (f.Name, mark.MarkFile(f.Name, f.Content))),
                await MailFiles.OfAsync(export.Email, db, cancel)
            ),
            BundleFile.MediaType,
            mark.FileName(loaded.Document.Name, ".zip")
        );
    }

    /// <summary>Whoever takes an email away is in the log, with the revision they took.</summary>
    private static Task TellAsync(LoadedDocument loaded, ClaimsPrincipal user, string form, GoldenRuleDb db, CancellationToken cancel)
    {
        db.Record(
            loaded.Library.Clock,
            LogKind.Exported,
            user.Person().Id,
            loaded.Document.Name,
            null,
            new ExportTold(loaded.Stored.Id, loaded.Stored.Revision, form)
        );
        return db.SaveChangesAsync(cancel);
    }

    private sealed record ExportTold(Guid Email, long Revision, string Form);

    private static OutgoingEmail Outgoing(CompiledRevision compiled, LoadedDocument loaded, HttpRequest request) =>
        OutgoingEmail.Draft(
            compiled,
            loaded.Library,
            request.HttpContext.RequestServices.GetRequiredService<PublicAddress>().Base(request)
        );
}
