using GoldenRule.Core.Documents;
using GoldenRule.Data;

namespace GoldenRule.Server.Logs;

/// <summary>Writes the log: an entry is stored with what it tells of, in one transaction, or neither is.</summary>
public static class Recording
{
    /// <param name="by">Null: nobody who is signed in.</param>
    /// <param name="subject">What it was done to, in words.</param>
    /// <param name="before">Written as JSON; null: there was nothing.</param>
    /// <param name="after">Written as JSON; null: there is nothing any more.</param>
    /// <param name="ofPerson">Whom it was done to.</param>
    public static void Record(
        this GoldenRuleDb db,
        TimeProvider clock,
        LogKind kind,
        Guid? by,
        string subject = "",
        object? before = null,
        object? after = null,
        Guid? ofPerson = null
    ) =>
        db.Log.Add(
            new LogEntry
            {
                At = clock.GetUtcNow().UtcDateTime,
                Kind = kind,
                PersonId = by,
                OfPersonId = ofPerson,
                Subject = subject,
                Before = before is null ? null : DocumentJson.Write(before),
                After = after is null ? null : DocumentJson.Write(after),
            }
        );
}
