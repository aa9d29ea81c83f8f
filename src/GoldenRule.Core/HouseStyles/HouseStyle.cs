using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.HouseStyles;

/// <summary>One brand's variables and global styles. A sub-brand's says only what differs from its parent's.</summary>
public sealed record HouseStyle : Document
{
    /// <summary>The house style this one lies on. Null: it stands alone.</summary>
    public Guid? Parent { get; init; }

    /// <summary>In the order they are shown.</summary>
    public ImmutableArray<BrandVariable> Variables { get; init; } = [];

    /// <summary>Global styles by name, then property: each "{variable}" or a literal. See <see cref="GlobalStyles"/>.</summary>
    public ImmutableSortedDictionary<string, ImmutableSortedDictionary<string, string>> Styles { get; init; } =
        ImmutableSortedDictionary<string, ImmutableSortedDictionary<string, string>>.Empty;

    public BrandVariable? FindVariable(string key) => Variables.FirstOrDefault(v => v.Key == key);

    /// <summary>-1: there is none of that key.</summary>
    public int IndexOf(string key)
    {
        for (var i = 0; i < Variables.Length; i++)
        {
            if (Variables[i].Key == key)
            {
                return i;
            }
        }

        return -1;
    }

    /// <param name="at">Where a new one goes; null: to the end.</param>
    public HouseStyle WithVariable(BrandVariable variable, int? at = null)
    {
        var index = IndexOf(variable.Key);
        return this with
        {
            Variables =
                index >= 0
                    ? Variables.SetItem(index, variable)
                    : Variables.Insert(Math.Clamp(at ?? Variables.Length, 0, Variables.Length), variable),
        };
    }

    public string? FindStyle(string style, string property) => Styles.GetValueOrDefault(style)?.GetValueOrDefault(property);

    /// <summary>Null takes the property out, so that the layer above speaks.</summary>
    public HouseStyle WithStyle(string style, string property, string? value)
    {
        var properties = Styles.GetValueOrDefault(style, ImmutableSortedDictionary<string, string>.Empty);
        properties = value is null ? properties.Remove(property) : properties.SetItem(property, value);
        return this with { Styles = properties.IsEmpty ? Styles.Remove(style) : Styles.SetItem(style, properties) };
    }
}
