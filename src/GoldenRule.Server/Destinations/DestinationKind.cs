using System.Collections.Immutable;
using GoldenRule.Core.Sending;
using GoldenRule.Data;

namespace GoldenRule.Server.Destinations;

/// <summary>A destination with its secret in the clear.</summary>
public sealed record OpenDestination(
    Guid Id,
    string Name,
    string Profile,
    PicturePolicy Pictures,
    string Address,
    string User,
    string Secret
)
{
    /// <summary>Only this server knows what the secret is: no log and no message shows it.</summary>
    public override string ToString() => Name;
}

/// <summary>It did not work, and why in a sentence.</summary>
/// <param name="again">Null: trying again changes nothing before somebody mends it.</param>
public sealed class DestinationException(string message, TimeSpan? again, Exception? inner = null) : Exception(message, inner)
{
    /// <summary>After how long it may be tried again; zero: when the usual pause is over.</summary>
    public TimeSpan? Again => again;
}

/// <param name="OtherId">What the destination calls it; empty: nothing.</param>
/// <param name="Answer">What it said, in words.</param>
public sealed record PushResult(string OtherId, string Answer);

/// <param name="Contacts">How many are on it.</param>
public sealed record ContactList(string Id, string Name, int Contacts);

/// <param name="Unsubscribed">They want no more mail.</param>
public sealed record Contact(string Id, string Address, bool Unsubscribed);

/// <param name="Reason">What the mailbox said.</param>
public sealed record Bounce(string Address, string Reason);

/// <summary>Events of one hand-off as the destination told them.</summary>
/// <param name="Next">Where to go on; the same as before: there is nothing new.</param>
public sealed record EventPage(ImmutableArray<ReaderEvent> Events, string Next, bool More);

/// <summary>
/// A sort of place that hand-offs go to. A new one is one class and one line in <see cref="DestinationSetup"/>.
/// Everything that goes wrong there is a <see cref="DestinationException"/>.
/// </summary>
public abstract class DestinationKind
{
    /// <summary>Stable name, as it stands in destinations.</summary>
    public abstract string Name { get; }

    public abstract string Title { get; }

    /// <summary>What it is for, in a sentence.</summary>
    public abstract string Explained { get; }

    /// <summary>How pictures may go there; the first is the usual way.</summary>
    public abstract ImmutableArray<PicturePolicy> Pictures { get; }

    /// <summary>What its address looks like; empty: it has none.</summary>
    public virtual string AddressExample => "";

    /// <summary>False: it may be left out.</summary>
    public virtual bool NeedsAddress => AddressExample.Length > 0;

    public virtual bool HasUser => false;

    /// <summary>What its secret is called; empty: it has none.</summary>
    public virtual string SecretName => "";

    public virtual bool TakesPushes => true;

    public virtual bool SendsInBatches => false;

    /// <summary>It keeps lists of its own.</summary>
    public virtual bool HasLists => false;

    /// <summary>It tells what came back. False: what is known of its sends is known here.</summary>
    public virtual bool TellsEvents => false;

    /// <summary>Asked twice under one key, a batch is sent once. False: what was being handed in when this ended is not known.</summary>
    public virtual bool IsIdempotent => false;

    /// <exception cref="Hosting.ProblemException">The address cannot be its.</exception>
    public virtual void CheckAddress(string address) { }

    /// <param name="secret">Null: the one that is stored stays.</param>
    /// <exception cref="Hosting.ProblemException">The secret cannot be its.</exception>
    public virtual void CheckSecret(string? secret) { }

    /// <summary>Asks whether it would take something, and sends nothing.</summary>
    /// <returns>What it says, in words.</returns>
    public abstract Task<string> TryAsync(OpenDestination to, CancellationToken cancel);

    /// <summary>Hands a hand-off over. Asked twice it is there once.</summary>
    /// <param name="push">The same however often it is tried.</param>
    public virtual Task<PushResult> PushAsync(Guid push, HandedOffEmail email, OpenDestination to, CancellationToken cancel) =>
        throw new NotSupportedException();

    /// <summary>Says that a hand-off was withdrawn.</summary>
    public virtual Task WithdrawAsync(Guid handOff, OpenDestination to, CancellationToken cancel) => Task.CompletedTask;

    public virtual Task<ImmutableArray<ContactList>> ListsAsync(OpenDestination to, CancellationToken cancel) =>
        Task.FromResult<ImmutableArray<ContactList>>([]);

    public virtual IAsyncEnumerable<Contact> ContactsAsync(string list, OpenDestination to, CancellationToken cancel) =>
        AsyncEnumerable.Empty<Contact>();

    /// <summary>Addresses that unsubscribed there.</summary>
    public virtual IAsyncEnumerable<string> UnsubscribedAsync(OpenDestination to, CancellationToken cancel) =>
        AsyncEnumerable.Empty<string>();

    /// <summary>Sends to the recipients of one batch.</summary>
    public virtual Task SendAsync(BatchWork batch, OpenDestination to, CancellationToken cancel) => throw new NotSupportedException();

    /// <summary>Whom a hand-off could not reach.</summary>
    public virtual IAsyncEnumerable<Bounce> BouncesAsync(Guid handOff, OpenDestination to, CancellationToken cancel) =>
        AsyncEnumerable.Empty<Bounce>();

    /// <summary>What it tells of a hand-off that it sent. Null: it tells nothing by itself.</summary>
    public virtual Task<EventPage?> EventsAsync(Guid handOff, string after, OpenDestination to, CancellationToken cancel) =>
        Task.FromResult<EventPage?>(null);
}
