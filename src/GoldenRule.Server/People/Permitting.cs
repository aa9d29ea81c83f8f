using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Server.Hosting;

namespace GoldenRule.Server.People;

/// <summary>What only some roles may do, said to whoever may not.</summary>
internal static class Permitting
{
    /// <param name="otherwise">Who may, in a sentence.</param>
    /// <exception cref="ProblemException">The person has none of the roles.</exception>
    public static void MustBe(this Person person, string otherwise, params ReadOnlySpan<Role> roles)
    {
        if (!person.Is(roles))
        {
            throw ProblemException.Refused(new Decision.Refused(Rules.Role, null, otherwise));
        }
    }

    /// <summary>The same for whoever has the role in any team.</summary>
    public static void MustBeAnywhere(this Person person, string otherwise, params ReadOnlySpan<Role> roles)
    {
        if (!person.IsAnywhere(roles))
        {
            throw ProblemException.Refused(new Decision.Refused(Rules.Role, null, otherwise));
        }
    }

    /// <summary>The same for something of these campaign types: whoever has the role in other teams only hears whose it is.</summary>
    public static void MustBeFor(
        this Person person,
        ImmutableArray<string> campaignTypes,
        TeamPlan teams,
        string otherwise,
        params ReadOnlySpan<Role> roles
    )
    {
        person.MustBeAnywhere(otherwise, roles);
        if (!teams.For(person, campaignTypes).Is(roles))
        {
            throw ProblemException.Refused(new Decision.Refused(Rules.Team, null, teams.Whose(campaignTypes)));
        }
    }

    /// <summary>For what everyone but reviewers does.</summary>
    /// <param name="does">"adds files" for example.</param>
    public static void MustAuthor(this Person person, string does) =>
        person.MustBeAnywhere(Authors(does), Role.Lead, Role.Designer, Role.Author);

    /// <summary>The same for emails of these campaign types.</summary>
    public static void MustAuthor(this Person person, string does, ImmutableArray<string> campaignTypes, TeamPlan teams) =>
        person.MustBeFor(campaignTypes, teams, Authors(does), Role.Lead, Role.Designer, Role.Author);

    private static string Authors(string does) => $"Reviewers read and approve; a lead, designer or author {does}.";
}
