using System.Diagnostics.Metrics;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;

namespace GoldenRule.Server.HouseStyles;

/// <summary>
/// The answers about house styles given last, so that after an edit only what differs from what its sender was told is sent.
/// </summary>
public sealed class HouseStyleAnswers(IMeterFactory meters) : IDisposable
{
    private const int BytesOfAnswer = 256 << 10;

    // Few house styles are edited at a time.
    private readonly BoundedCache<(Guid, long), (long Version, HouseStyleAnswer Answer)> told = new(
        meters,
        "house style answers",
        10 << 20,
        TimeSpan.FromMinutes(10)
    );

    /// <summary>All of a house style's draft.</summary>
    /// <param name="answer">As it is stored: what is told now is what the next answer is compared with.</param>
    public HouseStyleAnswer Whole(LoadedDocument loaded, HouseStyleAnswer answer)
    {
        told.Set((loaded.Stored.Id, loaded.Stored.Revision), (loaded.Library.Version, answer), BytesOfAnswer);
        return answer;
    }

    /// <summary>What is there now, without what the asker was told of the revision on the screen. Not known any more: all of it.</summary>
    public HouseStyleAnswer Changed(long seen, LoadedDocument loaded, HouseStyleAnswer now)
    {
        var known = told.TryGet((loaded.Stored.Id, seen), out var kept);
        _ = Whole(loaded, now);
        var before = kept.Answer;
        if (
            !known
            || kept.Version != loaded.Library.Version
            || !before
                .Variables.Select(v => v.Variable.Key)
                .SequenceEqual(now.Variables.Select(v => v.Variable.Key), StringComparer.Ordinal)
        )
        {
            return now;
        }

        return now with
        {
            Whole = false,
            Variables = [.. now.Variables.Where((v, i) => v != before.Variables[i])],
            Styles = [.. now.Styles.Where((s, i) => s != before.Styles[i])],
            Specimen = new SpecimenEntry(
                now.Specimen.Opening == before.Specimen.Opening ? null : now.Specimen.Opening,
                [.. now.Specimen.Rows.Select((r, i) => r == before.Specimen.Rows[i] ? null : r)]
            ),
        };
    }

    public void Dispose() => told.Dispose();
}
