using GoldenRule.Core.Documents;
using GoldenRule.Data;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.People;

public static class Everyone
{
    /// <summary>Who this is, also where they work here no longer.</summary>
    public static async Task<string> NameAsync(GoldenRuleDb db, Guid id, CancellationToken cancel) =>
        await db.Users.Where(u => u.Id == id).Select(u => u.Name).FirstOrDefaultAsync(cancel) ?? "Somebody";

    /// <summary>All who may sign in, with the roles of the moment, by name.</summary>
    public static async Task<List<Person>> ListAsync(GoldenRuleDb db, CancellationToken cancel)
    {
        var roles = (
            await db.UserRoles.Join(db.Roles, r => r.RoleId, r => r.Id, (held, role) => new { held.UserId, role.Name }).ToListAsync(cancel)
        ).ToLookup(r => r.UserId, r => Enum.Parse<Role>(r.Name!));
        var inTeams = (await db.TeamMembers.AsNoTracking().ToListAsync(cancel)).ToLookup(
            m => m.PersonId,
            m => new TeamRole(m.TeamId, m.Role)
        );
        var people = await db
            .Users.Where(u => u.DeactivatedAt == null && u.ErasedAt == null && u.JoinedAt != null)
            .OrderBy(u => u.Name)
            .Select(u => new { u.Id, u.Name })
            .ToListAsync(cancel);
        return [.. people.Select(p => new Person(p.Id, p.Name, [.. roles[p.Id].Order()]) { InTeams = [.. inTeams[p.Id]] })];
    }
}
