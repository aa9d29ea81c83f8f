using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Audiences;

/// <summary>Readers that the lead has given a name, for authors to choose from.</summary>
/// <param name="Key">Technical name, by which rows and blocks refer to it. Never changes.</param>
/// <param name="Condition">Over fields only; no audience stands within another.</param>
/// <param name="Retired">It is not offered any more; where it stands it goes on.</param>
public sealed record Audience(string Key, string Name, Condition Condition, string Description = "", bool Retired = false);

/// <summary>What conditions come to with the fields and audiences there are.</summary>
public static class Conditions
{
    /// <summary>What can be asked of a field of each type.</summary>
    public static ImmutableArray<Comparison> Of(MergeFieldType type) =>
        type switch
        {
            MergeFieldType.Number =>
            [
                Comparison.Is,
                Comparison.IsNot,
                Comparison.More,
                Comparison.Less,
                Comparison.Empty,
                Comparison.NotEmpty,
            ],
            MergeFieldType.Date =>
            [
                Comparison.Is,
                Comparison.IsNot,
                Comparison.Before,
                Comparison.After,
                Comparison.Empty,
                Comparison.NotEmpty,
            ],
            MergeFieldType.Tags => [Comparison.Has, Comparison.OneOf, Comparison.Empty, Comparison.NotEmpty],
            MergeFieldType.YesNo => [Comparison.Is, Comparison.IsNot, Comparison.Empty, Comparison.NotEmpty],
            _ => [Comparison.Is, Comparison.IsNot, Comparison.OneOf, Comparison.Empty, Comparison.NotEmpty],
        };

    /// <summary>How many values a test takes.</summary>
    public static (int Least, int Most) Values(Comparison comparison) =>
        comparison switch
        {
            Comparison.Empty or Comparison.NotEmpty => (0, 0),
            Comparison.OneOf => (1, Condition.MostValues),
            _ => (1, 1),
        };

    /// <summary>Why one test or audience cannot be asked. Null: it can.</summary>
    public static string? Fault(Condition leaf, AudiencePlan plan) =>
        leaf switch
        {
            Condition.Audience one => plan.FindAudience(one.Key) is null ? $"There is no audience \"{one.Key}\"." : null,
            Condition.Test test => plan.FindField(test.Field) is { } field ? Fault(test, field) : $"There is no field \"{test.Field}\".",
            _ => null,
        };

    /// <summary>The same with each audience's own condition in its place; one that is not there holds for nobody.</summary>
    public static Condition Expand(Condition condition, AudiencePlan plan) =>
        condition.Replace(one => plan.FindAudience(one.Key)?.Condition ?? Nobody);

    /// <summary>Whether a reader is meant.</summary>
    /// <param name="values">By field, as they are kept; what is missing or empty is not known.</param>
    public static bool Holds(Condition condition, AudiencePlan plan, IReadOnlyDictionary<string, string> values) =>
        condition switch
        {
            Condition.Group { Match: Matching.All } all => all.Parts.All(p => Holds(p, plan, values)),
            Condition.Group { Match: Matching.Any } any => any.Parts.Any(p => Holds(p, plan, values)),
            Condition.Group none => !none.Parts.Any(p => Holds(p, plan, values)),
            Condition.Audience one => plan.FindAudience(one.Key) is { } audience && Holds(audience.Condition, plan, values),
            Condition.Test test => plan.FindField(test.Field) is { } field && Holds(test, field, values.GetValueOrDefault(test.Field, "")),
            _ => throw new InvalidOperationException("Unknown condition."),
        };

    /// <summary>Whether a test holds of one value. One that cannot be asked holds of none.</summary>
    public static bool Holds(Condition.Test test, MergeField field, string value)
    {
        if (Fault(test, field) is not null)
        {
            return false;
        }

        return test.Is switch
        {
            Comparison.Empty => value.Length == 0,
            Comparison.NotEmpty => value.Length > 0,
            Comparison.IsNot => !IsSame(field, value, test.Values[0]),
            _ when value.Length == 0 => false,
            Comparison.Is => IsSame(field, value, test.Values[0]),
            Comparison.OneOf when field.Type == MergeFieldType.Tags => value.Split(';').Intersect(test.Values).Any(),
            Comparison.OneOf => test.Values.Any(v => IsSame(field, value, v)),
            Comparison.Has => value.Split(';').Contains(test.Values[0]),
            Comparison.More => MergeField.Decimal(value) > MergeField.Decimal(test.Values[0]),
            Comparison.Less => MergeField.Decimal(value) < MergeField.Decimal(test.Values[0]),
            // ISO 8601: days in order are texts in order.
            Comparison.Before => string.CompareOrdinal(value, test.Values[0]) < 0,
            Comparison.After => string.CompareOrdinal(value, test.Values[0]) > 0,
            _ => throw new InvalidOperationException("Unknown comparison."),
        };
    }

    private static Condition Nobody { get; } = new Condition.Group(Matching.Any, []);

    private static string? Fault(Condition.Test test, MergeField field)
    {
        if (!Of(field.Type).Contains(test.Is))
        {
            return $"\"{field.Label}\" cannot be asked that: it is of another type.";
        }

        var (least, most) = Values(test.Is);
        if (test.Values.Length < least || test.Values.Length > most)
        {
            return most switch
            {
                0 => $"Whether \"{field.Label}\" is known is asked without a value.",
                1 => $"Say one value of \"{field.Label}\".",
                _ => $"Say {least} to {most} values of \"{field.Label}\".",
            };
        }

        foreach (var value in test.Values)
        {
            if (value.Length == 0)
            {
                return $"Say a value of \"{field.Label}\".";
            }

            if (field.Type == MergeFieldType.Tags ? !field.Choices.Contains(value) : !field.Holds(value))
            {
                return $"\"{value}\" is no value of \"{field.Label}\".";
            }
        }

        return null;
    }

    private static bool IsSame(MergeField field, string value, string other) =>
        field.Type == MergeFieldType.Number && value.Length > 0
            ? MergeField.Decimal(value) == MergeField.Decimal(other)
            : string.Equals(value, other, StringComparison.OrdinalIgnoreCase);
}
