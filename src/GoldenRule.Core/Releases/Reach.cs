using System.Collections.Immutable;
using System.Threading;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Releases;

/// <summary>An email that a release may reach.</summary>
/// <param name="Inline">What its snippets and fields come to.</param>
public sealed record ReachedEmail(Email Email, RunningOrder Order, CheckContext Context, InlineValues? Inline = null);

/// <summary>What a release of a house style does to an email that follows it, before it is made.</summary>
public static class Reach
{
    /// <summary>The findings that would newly block it.</summary>
    /// <exception cref="StructureException">The email cannot be drawn as it stands.</exception>
    public static ImmutableArray<Finding> NewBlockers(
        ReachedEmail email,
        StyleLayers released,
        StyleLayers draft,
        PictureCatalog pictures,
        CancellationToken cancel = default
    )
    {
        var known = Blockers(email, released, pictures, cancel).Select(f => (f.Check, f.Place, f.Message)).ToHashSet();
        return [.. Blockers(email, draft, pictures, cancel).Where(f => !known.Contains((f.Check, f.Place, f.Message)))];
    }

    private static IEnumerable<Finding> Blockers(ReachedEmail email, StyleLayers style, PictureCatalog pictures, CancellationToken cancel)
    {
        var resolved = Resolver.Resolve(email.Email, email.Order, style, pictures, inline: email.Inline, cancel: cancel);
        var compiled = Compiler.Compile(resolved, "", Purpose.Sending, cancel: cancel);
        return CheckList
            .Run(new Inspection(resolved, compiled, email.Context), null, cancel)
            .Findings.Where(f => f.Severity == Severity.Stop);
    }
}
