using System.Collections.Immutable;
using System.Globalization;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Reviews;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;
using GoldenRule.Server.People;
using GoldenRule.Server.Reviews;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Home;

/// <summary>What somebody waits for another person to do.</summary>
public enum WaitKind
{
    /// <summary>One is asked to approve an email.</summary>
    Approve,

    /// <summary>What one had approved changed by itself, and one is asked again.</summary>
    ApproveAgain,

    /// <summary>A fault has paused a send that one asked for: some readers have the email, others do not.</summary>
    SendPaused,

    /// <summary>Changes of one's own email are asked for.</summary>
    Change,

    /// <summary>One is called by name in a comment.</summary>
    Mention,

    /// <summary>A comment on one's own email is not answered.</summary>
    Comment,

    /// <summary>A newer release has to be taken into one's own email.</summary>
    TakeUpdate,

    /// <summary>One's own email goes out soon and has fields to fill.</summary>
    Fill,

    /// <summary>A snippet that one may change says nothing any more soon.</summary>
    SnippetExpires,

    /// <summary>A release that one planned was not made.</summary>
    ReleaseNotMade,

    /// <summary>For leads: somebody approved from a browser that a writer of the email uses.</summary>
    SameBrowser,

    /// <summary>All who were asked have approved one's own email.</summary>
    Approved,
}

/// <param name="Key">The same as long as it is the same thing that waits.</param>
/// <param name="Document">What Id is of.</param>
/// <param name="Text">In words, what waits.</param>
/// <param name="At">Since when; for what is still to come, until when.</param>
/// <param name="Day">The day the email goes out; empty: that is not settled.</param>
/// <param name="Comment">The comment it is about. Null: none.</param>
/// <param name="Notable">It waits until whoever it is for says that they know.</param>
/// <param name="Tell">Whoever it is for wants to be told of it in the application.</param>
public sealed record WaitEntry(
    WaitKind Kind,
    string Key,
    DocumentKind Document,
    Guid Id,
    string Name,
    string CampaignType,
    string Text,
    DateTime At,
    string Day,
    Guid? Comment,
    long Revision,
    bool Notable = false,
    bool Tell = true
);

/// <param name="With">Who is still asked.</param>
/// <param name="Approved">Who has approved.</param>
public sealed record AskedEntry(Guid Id, string Name, string CampaignType, string With, string Approved, DateTime Since);

/// <param name="Waits">What is most pressing first.</param>
public sealed record HomeAnswer(ImmutableArray<WaitEntry> Waits, ImmutableArray<AskedEntry> Asked);

