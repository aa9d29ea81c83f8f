using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;

namespace GoldenRule.Core.Reviews;

/// <summary>What keeps an email from being asked about.</summary>
/// <param name="Blockers">Findings that stop it.</param>
/// <param name="ToFill">Fields that still wait for words.</param>
/// <param name="Unanswered">Warnings nobody has said of why they stay; counted where the rule asks for that.</param>
public sealed record AskObstacles(int Blockers, int ToFill, int Unanswered);

/// <summary>
/// Who may ask, take back and decide. What the screens offer and what the server accepts is this one rule; people come with the
/// roles that hold for the email.
/// </summary>
public static class ReviewPermissions
{
    public static Decision MayAsk(Person person, EmailState state, AskObstacles obstacles)
    {
        if (!person.Is(Role.Lead, Role.Designer, Role.Author))
        {
            return Refusals.Refuse(Rules.Role, "A lead, designer or author asks for approval.");
        }

        return (state, obstacles) switch
        {
            (EmailState.InReview, _) => Refusals.Refuse(Rules.State, "It is in review already."),
            (EmailState.Approved, _) => Refusals.Refuse(Rules.State, "It is approved already."),
            (EmailState.HandedOff, _) => Refusals.Refuse(Rules.State, "It was handed off and is frozen."),
            (_, { Blockers: > 0 }) => Refusals.Refuse(
                Rules.State,
                $"{Refusals.Count(obstacles.Blockers, "blocker")} must be mended first."
            ),
            (_, { ToFill: > 0 }) => Refusals.Refuse(Rules.State, $"{Refusals.Count(obstacles.ToFill, "field")} must be filled first."),
            (_, { Unanswered: > 0 }) => Refusals.Refuse(
                Rules.State,
                $"{Refusals.Count(obstacles.Unanswered, "warning")} must be mended, or answered with why it stays."
            ),
            _ => Decision.Yes,
        };
    }

    public static Decision MayTakeBack(Person person, EmailState state) =>
        (state, person.Is(Role.Lead, Role.Designer, Role.Author)) switch
        {
            (_, false) => Refusals.Refuse(Rules.Role, "A lead, designer or author takes it back. You can ask for changes."),
            (not EmailState.InReview, _) => Refusals.Refuse(Rules.State, "It is not in review."),
            _ => Decision.Yes,
        };

    /// <param name="writers">Ids of those who wrote in it, or asked.</param>
    /// <param name="hash">Of the email now.</param>
    public static Decision MayDecide(Person person, ReviewRound? round, IReadOnlySet<Guid> writers, string hash)
    {
        if (round is not { State: RoundState.Open })
        {
            return Refusals.Refuse(Rules.State, "Nobody is asked about it now.");
        }

        if (round.Needs.All(n => !n.IsMetBy(person)))
        {
            return Refusals.Refuse(Rules.Role, $"{string.Join(" and ", round.Needs.Select(n => n.Name))} decide about it.");
        }

        if (writers.Contains(person.Id))
        {
            return Refusals.Refuse(Rules.Role, "You wrote in it. Somebody who did not approves it.");
        }

        return NeedOf(person, round, hash) is null
            ? Refusals.Refuse(Rules.State, "What you could approve is approved already.")
            : Decision.Yes;
    }

    /// <summary>
    /// The approval that a person's word counts as: one that names them before one that goes by a role, and never two in one round.
    /// Null: none is open for them.
    /// </summary>
    public static ApprovalNeed? NeedOf(Person person, ReviewRound round, string hash)
    {
        var standing = round.Standing(hash);
        return standing.Any(s => s.Holds && s.Decision?.Person == person.Id)
            ? null
            : standing
                .Where(s => !s.Holds && s.Need.IsMetBy(person))
                .OrderByDescending(s => s.Decision?.Person == person.Id)
                .ThenByDescending(s => s.Need.People.Contains(person.Id))
                .FirstOrDefault()
                ?.Need;
    }

    /// <summary>Approvals that nobody of these can give: all who might wrote in it, or are not there any more.</summary>
    public static ImmutableArray<string> WithoutAnyone(ReviewRule rule, IReadOnlyCollection<Person> people, IReadOnlySet<Guid> writers) =>
        [.. rule.Needs.Where(n => !people.Any(p => !writers.Contains(p.Id) && n.IsMetBy(p))).Select(n => n.Name)];
}
