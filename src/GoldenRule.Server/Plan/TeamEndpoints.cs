using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Plan;

public sealed record TeamMemberEntry(Guid Person, string Name, ImmutableArray<Role> Roles);

/// <param name="CampaignTypes">Keys of those that it sends.</param>
public sealed record TeamEntry(
    Guid Id,
    string Name,
    ForOthers ForOthers,
    ImmutableArray<string> CampaignTypes,
    ImmutableArray<TeamMemberEntry> Members
);

/// <param name="Id">UUIDv7 made by the client: asked twice, one is made.</param>
public sealed record NewTeam(Guid Id, string Name);

/// <summary>What is left out stays.</summary>
public sealed record TeamChange(string? Name = null, ForOthers? ForOthers = null);

/// <param name="Ids">All of them, in the order wanted.</param>
public sealed record TeamOrder(ImmutableArray<Guid> Ids);

/// <param name="Into">The team that takes over its campaign types and its people.</param>
public sealed record TeamMerge(Guid Into);

/// <param name="Roles">What the person is in the team; none: they are not in it.</param>
public sealed record TeamRoles(ImmutableArray<Role> Roles);

/// <summary>The teams: made, renamed, ordered, merged and removed by leads; who is in each, and as what.</summary>
public static class TeamEndpoints
{
    private const int Most = 200;

    public static void MapTeams(this IEndpointRouteBuilder api)
    {
        var teams = api.MapGroup("/teams").WithTags("Plan");
        teams.MapGet("", (GoldenRuleDb db, CancellationToken cancel) => ListAsync(db, cancel)).WithName("listTeams");
        teams.MapPost("", MakeAsync).WithName("makeTeam");
        teams.MapPut("/order", OrderAsync).WithName("orderTeams");
        teams.MapPut("/{id:guid}", ChangeAsync).WithName("changeTeam");
        teams.MapDelete("/{id:guid}", RemoveAsync).WithName("removeTeam");
        teams.MapPost("/{id:guid}/merge", MergeAsync).WithName("mergeTeam");
        teams.MapPut("/{id:guid}/members/{person:guid}", SetRolesAsync).WithName("setTeamRoles");
    }

    internal static async Task<ImmutableArray<TeamEntry>> ListAsync(GoldenRuleDb db, CancellationToken cancel)
    {
        var teams = await db
            .Teams.AsNoTracking()
            .Where(t => t.MergedInto == null)
            .OrderBy(t => t.Position)
            .ThenBy(t => t.Id)
            .ToListAsync(cancel);
        var types = await db.CampaignTypes.AsNoTracking().OrderBy(t => t.Position).ToListAsync(cancel);
        var members = await db
            .TeamMembers.Join(
                db.Users,
                m => m.PersonId,
                u => u.Id,
                (m, u) =>
                    new
                    {
                        m.TeamId,
                        m.PersonId,
                        m.Role,
                        u.Name,
                    }
            )
            .ToListAsync(cancel);
        return
        [
            .. teams.Select(t => new TeamEntry(
                t.Id,
                t.Name,
                t.ForOthers,
                [.. types.Where(type => type.Teams.Contains(t.Id)).Select(type => type.Key)],
                [
                    .. members
                        .Where(m => m.TeamId == t.Id)
                        .GroupBy(m => (m.PersonId, m.Name))
                        .OrderBy(m => m.Key.Name, StringComparer.OrdinalIgnoreCase)
                        .Select(m => new TeamMemberEntry(m.Key.PersonId, m.Key.Name, [.. m.Select(r => r.Role).Order()])),
                ]
            )),
        ];
    }

    private static async Task<ImmutableArray<TeamEntry>> MakeAsync(
        NewTeam request,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var person = Planning(user);
        if (await db.Teams.AnyAsync(t => t.Id == request.Id, cancel))
        {
            return await ListAsync(db, cancel);
        }

        if (await db.Teams.CountAsync(cancel) >= Most)
        {
            throw ProblemException.Invalid($"There are at most {Most} teams.");
        }

        var team = new StoredTeam
        {
            Id = request.Id,
            Name = await NameAsync(request.Name, request.Id, db, cancel),
            Position = await db.Teams.MaxAsync(t => (int?)t.Position, cancel) + 1 ?? 0,
        };
        db.Teams.Add(team);
        db.Record(clock, LogKind.TeamMade, person.Id, team.Name, null, Told.Of(team));
        await db.SaveChangesAsync(cancel);
        return await ListAsync(db, cancel);
    }

    private static async Task<ImmutableArray<TeamEntry>> ChangeAsync(
        Guid id,
        TeamChange change,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var person = Planning(user);
        var team = await FindAsync(id, db, cancel);
        var before = Told.Of(team);
        team.Name = change.Name is { } name ? await NameAsync(name, id, db, cancel) : team.Name;
        team.ForOthers = change.ForOthers ?? team.ForOthers;
        db.Record(clock, LogKind.TeamChanged, person.Id, team.Name, before, Told.Of(team));
        await db.SaveChangesAsync(cancel);
        return await ListAsync(db, cancel);
    }

    private static async Task<ImmutableArray<TeamEntry>> OrderAsync(
        TeamOrder order,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        Planning(user);
        var teams = await db.Teams.Where(t => t.MergedInto == null).ToListAsync(cancel);
        if (!teams.Select(t => t.Id).Order().SequenceEqual(order.Ids.Order()))
        {
            throw ProblemException.Invalid("Teams have come or gone since you looked. Look again, then order them.", "ids");
        }

        teams.ForEach(t => t.Position = order.Ids.IndexOf(t.Id));
        await db.SaveChangesAsync(cancel);
        return await ListAsync(db, cancel);
    }

