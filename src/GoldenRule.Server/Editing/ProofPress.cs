using System.Collections.Immutable;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;
using Microsoft.Extensions.Caching.Memory;

namespace GoldenRule.Server.Editing;

/// <summary>A document at one revision, resolved, compiled both ways and checked.</summary>
public sealed record Pressed(long Revision, Laid Laid, ResolvedEmail Resolved, CompiledEmail Proof, CompiledEmail Sending, Inspected Inspected)
{
    public ImmutableArray<Finding> Findings => Inspected.Findings;

    public RunningOrder Order => Laid.Order;
}

/// <summary>
/// Compiles documents and keeps the last result of each, so that an edit costs the rows it changed. A server without it
/// compiles the whole of it: slower, never different.
/// </summary>
public sealed class ProofPress(TimeProvider clock) : IDisposable
{
    /// <summary>Where picture files stand, on this server.</summary>
    public const string PicturesAt = "/pictures/";

    // Rows that did not change are the same objects in all of them.
    private const int Behind = 11;

    private readonly MemoryCache cache = new(new MemoryCacheOptions { SizeLimit = 200 });

    public Pressed Press(Kept kept)
    {
        var pressed = Prepare(kept);
        Keep(kept.Stored.Id, pressed);
        return pressed;
    }

    /// <summary>Of a document that is not stored yet: nothing is kept of it until it is.</summary>
    public Pressed Prepare(Kept kept) => Press(kept.Stored.Revision, Laid.Of(kept), Inspection.SubjectOf(kept.Document), kept.Library, Last(kept.Stored.Id));

    public void Keep(Guid id, Pressed pressed)
    {
        // Screens are a few edits behind one another: what each has seen is still known, and only what differs is sent.
        ImmutableArray<Pressed> newest = [pressed, .. Newest(id).Where(p => p.Revision < pressed.Revision).Take(Behind)];
        cache.Set(id, newest, new MemoryCacheEntryOptions { Size = 1, SlidingExpiration = TimeSpan.FromMinutes(30) });
    }

    /// <summary>Not kept: for work on many at once.</summary>
    public Pressed PressOnce(Kept kept) => Press(kept.Stored.Revision, Laid.Of(kept), Inspection.SubjectOf(kept.Document), kept.Library, null);

    /// <summary>What a colleague would begin with; not kept.</summary>
    public Pressed PressStarted(Kept kept) =>
        Press(kept.Stored.Revision, Laid.AsStarted(kept.Document, kept.Library), Inspection.Subject.Email, kept.Library, null);

    /// <summary>The last result that is kept of a document, whatever its revision.</summary>
    public Pressed? Last(Guid id) => Newest(id).FirstOrDefault();

    /// <summary>The result at that revision. Null: it is not kept.</summary>
    public Pressed? At(Guid id, long revision) => Newest(id).FirstOrDefault(p => p.Revision == revision);

    private ImmutableArray<Pressed> Newest(Guid id) => cache.TryGetValue(id, out ImmutableArray<Pressed> kept) ? kept : [];

    private Pressed Press(long revision, Laid laid, Inspection.Subject subject, LibrarySnapshot library, Pressed? previous)
    {
        var resolved = Resolver.Resolve(laid.Email, laid.Order, library.Style(laid.Order.Template.HouseStyle), library.Pictures, previous?.Resolved);
        var sending = Compiler.Compile(resolved, PicturesAt, Purpose.Sending, previous?.Sending);
        return new Pressed(
            revision,
            laid,
            resolved,
            Compiler.Compile(resolved, PicturesAt, Purpose.Proof, previous?.Proof),
            sending,
            CheckList.Run(new Inspection(resolved, sending, library.Around(laid.Order.Template.CampaignType, DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime)), subject), previous?.Inspected));
    }

    /// <summary>The email as it is handed out: pictures at an address that readers reach, links with the tags of its campaign type.</summary>
    public static CompiledEmail ForSending(Pressed pressed, LibrarySnapshot library, string picturesAt) => Compiler.Compile(
        TaggedEmail.Of(pressed.Resolved, library.CampaignTypes.FirstOrDefault(t => t.Key == pressed.Order.Template.CampaignType)?.LinkTags ?? LinkTags.None),
        picturesAt,
        Purpose.Sending);

    public void Dispose() => cache.Dispose();
}
