using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HandOffs;
using GoldenRule.Data;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Webhooks;

/// <summary>What webhooks are told of. It is stored with what it tells of, and told after that: see <see cref="WebhookTelling"/>.</summary>
public static class WebhookEvents
{
    public const string Approved = "email.approved";
    public const string HandedOff = "hand-off.made";
    public const string Withdrawn = "hand-off.withdrawn";
    public const string Sent = "hand-off.sent";

    public static ImmutableArray<(string Kind, string Words)> All { get; } =
    [
        (Approved, "An email is approved"),
        (HandedOff, "An email is handed off"),
        (Withdrawn, "A hand-off is withdrawn"),
        (Sent, "The last batch was sent"),
    ];

    /// <param name="about">What happened to what; written as JSON.</param>
    public static async Task AddAsync<T>(string kind, T about, GoldenRuleDb db, TimeProvider clock, CancellationToken cancel)
    {
        var now = clock.GetUtcNow();
        var hooks = await db
            .Webhooks.AsNoTracking()
            .Where(w => w.RetiredAt == null && w.Kinds.Contains(kind))
            .Select(w => w.Id)
            .ToListAsync(cancel);
        db.Deliveries.AddRange(hooks.Select(hook => Make(hook, kind, about, now)));
    }

    internal static StoredDelivery Make<T>(Guid hook, string kind, T about, DateTimeOffset now) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            WebhookId = hook,
            Kind = kind,
            Body = DocumentJson.Write(
                new
                {
                    Type = kind,
                    Timestamp = now,
                    Data = about,
                }
            ),
            At = now.UtcDateTime,
            State = DeliveryState.Waiting,
            NextTry = now.UtcDateTime,
        };

    /// <summary>Of a hand-off.</summary>
    public static HandOffTold About(HandOffRecord record, string reason = "") =>
        new(record.Id, record.Email, record.Number, record.Name, record.CampaignType, reason.Length > 0 ? reason : null);

    /// <param name="Reason">Why it was withdrawn.</param>
    public sealed record HandOffTold(Guid HandOff, Guid Email, int Number, string Name, string CampaignType, string? Reason);

    public sealed record EmailTold(Guid Email, string Name, string CampaignType);
}
