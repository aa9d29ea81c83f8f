using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Governance;

/// <summary>What people outside a team see of the emails of its campaign types.</summary>
public enum ForOthers
{
    /// <summary>They read them and change nothing.</summary>
    ReadOnly,

    /// <summary>They are not there for them.</summary>
    Hidden,
}

/// <param name="MergedInto">The team that took its place; null: it stands for itself.</param>
public sealed record Team(Guid Id, string Name, ForOthers ForOthers = ForOthers.ReadOnly, Guid? MergedInto = null);

/// <summary>
/// Which teams campaign types belong to, and what follows for people: a role that someone has in a team holds for what
/// belongs to the team's campaign types and for nothing else.
/// </summary>
/// <param name="OfTypes">Teams by the key of the campaign type. No entry: it belongs to none.</param>
public sealed record TeamPlan(ImmutableArray<Team> Teams, ImmutableDictionary<string, ImmutableArray<Guid>> OfTypes)
{
    /// <summary>No teams: roles hold everywhere.</summary>
    public static TeamPlan None { get; } = new([], ImmutableDictionary<string, ImmutableArray<Guid>>.Empty);

    /// <summary>The person with the roles that hold for an email of this campaign type; null or empty: it has none.</summary>
    public Person ForEmail(Person person, string? campaignType) =>
        string.IsNullOrEmpty(campaignType) ? For(person, []) : For(person, campaignType);

    /// <summary>
    /// The person with the roles that hold for something of these campaign types: for several, those that hold in each; for
    /// what belongs to all types, only those that hold everywhere.
    /// </summary>
    public Person For(Person person, params ImmutableArray<string> campaignTypes)
    {
        if (person.InTeams.IsEmpty)
        {
            return person;
        }

        var standing = person.InTeams.Select(r => r with { Team = Standing(r.Team) }).ToList();
        var added = campaignTypes.IsEmpty
            ? []
            : campaignTypes
                .Select(type => standing.Where(r => TeamsOf(type).Contains(r.Team)).Select(r => r.Role))
                .Aggregate((all, these) => all.Intersect(these));
        // Whoever is in a team is also in those that it took the place of: reservations go on naming them.
        var merged = Teams
            .Where(t => t.MergedInto is not null)
            .SelectMany(t => standing.Where(r => r.Team == Standing(t.Id)).Select(r => r with { Team = t.Id }));
        return person with { Roles = [.. person.Roles.Union(added)], InTeams = [.. standing.Concat(merged).Distinct()] };
    }

    /// <summary>Whether emails of a campaign type are there for someone.</summary>
    public bool Sees(Person person, string? campaignType) =>
        !person.Roles.IsEmpty
        || campaignType is null
        || TeamsOf(campaignType) is var teams
            && (
                person.InTeams.Any(r => teams.Contains(Standing(r.Team)))
                || !teams.Any(id => Teams.Any(t => t.Id == id && t.ForOthers == ForOthers.Hidden))
            );

    /// <summary>Whose something of these campaign types is, in a sentence for those who have a role in other teams only.</summary>
    public string Whose(ImmutableArray<string> campaignTypes)
    {
        var names = campaignTypes
            .SelectMany(type => TeamsOf(type))
            .Distinct()
            .Select(id => Teams.FirstOrDefault(t => t.Id == id)?.Name)
            .OfType<string>();
        return string.Join(" and ", names) is { Length: > 0 } teams
            ? $"This belongs to {teams}. You can read it; people of that team change it."
            : "This is for all teams; people whose role holds everywhere change it.";
    }

    /// <summary>Campaign types whose emails are not there for someone.</summary>
    public ImmutableArray<string> HiddenFrom(Person person) => [.. OfTypes.Keys.Where(type => !Sees(person, type))];

    /// <summary>The team that stands in a merged one's place now.</summary>
    public Guid Standing(Guid team)
    {
        // Merging makes no circle; a wrong entry ends here all the same.
        for (var steps = 0; steps <= Teams.Length && Teams.FirstOrDefault(t => t.Id == team)?.MergedInto is { } into; steps++)
        {
            team = into;
        }

        return team;
    }

    private ImmutableArray<Guid> TeamsOf(string campaignType) => OfTypes.GetValueOrDefault(campaignType, []);
}
