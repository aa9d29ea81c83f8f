using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Edits;

/// <summary>Adds a brand variable or changes the one of the same key. Its type stays.</summary>
/// <param name="At">Where a new one goes, from 0; null: to the end.</param>
public sealed record SetVariable(BrandVariable Variable, int? At = null) : Edit
{
    public override string Target => $"variables/{Variable.Key}";

    public override Document Apply(Document document)
    {
        var style = Expect<HouseStyle>(document);
        BrandVariable.CheckKey(Variable.Key);
        return style.FindVariable(Variable.Key) is { } former && former.Type != Variable.Type
            ? throw new StructureException(
                $"\"{former.Label}\" is of type {former.Type} and stays so. Make another variable and let it take this one's place.",
                $"variable {Variable.Key}"
            )
            : style.WithVariable(Variable, At);
    }

    public override Edit Invert(Document before) =>
        Expect<HouseStyle>(before).FindVariable(Variable.Key) is { } former ? new SetVariable(former) : new RemoveVariable(Variable.Key);
}

/// <summary>Takes a brand variable out; in a sub-brand, puts back what the house style under it says.</summary>
public sealed record RemoveVariable(string Key) : Edit
{
    public override string Target => $"variables/{Key}";

    public override Document Apply(Document document)
    {
        var style = Expect<HouseStyle>(document);
        return style with { Variables = style.Variables.RemoveAll(v => v.Key == Key) };
    }

    public override Edit Invert(Document before) =>
        Expect<HouseStyle>(before).FindVariable(Key) is { } former
            ? new SetVariable(former, Expect<HouseStyle>(before).IndexOf(Key))
            : this;
}

/// <summary>Gives a brand variable another key. The old one still leads to it, so nothing that refers to it changes.</summary>
/// <param name="Forget">True: the old key is given up, as when a rename is taken back.</param>
public sealed record RenameVariable(string Key, string To, bool Forget = false) : Edit
{
    public override string Target => $"variables/{Key}";

    // Former keys are kept sorted, so that taking one back restores exactly what was.
    public override Document Apply(Document document)
    {
        var style = Expect<HouseStyle>(document);
        var variable = style.Require(Key);
        BrandVariable.CheckKey(To);
        if (To == Key || style.FindVariable(To) is not null)
        {
            throw new StructureException($"There is a brand variable \"{To}\" already.", $"variable {To}");
        }

        var formerly = variable.Formerly.Remove(To);
        return style with
        {
            Variables = style.Variables.SetItem(
                style.IndexOf(Key),
                variable with
                {
                    Key = To,
                    Formerly = Forget ? formerly : formerly.Add(Key).Sort(StringComparer.Ordinal),
                }
            ),
        };
    }

    public override Edit Invert(Document before) =>
        new RenameVariable(To, Key, !Expect<HouseStyle>(before).Require(Key).Formerly.Contains(To));
}

/// <summary>Shows a brand variable at another place of the list.</summary>
/// <param name="At">From 0, counted without the variable itself.</param>
public sealed record MoveVariable(string Key, int At) : Edit
{
    public override string Target => "variables";

    public override Document Apply(Document document)
    {
        var style = Expect<HouseStyle>(document);
        var variable = style.Require(Key);
        var others = style.Variables.Remove(variable);
        return At < 0 || At > others.Length
            ? throw new StructureException($"There is no place {At} among {others.Length} other variables.", $"variable {Key}")
            : style with
            {
                Variables = others.Insert(At, variable),
            };
    }

    public override Edit Invert(Document before) => this with { At = Expect<HouseStyle>(before).IndexOf(Key) };
}

/// <summary>Lets one brand variable take another's place: the other goes, and whatever refers to it is led on.</summary>
public sealed record ReplaceVariable(string Key, string By) : Edit
{
    public override string Target => $"variables/{Key}";

