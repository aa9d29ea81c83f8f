using System.Buffers.Binary;
using System.Collections.Immutable;
using System.Diagnostics;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Data;
using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace GoldenRule.Scale;

/// <summary>
/// A library as it is after years: the demo's emails over and over with other words, pictures, links, releases, people, days and
/// states, each by a random number of its own seed, so that the same seed makes the same library.
/// </summary>
internal sealed class LargeLibrary(string connection, int seed)
{
    private const int AtOnce = 2000;

    /// <summary>Releases that each saved row has, so that emails stand on different ones.</summary>
    private const int Releases = 4;

    /// <summary>What the email with the long history is called in lists.</summary>
    private const string LongHistory = "Standing notice, worked on for years";

    private static readonly DateTime Newest = new(2026, 11, 1, 12, 0, 0, DateTimeKind.Utc);

    private List<(Email Email, string? CampaignType)> patterns = [];
    private List<Guid> people = [];
    private List<string> pictures = [];
    private HashSet<Guid> rows = [];

    public async Task FillAsync(int emails, Action<int, double> tell)
    {
        await using var db = await OpenAsync();
        var there = await db.Documents.CountAsync(d => d.Kind == DocumentKind.Email);
        var clock = Stopwatch.StartNew();
        for (var done = there; done < emails; )
        {
            var count = Math.Min(AtOnce, emails - done);
            var first = done;
            var made = new Made[count];
            Parallel.For(0, count, i => made[i] = Make(first + i));
            await WriteAsync(made);
            done += count;
            tell(done, (done - there) / clock.Elapsed.TotalSeconds);
        }

        db.Database.SetCommandTimeout(TimeSpan.FromMinutes(10));
        await db.Database.ExecuteSqlRawAsync("vacuum (analyze) documents, document_references, edits, releases");
    }

    /// <summary>One more email, which somebody has worked on for years.</summary>
    /// <returns>Its id.</returns>
    public async Task<Guid> AddLongHistoryAsync(int edits)
    {
        await using var db = await OpenAsync();
        var made = Make(-1, (LongHistory, edits));
        if (!await db.Documents.AnyAsync(d => d.Id == made.Stored.Id))
        {
            await WriteAsync([made]);
        }

        return made.Stored.Id;
    }

    // With what emails are made of read, and releases for them to stand on.
    private async Task<GoldenRuleDb> OpenAsync()
    {
        var options = new DbContextOptionsBuilder<GoldenRuleDb>();
        options.UseGoldenRule(connection);
        var db = new GoldenRuleDb(options.Options);
        await ReadAsync(db);
        await AddReleasesAsync(db);
        return db;
    }

    private async Task ReadAsync(GoldenRuleDb db)
    {
        var heads = await db
            .Documents.Where(d => d.Kind == DocumentKind.Email)
            .OrderBy(d => d.CreatedAt)
            .ThenBy(d => d.Id)
            .Take(14)
            .Select(d => new { d.Head, d.CampaignType })
            .ToListAsync();
        patterns = [.. heads.Select(d => (DocumentJson.ReadDocument<Email>(d.Head), d.CampaignType))];
        people = await db.Users.OrderBy(u => u.Name).Select(u => u.Id).ToListAsync();
        pictures = await db.Pictures.OrderBy(p => p.Id).Select(p => p.Id).ToListAsync();
        rows = [.. await db.Documents.Where(d => d.Kind == DocumentKind.Row).Select(d => d.Id).ToListAsync()];
    }

    // The same row again with another instruction: what stands on it looks the same, and an update waits for it.
    private async Task AddReleasesAsync(GoldenRuleDb db)
    {
        foreach (var id in rows.Order())
        {
            var newest = await db.Releases.AsNoTracking().Where(r => r.DocumentId == id).OrderByDescending(r => r.Number).FirstAsync();
            for (var number = newest.Number + 1; number <= Releases; number++)
            {
                var row = DocumentJson.ReadDocument<SavedRow>(newest.Body) with { Instruction = $"Reworded for the {number}. time." };
                db.AddRelease(
                    new StoredRelease
                    {
                        DocumentId = id,
                        Number = number,
                        Kind = DocumentKind.Row,
                        Revision = newest.Revision,
                        Body = DocumentJson.Write(row),
                        Note = "A clearer instruction",
                        AuthorId = newest.AuthorId,
                        At = newest.At.AddDays(number),
                    },
                    row
                );
            }
        }

        await db.SaveChangesAsync();
    }

