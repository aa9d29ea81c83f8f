using System.Collections.Immutable;
using System.Text.Json.Serialization;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Audiences;

/// <summary>What the lead says about readers: the fields that are known of each, and audiences over them. There is one.</summary>
public sealed record AudiencePlan : Document
{
    public const int MostFields = 300;

    public const int MostAudiences = 200;

    public const int MostProfiles = 50;

    public static AudiencePlan Empty { get; } = new() { Name = "Audiences" };

    /// <summary>In the order they are shown.</summary>
    public ImmutableArray<MergeField> Fields { get; init; } = [];

    /// <summary>In the order they are shown.</summary>
    public ImmutableArray<Audience> Audiences { get; init; } = [];

    /// <summary>How sending platforms write all this, beside <see cref="ExportProfile.Mustache"/>, which is always there.</summary>
    public ImmutableArray<ExportProfile> Profiles { get; init; } = [];

    /// <summary>The one that is always there, and the lead's.</summary>
    [JsonIgnore]
    public IEnumerable<ExportProfile> AllProfiles => Profiles.Prepend(ExportProfile.Mustache);

    /// <summary>Null: there is none of that key.</summary>
    public MergeField? FindField(string key)
    {
        foreach (var field in Fields)
        {
            if (field.Key == key)
            {
                return field;
            }
        }

        return null;
    }

    /// <summary>Null: there is none of that key.</summary>
    public Audience? FindAudience(string key)
    {
        foreach (var audience in Audiences)
        {
            if (audience.Key == key)
            {
                return audience;
            }
        }

        return null;
    }

    /// <summary>Null: there is none of that key.</summary>
    public ExportProfile? FindProfile(string key) => Profiles.FirstOrDefault(p => p.Key == key);

    /// <exception cref="StructureException">Says what cannot be, and where.</exception>
    public static AudiencePlan Check(AudiencePlan plan)
    {
        if (plan.Fields.Length > MostFields)
        {
            throw new StructureException($"There are at most {MostFields} fields; this would make {plan.Fields.Length}.", "fields");
        }

        foreach (var field in plan.Fields)
        {
            Check(field);
        }

        if (plan.Audiences.Length > MostAudiences)
        {
            throw new StructureException(
                $"There are at most {MostAudiences} audiences; this would make {plan.Audiences.Length}.",
                "audiences"
            );
        }

        foreach (var audience in plan.Audiences)
        {
            Check(audience, plan);
        }

        if (plan.Profiles.Length > MostProfiles)
        {
            throw new StructureException(
                $"There are at most {MostProfiles} export profiles; this would make {plan.Profiles.Length}.",
                "profiles"
            );
        }

        foreach (var profile in plan.Profiles)
        {
            if ((TechnicalName.Fault(profile.Key) ?? NameFault(profile.Name) ?? profile.Fault()) is { } fault)
            {
                throw new StructureException(fault, $"profiles/{profile.Key}");
            }
        }

        return plan;
    }

    private static void Check(Audience audience, AudiencePlan plan)
    {
        var place = $"audiences/{audience.Key}";
        if ((TechnicalName.Fault(audience.Key) ?? NameFault(audience.Name)) is { } fault)
        {
            throw new StructureException(fault, place);
        }

        Condition.Check(audience.Condition, place);
        foreach (var leaf in audience.Condition.Leaves())
        {
            var why =
                leaf is Condition.Audience
                    ? "An audience is said by fields; no other audience stands within it."
                    : Conditions.Fault(leaf, plan);
            if (why is not null)
            {
                throw new StructureException($"The audience \"{audience.Name}\": {why}", place);
            }
        }
    }

    private static string? NameFault(string name) => name.Trim().Length is 0 or > 120 ? "It has a name of 1 to 120 characters." : null;

    private static void Check(MergeField field)
    {
        if (Fault(field) is { } fault)
        {
            throw new StructureException(fault, $"fields/{field.Key}");
        }
    }

    private static string? Fault(MergeField field)
    {
        if (TechnicalName.Fault(field.Key) is { } name)
        {
            return name;
        }

        if (NameFault(field.Label) is { } label)
        {
            return label;
        }

        if (field.Type is MergeFieldType.Choice or MergeFieldType.Tags)
        {
            if (ChoicesFault(field.Choices) is { } choices)
            {
                return choices;
            }
        }
        else if (!field.Choices.IsEmpty)
        {
            return "Only a choice and tags have a list to choose from.";
        }

        if (!MergeField.FormatsOf(field.Type).Contains(field.Format))
        {
            return $"A field of this type is not written as \"{field.Format}\".";
        }

        if (InlineNode.AreIn(field.Fallback ?? ""))
        {
            return "A fallback is plain words.";
        }

        try
        {
            return field.Read(field.Sample) == field.Sample ? null : $"The sample is written as \"{field.Read(field.Sample)}\".";
        }
        catch (FormatException sample)
        {
            return $"The sample does not fit. {sample.Message}";
        }
    }

    private static string? ChoicesFault(ImmutableArray<string> choices)
    {
        if (choices.Length is 0 or > 200)
        {
            return $"There are 1 to 200 to choose from; this would make {choices.Length}.";
        }

        if (choices.Distinct(StringComparer.OrdinalIgnoreCase).Count() != choices.Length)
        {
            return "One stands twice in the list.";
        }

        return choices.Any(c =>
            c.Trim().Length is 0 or > 120 || c.Trim() != c || c.Contains(';', StringComparison.Ordinal) || InlineNode.AreIn(c)
        )
            ? "Each has 1 to 120 characters, no blanks around it and no \";\", by which tags are parted."
            : null;
    }
}
