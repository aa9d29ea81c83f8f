using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Releases;

public enum UserKind
{
    Style,
    Variable,
    Row,
    Template,
}

/// <summary>A place that refers to a brand variable, or narrows it.</summary>
/// <param name="Id">"style/property", a variable's key, or the id of a row or template.</param>
/// <param name="Name">What that is called.</param>
/// <param name="Place">The piece within a row or template; null for others.</param>
public sealed record VariableUse(UserKind Kind, string Id, string Name, string? Place);

/// <summary>Where each brand variable is used: styles and variables by what they write, rows and templates by their pieces.</summary>
public static class VariableUses
{
    /// <summary>Uses by rows and templates, with the key as each writes it. They are the same for every house style.</summary>
    public static ImmutableArray<(string Key, VariableUse Use)> OfMasters(
        IEnumerable<(Guid Id, SavedRow Row)> rows,
        IEnumerable<(Guid Id, Template Template)> templates
    ) =>
        [
            .. rows.SelectMany(r => In(r.Row).Select(u => (u.Key, new VariableUse(UserKind.Row, r.Id.ToString(), r.Row.Name, u.Place)))),
            .. templates.SelectMany(t =>
                In(t.Template).Select(u => (u.Key, new VariableUse(UserKind.Template, t.Id.ToString(), t.Template.Name, u.Place)))
            ),
        ];

    /// <summary>By key; a former key counts for the variable it leads to.</summary>
    public static ILookup<string, VariableUse> Find(StyleLayers layers, ImmutableArray<(string Key, VariableUse Use)> masters)
    {
        var styles =
            from style in GlobalStyles.All
            from property in style.Properties
            let resolved = layers[style.Name, property.Name]
            where resolved.SameAs is null && !resolved.Through.IsEmpty
            select (
                Key: resolved.Through[0],
                Use: new VariableUse(UserKind.Style, $"{style.Name}/{property.Name}", GlobalStyles.Label(style.Name, property.Name), null)
            );
        var variables =
            from variable in layers.Variables
            from key in new[]
            {
                BrandVariable.Reference(variable.Value),
                variable.Dark is null ? null : BrandVariable.Reference(variable.Dark),
            }
                .OfType<string>()
                .Distinct(StringComparer.Ordinal)
            select (Key: key, Use: new VariableUse(UserKind.Variable, variable.Key, variable.Label, null));
        return styles.Concat(variables).Concat(masters).ToLookup(u => layers.Find(u.Key)?.Key ?? u.Key, u => u.Use, StringComparer.Ordinal);
    }

    public static IEnumerable<(string Key, string Place)> In(SavedRow row) =>
        row
            .Row.Blocks.SelectMany(b => b.Content.Values.SelectMany(In).Select(key => (key, b.Name ?? b.Kind)))
            .Concat(row.Row.Background is null ? [] : Reference(row.Row.Background).Select(key => (key, "Background")))
            .Concat(row.Narrowed.Keys.Select(key => (key, Narrows)));

    public static IEnumerable<(string Key, string Place)> In(Template template) =>
        template.PlacedRows.SelectMany(In).Concat(template.Narrowed.Keys.Select(key => (key, Narrows)));

    /// <summary>Keys that a value refers to.</summary>
    private static IEnumerable<string> In(FieldValue value)
    {
        var keys = new KeysOfValues();
        value.Visit(keys);
        return keys.Found;
    }

    private sealed class KeysOfValues : FieldVisitor
    {
        public List<string> Found { get; } = [];

        public override void Address(string href, FieldPart part) => Found.AddRange(Reference(href));

        public override void Picture(string picture, FieldPart part) => Found.AddRange(Reference(picture));

        public override void Prose(RichText text, FieldPart part)
        {
            foreach (var run in text.Paragraphs.SelectMany(p => p.Runs))
            {
                Found.AddRange(run.Variable is null ? [] : [run.Variable]);
                Found.AddRange(run.Href is null ? [] : Reference(run.Href));
            }
        }
    }

    private const string Narrows = "narrows it";

    private static IEnumerable<(string Key, string Place)> In(PlacedRow row) =>
        row.Fills.Values.SelectMany(In).Select(key => (key, row.Name ?? row.Id)).Concat(row.Own is null ? [] : In(row.Own));

    private static IEnumerable<string> In(PieceFill fill) => fill.Content.Values.SelectMany(In);

    private static string[] Reference(string value) => BrandVariable.Reference(value) is { } key ? [key] : [];
}
