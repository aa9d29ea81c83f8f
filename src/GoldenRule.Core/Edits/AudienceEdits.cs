using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Edits;

/// <summary>Declares a field of readers', or changes the one of the same key. Its type stays.</summary>
/// <param name="At">Where a new one goes, from 0; null: to the end.</param>
public sealed record SetMergeField(MergeField Field, int? At = null) : Edit
{
    public override string Target => $"fields/{Field.Key}";

    public override Document Apply(Document document)
    {
        var plan = Expect<AudiencePlan>(document);
        return plan.FindField(Field.Key) is { } standing && standing.Type != Field.Type
            ? throw new StructureException(
                $"\"{standing.Label}\" has a type and keeps it: emails stand on it. Declare another field.",
                Target
            )
            : plan with
            {
                Fields = Keyed.Set(plan.Fields, f => f.Key, Field, At),
            };
    }

    public override Edit Invert(Document before) =>
        Expect<AudiencePlan>(before).FindField(Field.Key) is { } former ? new SetMergeField(former) : new RemoveMergeField(Field.Key);
}

/// <summary>Takes a field out that nothing uses.</summary>
public sealed record RemoveMergeField(string Key) : Edit
{
    public override string Target => $"fields/{Key}";

    public override Document Apply(Document document)
    {
        var plan = Expect<AudiencePlan>(document);
        return plan with { Fields = plan.Fields.RemoveAll(f => f.Key == Key) };
    }

    public override Edit Invert(Document before)
    {
        var plan = Expect<AudiencePlan>(before);
        return plan.FindField(Key) is { } former ? new SetMergeField(former, plan.Fields.IndexOf(former)) : this;
    }
}

/// <summary>Names an audience, or changes the one of the same key.</summary>
/// <param name="At">Where a new one goes, from 0; null: to the end.</param>
public sealed record SetAudience(Audience Audience, int? At = null) : Edit
{
    public override string Target => $"audiences/{Audience.Key}";

    public override Document Apply(Document document)
    {
        var plan = Expect<AudiencePlan>(document);
        return plan with { Audiences = Keyed.Set(plan.Audiences, a => a.Key, Audience, At) };
    }

    public override Edit Invert(Document before) =>
        Expect<AudiencePlan>(before).FindAudience(Audience.Key) is { } former ? new SetAudience(former) : new RemoveAudience(Audience.Key);
}

/// <summary>Takes an audience out that nothing is shown to.</summary>
public sealed record RemoveAudience(string Key) : Edit
{
    public override string Target => $"audiences/{Key}";

    public override Document Apply(Document document)
    {
        var plan = Expect<AudiencePlan>(document);
        return plan with { Audiences = plan.Audiences.RemoveAll(a => a.Key == Key) };
    }

    public override Edit Invert(Document before)
    {
        var plan = Expect<AudiencePlan>(before);
        return plan.FindAudience(Key) is { } former ? new SetAudience(former, plan.Audiences.IndexOf(former)) : this;
    }
}

/// <summary>Says how a sending platform writes fields and conditions, or changes what the one of the same key does.</summary>
/// <param name="At">Where a new one goes, from 0; null: to the end.</param>
public sealed record SetExportProfile(ExportProfile Profile, int? At = null) : Edit
{
    public override string Target => $"profiles/{Profile.Key}";

    public override Document Apply(Document document)
    {
        var plan = Expect<AudiencePlan>(document);
        return plan with { Profiles = Keyed.Set(plan.Profiles, p => p.Key, Profile, At) };
    }

    public override Edit Invert(Document before) =>
        Expect<AudiencePlan>(before).FindProfile(Profile.Key) is { } former
            ? new SetExportProfile(former)
            : new RemoveExportProfile(Profile.Key);
}

public sealed record RemoveExportProfile(string Key) : Edit
{
    public override string Target => $"profiles/{Key}";

    public override Document Apply(Document document)
    {
        var plan = Expect<AudiencePlan>(document);
        return plan with { Profiles = plan.Profiles.RemoveAll(p => p.Key == Key) };
    }

    public override Edit Invert(Document before)
    {
        var plan = Expect<AudiencePlan>(before);
        return plan.FindProfile(Key) is { } former ? new SetExportProfile(former, plan.Profiles.IndexOf(former)) : this;
    }
}

internal static class Keyed
{
    /// <summary>The list with one of its things in the place of that of the same key, or new among them.</summary>
    public static ImmutableArray<T> Set<T>(ImmutableArray<T> all, Func<T, string> key, T value, int? at)
    {
        for (var i = 0; i < all.Length; i++)
        {
            if (key(all[i]) == key(value))
            {
                return all.SetItem(i, value);
            }
        }

        return all.Insert(Math.Clamp(at ?? all.Length, 0, all.Length), value);
    }
}
