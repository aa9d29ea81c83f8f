using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using System.Text.Json;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Interchange;

/// <summary>The email as the readers of one combination of conditions get it.</summary>
/// <param name="File">Name of its HTML, without an ending.</param>
/// <param name="Readers">Who they are, as a sentence.</param>
/// <param name="Definition">The same over fields.</param>
public sealed record CombinationEmail(string File, string Readers, Condition Definition, FieldExport Export);

/// <summary>
/// For a platform that has no conditions: one email for each combination that can be reached, to be sent to those readers.
/// </summary>
public static class CombinationExport
{
    public const int Most = 64;

    /// <param name="kept">Compiled with its fields left open.</param>
    /// <exception cref="StructureException">There are more than <see cref="Most"/>.</exception>
    public static ImmutableArray<CombinationEmail> Write(CompiledEmail kept, AudiencePlan plan, ExportProfile profile)
    {
        var conditions = kept.Source.Conditions();
        var reachable = Reachable.Solve(plan, conditions);
        if (reachable.Count > Most || !reachable.IsComplete)
        {
            throw new StructureException(
                $"There are {(reachable.IsComplete ? $"{reachable.Count:N0}" : $"more than {Reachable.Most:N0}")} combinations of "
                    + $"what readers see, and at most {Most} are written as emails of their own. Take conditions out, or choose a profile "
                    + "that has words for conditions.",
                "conditions"
            );
        }

        return
        [
            .. reachable
                .All.OrderDescending()
                .Select(bits => SeenCombination.From(bits, conditions, plan))
                .Select(
                    (one, i) =>
                        new CombinationEmail(
                            FileName(i + 1, one.Conditions, plan),
                            one.Readers,
                            new Condition.Group(
                                Matching.All,
                                [
                                    .. one.Conditions.Select(c =>
                                        Conditions.Expand(c.Holds ? c.Condition : new Condition.Group(Matching.None, [c.Condition]), plan)
                                    ),
                                ]
                            ),
                            new PlatformWriter(kept.Seen(one.Holds), plan, profile, settled: true).Write()
                        )
                ),
        ];
    }

    /// <summary>Each email's files, and a table that says whose each is.</summary>
    public static IEnumerable<(string Name, byte[] Content)> Files(ImmutableArray<CombinationEmail> emails)
    {
        foreach (var email in emails)
        {
            yield return (email.File + ".html", email.Export.Email.Html());
            yield return (email.File + ".txt", Encoding.UTF8.GetBytes(email.Export.PlainText));
        }

        yield return (
            "readers.json",
            JsonSerializer.SerializeToUtf8Bytes(
                emails.Select(e => new
                {
                    e.File,
                    e.Readers,
                    e.Definition,
                }),
                DocumentJson.Options
            )
        );
    }

    // "01-members-tearoom": the audiences that hold, by their keys.
    private static string FileName(int number, ImmutableArray<(Condition Condition, bool Holds)> holds, AudiencePlan plan)
    {
        var named = holds
            .Where(h => h.Holds)
            .Select(
                (h, i) => h.Condition is Condition.Audience one && plan.FindAudience(one.Key) is not null ? one.Key : $"condition-{i + 1}"
            )
            .Take(4)
            .ToList();
        return string.Create(CultureInfo.InvariantCulture, $"{number:00}-{(named.Count == 0 ? "everyone-else" : string.Join('-', named))}");
    }
}
