using System.Collections.Immutable;
using System.Globalization;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Audiences;

/// <summary>
/// One thing about readers that conditions ask: a field, or whether one tag is among a reader's. Values of which every test says
/// the same stand for one another.
/// </summary>
/// <param name="Tag">Of a field of tags: the one; empty: any that no test names. Null: the field is of another type.</param>
/// <param name="Values">One of each sort; of a tag "yes" and "".</param>
internal sealed record ReaderVariable(MergeField Field, string? Tag, ImmutableArray<string> Values)
{
    /// <summary>The values of a field, one for each set of tests that hold of it together.</summary>
    public static ReaderVariable Of(MergeField field, IReadOnlyCollection<Condition.Test> tests)
    {
        var sorts = new HashSet<string>(StringComparer.Ordinal);
        var values = Candidates(field, tests)
            .Where(v => v.Length == 0 ? !field.Always : field.Holds(v))
            .Where(v => sorts.Add(string.Concat(tests.Select(t => Conditions.Holds(t, field, v) ? '1' : '0'))));
        return new ReaderVariable(field, null, [.. values]);
    }

    /// <summary>Whether each tag that is named is there, and any other.</summary>
    public static IEnumerable<ReaderVariable> OfTags(MergeField field, IEnumerable<Condition.Test> tests)
    {
        var named = tests.SelectMany(t => t.Values).Distinct(StringComparer.Ordinal).ToList();
        return named.Concat(field.Choices.Except(named).Take(1).Select(_ => "")).Select(tag => new ReaderVariable(field, tag, ["", "yes"]));
    }

    // What is not known comes last: a made-up reader of whom something is known is easier to picture.
    private static IEnumerable<string> Candidates(MergeField field, IReadOnlyCollection<Condition.Test> tests)
    {
        var asked = tests.SelectMany(t => t.Values).Distinct(StringComparer.OrdinalIgnoreCase).ToList();
        var known = field.Type switch
        {
            MergeFieldType.YesNo => ["yes", "no"],
            MergeFieldType.Choice => field.Choices.AsEnumerable(),
            MergeFieldType.Number => Numbers(asked.Select(MergeField.Decimal)),
            MergeFieldType.Date => Days(asked),
            _ => [.. asked, Other(field, asked)],
        };
        return known.Append("");
    }

    // Each number, one between each two, and one beyond each end.
    private static IEnumerable<string> Numbers(IEnumerable<decimal> asked)
    {
        var sorted = asked.Distinct().Order().ToList();
        if (sorted.Count == 0)
        {
            return ["1"];
        }

        var made = new List<decimal> { sorted[0] - 1, sorted[0] - 0.5m };
        for (var i = 0; i < sorted.Count; i++)
        {
            made.Add(sorted[i]);
            if (i + 1 < sorted.Count)
            {
                var whole = Math.Floor(sorted[i]) + 1;
                made.Add(whole < sorted[i + 1] ? whole : (sorted[i] + sorted[i + 1]) / 2);
            }
        }

        return made.Append(sorted[^1] + 1).Append(sorted[^1] + 0.5m).Select(n => n.ToString(CultureInfo.InvariantCulture));
    }

    private static IEnumerable<string> Days(IEnumerable<string> asked)
    {
        var made = new SortedSet<DateOnly>();
        foreach (var text in asked)
        {
            var day = DateOnly.ParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture);
            made.Add(day == DateOnly.MinValue ? day : day.AddDays(-1));
            made.Add(day);
            made.Add(day == DateOnly.MaxValue ? day : day.AddDays(1));
        }

        return made.Count == 0 ? ["2026-11-30"] : made.Select(d => d.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture));
    }

    private static string Other(MergeField field, List<string> asked)
    {
        for (var (value, i) = (field.Sample, 1); ; value = $"other {i++}")
        {
            if (value.Length > 0 && !asked.Contains(value, StringComparer.OrdinalIgnoreCase))
            {
                return value;
            }
        }
    }
}
