using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;

namespace GoldenRule.Core.HandOffs;

/// <summary>What keeps an email from being handed off.</summary>
/// <param name="SeenChanged">What was approved is not what there is now, and the rule does not carry that over.</param>
/// <param name="MustUpdate">A required release waits to be taken.</param>
public sealed record HandOffObstacles(int Blockers, int ToFill, bool SeenChanged, bool MustUpdate);

/// <summary>
/// Who may hand off, begin a correction, withdraw, and say how long the page for browsers stays. What the screens offer and what the
/// server accepts is this one rule; people come with the roles that hold for the email.
/// </summary>
public static class HandOffPermissions
{
    public static Decision MayHandOff(Person person, EmailState state, HandOffObstacles obstacles) =>
        (person.Is(Role.Lead, Role.Designer, Role.Author), state, obstacles) switch
        {
            (false, _, _) => Refusals.Refuse(Rules.Role, "A lead, designer or author hands off."),
            (_, EmailState.HandedOff, _) => Refusals.Refuse(Rules.State, "It is handed off already. A correction is a new hand-off."),
            (_, not EmailState.Approved, _) => Refusals.Refuse(Rules.State, "It must be approved first."),
            (_, _, { SeenChanged: true }) => Refusals.Refuse(
                Rules.State,
                "Something it takes by reference has changed since it was approved. It must be approved again."
            ),
            (_, _, { MustUpdate: true }) => Refusals.Refuse(Rules.State, "A newer release of what it is made from must be taken first."),
            (_, _, { Blockers: > 0 }) => Refusals.Refuse(
                Rules.State,
                $"{Refusals.Count(obstacles.Blockers, "blocker")} must be mended first."
            ),
            (_, _, { ToFill: > 0 }) => Refusals.Refuse(Rules.State, $"{Refusals.Count(obstacles.ToFill, "field")} must be filled first."),
            _ => Decision.Yes,
        };

    /// <summary>Opens the email again, to be corrected, approved and handed off anew. What was handed off stays.</summary>
    public static Decision MayCorrect(Person person, EmailState state) =>
        (person.Is(Role.Lead, Role.Designer, Role.Author), state) switch
        {
            (false, _) => Refusals.Refuse(Rules.Role, "A lead, designer or author corrects it."),
            (_, not EmailState.HandedOff) => Refusals.Refuse(Rules.State, "It is open already."),
            _ => Decision.Yes,
        };

    public static Decision MayWithdraw(Person person, bool withdrawn) =>
        (person.Is(Role.Lead, Role.Designer, Role.Author), withdrawn) switch
        {
            (false, _) => Refusals.Refuse(Rules.Role, "A lead, designer or author withdraws it."),
            (_, true) => Refusals.Refuse(Rules.State, "It is withdrawn already."),
            _ => Decision.Yes,
        };

    /// <param name="to">Whom it is written to. Null: many readers.</param>
    /// <param name="sent">It was handed in already, or nobody knows whether it was.</param>
    public static Decision MaySend(Person person, Recipient? to, bool withdrawn, bool sent) =>
        (person.Is(Role.Lead, Role.Designer, Role.Author), to, withdrawn, sent) switch
        {
            (false, _, _, _) => Refusals.Refuse(Rules.Role, "A lead, designer or author sends it."),
            (_, null, _, _) => Refusals.Refuse(Rules.State, "It is for many readers: a sending platform sends it."),
            (_, { Address.Length: 0 }, _, _) => Refusals.Refuse(
                Rules.State,
                "No address was given. Take the message out, and send it by hand."
            ),
            (_, _, true, _) => Refusals.Refuse(Rules.State, "It is withdrawn."),
            (_, _, _, true) => Refusals.Refuse(Rules.State, "It was sent already, and is not sent twice."),
            _ => Decision.Yes,
        };

    public static Decision MaySetPage(Person person, bool withdrawn) =>
        (person.Is(Role.Lead), withdrawn) switch
        {
            (false, _) => Refusals.Refuse(Rules.Role, "A lead says how long the page stays."),
            (_, true) => Refusals.Refuse(Rules.State, "It is withdrawn, and its page with it."),
            _ => Decision.Yes,
        };
}
