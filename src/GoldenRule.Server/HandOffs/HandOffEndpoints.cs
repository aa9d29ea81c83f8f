using System.Collections.Immutable;
using System.Security.Claims;
using System.Text;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.HandOffs;
using GoldenRule.Core.Interchange;
using GoldenRule.Data;
using GoldenRule.Server.Audiences;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Jobs;
using GoldenRule.Server.Logs;
using GoldenRule.Server.People;

namespace GoldenRule.Server.HandOffs;

/// <summary>Handing off, and what was: looked at, verified, exported, corrected, withdrawn.</summary>
public static class HandOffEndpoints
{
    public static void MapHandOffs(this IEndpointRouteBuilder api)
    {
        var ofEmail = api.MapGroup("/emails/{id:guid}").WithTags("Hand-offs");
        ofEmail
            .MapGet("/hand-offs", (Guid id, ClaimsPrincipal user, HandOffAnswers answers, CancellationToken cancel) =>
                answers.ListAsync(id, user.Person(), cancel)
            )
            .WithName("listHandOffs");
        ofEmail
            .MapPost(
                "/hand-offs",
                (Guid id, HandOffRequest request, HttpContext http, HandOffDesk desk, PublicAddress address, CancellationToken cancel) =>
                    desk.HandOffAsync(id, request, http.User.Person(), address.Base(http.Request), cancel)
            )
            .WithName("handOff");
        ofEmail
            .MapPost(
                "/correction",
                async (Guid id, ClaimsPrincipal user, HandOffDesk desk, HandOffAnswers answers, CancellationToken cancel) =>
                {
                    await desk.CorrectAsync(id, user.Person(), cancel);
                    return await answers.ListAsync(id, user.Person(), cancel);
                }
            )
            .WithName("correctHandOff");

        var one = api.MapGroup("/hand-offs/{id:guid}").WithTags("Hand-offs");
        one.MapGet("", (Guid id, ClaimsPrincipal user, HandOffAnswers answers, CancellationToken cancel) =>
                answers.AnswerAsync(id, user.Person(), cancel)
            )
            .WithName("getHandOff");
        one.MapPost("/withdrawal", (Guid id, WithdrawalRequest request, ClaimsPrincipal user, HandOffDesk desk, CancellationToken cancel) =>
                desk.WithdrawAsync(id, request.Reason, user.Person(), cancel)
            )
            .WithName("withdrawHandOff");
        one.MapPost("/sending", (Guid id, ClaimsPrincipal user, PersonalSending sending, CancellationToken cancel) =>
                sending.SendAsync(id, user.Person(), cancel)
            )
            .RequireRateLimiting(RateLimits.Costly)
            .WithName("sendToOnePerson");
        one.MapPut("/page", (Guid id, BrowserPageRequest request, ClaimsPrincipal user, HandOffDesk desk, CancellationToken cancel) =>
                desk.SetPageAsync(id, request.Until, user.Person(), cancel)
            )
            .WithName("setBrowserPage");
        one.MapPost("/verification", VerifyAsync).WithName("verifyHandOff");
        one.MapPost("/reader-address", ReaderAddressAsync).WithName("writeReaderAddress");
        one.MapGet("/html", HtmlAsync).Produces<string>(200, "text/html").WithName("getHandOffHtml");
        one.MapGet("/text", TextAsync).Produces<string>(200, "text/plain").WithName("getHandOffText");
        one.MapGet("/message", MessageAsync).Produces<string>(200, MessageFile.MediaType).WithName("getHandOffMessage");
        one.MapGet("/bundle", BundleAsync).Produces(200, null, BundleFile.MediaType).WithName("getHandOffBundle");
        one.MapGet("/record", RecordAsync).Produces<string>(200, "application/json").WithName("getHandOffRecord");
        one.MapPost(
                "/sign-off",
                async (
                    Guid id,
                    JobRequest request,
                    ClaimsPrincipal user,
                    HandOffAnswers answers,
                    GoldenRuleDb db,
                    TimeProvider clock,
                    JobDesk jobs,
                    CancellationToken cancel
                ) =>
                {
                    var (stored, record) = await OpenAsync(id, user, answers, cancel);
                    await TellAsync(record, user, "approval sheet", db, clock, cancel);
                    return await jobs.AskAsync(request.Id, HandOffSheetWork.WorkName, stored.DocumentId, user.Person(), cancel, id);
                }
            )
            .WithName("printHandOffSheet");
    }

