using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace GoldenRule.Core.Documents;

/// <summary>How many of a group's parts have to hold.</summary>
public enum Matching
{
    All,
    Any,
    None,
}

/// <summary>
/// What is asked of a reader's field. Of a field that is not known only <see cref="IsNot"/> and <see cref="Empty"/> hold.
/// </summary>
public enum Comparison
{
    Is,
    IsNot,

    /// <summary>Any of several values; of tags: any of them is there.</summary>
    OneOf,
    More,
    Less,
    Before,
    After,

    /// <summary>Of tags: it is among them.</summary>
    Has,

    /// <summary>It is not known.</summary>
    Empty,
    NotEmpty,
}

/// <summary>Which readers see a row or a block.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(Group), "group")]
[JsonDerivedType(typeof(Test), "test")]
[JsonDerivedType(typeof(Audience), "audience")]
public abstract record Condition
{
    /// <summary>Groups within one another.</summary>
    public const int Deepest = 2;

    /// <summary>Tests and audiences of one condition.</summary>
    public const int MostTests = 20;

    /// <summary>Values of one test.</summary>
    public const int MostValues = 50;

    private Condition() { }

    /// <summary>A group of nothing, of which all holds.</summary>
    public static Condition Everyone { get; } = new Group(Matching.All, []);

    [JsonIgnore]
    public bool IsEveryone => this is Group { Match: Matching.All or Matching.None, Parts.IsEmpty: true };

    public sealed record Group(Matching Match, ImmutableArray<Condition> Parts) : Condition;

    /// <param name="Field">Key of a field of readers'.</param>
    /// <param name="Values">As the field keeps them; none where it is only asked whether it is known.</param>
    public sealed record Test(string Field, Comparison Is, ImmutableArray<string> Values) : Condition;

    /// <param name="Key">Of an audience that a lead has named.</param>
    public sealed record Audience(string Key) : Condition;

    /// <summary>Every test and audience in it.</summary>
    public IEnumerable<Condition> Leaves() => this is Group group ? group.Parts.SelectMany(p => p.Leaves()) : [this];

    /// <summary>The same with something else in the place of each audience.</summary>
    public Condition Replace(Func<Audience, Condition> audience) =>
        this switch
        {
            Audience one => audience(one),
            Group group => group with { Parts = [.. group.Parts.Select(p => p.Replace(audience))] },
            _ => this,
        };

    /// <exception cref="StructureException">It is more than a condition holds.</exception>
    public static void Check(Condition? condition, string place)
    {
        if (condition is not null && Fault(condition) is { } fault)
        {
            throw new StructureException(fault, place);
        }
    }

    private static string? Fault(Condition condition)
    {
        if (Depth(condition) > Deepest)
        {
            return $"A condition has groups within groups at most {Deepest} deep.";
        }

        var count = 0;
        foreach (var leaf in condition.Leaves())
        {
            if (++count > MostTests)
            {
                return $"A condition asks at most {MostTests} things. Name a part of it as an audience.";
            }

            if (leaf is Test { Values.Length: > MostValues } test)
            {
                return $"A test has at most {MostValues} values; this one has {test.Values.Length}.";
            }
        }

        return null;
    }

    private static int Depth(Condition condition) =>
        condition is Group { Parts: var parts } ? 1 + parts.Select(Depth).DefaultIfEmpty().Max() : 0;
}
