using GoldenRule.Core.Checking;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Reviews;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Reviews;

/// <summary>Emails as people see them when they are asked: made from what is compiled, and kept.</summary>
public static class ReviewSight
{
    public static SeenEmail Look(CompiledRevision compiled, LibrarySnapshot library)
    {
        var style = compiled.Order.Template.HouseStyle;
        return SeenEmail.Look(compiled.Sending, compiled.Proof, (style, library.Styles.All[style].Name, library.Styles.Numbers[style]));
    }

    /// <summary>Keeps it, where it is not kept yet.</summary>
    public static async Task KeepAsync(GoldenRuleDb db, Guid email, SeenEmail seen, DateTime now, CancellationToken cancel)
    {
        if (!await db.SeenEmails.AnyAsync(s => s.DocumentId == email && s.Hash == seen.Hash, cancel))
        {
            db.SeenEmails.Add(
                new StoredSeenEmail
                {
                    DocumentId = email,
                    Hash = seen.Hash,
                    Body = DocumentJson.Write(seen),
                    At = now,
                }
            );
        }
    }

    public static async Task<SeenEmail?> FindAsync(GoldenRuleDb db, Guid email, string hash, CancellationToken cancel) =>
        await db.SeenEmails.Where(s => s.DocumentId == email && s.Hash == hash).Select(s => s.Body).FirstOrDefaultAsync(cancel) is { } body
            ? DocumentJson.Read<SeenEmail>(body)
            : null;

    /// <summary>What keeps an email from being asked about.</summary>
    /// <param name="answered">Keys of warnings that somebody has said of why they stay. Null: nobody has to.</param>
    public static AskObstacles Obstacles(CompiledRevision compiled, IReadOnlySet<string>? answered) =>
        new(
            compiled.Findings.Count(f => f is { Severity: Severity.Stop, ToFill: false }),
            compiled.Findings.Count(f => f.ToFill),
            answered is null ? 0 : compiled.Findings.Count(f => IsWarning(f) && !answered.Contains(KeyOf(f)))
        );

    public static bool IsWarning(Finding finding) => finding is { Severity: Severity.Warn, ToFill: false };

    /// <summary>The same finding has the same key after other things have changed.</summary>
    public static string KeyOf(Finding finding) => $"{finding.Check}/{finding.Place.Row}/{finding.Place.Piece}/{finding.Place.Field}";
}