    private static async Task<HandOffVerified> VerifyAsync(
        Guid id,
        ClaimsPrincipal user,
        HandOffAnswers answers,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var stored = await answers.FindAsync(id, user.Person(), cancel);
        var looked = await HandOffVerification.CheckAsync(stored.Record, stored.Seal, file => HandOffFiles.FindAsync(file, db, cancel));
        return new HandOffVerified(looked.Holds, looked.Faults, looked.Files, looked.Bytes, clock.GetUtcNow().UtcDateTime);
    }

    private static async Task<ReaderAddress> ReaderAddressAsync(
        Guid id,
        ReaderAddressRequest request,
        ClaimsPrincipal user,
        HandOffAnswers answers,
        LibraryCache library,
        BrowserPages pages,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var (_, record) = await OpenAsync(id, user, answers, cancel);
        var plan = (await library.GetAsync(db, cancel)).Audiences;
        var reader = await SampleReaderEndpoints.FindAsync(request.Sample, plan, db, cancel);
        return new ReaderAddress(pages.AddressFor(record, reader), (clock.GetUtcNow() + BrowserPages.ReaderAddressesHold).UtcDateTime);
    }

    /// <param name="profile">Null: the one it was handed off in.</param>
    /// <param name="proof">True: to be looked at within the application, as somebody of whom nothing is known gets it.</param>
    /// <param name="readable">True: laid out for people; shown alike.</param>
    private static async Task<IResult> HtmlAsync(
        Guid id,
        HttpContext http,
        string? profile,
        bool? proof,
        bool? readable,
        HandOffAnswers answers,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var (_, record) = await OpenAsync(id, http.User, answers, cancel);
        if (proof == true)
        {
            var merge = await HandOffFiles.MergeAsync(record, db, cancel);
            var seen = merge.HtmlFor(Core.Merging.MergeReader.Unknown);
            return MailHtml.Answer(
                http,
                Encoding.UTF8.GetBytes(seen.Replace(merge.PicturesAt, CompilationCache.PicturesAt, StringComparison.Ordinal))
            );
        }

        var html = await HandOffFiles.ReadAsync(record, HandOffFileKind.Html, profile ?? record.Profile, db, cancel);
        await TellAsync(record, http.User, readable == true ? "readable HTML" : "HTML", db, clock, cancel);
        return MailHtml.Answer(
            http,
            readable == true ? Encoding.UTF8.GetBytes(Readable.Format(Encoding.UTF8.GetString(html))) : html,
            FileName(record, ".html")
        );
    }

    private static async Task<IResult> TextAsync(
        Guid id,
        ClaimsPrincipal user,
        string? profile,
        bool? proof,
        HandOffAnswers answers,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var (_, record) = await OpenAsync(id, user, answers, cancel);
        var text = await HandOffFiles.ReadAsync(record, HandOffFileKind.Text, profile ?? record.Profile, db, cancel);
        if (proof != true)
        {
            await TellAsync(record, user, "plain text", db, clock, cancel);
        }

        return Results.File(text, "text/plain; charset=utf-8", proof == true ? null : FileName(record, ".txt"));
    }

