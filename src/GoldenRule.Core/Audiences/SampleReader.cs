using System.Collections.Immutable;

namespace GoldenRule.Core.Audiences;

/// <summary>A made-up reader, by whom proofs are looked at. No recipient.</summary>
/// <param name="Values">By the field's key, as <see cref="MergeField.Read"/> has them; what is not there is not known.</param>
public sealed record SampleReader(Guid Id, string Name, ImmutableSortedDictionary<string, string> Values)
{
    /// <summary>Kept at most: this is no list of recipients.</summary>
    public const int Most = 500;
}