    public override Document Apply(Document document)
    {
        var style = Expect<HouseStyle>(document);
        var (gone, heir) = (style.Require(Key), style.Require(By));
        if (Key == By || !BrandVariable.Fits(heir.Type, gone.Type))
        {
            throw new StructureException(
                $"\"{heir.Label}\" cannot take the place of \"{gone.Label}\": it is of type {heir.Type}, not {gone.Type}.",
                $"variable {By}"
            );
        }

        return (style with { Variables = style.Variables.Remove(gone) }).WithVariable(
            heir with
            {
                Formerly = heir.Formerly.Add(Key).AddRange(gone.Formerly).Sort(StringComparer.Ordinal),
            }
        );
    }

    public override Edit Invert(Document before)
    {
        var style = Expect<HouseStyle>(before);
        return new ReinstateVariable(style.Require(Key), style.IndexOf(Key), By);
    }
}

/// <summary>Takes a replacement back: the variable stands again, and its keys lead to it.</summary>
public sealed record ReinstateVariable(BrandVariable Variable, int At, string From) : Edit
{
    public override string Target => $"variables/{Variable.Key}";

    public override Document Apply(Document document)
    {
        var style = Expect<HouseStyle>(document);
        var heir = style.Require(From);
        return style
            .WithVariable(heir with { Formerly = heir.Formerly.Remove(Variable.Key).RemoveRange(Variable.Formerly) })
            .WithVariable(Variable, At);
    }

    public override Edit Invert(Document before) => new ReplaceVariable(Variable.Key, From);
}

/// <summary>Sets one property of a global style, by a "{variable}" or a literal; null lets the layer above speak.</summary>
public sealed record SetStyle(string Style, string Property, string? Value) : Edit
{
    public override string Target => $"styles/{Style}/{Property}";

    public override Document Apply(Document document) =>
        GlobalStyles.Find(Style, Property) is null
            ? throw new StructureException($"There is no global style property {Style}, {Property}.")
            : Expect<HouseStyle>(document).WithStyle(Style, Property, Value);

    public override Edit Invert(Document before) => this with { Value = Expect<HouseStyle>(before).FindStyle(Style, Property) };
}

/// <summary>Gives the draft of a house style other contents as a whole, as when an earlier release is gone back to.</summary>
public sealed record RestoreHouseStyle(HouseStyle Contents) : Edit
{
    public override string Target => "whole";

    private protected override string? Whole => "";

    public override Document Apply(Document document) =>
        Expect<HouseStyle>(document).Parent == Contents.Parent
            ? Contents
            : throw new StructureException("A house style stays on the one it lies on.");

    public override Edit Invert(Document before) => new RestoreHouseStyle(Expect<HouseStyle>(before));
}

/// <summary>Sets what a variable comes to within one template or saved row; null: what the house style says.</summary>
public sealed record NarrowVariable(string Key, NarrowedValue? Value) : Edit
{
    public override string Target => $"narrowed/{Key}";

    public override Document Apply(Document document) =>
        document switch
        {
            Template template => template with { Narrowed = With(template.Narrowed) },
            SavedRow row => row with { Narrowed = With(row.Narrowed) },
            _ => throw new StructureException("Templates and saved rows narrow variables; a house style sets them."),
        };

    public override Edit Invert(Document before) =>
        this with
        {
            Value = before switch
            {
                Template template => template.Narrowed.GetValueOrDefault(Key),
                SavedRow row => row.Narrowed.GetValueOrDefault(Key),
                _ => null,
            },
        };

    private ImmutableSortedDictionary<string, NarrowedValue> With(ImmutableSortedDictionary<string, NarrowedValue> all) =>
        Value is null ? all.Remove(Key) : all.SetItem(Key, Value);
}

/// <summary>Calls a document something else.</summary>
public sealed record SetName(string Name) : Edit
{
    public override string Target => "name";

    public override Document Apply(Document document) =>
        string.IsNullOrWhiteSpace(Name) || Name.Length > Document.LongestName
            ? throw new StructureException($"A name has 1 to {Document.LongestName} characters.")
            : document with
            {
                Name = Name.Trim(),
            };

    public override Edit Invert(Document before) => new SetName(before.Name);
}

internal static class StyleLookups
{
    public static BrandVariable Require(this HouseStyle style, string key) =>
        style.FindVariable(key)
        ?? throw new StructureException($"\"{style.Name}\" has no brand variable \"{key}\" of its own.", $"variable {key}");
}
