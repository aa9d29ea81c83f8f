using System.Collections.Concurrent;
using System.Collections.Frozen;
using System.Collections.Immutable;
using System.Globalization;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.HouseStyles;

/// <summary>What one layer said about a value: the layer's name and its words, as written there.</summary>
public sealed record LayerValue(string Layer, string Value);

/// <summary>A value with where it came from: the layers outermost first, then the variables followed to a literal.</summary>
/// <param name="Dark">For colours: the value where the reader's scheme is dark.</param>
/// <param name="SameAs">The style and property whose value this is, where no layer spoke of its own; null: one did, or the
/// fallback holds.</param>
public sealed record Resolved(
    string Value,
    string Dark,
    ImmutableArray<LayerValue> Layers,
    ImmutableArray<string> Through,
    (string Style, string Property)? SameAs
);

/// <summary>
/// House styles laid on one another, parent first, and on them what a template and a row narrow; the nearest that
/// speaks wins. Resolves style properties and variables to literals, following references. Immutable, so the results
/// are kept.
/// </summary>
public sealed class StyleLayers
{
    private readonly ImmutableArray<HouseStyle> layers;
    private readonly ImmutableArray<(string Layer, ImmutableSortedDictionary<string, NarrowedValue> Values)> narrowed;

    // In the order they are shown: the outermost layer's first.
    private readonly List<BrandVariable> order = [];
    private readonly Dictionary<string, int> places = new(StringComparer.Ordinal);

    // What each layer said of the variable at the same place of the order.
    private readonly List<ImmutableArray<LayerValue>> spoken = [];
    private readonly Dictionary<string, Resolved> resolvedVariables = new(StringComparer.Ordinal);
    private readonly Dictionary<(string Style, string Property), Resolved> values = [];

    // What rows and templates make of these layers, by what they say: those that say the same share it.
    private readonly ConcurrentDictionary<string, StyleLayers> narrower = new(StringComparer.Ordinal);

    /// <summary>Kept at most; the next is made for each that asks.</summary>
    private const int MostNarrower = 200;

    /// <param name="layers">The parent first, the sub-brand after it.</param>
    /// <exception cref="StructureException">A reference leads nowhere, to another type, or in a circle; the message names the
    /// path.</exception>
    public StyleLayers(params IEnumerable<HouseStyle> layers)
        : this([.. layers], [], null) { }

    private StyleLayers(
        ImmutableArray<HouseStyle> layers,
        ImmutableArray<(string, ImmutableSortedDictionary<string, NarrowedValue>)> narrowed,
        StyleLayers? email
    )
    {
        (this.layers, this.narrowed, Email) = (layers, narrowed, email);
        foreach (var layer in layers)
        {
            foreach (var variable in layer.Variables)
            {
                Add(variable, layer.Name);
            }
        }

        foreach (var (layer, values) in this.narrowed)
        {
            Narrow(layer, values);
        }

        for (var i = 0; i < order.Count; i++)
        {
            resolvedVariables[order[i].Key] = Resolve(order[i], spoken[i]);
        }

        foreach (var style in GlobalStyles.All)
        {
            foreach (var property in style.Properties)
            {
                _ = Resolve(style.Name, property);
            }
        }

        read = values.ToFrozenDictionary(v => v.Key, v => new Read(v.Value));
    }

    private readonly Derived derived = new();

    /// <summary>What is worked out from these layers alone: once, and kept as long as they are.</summary>
    public T Derive<T>(Func<StyleLayers, T> make)
        where T : class => derived.Get(() => make(this));

    // Checks and writers ask for these thousands of times an email.
    private readonly FrozenDictionary<(string Style, string Property), Read> read;

    /// <summary>A value as what it is of: one of the two is right, the other never asked for.</summary>
    private readonly record struct Read(Colour Light, Colour Dark, double Number)
    {
        public Read(Resolved value)
            : this(
                HouseStyles.Colour.TryParse(value.Value, out var light) ? light : default,
                HouseStyles.Colour.TryParse(value.Dark, out var dark) ? dark : default,
                double.TryParse(value.Value, NumberStyles.Float, CultureInfo.InvariantCulture, out var number) ? number : double.NaN
            ) { }
    }

