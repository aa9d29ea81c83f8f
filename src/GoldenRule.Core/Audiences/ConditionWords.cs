using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Audiences;

/// <summary>A condition as a sentence says it: "Member is yes and District is Valley, or Interests has Volunteering".</summary>
public static class ConditionWords
{
    public static string Sentence(Condition condition, AudiencePlan plan) => Say(condition, plan, not: false, within: false);

    /// <summary>Whom it leaves out.</summary>
    public static string Opposite(Condition condition, AudiencePlan plan) => Say(condition, plan, not: true, within: false);

    /// <summary>Several at once, each as it is or its opposite.</summary>
    public static string Both(IEnumerable<(Condition Condition, bool Holds)> conditions, AudiencePlan plan) =>
        string.Join(" and ", conditions.Select(c => Say(c.Condition, plan, !c.Holds, within: true)));

    // What is not said of all is said of one (De Morgan).
    private static string Say(Condition condition, AudiencePlan plan, bool not, bool within) =>
        condition switch
        {
            Condition.Group { Parts.IsEmpty: true } => condition.IsEveryone != not ? "everyone" : "nobody",
            Condition.Group { Parts: [var only] } one => Say(only, plan, not != (one.Match == Matching.None), within),
            Condition.Group group => Joined(group, plan, not, within),
            Condition.Audience one => (not ? "not " : "") + (plan.FindAudience(one.Key)?.Name ?? $"\"{one.Key}\", which is not there"),
            Condition.Test test => Say(test, plan.FindField(test.Field), not),
            _ => throw new InvalidOperationException("Unknown condition."),
        };

    private static string Joined(Condition.Group group, AudiencePlan plan, bool not, bool within)
    {
        var none = group.Match == Matching.None;
        var and = group.Match == Matching.Any ? not : !not;
        var words = string.Join(and ? " and " : ", or ", group.Parts.Select(p => Say(p, plan, not != none, within: true)));
        return within && !and ? $"({words})" : words;
    }

    private static string Say(Condition.Test test, MergeField? field, bool not)
    {
        var label = field?.Label ?? $"\"{test.Field}\", which is not there,";
        var values = string.Join(" or ", test.Values.Select(v => Value(field, v)));
        return $"{label} {Verb(test.Is, not)}{(values.Length > 0 ? " " : "")}{values}";
    }

    private static string Value(MergeField? field, string value) =>
        field?.Type switch
        {
            MergeFieldType.Date or MergeFieldType.Number when field.Holds(value) => field.Write(value, "en-GB"),
            MergeFieldType.Text => $"\"{value}\"",
            _ => value,
        };

    private static string Verb(Comparison comparison, bool not) =>
        (comparison, not) switch
        {
            (Comparison.Is or Comparison.OneOf, false) or (Comparison.IsNot, true) => "is",
            (Comparison.Is or Comparison.OneOf, true) or (Comparison.IsNot, false) => "is not",
            (Comparison.More, false) => "is more than",
            (Comparison.More, true) => "is not more than",
            (Comparison.Less, false) => "is less than",
            (Comparison.Less, true) => "is not less than",
            (Comparison.Before, false) => "is before",
            (Comparison.Before, true) => "is not before",
            (Comparison.After, false) => "is after",
            (Comparison.After, true) => "is not after",
            (Comparison.Has, false) => "has",
            (Comparison.Has, true) => "does not have",
            (Comparison.Empty, false) or (Comparison.NotEmpty, true) => "is not known",
            (Comparison.Empty, true) or (Comparison.NotEmpty, false) => "is known",
            _ => throw new ArgumentOutOfRangeException(nameof(comparison)),
        };
}
