using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Merging;

/// <summary>One reader, as an email is filled in for them.</summary>
public sealed class MergeReader
{
    private readonly AudiencePlan plan;
    private readonly SampleReader reader;
    private readonly InlineValues values;
    private readonly Dictionary<string, string> words = new(StringComparer.Ordinal);

    /// <param name="plan">The fields that the email asks for.</param>
    /// <param name="language">BCP 47 tag of the email.</param>
    /// <param name="pageAddress">Where this reader finds the page for browsers.</param>
    public MergeReader(SampleReader reader, AudiencePlan plan, string language, string pageAddress)
    {
        (this.plan, PageAddress) = (plan, pageAddress);
        this.reader = reader.Fitting(plan);
        values = SnippetCatalog.Empty.At(DateTime.UnixEpoch).For(plan, language).As(this.reader);
    }

    /// <summary>Of whom nothing is known: fallbacks stand in the place of fields.</summary>
    public static SampleReader Unknown { get; } = new(Guid.Empty, "", ImmutableSortedDictionary<string, string>.Empty);

    public string PageAddress { get; }

    /// <summary>What a field is in words; its fallback where it is not known.</summary>
    public string Words(string key) => words.TryGetValue(key, out var known) ? known : words[key] = values.FieldWords(key);

    public bool Meets(Condition condition) => Conditions.Holds(condition, plan, reader.Values);
}
