using System.Collections.Immutable;
using GoldenRule.Core.Compiling;

namespace GoldenRule.Core.Checking;

/// <summary>Mail clients that leave a feature out, and the readers who use them.</summary>
/// <param name="Share">Of all readers, 0 to 1.</param>
public sealed record Missed(ImmutableArray<MailClient> Clients, double Share);

/// <summary>A feature that a compiled email uses.</summary>
/// <param name="Rows">Ids of the rows that use it; none: the head alone does.</param>
/// <param name="Missed">Who leaves it out.</param>
/// <param name="Partly">Who knows part of it.</param>
/// <param name="Instead">What readers see where it is left out. Null: nothing is provided.</param>
public sealed record UsedFeature(ClientFeature Feature, ImmutableArray<string> Rows, Missed Missed, Missed Partly, string? Instead);

/// <summary>What mail clients make of a compiled email.</summary>
public static class ClientReport
{
    // What some client leaves out and the compiler provides nothing for.
    private static readonly FeatureSet Missable = MissableOf();

    /// <summary>Every feature the email uses, the one that most readers miss first.</summary>
    public static ImmutableArray<UsedFeature> ForEmail(CompiledEmail email, CheckPolicy policy) =>
        ForEmail(email, [.. email.Rows.Select(r => (r.Source.Id, FeatureScan.Scan(r.Html.Span)))], null, policy);

    /// <summary>Those that some client leaves out and the compiler provides nothing for.</summary>
    internal static ImmutableArray<UsedFeature> Unprovided(Inspection inspection) =>
        ForEmail(inspection.Compiled, [.. inspection.Rows.Select(r => (r.Row.Id, r.Features))], Missable, inspection.Context.Policy);

    // Only those that are asked for; null: all.
    private static ImmutableArray<UsedFeature> ForEmail(
        CompiledEmail email,
        ImmutableArray<(string Id, FeatureSet Features)> rows,
        FeatureSet? asked,
        CheckPolicy policy
    )
    {
        var used = FeatureScan.Scan(email.Opening);
        foreach (var (_, features) in rows)
        {
            used.Add(features);
        }

        var shares = new Lazy<ImmutableArray<double>>(() => ClientSupport.Shares(policy));
        return
        [
            .. used.All()
                .Where(f => asked is not { } only || only.Contains(f))
                .Select(f => new UsedFeature(
                    ClientSupport.Features[f],
                    [.. rows.Where(r => r.Features.Contains(f)).Select(r => r.Id)],
                    Those(f, 'n', shares.Value),
                    Those(f, 'a', shares.Value),
                    Fallbacks.Instead(ClientSupport.Features[f].Slug)
                ))
                .OrderByDescending(f => f.Missed.Share)
                .ThenByDescending(f => f.Partly.Share)
                .ThenBy(f => f.Feature.Slug, StringComparer.Ordinal),
        ];
    }

    private static Missed Those(int feature, char support, ImmutableArray<double> shares)
    {
        var (clients, share) = (ImmutableArray.CreateBuilder<MailClient>(), 0.0);
        for (var i = 0; i < shares.Length; i++)
        {
            if (ClientSupport.Features[feature].Support[i] == support)
            {
                share += shares[i];
                if (shares[i] > 0)
                {
                    clients.Add(ClientSupport.Clients[i]);
                }
            }
        }

        return new Missed(clients.ToImmutable(), share);
    }

    private static FeatureSet MissableOf()
    {
        var missable = default(FeatureSet);
        for (var i = 0; i < ClientSupport.Features.Length; i++)
        {
            var feature = ClientSupport.Features[i];
            if (feature.Support.Contains('n', StringComparison.Ordinal) && Fallbacks.Instead(feature.Slug) is null)
            {
                missable.Add(i);
            }
        }

        return missable;
    }
}