    /// <param name="unsent">True: mail programs open it as a message that is still to be sent.</param>
    /// <param name="sample">The sample reader whose it is. Null: fields as the profile writes them, byte for byte as it was frozen.</param>
    private static async Task<IResult> MessageAsync(
        Guid id,
        ClaimsPrincipal user,
        string? profile,
        bool? unsent,
        Guid? sample,
        HandOffAnswers answers,
        LibraryCache library,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var (_, record) = await OpenAsync(id, user, answers, cancel);
        var message = await HandOffFiles.ReadAsync(record, HandOffFileKind.Message, profile ?? record.Profile, db, cancel);
        if (sample is { } one)
        {
            var plan = (await library.GetAsync(db, cancel)).Audiences;
            var reader = await SampleReaderEndpoints.FindAsync(one, plan, db, cancel);
            var merge = await HandOffFiles.MergeAsync(record, db, cancel);
            var attached = await HandOffFiles.AllAsync(record, HandOffFileKind.Attachment, db, cancel);
            message = MessageFile.Write(
                merge.For(reader),
                new MessageTerms(
                    new DateTimeOffset(record.At, TimeSpan.Zero),
                    $"{id:N}.{one:N}@{record.Details.SenderAddress[(record.Details.SenderAddress.LastIndexOf('@') + 1)..]}",
                    null,
                    [
                        .. attached.Select(a => new MessagePart(
                            a.File.Name[(a.File.Name.LastIndexOf('/') + 1)..],
                            a.File.MediaType,
                            a.Content
                        )),
                    ],
                    ImmutableDictionary<string, byte[]>.Empty
                )
                {
                    IsUnsent = unsent == true,
                }
            );
        }
        else if (unsent == true)
        {
            message = MessageFile.AsUnsent(message);
        }

        await TellAsync(record, user, "message", db, clock, cancel);
        return Results.File(message, MessageFile.MediaType, FileName(record, ".eml"));
    }

    private static async Task<IResult> BundleAsync(
        Guid id,
        ClaimsPrincipal user,
        string? profile,
        HandOffAnswers answers,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var (stored, record) = await OpenAsync(id, user, answers, cancel);
        var wanted = profile ?? record.Profile;
        var merge = await HandOffFiles.MergeAsync(record, db, cancel);
        var html = Encoding.UTF8.GetString(await HandOffFiles.ReadAsync(record, HandOffFileKind.Html, wanted, db, cancel));
        var pictures = await HandOffFiles.AllAsync(record, HandOffFileKind.Picture, db, cancel);
        var tables = (await HandOffFiles.AllAsync(record, HandOffFileKind.Table, db, cancel)).Where(t => t.File.Profile == wanted);
        var bundle = BundleFile.Write(
            [
                ("index.html", Encoding.UTF8.GetBytes(html.Replace(merge.PicturesAt, BundleFile.PicturesAt, StringComparison.Ordinal))),
                ("plain.txt", await HandOffFiles.ReadAsync(record, HandOffFileKind.Text, wanted, db, cancel)),
                ("message.eml", await HandOffFiles.ReadAsync(record, HandOffFileKind.Message, wanted, db, cancel)),
                ("hand-off.json", Encoding.UTF8.GetBytes(stored.Record)),
                .. tables.Select(t => (LastOf(t.File.Name), t.Content)),
            ],
            pictures.Select(p => (LastOf(p.File.Name), p.Content))
        );
        await TellAsync(record, user, "ZIP", db, clock, cancel);
        return Results.File(bundle, BundleFile.MediaType, FileName(record, ".zip"));
    }

    private static async Task<IResult> RecordAsync(Guid id, ClaimsPrincipal user, HandOffAnswers answers, CancellationToken cancel)
    {
        var (stored, record) = await OpenAsync(id, user, answers, cancel);
        return Results.File(Encoding.UTF8.GetBytes(stored.Record), "application/json", FileName(record, ".json"));
    }

    private static async Task<(StoredHandOff Stored, HandOffRecord Record)> OpenAsync(
        Guid id,
        ClaimsPrincipal user,
        HandOffAnswers answers,
        CancellationToken cancel
    )
    {
        var stored = await answers.FindAsync(id, user.Person(), cancel);
        return (stored, HandOffRecord.Read(stored.Record));
    }

    private static string LastOf(string name) => name[(name.LastIndexOf('/') + 1)..];

    private static string FileName(HandOffRecord record, string ending) => $"{record.Name}, hand-off {record.Number}{ending}";

    private static Task TellAsync(
        HandOffRecord record,
        ClaimsPrincipal user,
        string form,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        db.Record(clock, LogKind.Exported, user.Person().Id, record.Name, null, new HandOffExportTold(record.Email, record.Number, form));
        return db.SaveChangesAsync(cancel);
    }

    private sealed record HandOffExportTold(Guid Email, int HandOff, string Form);
}
