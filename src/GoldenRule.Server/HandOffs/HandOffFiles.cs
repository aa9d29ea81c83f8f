using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HandOffs;
using GoldenRule.Core.Merging;
using GoldenRule.Core.Reviews;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.HandOffs;

/// <summary>The bytes of hand-offs: kept once under their SHA-256, and read back.</summary>
public static class HandOffFiles
{
    /// <summary>Keeps what is not kept yet. What is the same in many hand-offs, pictures above all, is there once.</summary>
    public static async Task KeepAsync(
        IReadOnlyCollection<(HandOffFile File, byte[] Content)> files,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var all = files.DistinctBy(f => f.File.Sha256, StringComparer.Ordinal).ToDictionary(f => f.File.Sha256, f => f.Content);
        var wanted = all.Keys.ToList();
        var known = await db.FrozenContents.Where(c => wanted.Contains(c.Sha256)).Select(c => c.Sha256).ToListAsync(cancel);
        foreach (var hash in wanted.Except(known, StringComparer.Ordinal))
        {
            // Another hand-off may keep the same at this moment.
            await db.Database.ExecuteSqlAsync(
                $"insert into frozen_contents (sha256, content) values ({hash}, {all[hash]}) on conflict (sha256) do nothing",
                cancel
            );
        }
    }

    public static async Task<byte[]?> FindAsync(HandOffFile file, GoldenRuleDb db, CancellationToken cancel) =>
        await db.FrozenContents.AsNoTracking().Where(c => c.Sha256 == file.Sha256).Select(c => c.Content).FirstOrDefaultAsync(cancel);

    /// <exception cref="ProblemException">There is none.</exception>
    public static async Task<byte[]> ReadAsync(
        HandOffRecord record,
        HandOffFileKind kind,
        string profile,
        GoldenRuleDb db,
        CancellationToken cancel
    ) =>
        record.Find(kind, profile) is { } file && await FindAsync(file, db, cancel) is { } content
            ? content
            : throw ProblemException.NotFound("The hand-off has no such file.");

    /// <summary>All of one kind with their bytes, by the last part of their names.</summary>
    public static async Task<ImmutableArray<(HandOffFile File, byte[] Content)>> AllAsync(
        HandOffRecord record,
        HandOffFileKind kind,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var hashes = record.Files.Where(f => f.Kind == kind).Select(f => f.Sha256).ToList();
        var found = await db
            .FrozenContents.AsNoTracking()
            .Where(c => hashes.Contains(c.Sha256))
            .ToDictionaryAsync(c => c.Sha256, c => c.Content, StringComparer.Ordinal, cancel);
        return [.. record.Files.Where(f => f.Kind == kind && found.ContainsKey(f.Sha256)).Select(f => (f, found[f.Sha256]))];
    }

    public static async Task<MergeEmail> MergeAsync(HandOffRecord record, GoldenRuleDb db, CancellationToken cancel) =>
        DocumentJson.Read<MergeEmail>(Encoding.UTF8.GetString(await ReadAsync(record, HandOffFileKind.Merge, "", db, cancel)));

    /// <summary>An email as it was seen when it was handed off. Null: it was not.</summary>
    /// <param name="number">Null: the last time.</param>
    public static async Task<(int Number, SeenEmail Seen)?> SeenAsync(Guid email, int? number, GoldenRuleDb db, CancellationToken cancel)
    {
        var found = await db
            .HandOffs.AsNoTracking()
            .Where(h => h.DocumentId == email && (number == null || h.Number == number))
            .OrderByDescending(h => h.Number)
            .FirstOrDefaultAsync(cancel);
        if (found is null)
        {
            return null;
        }

        var seen = await ReadAsync(HandOffRecord.Read(found.Record), HandOffFileKind.Seen, "", db, cancel);
        return (found.Number, DocumentJson.Read<SeenEmail>(Encoding.UTF8.GetString(seen)));
    }
}
