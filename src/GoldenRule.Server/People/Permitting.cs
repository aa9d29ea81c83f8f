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

    /// <summary>For what everyone but reviewers does.</summary>
    /// <param name="does">"adds files" for example.</param>
    public static void MustAuthor(this Person person, string does)
    {
        if (person.IsAnywhere(Role.Lead, Role.Designer, Role.Author))
        {
            return;
        }

        person.MustBe($"Reviewers read and approve; a lead, designer or author {does}.", Role.Lead, Role.Designer, Role.Author);
    }
}
