using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;

namespace GoldenRule.Core.Sending;

/// <summary>
/// Who names destinations, tokens and webhooks, and who sends what was handed off. What the screens offer and what the server accepts is
/// this one rule; people come with the roles that hold for the email.
/// </summary>
public static class SendingPermissions
{
    /// <summary>Destinations, webhooks and tokens: leads of the whole library.</summary>
    public static Decision MaySetUp(Person person) =>
        person.Is(Role.Lead)
            ? Decision.Yes
            : Refusals.Refuse(Rules.Role, "Leads of the whole library say where emails go and who may fetch them.");

    /// <param name="to">Whom it is written to. Null: many readers.</param>
    public static Decision MayPush(Person person, Recipient? to, bool withdrawn) =>
        (person.Is(Role.Lead, Role.Designer, Role.Author), to, withdrawn) switch
        {
            (false, _, _) => Refusals.Refuse(Rules.Role, "A lead, designer or author sends it on."),
            (_, not null, _) => Refusals.Refuse(Rules.State, "It is written to one person, and is sent to them alone."),
            (_, _, true) => Refusals.Refuse(Rules.State, "It is withdrawn."),
            _ => Decision.Yes,
        };
}
