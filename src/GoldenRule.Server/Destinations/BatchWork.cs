using System.Collections.Immutable;
using GoldenRule.Data;

namespace GoldenRule.Server.Destinations;

/// <summary>One batch while it is sent: whom to, and what becomes of each, which is stored as it happens.</summary>
/// <param name="key">The same however often the batch is tried.</param>
/// <param name="recipients">Those that nothing is known of yet.</param>
public abstract class BatchWork(string key, Guid send, HandedOffEmail email, ImmutableArray<StoredRecipient> recipients)
{
    public string Key => key;

    public Guid Send => send;

    public HandedOffEmail Email => email;

    public ImmutableArray<StoredRecipient> Recipients => recipients;

    /// <summary>Stores what the destination calls the batch.</summary>
    public string OtherId { get; set; } = "";

    /// <summary>Stores that somebody is about to be sent to. False: not now, the sending was stopped.</summary>
    public abstract Task<bool> ClaimAsync(StoredRecipient recipient, CancellationToken cancel);

    /// <summary>The same of everyone in the batch. False: not now; nobody is sent to then.</summary>
    public abstract Task<bool> ClaimAllAsync(CancellationToken cancel);

    /// <summary>Stores what became of several at once.</summary>
    public abstract Task SettleAsync(IReadOnlyCollection<int> positions, SendState state, string answer);

    /// <summary>Stores what became of it.</summary>
    public abstract Task SettleAsync(StoredRecipient recipient, SendState state, string answer);

    /// <summary>As one reader gets it, with a way out of their own.</summary>
    public abstract (Core.Interchange.MessageContent Content, string MessageId) For(StoredRecipient recipient);
}