    private sealed record Made(StoredDocument Stored, List<StoredEdit> Edits, List<StoredReference> References);

    private Made Make(int number, (string Name, int Edits)? history = null)
    {
        var random = new Random(seed + number);
        var (pattern, campaignType) = patterns[random.Next(patterns.Count)];
        var other = new OtherContent(random, pictures);
        var begun = Newest.AddMinutes(-random.Next(3 * 365 * 24 * 60));
        var origin = pattern with
        {
            Name = history?.Name ?? $"{other.Title()}, {begun:d MMMM}",
            Details = pattern.Details with { Subject = other.Title(), Preheader = other.Sentence(60) },
            Fills = pattern.Fills.ToImmutableSortedDictionary(f => f.Key, f => other.Fills(f.Value), StringComparer.Ordinal),
            Zones = pattern.Zones.ToImmutableSortedDictionary(
                z => z.Key,
                z => z.Value.Select(r => other.Row(r, rows.Contains(r.Master ?? default) ? Releases : 1)).ToImmutableArray(),
                StringComparer.Ordinal
            ),
        };
        var id = IdOf(begun, random);
        var author = people[random.Next(people.Count)];
        var (head, edits) = ((Document)origin, new List<StoredEdit>());
        var written = origin
            .Fills.SelectMany(row =>
                row.Value.SelectMany(piece => piece.Value.Content.Select(c => new SetFill(row.Key, piece.Key, c.Key, c.Value)))
            )
            .ToList();
        var step = Guid.Empty;
        foreach (var at in Enumerable.Range(1, history?.Edits ?? (random.Next(4) == 0 ? random.Next(1, 12) : 0)))
        {
            // What is typed in one go is a step of several.
            step = step == Guid.Empty || random.Next(3) == 0 ? IdOf(begun, random) : step;
            Edit edit =
                written.Count == 0 || random.Next(2) == 0
                    ? new SetDetail("subject", other.Title())
                    : Reworded(written[random.Next(written.Count)]);
            edits.Add(
                new StoredEdit
                {
                    DocumentId = id,
                    Sequence = at,
                    Id = IdOf(begun, random),
                    AuthorId = author,
                    At = begun.AddMinutes(at),
                    Step = step,
                    Target = edit.Target,
                    Body = DocumentJson.Write(edit),
                    Inverse = DocumentJson.Write(edit.Invert(head)),
                }
            );
            head = edit.Apply(head);
        }

        var stored = new StoredDocument
        {
            Id = id,
            Kind = DocumentKind.Email,
            Name = origin.Name,
            CampaignType = campaignType,
            State = random.Next(10) switch
            {
                < 3 => EmailState.Draft,
                3 => EmailState.InReview,
                4 => EmailState.Approved,
                _ => EmailState.HandedOff,
            },
            Retired = history is null && random.Next(10) == 0,
            Owner = author,
            Origin = DocumentJson.Write(origin),
            Head = DocumentJson.Write((Email)head),
            Revision = edits.Count,
            CreatedBy = author,
            CreatedAt = begun,
            ChangedAt = begun.AddMinutes(edits.Count),
            ReferencesKnown = true,
        };
        stored.UpdateIndexColumns(head);
        return new Made(stored, edits, [.. StoredReference.Find(id, StoredReference.OfHead, head)]);

        Edit Reworded(SetFill fill) => fill with { Value = fill.Value.Map(other) };
    }

