using System.Collections.Immutable;
using System.Security.Claims;
using System.Security.Cryptography;
using System.Text;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Interchange;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Jobs;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Emails;

/// <summary>A finished email taken away: HTML, text, message, bundle, sign-off sheet.</summary>
public static class TakingAway
{
    public static void MapTakingAway(this RouteGroupBuilder emails)
    {
        emails.MapGet("/{id:guid}/html", HtmlAsync).Produces<string>(200, "text/html").WithName("getHtml");
        emails.MapGet("/{id:guid}/text", TextAsync).Produces<string>(200, "text/plain").WithName("getPlainText");
        emails.MapGet("/{id:guid}/message", MessageAsync).Produces<string>(200, MessageFile.MediaType).WithName("getMessage");
        emails.MapGet("/{id:guid}/bundle", BundleAsync).Produces(200, null, BundleFile.MediaType).WithName("getBundle");
        emails.MapPost("/{id:guid}/sign-off", async (Guid id, JobRequest request, ClaimsPrincipal user, EditRoad road, JobDesk jobs, CancellationToken cancel) =>
        {
            _ = await road.LoadAsync(DocumentKind.Email, id, cancel);
            return await jobs.AskAsync(request.Id, SignOffWork.WorkName, id, user.Person(), cancel);
        }).WithName("printSignOff");
    }

    /// <param name="readable">True: laid out for people; shown alike.</param>
    private static async Task<IResult> HtmlAsync(Guid id, HttpRequest request, bool? download, bool? proof, bool? readable, EditRoad road, ProofPress press, GoldenRuleDb db, CancellationToken cancel)
    {
        var kept = await road.LoadAsync(DocumentKind.Email, id, cancel);
        var pressed = press.Press(kept);
        if (proof != true)
        {
            await MailFiles.KeepAsync(pressed.Sending, db, cancel);
        }

        var email = proof == true ? pressed.Sending : ProofPress.ForSending(pressed, kept.Library, PicturesHere(request));
        return MailHtml.Answer(request.HttpContext, readable == true ? Encoding.UTF8.GetBytes(Readable.Of(email.HtmlText())) : email.Html(), download == true ? kept.Document.Name + ".html" : null);
    }

    private static async Task<IResult> TextAsync(Guid id, bool? download, EditRoad road, ProofPress press, CancellationToken cancel)
    {
        var kept = await road.LoadAsync(DocumentKind.Email, id, cancel);
        return Results.File(
            Encoding.UTF8.GetBytes(ProofPress.ForSending(press.Press(kept), kept.Library, ProofPress.PicturesAt).PlainText()),
            "text/plain; charset=utf-8",
            download == true ? kept.Document.Name + ".txt" : null);
    }

    /// <param name="embed">True: pictures are carried inside.</param>
    /// <param name="to">Address of the one it is for.</param>
    private static async Task<IResult> MessageAsync(Guid id, HttpRequest request, bool? embed, string? to, EditRoad road, ProofPress press, GoldenRuleDb db, CancellationToken cancel)
    {
        if (to is not null && (!MimeKit.MailboxAddress.TryParse(to, out var reader) || !reader.Address.Contains('@', StringComparison.Ordinal)))
        {
            throw ProblemException.Invalid($"\"{to}\" is not an address. Write it like reader@example.org.", "to");
        }

        var kept = await road.LoadAsync(DocumentKind.Email, id, cancel);
        var pressed = press.Press(kept);
        var sender = pressed.Resolved.Email.Details.SenderAddress;
        if (!MailAddresses.IsOne(sender))
        {
            throw ProblemException.Invalid($"{(sender.Length == 0 ? "The email has no sending address" : $"\"{sender}\" is no sending address")}, and no message goes without one. Write it in the details, like post@larkfell.example.org.", "details/senderAddress");
        }

        await MailFiles.KeepAsync(pressed.Sending, db, cancel);
        var email = ProofPress.ForSending(pressed, kept.Library, PicturesHere(request));
        var attached = pressed.Resolved.Email.Attachments.Select(a => a.File).ToList();
        var files = attached.Count == 0 ? [] : await db.Files.AsNoTracking().Where(f => attached.Contains(f.Id)).ToDictionaryAsync(f => f.Id, f => f.Content, StringComparer.Ordinal, cancel);
        // The same revision gives the same message.
        var hash = Convert.ToHexStringLower(SHA256.HashData(email.Html()))[..16];
        var message = MessageFile.Write(email, new MessageTerms(
            new DateTimeOffset(kept.Stored.ChangedAt, TimeSpan.Zero),
            $"{id:N}.{kept.Stored.Revision}.{hash}@{sender[(sender.LastIndexOf('@') + 1)..]}",
            to,
            [.. pressed.Resolved.Email.Attachments.Where(a => files.ContainsKey(a.File)).Select(a => new MessagePart(AttachmentTypes.SafeName(a.Name), a.MediaType, files[a.File]))],
            embed == true ? (await MailFiles.PicturesAsync(email, db, cancel)).ToImmutableDictionary(p => p.Name, p => p.Content, StringComparer.Ordinal) : ImmutableDictionary<string, byte[]>.Empty));
        return Results.File(message, MessageFile.MediaType, kept.Document.Name + ".eml");
    }

    private static async Task<IResult> BundleAsync(Guid id, EditRoad road, ProofPress press, GoldenRuleDb db, CancellationToken cancel)
    {
        var kept = await road.LoadAsync(DocumentKind.Email, id, cancel);
        var email = ProofPress.ForSending(press.Press(kept), kept.Library, BundleFile.PicturesAt);
        return Results.File(BundleFile.Write(email, await MailFiles.OfAsync(email, db, cancel)), BundleFile.MediaType, kept.Document.Name + ".zip");
    }

    private static string PicturesHere(HttpRequest request) =>
        request.HttpContext.RequestServices.GetRequiredService<PublicAddress>().Pictures(request);
}
