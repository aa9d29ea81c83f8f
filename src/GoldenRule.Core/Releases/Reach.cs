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

/// <summary>What a release does to an email that follows it, or would take it, before it is made.</summary>
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
        return Between(Blockers(email, released, pictures, cancel), Blockers(email, draft, pictures, cancel));
    }

    /// <summary>The same of an email that takes a release of its template or of a row: as it stands, and as it would.</summary>
    /// <exception cref="StructureException">It cannot be drawn, or could not be.</exception>
    public static ImmutableArray<Finding> NewBlockers(
        ReachedEmail before,
        StyleLayers beforeStyle,
        ReachedEmail after,
        StyleLayers afterStyle,
        PictureCatalog pictures,
        CancellationToken cancel = default
    ) =>
        [
            // What there is to fill anew is for its author, and breaks nothing.
            .. Between(Blockers(before, beforeStyle, pictures, cancel), Blockers(after, afterStyle, pictures, cancel))
                .Where(f => !f.ToFill),
        ];

    private static ImmutableArray<Finding> Between(IEnumerable<Finding> before, IEnumerable<Finding> after)
    {
        var known = before.Select(f => (f.Check, f.Place, f.Message)).ToHashSet();
        return [.. after.Where(f => !known.Contains((f.Check, f.Place, f.Message)))];
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