/// <summary>Finds what waits for one person. Each entry comes of how things stand, not of a message that could be old.</summary>
public sealed class HomeDesk(
    GoldenRuleDb db,
    LibraryCache library,
    HeadCache heads,
    CompilationCache compilations,
    PausedSends sends,
    NoticeDesk notices,
    TimeProvider clock
)
{
    private const int MostRounds = 200;
    private const int MostDrafts = 40;

    private static readonly TimeSpan Soon = TimeSpan.FromDays(7);

    /// <summary>So long something is told that only has to be known.</summary>
    private static readonly TimeSpan Lately = TimeSpan.FromDays(14);

    public async Task<HomeAnswer> LookAsync(Person everywhere, CancellationToken cancel)
    {
        var snapshot = await library.GetAsync(db, cancel);
        var waits = new List<WaitEntry>();
        var asked = new List<AskedEntry>();
        await RoundsAsync(everywhere, snapshot, waits, asked, cancel);
        await CommentsAsync(everywhere, snapshot, waits, cancel);
        await DraftsAsync(everywhere, snapshot, waits, cancel);
        Snippets(everywhere, snapshot, waits);
        await ReleasesAsync(everywhere, waits, cancel);
        await sends.AddAsync(everywhere, snapshot, waits, cancel);
        await ApprovedAsync(everywhere, snapshot, waits, cancel);
        await notices.MarkAsync(everywhere.Id, waits, cancel);
        return new HomeAnswer([.. waits.OrderBy(w => w.Kind).ThenByDescending(w => w.At)], [.. asked.OrderByDescending(a => a.Since)]);
    }

    private async Task RoundsAsync(
        Person everywhere,
        LibrarySnapshot snapshot,
        List<WaitEntry> waits,
        List<AskedEntry> asked,
        CancellationToken cancel
    )
    {
        var open = await db
            .ReviewRounds.AsNoTracking()
            .Include(r => r.Decisions)
            .Where(r =>
                r.State == RoundState.Open
                || (
                    r.State == RoundState.ChangesAsked
                    && r.AskedBy == everywhere.Id
                    && !db.ReviewRounds.Any(later => later.DocumentId == r.DocumentId && later.Number > r.Number)
                )
            )
            .OrderByDescending(r => r.AskedAt)
            .Take(MostRounds)
            .ToListAsync(cancel);
        var ids = open.ConvertAll(r => r.DocumentId);
        var emails = await EmailsAsync(ids, everywhere, snapshot, db, cancel);
        var writers = (
            await db
                .Edits.Where(e => ids.Contains(e.DocumentId) && e.AuthorId == everywhere.Id)
                .Select(e => e.DocumentId)
                .Distinct()
                .ToListAsync(cancel)
        ).ToHashSet();
        var people = open.Exists(r => r.AskedBy == everywhere.Id) ? await Everyone.ListAsync(db, cancel) : [];
        foreach (var stored in open)
        {
            if (!emails.TryGetValue(stored.DocumentId, out var email))
            {
                continue;
            }

            var round = ReviewRounds.Round(stored);
            if (stored.State == RoundState.ChangesAsked)
            {
                if (email.State == EmailState.Draft)
                {
                    waits.Add(await ChangesAsync(email, round, cancel));
                }

                continue;
            }

            var person = snapshot.Plan.Teams.For(everywhere, LibraryStatus.Types(email.CampaignType, []));
            var wrote = writers.Contains(email.Id) || email.CreatedBy == person.Id || stored.AskedBy == person.Id;
            // Only what is theirs to decide is compiled.
            if (
                !wrote
                && round.Needs.Any(n => n.IsMetBy(person))
                && ReviewPermissions.NeedOf(person, round, HashOf(email, snapshot)) is { } need
            )
            {
                var by = await NameAsync(stored.AskedBy, cancel);
                var text = stored switch
                {
                    { ByItself: true } => "What was approved changed by itself. Your approval is asked for again.",
                    { Note.Length: > 0 } => $"{by}: “{stored.Note}”",
                    _ => $"{by} asks for your approval, as {need.Name}.",
                };
                waits.Add(Wait(stored.ByItself ? WaitKind.ApproveAgain : WaitKind.Approve, email, text, stored.AskedAt));
            }

            if (stored.AskedBy == everywhere.Id)
            {
                var standing = round.Standing(HashOf(email, snapshot));
                var names = people.ToDictionary(p => p.Id, p => p.Name);
                asked.Add(
                    new AskedEntry(
                        email.Id,
                        email.Name,
                        email.CampaignType ?? "",
                        string.Join(", ", standing.Where(s => !s.Holds).Select(s => s.Need.Name)),
                        string.Join(
                            ", ",
                            standing.Where(s => s.Holds).Select(s => names.GetValueOrDefault(s.Decision!.Person, s.Need.Name))
                        ),
                        stored.AskedAt
                    )
                );
            }
        }
    }

    private async Task<WaitEntry> ChangesAsync(StoredDocument email, ReviewRound round, CancellationToken cancel)
    {
        var last = round.Decisions[^1];
        return Wait(WaitKind.Change, email, $"{await NameAsync(last.Person, cancel)} asked for changes: “{last.Reason}”", last.At);
    }

    private async Task CommentsAsync(Person everywhere, LibrarySnapshot snapshot, List<WaitEntry> waits, CancellationToken cancel)
    {
        var me = everywhere.Id;
        var threads = await db
            .Comments.AsNoTracking()
            .Where(c => c.ThreadId == null && c.ResolvedAt == null)
            .Where(c =>
                c.Mentions.Contains(me)
                || db.Comments.Any(a => a.ThreadId == c.Id && a.Mentions.Contains(me))
                || db.Documents.Any(d => d.Id == c.DocumentId && d.CreatedBy == me)
            )
            .OrderByDescending(c => c.At)
            .Take(MostRounds)
            .Select(c => new { Root = c, Answers = db.Comments.Where(a => a.ThreadId == c.Id).OrderBy(a => a.At).ToList() })
            .ToListAsync(cancel);
        var ids = threads.ConvertAll(t => t.Root.DocumentId);
        var emails = await db
            .Documents.AsNoTracking()
            .Where(d => ids.Contains(d.Id) && !d.Retired && d.State != EmailState.HandedOff)
            .EmailsSeenBy(everywhere, snapshot.Plan.Teams)
            .ToDictionaryAsync(d => d.Id, cancel);
        foreach (var thread in threads)
        {
            var all = thread.Answers.Prepend(thread.Root).ToList();
            // Whoever spoke last has answered.
            var since = all.FindLastIndex(c => c.AuthorId == me);
            if (since == all.Count - 1 || !emails.TryGetValue(thread.Root.DocumentId, out var email))
            {
                continue;
            }

            var (last, called) = (all[^1], all.Skip(since + 1).Any(c => c.Mentions.Contains(me)));
            if (!called && email.CreatedBy != me)
            {
                continue;
            }

            var said = last.Text.Length > 120 ? last.Text[..120] + " …" : last.Text;
            waits.Add(
                Wait(
                    called ? WaitKind.Mention : WaitKind.Comment,
                    email,
                    $"{await NameAsync(last.AuthorId, cancel)}, on {thread.Root.PlaceName}: “{said}”",
                    last.At
                ) with
                {
                    Key = KeyOf(WaitKind.Comment, thread.Root.Id, last.At),
                    Comment = thread.Root.Id,
                }
            );
        }
    }

    private async Task DraftsAsync(Person everywhere, LibrarySnapshot snapshot, List<WaitEntry> waits, CancellationToken cancel)
    {
        var drafts = await db
            .Documents.AsNoTracking()
            .Where(d => d.Kind == DocumentKind.Email && d.State == EmailState.Draft && !d.Retired && d.CreatedBy == everywhere.Id)
            .OrderByDescending(d => d.ChangedAt)
            .Take(MostDrafts)
            .ToListAsync(cancel);
        var now = clock.GetUtcNow().UtcDateTime;
        foreach (var draft in drafts)
        {
            var loaded = Load(draft, snapshot);
            var email = (Email)loaded.Document;
            if (Updates.Wait(email, snapshot))
            {
                var text = Updates.MustTake(email, snapshot)
                    ? "A newer release of what it is made from must be taken before it goes out."
                    : "A newer release of what it is made from waits. Look, then take it.";
                waits.Add(Wait(WaitKind.TakeUpdate, draft, text, draft.ChangedAt));
            }

            var compiled = compilations.Compile(loaded, cancel);
            var toFill = compiled.Findings.Count(f => f.ToFill);
            if (toFill > 0 && DayOf(compiled) is { } day && day <= DateOnly.FromDateTime(now + Soon))
            {
                var text = $"{toFill} of {Math.Max(compiled.Inspected.Inspection.Fillable, toFill)} still to fill.";
                waits.Add(
                    Wait(WaitKind.Fill, draft, text, day.ToDateTime(TimeOnly.MinValue, DateTimeKind.Utc)) with
                    {
                        Day = Written(day),
                    }
                );
            }
        }
    }

    private void Snippets(Person everywhere, LibrarySnapshot snapshot, List<WaitEntry> waits)
    {
        var now = clock.GetUtcNow().UtcDateTime;
        foreach (var one in snapshot.Snippets.All.Where(s => !s.Retired && s.Snippet.Expires.Length > 0))
        {
            var until = one.Snippet.ToUtc(one.Snippet.Expires);
            var editors = one.Snippet.Editors;
            var may = everywhere.Is(Role.Lead) || editors.People.Contains(everywhere.Id) || editors.Roles.Any(r => everywhere.Is(r));
            if (may && until > now && until < now + Soon)
            {
                waits.Add(
                    new WaitEntry(
                        WaitKind.SnippetExpires,
                        KeyOf(WaitKind.SnippetExpires, one.Id, until),
                        DocumentKind.Snippet,
                        one.Id,
                        one.Snippet.Name,
                        "",
                        "It says nothing any more soon. Say what holds then, or let it end.",
                        until,
                        "",
                        null,
                        0
                    )
                );
            }
        }
    }

    private LoadedDocument Load(StoredDocument stored, LibrarySnapshot snapshot) =>
        new(stored, heads.Load(stored, snapshot.Masters), snapshot);

    private string HashOf(StoredDocument stored, LibrarySnapshot snapshot) =>
        ReviewSight.Look(compilations.Compile(Load(stored, snapshot)), snapshot).Hash;

    /// <summary>Those of the emails that are there and that this person may see, by their ids.</summary>
    internal static Task<Dictionary<Guid, StoredDocument>> EmailsAsync(
        List<Guid> ids,
        Person everywhere,
        LibrarySnapshot snapshot,
        GoldenRuleDb db,
        CancellationToken cancel
    ) =>
        db
            .Documents.AsNoTracking()
            .Where(d => ids.Contains(d.Id) && !d.Retired)
            .EmailsSeenBy(everywhere, snapshot.Plan.Teams)
            .ToDictionaryAsync(d => d.Id, cancel);

    private static DateOnly? DayOf(CompiledRevision compiled) =>
        Core.Compiling.RenderContext.DayOf(compiled.Resolved.Email.Details.SendDay);

    private static string Written(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    private async Task<string> NameAsync(Guid id, CancellationToken cancel) =>
        await db.Users.Where(u => u.Id == id).Select(u => u.Name).FirstOrDefaultAsync(cancel) ?? "Somebody";

    /// <summary>Releases that this person planned and that were not made.</summary>
    private async Task ReleasesAsync(Person everywhere, List<WaitEntry> waits, CancellationToken cancel)
    {
        var undone = await db
            .PlannedReleases.Where(p => p.PlannedBy == everywhere.Id && p.Problem != "")
            .Join(
                db.Documents,
                p => p.DocumentId,
                d => d.Id,
                (p, d) =>
                    new
                    {
                        Plan = p,
                        d.Name,
                        d.Revision,
                    }
            )
            .ToListAsync(cancel);
        waits.AddRange(
            undone.Select(u => new WaitEntry(
                WaitKind.ReleaseNotMade,
                KeyOf(WaitKind.ReleaseNotMade, u.Plan.DocumentId, u.Plan.At),
                u.Plan.Kind,
                u.Plan.DocumentId,
                u.Name,
                "",
                $"The planned release was not made. {u.Plan.Problem}",
                u.Plan.At,
                "",
                null,
                u.Revision
            ))
        );
    }

    /// <summary>One's own emails that are approved; and for leads, approvals that a second account may have given.</summary>
    private async Task ApprovedAsync(Person everywhere, LibrarySnapshot snapshot, List<WaitEntry> waits, CancellationToken cancel)
    {
        var since = clock.GetUtcNow().UtcDateTime - Lately;
        var found = await db
            .ReviewRounds.AsNoTracking()
            .Include(r => r.Decisions)
            .Where(r => r.ClosedAt > since || r.State == RoundState.Open)
            .Where(r =>
                (r.State == RoundState.Approved && r.AskedBy == everywhere.Id && r.Decisions.Count > 0)
                || r.Decisions.Any(d => d.SameBrowserAs.Count > 0 && d.Verdict == ReviewVerdict.Approve)
            )
            .OrderByDescending(r => r.AskedAt)
            .Take(MostRounds)
            .ToListAsync(cancel);
        var ids = found.ConvertAll(r => r.DocumentId);
        var emails = await EmailsAsync(ids, everywhere, snapshot, db, cancel);
        foreach (var round in found)
        {
            if (!emails.TryGetValue(round.DocumentId, out var email))
            {
                continue;
            }

            if (round.AskedBy == everywhere.Id && round.State == RoundState.Approved && email.State == EmailState.Approved)
            {
                waits.Add(
                    Wait(WaitKind.Approved, email, "All who were asked have approved it.", round.ClosedAt!.Value) with
                    {
                        Notable = true,
                    }
                );
            }

            var leads = snapshot.Plan.Teams.For(everywhere, LibraryStatus.Types(email.CampaignType, [])).Is(Role.Lead);
            foreach (var decision in round.Decisions.Where(d => leads && d.SameBrowserAs.Count > 0 && d.Verdict == ReviewVerdict.Approve))
            {
                var text =
                    $"{await NameAsync(decision.PersonId, cancel)} approved it in a browser that "
                    + $"{await NameAsync(decision.SameBrowserAs[0], cancel)}, who wrote in it, uses too.";
                waits.Add(Wait(WaitKind.SameBrowser, email, text, decision.At) with { Notable = true });
            }
        }
    }

    internal static WaitEntry Wait(WaitKind kind, StoredDocument email, string text, DateTime at) =>
        new(
            kind,
            // What goes on while one writes is the same all along.
            KeyOf(kind, email.Id, kind is WaitKind.TakeUpdate or WaitKind.Fill ? default : at),
            DocumentKind.Email,
            email.Id,
            email.Name,
            email.CampaignType ?? "",
            text,
            at,
            "",
            null,
            email.Revision
        );

    private static string KeyOf(WaitKind kind, Guid id, DateTime at) =>
        string.Create(CultureInfo.InvariantCulture, $"{kind}/{id:N}/{at.Ticks}");
}