    // A UUIDv7 (RFC 9562, 5.7) whose random part is the seed's.
    private static Guid IdOf(DateTime at, Random random)
    {
        var bytes = new byte[16];
        random.NextBytes(bytes);
        BinaryPrimitives.WriteInt64BigEndian(bytes, new DateTimeOffset(at).ToUnixTimeMilliseconds() << 16);
        random.NextBytes(bytes.AsSpan(6));
        bytes[6] = (byte)(0x70 | (bytes[6] & 0x0F));
        bytes[8] = (byte)(0x80 | (bytes[8] & 0x3F));
        return new Guid(bytes, bigEndian: true);
    }

    private async Task WriteAsync(Made[] made)
    {
        await using var open = new NpgsqlConnection(connection);
        await open.OpenAsync();
        await using (var quiet = new NpgsqlCommand("set session_replication_role = replica", open))
        {
            // Nobody is told of each of them, and what they refer to is there.
            await quiet.ExecuteNonQueryAsync();
        }

        await CopyAsync(
            open,
            "documents (id, kind, name, campaign_type, state, owner, private, retired, serves, words, references_known, "
                + "origin, head, revision, created_by, created_at, changed_at)",
            made,
            async (copy, m) =>
            {
                var d = m.Stored;
                await copy.StartRowAsync();
                await copy.WriteAsync(d.Id);
                await copy.WriteAsync(d.Kind.ToString());
                await copy.WriteAsync(d.Name);
                await copy.WriteAsync(d.CampaignType);
                await copy.WriteAsync(d.State.ToString());
                await copy.WriteAsync(d.Owner);
                await copy.WriteAsync(false);
                await copy.WriteAsync(d.Retired);
                await copy.WriteAsync(Array.Empty<string>());
                await copy.WriteAsync(d.Words);
                await copy.WriteAsync(true);
                await copy.WriteAsync(d.Origin, NpgsqlTypes.NpgsqlDbType.Jsonb);
                await copy.WriteAsync(d.Head, NpgsqlTypes.NpgsqlDbType.Jsonb);
                await copy.WriteAsync(d.Revision);
                await copy.WriteAsync(d.CreatedBy);
                await copy.WriteAsync(d.CreatedAt);
                await copy.WriteAsync(d.ChangedAt);
            }
        );
        await CopyAsync(open, "emails_behind (document_id, revision, since)", made, async (copy, m) =>
        {
            await copy.StartRowAsync();
            await copy.WriteAsync(m.Stored.Id);
            await copy.WriteAsync(m.Stored.Revision);
            await copy.WriteAsync(m.Stored.ChangedAt);
        });
        await CopyAsync(
            open,
            "edits (document_id, sequence, id, author_id, at, step, target, body, inverse)",
            made.SelectMany(m => m.Edits),
            async (copy, e) =>
            {
                await copy.StartRowAsync();
                await copy.WriteAsync(e.DocumentId);
                await copy.WriteAsync(e.Sequence);
                await copy.WriteAsync(e.Id);
                await copy.WriteAsync(e.AuthorId);
                await copy.WriteAsync(e.At);
                await copy.WriteAsync(e.Step);
                await copy.WriteAsync(e.Target);
                await copy.WriteAsync(e.Body, NpgsqlTypes.NpgsqlDbType.Jsonb);
                await copy.WriteAsync(e.Inverse, NpgsqlTypes.NpgsqlDbType.Jsonb);
            }
        );
        await CopyAsync(
            open,
            "document_references (document_id, release, kind, key, target_release, place)",
            made.SelectMany(m => m.References),
            async (copy, r) =>
            {
                await copy.StartRowAsync();
                await copy.WriteAsync(r.DocumentId);
                await copy.WriteAsync(r.Release);
                await copy.WriteAsync(r.Kind.ToString());
                await copy.WriteAsync(r.Key);
                await copy.WriteAsync(r.TargetRelease);
                await copy.WriteAsync(r.Place);
            }
        );
    }

    private static async Task CopyAsync<T>(
        NpgsqlConnection open,
        string into,
        IEnumerable<T> items,
        Func<NpgsqlBinaryImporter, T, Task> write
    )
    {
        await using var copy = await open.BeginBinaryImportAsync($"copy {into} from stdin (format binary)");
        foreach (var item in items)
        {
            await write(copy, item);
        }

        await copy.CompleteAsync();
    }
}
