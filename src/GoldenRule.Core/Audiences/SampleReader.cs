using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Audiences;

/// <summary>A made-up reader, by whom proofs are looked at. No recipient.</summary>
/// <param name="Values">By the field's key, as <see cref="MergeField.Read"/> has them; what is not there is not known.</param>
public sealed record SampleReader(Guid Id, string Name, ImmutableSortedDictionary<string, string> Values)
{
    /// <summary>Kept at most: this is no list of recipients.</summary>
    public const int Most = 500;

    private const int LongestValue = 2_000;

    /// <summary>Whoever an email is written to.</summary>
    public static SampleReader From(Recipient person, AudiencePlan plan) =>
        new SampleReader(Guid.Empty, person.Name, person.Values).Fitting(plan);

    /// <summary>Why a text is too long to be kept. Null: it is not.</summary>
    public static string? LengthFault(string text) =>
        text.Length > LongestValue ? $"It has {text.Length:N0} characters; up to {LongestValue:N0} are taken." : null;

    /// <summary>
    /// The same with only what its fields can hold: one may have been declared anew with another type since, or lost a choice.
    /// What does not fit is not known.
    /// </summary>
    public SampleReader Fitting(AudiencePlan plan) =>
        this with
        {
            Values = Values.RemoveRange(Values.Where(v => plan.FindField(v.Key)?.Holds(v.Value) != true).Select(v => v.Key)),
        };
}
