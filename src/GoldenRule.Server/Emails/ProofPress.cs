using System.Collections.Immutable;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;
using GoldenRule.Server.Editing;
using Microsoft.Extensions.Caching.Memory;

namespace GoldenRule.Server.Emails;

/// <summary>An email at one revision, resolved, compiled both ways and checked.</summary>
public sealed record Pressed(long Revision, RunningOrder Order, ResolvedEmail Resolved, CompiledEmail Proof, CompiledEmail Sending, ImmutableArray<Finding> Findings);

/// <summary>
/// Compiles emails and keeps the last result of each, so that an edit costs the rows it changed. A server without it
/// compiles the whole email: slower, never different.
/// </summary>
public sealed class ProofPress : IDisposable
{
    /// <summary>Where picture files stand, on this server.</summary>
    public const string PicturesAt = "/pictures/";

    private readonly MemoryCache cache = new(new MemoryCacheOptions { SizeLimit = 200 });

    public Pressed Press(Kept kept) => Press(kept.Stored.Id, kept.Stored.Revision, (Email)kept.Document, kept.Library);

    /// <summary>The last result that is kept of an email, whatever its revision.</summary>
    public Pressed? Last(Guid id) => cache.Get<Pressed>(id);

    private Pressed Press(Guid id, long revision, Email email, LibrarySnapshot library)
    {
        var previous = Last(id);
        var order = RunningOrder.Of(email, library.Masters);
        var resolved = Resolver.Resolve(email, order, library.Style(order.Template.HouseStyle), library.Pictures, previous?.Resolved);
        var sending = Compiler.Compile(resolved, PicturesAt, Purpose.Sending, previous?.Sending);
        var pressed = new Pressed(
            revision,
            order,
            resolved,
            Compiler.Compile(resolved, PicturesAt, Purpose.Proof, previous?.Proof),
            sending,
            CheckList.Run(new Inspection(resolved, sending, library.IsTransactional(order.Template.CampaignType))));
        cache.Set(id, pressed, new MemoryCacheEntryOptions { Size = 1, SlidingExpiration = TimeSpan.FromMinutes(30) });
        return pressed;
    }

    /// <summary>The email as it is handed out, with pictures at an address that readers reach.</summary>
    public static CompiledEmail ForSending(Pressed pressed, string picturesAt) =>
        Compiler.Compile(pressed.Resolved, picturesAt, Purpose.Sending);

    public void Dispose() => cache.Dispose();
}