    /// <summary>For a row that narrows a variable: the layers of the email it stands in. Null: these are an email's own.</summary>
    public StyleLayers? Email { get; }

    /// <summary>The innermost house style: the one that is worked on.</summary>
    public HouseStyle Own => layers[^1];

    /// <summary>The same with other contents of the innermost house style.</summary>
    /// <exception cref="StructureException">They cannot be resolved.</exception>
    public StyleLayers With(HouseStyle own) => new([.. layers.RemoveAt(layers.Length - 1), own], [], null);

    /// <summary>Every variable that can be used, in the order they are shown, the nearest layer's where several speak.</summary>
    public IReadOnlyList<BrandVariable> Variables => order;

    public Resolved this[string style, string property] => values[(style, property)];

    public string Value(string style, string property) => values[(style, property)].Value;

    public Colour Colour(string style, string property, bool dark) => dark ? read[(style, property)].Dark : read[(style, property)].Light;

    public double Number(string style, string property) => read[(style, property)].Number;

    /// <summary>A variable by its key, or by one it had before. Null: there is none.</summary>
    public BrandVariable? Find(string key) => places.TryGetValue(key, out var place) ? order[place] : null;

    /// <summary>What a variable comes to.</summary>
    /// <exception cref="StructureException">There is none of that key, or it is of another type; the message names the place.</exception>
    public string Variable(string key, string place, VariableType? type = null) => resolvedVariables[Known(key, type, place).Key].Value;

    /// <summary>A variable's value with where it comes from.</summary>
    public Resolved Explain(string key) => resolvedVariables[key];

    /// <summary>The same with some variables narrowed by a template. The same values give the same object.</summary>
    /// <exception cref="StructureException">It narrows what is not there, or to what cannot be.</exception>
    public StyleLayers ForTemplate(string name, ImmutableSortedDictionary<string, NarrowedValue> values) => Under(name, values, null);

    /// <summary>The same for one row of an email.</summary>
    /// <inheritdoc cref="ForTemplate"/>
    public StyleLayers ForRow(string name, ImmutableSortedDictionary<string, NarrowedValue> values) => Under(name, values, this);

    private StyleLayers Under(string name, ImmutableSortedDictionary<string, NarrowedValue> values, StyleLayers? email)
    {
        if (values.IsEmpty)
        {
            return this;
        }

        var said = string.Join('\n', values.Select(v => $"{v.Key}\t{v.Value.Value}\t{v.Value.Dark}").Prepend($"{name}\t{email is null}"));
        if (!narrower.TryGetValue(said, out var made))
        {
            made = new StyleLayers(layers, narrowed.Add((name, values)), email);
            made = narrower.Count < MostNarrower ? narrower.GetOrAdd(said, made) : made;
        }

        return made;
    }

    // A sub-brand may know a variable by a former key of its parent's.
    private void Add(BrandVariable variable, string layer)
    {
        if (places.TryGetValue(variable.Key, out var place))
        {
            var former = order[place];
            order[place] = variable with
            {
                Key = former.Key,
                Formerly = [.. former.Formerly.Union(variable.Formerly, StringComparer.Ordinal)],
            };
            spoken[place] = spoken[place].Add(new LayerValue(layer, variable.Value));
        }
        else
        {
            place = order.Count;
            order.Add(variable);
            spoken.Add([new LayerValue(layer, variable.Value)]);
            places[variable.Key] = place;
        }

        foreach (var key in variable.Formerly)
        {
            if (places.TryAdd(key, place) || places[key] == place)
            {
                continue;
            }

            throw new StructureException(
                $"\"{key}\" is the key of a brand variable; \"{variable.Key}\" cannot have had it before.",
                $"variable {variable.Key}"
            );
        }
    }

