using System.Text.Json.Nodes;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Editing;

/// <summary>Whether somebody set the same place since the sender of an edit last saw it.</summary>
public static class Conflicts
{
    /// <param name="seen">The revision that the sender had seen.</param>
    /// <param name="own">Edits that are the sender's own, and so none.</param>
    /// <exception cref="ProblemException">Somebody else did: theirs and the sender's are in it.</exception>
    public static async Task RefuseConflictsAsync(
        this GoldenRuleDb db,
        Guid id,
        long seen,
        List<Guid> own,
        List<SentEdit> fresh,
        Person person,
        CancellationToken cancel
    )
    {
        var targets = fresh.Select(e => e.Edit.Target).Where(t => t is not null).ToList();
        var other = await db
            .Edits.AsNoTracking()
            .Where(e => e.DocumentId == id && e.Sequence > seen && !own.Contains(e.Id) && targets.Contains(e.Target))
            .OrderByDescending(e => e.Sequence)
            .FirstOrDefaultAsync(cancel);
        if (other is null)
        {
            return;
        }

        var name = await db.Users.Where(u => u.Id == other.AuthorId).Select(u => u.Name).FirstOrDefaultAsync(cancel);
        var mine = fresh.Last(e => e.Edit.Target == other.Target);
        throw new ProblemException(
            409,
            "conflict",
            "Two people changed the same place",
            $"{(other.AuthorId == person.Id ? "You, in another window," : name)} changed this at the same time. "
                + "Both values are kept here; choose one.",
            new Dictionary<string, object?>(StringComparer.Ordinal)
            {
                ["target"] = other.Target,
                ["theirs"] = JsonNode.Parse(other.Body),
                ["yours"] = JsonNode.Parse(DocumentJson.Write(mine.Edit)),
            }
        );
    }
}