    /// <summary>A team goes whose campaign types are other teams' too, or none.</summary>
    private static async Task<ImmutableArray<TeamEntry>> RemoveAsync(
        Guid id,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var person = Planning(user);
        var team = await FindAsync(id, db, cancel);
        var types = await db.CampaignTypes.Where(t => t.Teams.Contains(id)).OrderBy(t => t.Position).ToListAsync(cancel);
        if (types.FindAll(t => t.Teams.Count == 1) is { Count: > 0 } alone)
        {
            throw ProblemException.Invalid(
                $"{team.Name} sends {string.Join(", ", alone.Select(t => t.Name))}. Give that to another team first, or merge the two."
            );
        }

        types.ForEach(t => t.Teams = [.. t.Teams.Where(other => other != id)]);
        // Teams that were merged into it end with it.
        await db.Teams.Where(t => t.MergedInto == id).ExecuteUpdateAsync(t => t.SetProperty(x => x.MergedInto, (Guid?)null), cancel);
        db.Teams.Remove(team);
        db.Record(clock, LogKind.TeamRemoved, person.Id, team.Name, Told.Of(team));
        await db.SaveChangesAsync(cancel);
        return await ListAsync(db, cancel);
    }

    /// <summary>What belonged to it, and whoever was in it, is the other's; reservations that name it mean the other.</summary>
    private static async Task<ImmutableArray<TeamEntry>> MergeAsync(
        Guid id,
        TeamMerge merge,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var person = Planning(user);
        // Two at once, each into the other, would leave neither.
        await using var turn = await db.TakeTurnAsync("plan", cancel);
        var (team, into) = (await FindAsync(id, db, cancel), await FindAsync(merge.Into, db, cancel));
        if (team.Id == into.Id)
        {
            throw ProblemException.Invalid("A team is merged into another, not into itself.", "into");
        }

        foreach (var type in await db.CampaignTypes.Where(t => t.Teams.Contains(id)).ToListAsync(cancel))
        {
            type.Teams = [.. type.Teams.Select(t => t == id ? into.Id : t).Distinct()];
        }

        var members = await db.TeamMembers.Where(m => m.TeamId == id || m.TeamId == into.Id).ToListAsync(cancel);
        var known = members.Where(m => m.TeamId == into.Id).Select(m => (m.PersonId, m.Role)).ToHashSet();
        foreach (var member in members.Where(m => m.TeamId == id))
        {
            db.TeamMembers.Remove(member);
            if (known.Add((member.PersonId, member.Role)))
            {
                db.TeamMembers.Add(
                    new TeamMember
                    {
                        TeamId = into.Id,
                        PersonId = member.PersonId,
                        Role = member.Role,
                    }
                );
            }
        }

        team.MergedInto = into.Id;
        db.Record(clock, LogKind.TeamMerged, person.Id, $"{team.Name} into {into.Name}", Told.Of(team), Told.Of(into));
        await db.SaveChangesAsync(cancel);
        await turn.CommitAsync(CancellationToken.None);
        return await ListAsync(db, cancel);
    }

    private static async Task<ImmutableArray<TeamEntry>> SetRolesAsync(
        Guid id,
        Guid person,
        TeamRoles roles,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var by = Planning(user);
        var team = await FindAsync(id, db, cancel);
        if (!await db.Users.AnyAsync(u => u.Id == person, cancel))
        {
            throw ProblemException.NotFound("There is no such person any more.");
        }

        var held = await db.TeamMembers.Where(m => m.TeamId == id && m.PersonId == person).ToListAsync(cancel);
        var wanted = roles.Roles.Distinct().ToList();
        db.TeamMembers.RemoveRange(held.Where(m => !wanted.Contains(m.Role)));
        db.TeamMembers.AddRange(
            wanted
                .Except(held.Select(m => m.Role))
                .Select(role => new TeamMember
                {
                    TeamId = id,
                    PersonId = person,
                    Role = role,
                })
        );
        db.Record(
            clock,
            LogKind.TeamRolesSet,
            by.Id,
            team.Name,
            new TeamRoles([.. held.Select(m => m.Role).Order()]),
            new TeamRoles([.. wanted.Order()]),
            person
        );
        await db.SaveChangesAsync(cancel);
        return await ListAsync(db, cancel);
    }

    private static Person Planning(ClaimsPrincipal user)
    {
        var person = user.Person();
        person.MustBe("Leads of the whole library say which teams there are and who is in them.", Role.Lead);
        return person;
    }

    private static async Task<StoredTeam> FindAsync(Guid id, GoldenRuleDb db, CancellationToken cancel) =>
        await db.Teams.FirstOrDefaultAsync(t => t.Id == id && t.MergedInto == null, cancel)
        ?? throw ProblemException.NotFound("There is no such team any more.");

    private static async Task<string> NameAsync(string said, Guid id, GoldenRuleDb db, CancellationToken cancel)
    {
        var name = PlanName.Read(said, "team");
        var others = await db.Teams.Where(t => t.Id != id && t.MergedInto == null).Select(t => t.Name).ToListAsync(cancel);
        return others.Contains(name, StringComparer.OrdinalIgnoreCase)
            ? throw ProblemException.Invalid($"There is a team \"{name}\" already. Choose another name.", "name")
            : name;
    }

    private sealed record Told(string Name, ForOthers ForOthers)
    {
        public static Told Of(StoredTeam team) => new(team.Name, team.ForOthers);
    }
}
