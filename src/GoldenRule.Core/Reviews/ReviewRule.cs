using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Reviews;

/// <summary>Somebody whose word is needed: one of those who have a role, or one of some people.</summary>
/// <param name="Name">As it is called: "Legal", "Lead".</param>
/// <param name="Roles">Whoever has one of them for the campaign type may give it.</param>
/// <param name="People">Ids of people who may give it whatever their role.</param>
public sealed record ApprovalNeed(string Name, ImmutableArray<Role> Roles, ImmutableArray<Guid> People)
{
    /// <param name="person">With the roles that hold for the email.</param>
    public bool IsMetBy(Person person) => People.Contains(person.Id) || Roles.Any(role => person.Is(role));
}

/// <summary>What becomes of an approval when the email changes by itself.</summary>
public enum WhenOvertaken
{
    /// <summary>It holds no longer; the same people are asked again.</summary>
    AskAgain,

    /// <summary>It carries over: what changed is shown, nobody is asked.</summary>
    CarryOver,
}

/// <summary>How emails of a campaign type are approved.</summary>
/// <param name="Needs">Each by another person; none: nobody is asked.</param>
/// <param name="AnswerWarnings">Whoever asks says of each warning why it stays.</param>
public sealed record ReviewRule(ImmutableArray<ApprovalNeed> Needs, bool AnswerWarnings = false, WhenOvertaken Overtaken = default)
{
    public const int MostNeeds = 6;

    /// <summary>Where nothing is said: one of the leads.</summary>
    public static ReviewRule Usual { get; } = new([new ApprovalNeed("Lead", [Role.Lead], [])]);

    /// <summary>What is wrong with it, and what to write. Null: nothing.</summary>
    public string? Fault()
    {
        if (Needs.Length > MostNeeds)
        {
            return $"At most {MostNeeds} approvals are asked for.";
        }

        if (Needs.FirstOrDefault(n => n.Name.Trim().Length is 0 or > 40) is not null)
        {
            return "Each approval has a name of at most 40 characters, such as \"Legal\".";
        }

        if (Needs.GroupBy(n => n.Name.Trim(), StringComparer.OrdinalIgnoreCase).FirstOrDefault(g => g.Count() > 1) is { } twice)
        {
            return $"Two approvals are called \"{twice.Key}\". Give each a name of its own.";
        }

        return Needs.FirstOrDefault(n => n.Roles.IsEmpty && n.People.IsEmpty) is { } nobody
            ? $"Nobody can give \"{nobody.Name}\". Choose a role or people for it."
            : null;
    }
}
