using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Server.Hosting;

namespace GoldenRule.Server.Editing;

/// <summary>The newest release of every house style, as documents follow it.</summary>
/// <param name="Layers">Each on those it lies on.</param>
/// <param name="Numbers">Of their releases.</param>
public sealed record StyleLibrary(
    ImmutableDictionary<Guid, HouseStyle> All,
    ImmutableDictionary<Guid, StyleLayers> Layers,
    ImmutableDictionary<Guid, int> Numbers
)
{
    public StyleLayers For(Guid id) => Layers.GetValueOrDefault(id) ?? throw ProblemException.NotFound($"House style {id} has no release.");

    /// <summary>The house style that new things begin in.</summary>
    public Guid First =>
        All.OrderBy(s => s.Value.Parent is not null).ThenBy(s => s.Key).Select(s => (Guid?)s.Key).FirstOrDefault()
        ?? throw ProblemException.Invalid("There is no released house style yet. Release one first: rows and templates are dressed in it.");

    /// <summary>The house style a saved row is looked at in: a row may stand in emails of any that has what it narrows.</summary>
    public Guid For(SavedRow row) =>
        All.OrderBy(s => s.Value.Parent is not null)
            .ThenBy(s => s.Key)
            .Select(s => s.Key)
            .Where(id => row.Narrowed.Keys.All(key => For(id).Find(key) is not null))
            .Cast<Guid?>()
            .FirstOrDefault()
        ?? throw new StructureException(
            All.IsEmpty
                ? "There is no released house style yet; rows are dressed in one."
                : $"No house style has all of {string.Join(", ", row.Narrowed.Keys)}."
        );

    /// <summary>Changes with every release of the house style or of one it lies on.</summary>
    public string Version(Guid style) => string.Join('.', Chain(style, All).Select(s => Numbers[s]));

    /// <summary>A house style with those it lies on, the parent first, as if one of them had other contents.</summary>
    public ImmutableArray<HouseStyle> ChainWith(Guid changed, HouseStyle contents, Guid? style = null)
    {
        var styles = All.SetItem(changed, contents);
        return [.. Chain(style ?? changed, styles).Select(id => styles[id])];
    }

    /// <summary>A house style and those it lies on, the outermost first.</summary>
    public static IEnumerable<Guid> Chain(Guid id, IReadOnlyDictionary<Guid, HouseStyle> styles)
    {
        var chain = new List<Guid>();
        for (Guid? at = id; at is { } one && styles.ContainsKey(one); at = styles[one].Parent)
        {
            if (chain.Contains(one))
            {
                throw new StructureException("House styles lie on one another in a circle.");
            }

            chain.Insert(0, one);
        }

        return chain;
    }
}
