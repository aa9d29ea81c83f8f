using System.Buffers.Text;
using System.Collections.Immutable;
using System.Security.Cryptography;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HandOffs;
using GoldenRule.Core.Interchange;
using GoldenRule.Core.Reviews;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using GoldenRule.Server.Reviews;
using GoldenRule.Server.Webhooks;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.HandOffs;

/// <summary>Freezing an approved email, opening it again for a correction, withdrawing, and how long its page stays.</summary>
public sealed class HandOffDesk(
    GoldenRuleDb db,
    HeldEmails emails,
    CompilationCache compilations,
    HandOffAnswers answers,
    BrowserPages pages,
    TimeProvider clock
)
{
    public const int LongestNote = 2_000;

    /// <param name="at">Scheme and host of this server, as readers reach it.</param>
    /// <exception cref="ProblemException">It is not approved, or is not what was looked at.</exception>
    public async Task<HandOffAnswer> HandOffAsync(
        Guid email,
        HandOffRequest request,
        Person everywhere,
        string at,
        CancellationToken cancel
    )
    {
        MustBeShort(request.Note, "note");
        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        var held = await emails.HoldAsync(email, everywhere, cancel);
        if (await db.HandOffs.Where(h => h.Id == request.Id).Select(h => (Guid?)h.DocumentId).FirstOrDefaultAsync(cancel) is { } known)
        {
            return known == email
                ? await answers.AnswerAsync(request.Id, everywhere, cancel)
                : throw ProblemException.Invalid("That id belongs to another hand-off.");
        }

        var compiled = compilations.Compile(held.Loaded, cancel);
        var seen = ReviewSight.Look(compiled, held.Loaded.Library);
        var round = await answers.LastRoundAsync(email, cancel);
        ProblemException.ThrowIfRefused(
            HandOffPermissions.MayHandOff(held.Person, held.Stored.State, HandOffAnswers.Obstacles(held.Loaded, compiled, seen, round))
        );
        if (seen.Hash != request.Hash)
        {
            throw new ProblemException(
                409,
                "seen-changed",
                "It has changed since you looked",
                "What you looked at is not what there is now. Look again, then hand it off."
            );
        }

        var address = Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(16));
        var page = at + PublicAddress.BrowserPages + address;
        var outgoing = new OutgoingEmail(compiled, held.Loaded.Library, at + CompilationCache.PicturesAt, page);
        // What is written to one person is for them alone, on its page too.
        outgoing = outgoing.To is null ? outgoing : outgoing with { PageAt = pages.AddressFor(request.Id, page) };
        var (stored, files) = await FreezeAsync(request, held, outgoing, page, seen, round!, cancel);
        await HandOffFiles.KeepAsync(files, db, cancel);
        db.HandOffs.Add(stored);
        held.Stored.State = EmailState.HandedOff;
        db.Record(clock, LogKind.HandedOff, held.Person.Id, held.Stored.Name, null, new HandOffTold(stored.Id, stored.Number, stored.Seal));
        var told = WebhookEvents.About(HandOffRecord.Read(stored.Record));
        await WebhookEvents.AddAsync(WebhookEvents.HandedOff, told, db, clock, cancel);
        await SaveAsync(email, turn, cancel);
        return await answers.AnswerAsync(request.Id, everywhere, cancel);
    }

    /// <summary>Opens the email again. What was handed off, and its page, stay until they are withdrawn.</summary>
    public async Task CorrectAsync(Guid email, Person everywhere, CancellationToken cancel)
    {
        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        var held = await emails.HoldAsync(email, everywhere, cancel);
        ProblemException.ThrowIfRefused(HandOffPermissions.MayCorrect(held.Person, held.Stored.State));
        held.Stored.State = EmailState.Draft;
        db.Record(clock, LogKind.CorrectionBegun, held.Person.Id, held.Stored.Name);
        await SaveAsync(email, turn, cancel);
    }

    /// <summary>Takes a hand-off back: its page is closed, its record stays.</summary>
    public async Task<HandOffAnswer> WithdrawAsync(Guid id, string reason, Person everywhere, CancellationToken cancel)
    {
        MustBeShort(reason, "reason");
        if (string.IsNullOrWhiteSpace(reason))
        {
            throw ProblemException.Invalid("Say why it is withdrawn: whoever sends it is told.", "reason");
        }

        var of = await answers.FindAsync(id, everywhere, cancel);
        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        var held = await emails.HoldAsync(of.DocumentId, everywhere, cancel);
        var withdrawn = await db.Withdrawals.AnyAsync(w => w.HandOffId == id, cancel);
        ProblemException.ThrowIfRefused(HandOffPermissions.MayWithdraw(held.Person, withdrawn));
        db.Withdrawals.Add(
            new StoredWithdrawal
            {
                HandOffId = id,
                By = held.Person.Id,
                At = clock.GetUtcNow().UtcDateTime,
                Reason = reason.Trim(),
            }
        );
        db.Record(
            clock,
            LogKind.HandOffWithdrawn,
            held.Person.Id,
            held.Stored.Name,
            null,
            new HandOffTold(id, of.Number, of.Seal) { Reason = reason.Trim() }
        );
        var told = WebhookEvents.About(HandOffRecord.Read(of.Record), reason.Trim());
        await WebhookEvents.AddAsync(WebhookEvents.Withdrawn, told, db, clock, cancel);
        await StopSendingAsync(id, cancel);
        await SaveAsync(of.DocumentId, turn, cancel);
        pages.Forget(of.Address);
        return await answers.AnswerAsync(id, everywhere, cancel);
    }

    // Nothing more goes out of it, and destinations that have it are told.
    private async Task StopSendingAsync(Guid id, CancellationToken cancel)
    {
        var now = clock.GetUtcNow().UtcDateTime;
        await db
            .Sends.Where(s => s.HandOffId == id && s.State != SendingState.Done && s.State != SendingState.Stopped)
            .ExecuteUpdateAsync(
                s =>
                    s.SetProperty(x => x.State, SendingState.Stopped)
                        .SetProperty(x => x.DueAt, (DateTime?)null)
                        .SetProperty(x => x.Answer, "It was withdrawn."),
                cancel
            );
        await db
            .Pushes.Where(p => p.HandOffId == id && (p.TakenAt != null || p.NextTry != null))
            .ExecuteUpdateAsync(
                p =>
                    p.SetProperty(x => x.State, PushState.Waiting)
                        .SetProperty(x => x.Tries, 0)
                        .SetProperty(x => x.NextTry, now)
                        .SetProperty(x => x.Answer, "It was withdrawn, and is withdrawn there."),
                cancel
            );
    }

    public async Task<HandOffAnswer> SetPageAsync(Guid id, DateOnly? until, Person everywhere, CancellationToken cancel)
    {
        var of = await answers.FindAsync(id, everywhere, cancel);
        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        var held = await emails.HoldAsync(of.DocumentId, everywhere, cancel);
        var withdrawn = await db.Withdrawals.AnyAsync(w => w.HandOffId == id, cancel);
        ProblemException.ThrowIfRefused(HandOffPermissions.MaySetPage(held.Person, withdrawn));
        var page = await db.HandOffPages.FirstAsync(p => p.HandOffId == id, cancel);
        db.Record(clock, LogKind.BrowserPageSet, held.Person.Id, held.Stored.Name, new { page.Until }, new { Until = until });
        page.Until = until;
        await SaveAsync(of.DocumentId, turn, cancel);
        pages.Forget(of.Address);
        return await answers.AnswerAsync(id, everywhere, cancel);
    }

    private async Task<(StoredHandOff Stored, ImmutableArray<(HandOffFile File, byte[] Content)> Files)> FreezeAsync(
        HandOffRequest request,
        HeldEmail held,
        OutgoingEmail outgoing,
        string page,
        SeenEmail seen,
        StoredReviewRound round,
        CancellationToken cancel
    )
    {
        var (loaded, compiled, now) = (held.Loaded, outgoing.Compiled, Second(clock.GetUtcNow()));
        var (plan, kept) = (loaded.Library.Audiences, outgoing.WithFieldsKept());
        var chosen = EmailExport.Profile(plan, request.Profile);
        var before = await db
            .HandOffs.Where(h => h.DocumentId == held.Stored.Id)
            .OrderByDescending(h => h.Number)
            .Select(h => new { h.Id, h.Number })
            .FirstOrDefaultAsync(cancel);
        var number = (before?.Number ?? 0) + 1;
        await MailFiles.KeepAsync(compiled.Sending, db, cancel);
        var frozen = FrozenEmail.Freeze(
            kept,
            plan,
            chosen,
            new FreezeTerms(
                seen,
                SheetOf(outgoing, chosen, $"Handed off, {number}", $"Handed off {now:yyyy-MM-dd HH:mm} UTC by {held.Person.Name}"),
                await MailFiles.OfAsync(kept, db, cancel),
                await MailFiles.AttachmentsAsync(compiled.Resolved.Email, db, cancel),
                now,
                $"{request.Id:N}@{MailFiles.DomainOf(compiled.Resolved.Email.Details.SenderAddress)}",
                outgoing.To
            )
        );
        var record = new HandOffRecord(
            HandOffRecord.CurrentFormat,
            request.Id,
            number,
            held.Stored.Id,
            held.Stored.Name,
            held.Stored.CampaignType ?? "",
            loaded.Library.Plan.Find(held.Stored.CampaignType)?.Name ?? "",
            held.Stored.Revision,
            seen.Hash,
            now.UtcDateTime,
            held.Person.Id,
            held.Person.Name,
            request.Note.Trim(),
            before?.Id,
            compiled.Resolved.Email.Language,
            frozen.Details,
            page,
            chosen.Key,
            frozen.Profiles,
            await ApprovalsAsync(round, cancel),
            [.. ParentStyles(compiled, loaded.Library), .. seen.Versions],
            [
                .. compiled.Resolved.Style.Variables.Select(v => new HandOffVariable(
                    v.Key,
                    v.Label,
                    compiled.Resolved.Style.Explain(v.Key).Value
                )),
            ],
            frozen.Fields,
            [.. compiled.Findings.Where(f => !f.ToFill).Select(f => Found(f, compiled, round))],
            [.. frozen.Files.Select(f => f.File)],
            outgoing.To
        );
        var json = record.Write();
        var stored = new StoredHandOff
        {
            Id = request.Id,
            DocumentId = held.Stored.Id,
            Number = number,
            At = record.At,
            By = held.Person.Id,
            Address = page[(page.LastIndexOf('/') + 1)..],
            Record = json,
            Seal = HandOffRecord.SealOf(json),
            Page = new StoredHandOffPage { HandOffId = request.Id, Until = request.PageUntil },
        };
        stored.Files.AddRange(
            frozen.Files.Select(f => new StoredHandOffFile
            {
                HandOffId = stored.Id,
                Name = f.File.Name,
                Sha256 = f.File.Sha256,
            })
        );
        return (stored, frozen.Files);
    }

    // A message says its time in seconds (RFC 5322, 3.3), and the record the same.
    private static DateTimeOffset Second(DateTimeOffset at) => at.AddTicks(-(at.Ticks % TimeSpan.TicksPerSecond));

    private static string SheetOf(OutgoingEmail outgoing, ExportProfile profile, string state, string printed)
    {
        var email = (outgoing with { PicturesAt = BundleFile.PicturesAt }).Whole();
        return SignOffSheet.Write(
            email,
            outgoing.Compiled.Findings,
            new SignOffTerms(
                state,
                FrozenEmail.Sha256(outgoing.BundledHtml(profile)),
                printed,
                SignOffWork.StylesOf(outgoing.Compiled, outgoing.Library)
            )
        );
    }

    private static IEnumerable<SeenVersion> ParentStyles(CompiledRevision compiled, LibrarySnapshot library)
    {
        var own = compiled.Order.Template.HouseStyle;
        return StyleLibrary
            .Chain(own, library.Styles.All)
            .Where(id => id != own)
            .Select(id => new SeenVersion(
                SeenSource.HouseStyle,
                id.ToString(),
                library.Styles.All[id].Name,
                library.Styles.Numbers[id],
                ""
            ));
    }

    private static HandOffFinding Found(Finding finding, CompiledRevision compiled, StoredReviewRound round) =>
        new(
            finding.Severity,
            finding.Message,
            compiled.Resolved.Rows.FirstOrDefault(r => r.Id == finding.Place.Row)?.Name ?? "",
            round.Answers.GetValueOrDefault(ReviewSight.KeyOf(finding), "")
        );

    private async Task<ImmutableArray<HandOffApproval>> ApprovalsAsync(StoredReviewRound round, CancellationToken cancel)
    {
        var given = round
            .Decisions.Where(d => d.Verdict == ReviewVerdict.Approve)
            .GroupBy(d => d.Need, StringComparer.Ordinal)
            .Select(of => of.MaxBy(d => d.Sequence)!)
            .OrderBy(d => d.Sequence)
            .ToList();
        var people = given.Select(d => d.PersonId).ToList();
        var names = await db.Users.Where(u => people.Contains(u.Id)).ToDictionaryAsync(u => u.Id, u => u.Name, cancel);
        return [.. given.Select(d => new HandOffApproval(d.Need, d.PersonId, names.GetValueOrDefault(d.PersonId, ""), d.At, d.Hash))];
    }

    private async Task SaveAsync(Guid email, Microsoft.EntityFrameworkCore.Storage.IDbContextTransaction turn, CancellationToken cancel)
    {
        await db.SaveChangesAsync(cancel);
        await LiveNews.TellAsync(db, email, LiveHub.Reviewed, "", "", cancel);
        await turn.CommitAsync(CancellationToken.None);
    }

    private static void MustBeShort(string words, string field)
    {
        if (words.Length > LongestNote)
        {
            throw ProblemException.Invalid($"Say it in at most {LongestNote:N0} characters.", field);
        }
    }

    private sealed record HandOffTold(Guid HandOff, int Number, string Seal)
    {
        public string? Reason { get; init; }
    }
}