    private void Narrow(string layer, ImmutableSortedDictionary<string, NarrowedValue> values)
    {
        foreach (var (key, value) in values)
        {
            if (!places.TryGetValue(key, out var place))
            {
                throw new StructureException($"There is no brand variable \"{key}\", which {layer} narrows.", $"variable {key}");
            }

            order[place] = order[place] with { Value = value.Value, Dark = value.Dark };
            spoken[place] = spoken[place].Add(new LayerValue(layer, value.Value));
        }
    }

    private Resolved Resolve(BrandVariable variable, ImmutableArray<LayerValue> layers)
    {
        var place = $"variable {variable.Key}";
        var (light, through) = Follow(variable.Value, variable.Type, place, dark: false, variable);
        var dark = light;
        if (variable.Type == VariableType.Colour)
        {
            (dark, _) = Follow(variable.Dark ?? variable.Value, variable.Type, place, dark: true, variable);
            Literal.Check(variable.Type, dark, place);
        }

        Literal.Check(variable.Type, light, place);
        return new Resolved(light, dark, layers, through, null);
    }

    private Resolved Resolve(string style, StyleProperty property)
    {
        if (values.TryGetValue((style, property.Name), out var known))
        {
            return known;
        }

        var said = ImmutableArray.CreateBuilder<LayerValue>();
        foreach (var layer in layers)
        {
            if (layer.FindStyle(style, property.Name) is { } own)
            {
                said.Add(new LayerValue(layer.Name, own));
            }
        }

        var resolved =
            said.Count == 0 && property.SameAs is var (s, p)
                ? Resolve(s, GlobalStyles.Find(s, p)!) with
                {
                    SameAs = (s, p),
                }
                : Resolve(style, property, said.Count == 0 ? property.Fallback : said[^1].Value, said.ToImmutable());
        values[(style, property.Name)] = resolved;
        return resolved;
    }

    private Resolved Resolve(string style, StyleProperty property, string value, ImmutableArray<LayerValue> said)
    {
        var place = said.IsEmpty ? style : $"{style}, {property.Name}";
        var (light, through) = Follow(value, property.Type, place, dark: false, null);
        // What variables come to was judged with them; a plain value is judged here.
        if (through.IsEmpty && !said.IsEmpty)
        {
            Literal.Check(property.Type, light, place);
        }

        if (!property.Choices.IsEmpty && !property.Choices.Contains(light))
        {
            throw new StructureException($"\"{light}\" ({place}) is not one of {string.Join(", ", property.Choices)}.", place);
        }

        if (!through.IsEmpty && property.Type is VariableType.Size or VariableType.Weight)
        {
            Literal.Check(property.Type, light, place);
        }

        var dark =
            property.Type == VariableType.Colour && !through.IsEmpty ? Follow(value, property.Type, place, dark: true, null).Value : light;
        return new Resolved(light, dark, said, through, null);
    }

    // A dark value stands for its variable only; where a variable says none, the one it refers to is asked.
    private (string Value, ImmutableArray<string> Through) Follow(
        string value,
        VariableType type,
        string place,
        bool dark,
        BrandVariable? start
    )
    {
        if (BrandVariable.Reference(value) is null)
        {
            return (value, []);
        }

        var path = ImmutableArray.CreateBuilder<string>(2);
        while (BrandVariable.Reference(value) is { } key)
        {
            var variable = Known(key, type, place);
            if (path.Contains(variable.Key) || variable.Key == start?.Key)
            {
                throw new StructureException(
                    "Brand variables refer to one another in a circle: "
                        + $"{string.Join(" → ", path.Prepend(start?.Key).OfType<string>())} → {variable.Key}.",
                    place
                );
            }

            path.Add(variable.Key);
            value = dark ? variable.Dark ?? variable.Value : variable.Value;
        }

        return (value, path.ToImmutable());
    }

    private BrandVariable Known(string key, VariableType? type, string place)
    {
        var variable = Find(key) ?? throw new StructureException($"There is no brand variable \"{key}\", to which {place} refers.", place);
        return type is null || BrandVariable.Fits(variable.Type, type.Value)
            ? variable
            : throw new StructureException($"Brand variable \"{key}\" is of type {variable.Type}, but {place} needs {type}.", place);
    }
}
