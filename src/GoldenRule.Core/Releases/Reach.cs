using System.Collections.Immutable;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Releases;

/// <summary>An email that a release may reach.</summary>
public sealed record ReachedEmail(Guid Id, Email Email, RunningOrder Order, EmailState State, CheckContext Context);

/// <summary>What a release does to one email.</summary>
/// <param name="Follows">False: it was handed off and stays as it is.</param>
/// <param name="Stops">Findings that would newly stop it.</param>
public sealed record Reached(Guid Id, string Name, bool Follows, ImmutableArray<Finding> Stops);

/// <summary>What a release of a house style will touch, before it is made. House styles follow until hand-off.</summary>
public static class Reach
{
    public static ImmutableArray<Reached> Find(
        StyleLayers released,
        StyleLayers draft,
        IEnumerable<ReachedEmail> emails,
        PictureCatalog pictures
    ) =>
        [
            .. emails.Select(email =>
                email.State == EmailState.HandedOff
                    ? new Reached(email.Id, email.Email.Name, false, [])
                    : new Reached(
                        email.Id,
                        email.Email.Name,
                        true,
                        NewStops(Check(email, released, pictures), Check(email, draft, pictures))
                    )
            ),
        ];

    private static ImmutableArray<Finding> Check(ReachedEmail email, StyleLayers style, PictureCatalog pictures)
    {
        var resolved = Resolver.Resolve(email.Email, email.Order, style, pictures);
        return CheckList.Run(new Inspection(resolved, Compiler.Compile(resolved, "", Purpose.Sending), email.Context)).Findings;
    }

    private static ImmutableArray<Finding> NewStops(ImmutableArray<Finding> before, ImmutableArray<Finding> after)
    {
        var known = before.Where(f => f.Severity == Severity.Stop).Select(f => (f.Check, f.Place, f.Message)).ToHashSet();
        return [.. after.Where(f => f.Severity == Severity.Stop && !known.Contains((f.Check, f.Place, f.Message)))];
    }
}
