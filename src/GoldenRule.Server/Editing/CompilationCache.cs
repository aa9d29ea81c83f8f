using System.Collections.Immutable;
using System.Diagnostics.Metrics;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;
using GoldenRule.Server.Hosting;

namespace GoldenRule.Server.Editing;

/// <summary>A document at one revision, resolved, compiled both ways and checked.</summary>
public sealed record CompiledRevision(
    long Revision,
    DocumentLayout DocumentLayout,
    ResolvedEmail Resolved,
    CompiledEmail Proof,
    CompiledEmail Sending,
    Inspected Inspected
)
{
    public ImmutableArray<Finding> Findings => Inspected.Findings;

    public RunningOrder Order => DocumentLayout.Order;
}

/// <summary>
/// Compiles documents and keeps the last result of each, so that an edit costs the rows it changed. A server without it
/// compiles the whole of it: slower, never different.
/// </summary>
public sealed class CompilationCache(TimeProvider clock, IMeterFactory meters) : IDisposable
{
    /// <summary>Where picture files stand, on this server.</summary>
    public const string PicturesAt = "/pictures/";

    // Rows that did not change are the same objects in all of them.
    private const int Behind = 11;

    // Of a whole email: both kinds of HTML, what was resolved and what was found.
    private const int BytesAByteOfHtml = 5;

    // Of each revision before, which shares what did not change.
    private const int BytesBehind = 40_000;

    private readonly BoundedCache<Guid, ImmutableArray<CompiledRevision>> cache = new(
        meters,
        "compilations",
        96 << 20,
        TimeSpan.FromMinutes(30)
    );

    public CompiledRevision Compile(LoadedDocument loaded, CancellationToken cancel = default)
    {
        var compiledRevision = Prepare(loaded, cancel);
        Keep(loaded.Stored.Id, compiledRevision);
        return compiledRevision;
    }

    /// <summary>Of a document that is not stored yet: nothing is kept of it until it is.</summary>
    public CompiledRevision Prepare(LoadedDocument loaded, CancellationToken cancel = default) =>
        Compile(
            loaded.Stored.Revision,
            loaded.Layout,
            Inspection.SubjectOf(loaded.Document),
            loaded.Library,
            Last(loaded.Stored.Id),
            cancel
        );

    public void Keep(Guid id, CompiledRevision compiledRevision)
    {
        // Screens are a few edits behind one another: what each has seen is still known, and only what differs is sent.
        ImmutableArray<CompiledRevision> newest =
        [
            compiledRevision,
            .. Newest(id).Where(p => p.Revision < compiledRevision.Revision).Take(Behind),
        ];
        cache.Set(id, newest, ((long)compiledRevision.Sending.HtmlBytes * BytesAByteOfHtml) + (newest.Length * BytesBehind));
    }

    /// <summary>Not kept: for work on many at once.</summary>
    public CompiledRevision CompileOnce(LoadedDocument loaded, CancellationToken cancel = default) =>
        Compile(loaded.Stored.Revision, loaded.Layout, Inspection.SubjectOf(loaded.Document), loaded.Library, null, cancel);

    /// <summary>What a colleague would begin with; not kept.</summary>
    public CompiledRevision CompileStarted(LoadedDocument loaded, CancellationToken cancel = default) =>
        Compile(
            loaded.Stored.Revision,
            DocumentLayout.AsStarted(loaded.Document, loaded.Library),
            Inspection.Subject.Email,
            loaded.Library,
            null,
            cancel
        );

    /// <summary>The last result that is kept of a document, whatever its revision.</summary>
    public CompiledRevision? Last(Guid id) => Newest(id).FirstOrDefault();

    /// <summary>The result at that revision. Null: it is not kept.</summary>
    public CompiledRevision? At(Guid id, long revision) => Newest(id).FirstOrDefault(p => p.Revision == revision);

    private ImmutableArray<CompiledRevision> Newest(Guid id) => cache.TryGet(id, out var loaded) ? loaded : [];

    private CompiledRevision Compile(
        long revision,
        DocumentLayout layout,
        Inspection.Subject subject,
        LibrarySnapshot library,
        CompiledRevision? previous,
        CancellationToken cancel
    )
    {
        var resolved = layout.Resolve(library, previous?.Resolved, cancel: cancel);
        var sending = Compiler.Compile(resolved, PicturesAt, Purpose.Sending, previous?.Sending, cancel);
        var context = library.CheckContextFor(layout.Order.Template.CampaignType, DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime));
        return new CompiledRevision(
            revision,
            layout,
            resolved,
            Compiler.Compile(resolved, PicturesAt, Purpose.Proof, previous?.Proof, cancel),
            sending,
            CheckList.Run(new Inspection(resolved, sending, context, subject), previous?.Inspected, cancel)
        );
    }

    public void Dispose() => cache.Dispose();
}
