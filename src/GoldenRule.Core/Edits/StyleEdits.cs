using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Edits;

/// <summary>Adds a brand variable or changes the one of the same key.</summary>
public sealed record SetVariable(BrandVariable Variable) : Edit
{
    public override string Target => $"variables/{Variable.Key}";

    public override Document Apply(Document document) => Expect<HouseStyle>(document).WithVariable(Variable);

    public override Edit Invert(Document before) => Expect<HouseStyle>(before).FindVariable(Variable.Key) is { } former
        ? new SetVariable(former)
        : new RemoveVariable(Variable.Key);
}

/// <summary>Takes a brand variable out.</summary>
public sealed record RemoveVariable(string Key) : Edit
{
    public override string Target => $"variables/{Key}";

    public override Document Apply(Document document)
    {
        var style = Expect<HouseStyle>(document);
        return style with { Variables = style.Variables.RemoveAll(v => v.Key == Key) };
    }

    public override Edit Invert(Document before) => Expect<HouseStyle>(before).FindVariable(Key) is { } former
        ? new SetVariable(former)
        : this;
}

/// <summary>Sets one property of a global style, by a "{variable}" or a literal; null lets the layer above speak.</summary>
public sealed record SetStyle(string Style, string Property, string? Value) : Edit
{
    public override string Target => $"styles/{Style}/{Property}";

    public override Document Apply(Document document) => GlobalStyles.Find(Style, Property) is null
        ? throw new StructureException($"There is no global style property {Style}, {Property}.")
        : Expect<HouseStyle>(document).WithStyle(Style, Property, Value);

    public override Edit Invert(Document before) => this with { Value = Expect<HouseStyle>(before).FindStyle(Style, Property) };
}
