using System.Collections.Immutable;
using GoldenRule.Core.Compiling;
using GoldenRule.Data;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Emails;

/// <summary>The files that a compiled email shows and links to, beside its HTML.</summary>
public static class MailFiles
{
    /// <summary>Calendar files and what else is made with the email: kept before it goes out, under their own hash.</summary>
    public static async Task KeepAsync(CompiledEmail email, GoldenRuleDb db, CancellationToken cancel)
    {
        foreach (var (name, content) in email.Files().DistinctBy(f => f.Name, StringComparer.Ordinal))
        {
            // Several servers may be asked for the same email at once; named by their hash, one of them is enough.
            await db.Database.ExecuteSqlAsync(
                $"insert into picture_files (name, content) values ({name}, {content}) on conflict (name) do nothing",
                cancel
            );
        }
    }

    /// <summary>All of them with their bytes.</summary>
    public static async Task<ImmutableArray<(string Name, byte[] Content)>> OfAsync(
        CompiledEmail email,
        GoldenRuleDb db,
        CancellationToken cancel
    ) => [.. await PicturesAsync(email, db, cancel), .. email.Files().DistinctBy(f => f.Name, StringComparer.Ordinal)];

    public static async Task<ImmutableArray<(string Name, byte[] Content)>> PicturesAsync(
        CompiledEmail email,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var names = email.PictureNames();
        var found = await db
            .PictureFiles.AsNoTracking()
            .Where(f => names.AsEnumerable().Contains(f.Name))
            .ToDictionaryAsync(f => f.Name, f => f.Content, StringComparer.Ordinal, cancel);
        return [.. names.Where(found.ContainsKey).Select(n => (n, found[n]))];
    }
}
