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
        var index = plan.IndexOf(Field.Key);
        if (index < 0)
        {
            return plan with { Fields = plan.Fields.Insert(Math.Clamp(At ?? plan.Fields.Length, 0, plan.Fields.Length), Field) };
        }

        return plan.Fields[index].Type == Field.Type
            ? plan with
            {
                Fields = plan.Fields.SetItem(index, Field),
            }
            : throw new StructureException(
                $"\"{plan.Fields[index].Label}\" has a type and keeps it: emails stand on it. Declare another field.",
                Target
            );
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
        return plan.FindField(Key) is { } former ? new SetMergeField(former, plan.IndexOf(Key)) : this;
    }
}
