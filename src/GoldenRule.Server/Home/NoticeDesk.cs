using System.Collections.Immutable;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Home;

/// <summary>Where somebody is told of one kind of thing that waits for them.</summary>
public sealed record NoticeSetting(WaitKind Kind, bool InApplication, bool ByMail);

/// <param name="Mails">This server sends mail at all.</param>
public sealed record NoticeSettings(ImmutableArray<NoticeSetting> Settings, bool Mails);

/// <param name="Key">Of the entry, as Home gave it.</param>
public sealed record NoteThis(string Key);

/// <summary>
/// What somebody wants to be told of, and what they have said that they know. What waits for them is not kept as messages: it comes of
/// how things stand (see <see cref="HomeDesk"/>), and only that they were told of it is stored.
/// </summary>
public sealed class NoticeDesk(GoldenRuleDb db, TimeProvider clock)
{
    private const int LongestKey = 200;

    private const int MostNotices = 2_000;

    /// <summary>Longer than anything is told that only has to be known.</summary>
    private static readonly TimeSpan KeptFor = TimeSpan.FromDays(60);

    public async Task<ImmutableArray<NoticeSetting>> SettingsAsync(Guid person, CancellationToken cancel)
    {
        var chosen = await ChoicesAsync(person, cancel);
        return
        [
            .. Enum.GetValues<WaitKind>()
                .Select(kind => (Kind: kind, Choice: Choice(chosen, kind)))
                .Select(s => new NoticeSetting(s.Kind, s.Choice.InApplication, s.Choice.ByMail)),
        ];
    }

    public async Task SetAsync(Guid person, ImmutableArray<NoticeSetting> settings, CancellationToken cancel)
    {
        if (settings.DistinctBy(s => s.Kind).Count() != settings.Length)
        {
            throw ProblemException.Invalid("Each kind of notice is set once.", "settings");
        }

        var account = await db.Users.FirstAsync(u => u.Id == person, cancel);
        var next = new Dictionary<string, NoticeChoice>(account.NoticeChoices, StringComparer.Ordinal);
        foreach (var one in settings)
        {
            next[one.Kind.ToString()] = new NoticeChoice(one.InApplication, one.ByMail);
        }

        account.NoticeChoices = next;
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Somebody knows of it: it waits for them no longer.</summary>
    public async Task NoteAsync(Guid person, string key, CancellationToken cancel)
    {
        if (key.Length is 0 or > LongestKey)
        {
            throw ProblemException.Invalid("That is nothing that waits.", "key");
        }

        var now = clock.GetUtcNow().UtcDateTime;
        await db.Notices.Where(n => n.PersonId == person && n.NotedAt < now - KeptFor).ExecuteDeleteAsync(cancel);
        if (await db.Notices.CountAsync(n => n.PersonId == person, cancel) >= MostNotices)
        {
            throw ProblemException.TooMuch("That is more than can wait for one person. Try it again tomorrow.", 86_400);
        }

        await db.Database.ExecuteSqlAsync(
            $"""
            insert into notices (person_id, key, since, noted_at) values ({person}, {key}, {now}, {now})
            on conflict (person_id, key) do update set noted_at = excluded.noted_at
            """,
            cancel
        );
    }

    /// <summary>Leaves out what they know of, and says of the rest whether they want to be told.</summary>
    internal async Task MarkAsync(Guid person, List<WaitEntry> waits, CancellationToken cancel)
    {
        var noted = (
            await db.Notices.Where(n => n.PersonId == person && n.NotedAt != null).Select(n => n.Key).ToListAsync(cancel)
        ).ToHashSet(StringComparer.Ordinal);
        waits.RemoveAll(w => w.Notable && noted.Contains(w.Key));
        var chosen = await ChoicesAsync(person, cancel);
        for (var i = 0; i < waits.Count; i++)
        {
            waits[i] = waits[i] with { Tell = Choice(chosen, waits[i].Kind).InApplication };
        }
    }

    internal static NoticeChoice Choice(Dictionary<string, NoticeChoice> chosen, WaitKind kind) =>
        chosen.GetValueOrDefault(kind.ToString()) ?? new NoticeChoice();

    private async Task<Dictionary<string, NoticeChoice>> ChoicesAsync(Guid person, CancellationToken cancel) =>
        await db.Users.AsNoTracking().Where(u => u.Id == person).Select(u => u.NoticeChoices).FirstOrDefaultAsync(cancel) ?? [];
}
