using System.Collections.Immutable;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Releases;

public enum ChangeKind
{
    Added,
    Removed,
    Changed,
    Renamed,
    Moved,
}

/// <summary>One value that differs between two states of a house style.</summary>
/// <param name="Variable">The variable's key; null: it is a property of a global style.</param>
/// <param name="Name">What the value is called.</param>
/// <param name="Before">As it was written, in words; null: it was not there.</param>
/// <param name="BeforeColour">What it came to, where it is a colour.</param>
/// <param name="AfterColour">What it comes to, where it is a colour.</param>
/// <param name="Touches">Properties of global styles that come to something else by it.</param>
public sealed record StyleChange(
    ChangeKind Kind,
    string? Variable,
    string Name,
    string? Before,
    string? After,
    string? BeforeColour,
    string? AfterColour,
    ImmutableArray<string> Touches
);

/// <summary>What changed from one state of a house style to another, for people to read.</summary>
public static class StyleDifference
{
    /// <param name="before">Null: nothing was released yet.</param>
    public static ImmutableArray<StyleChange> Between(StyleLayers? before, StyleLayers after) =>
        [
            .. after.Own.Variables.Select(v => Compare(v, before, after)).OfType<StyleChange>(),
            .. (before?.Own.Variables ?? []).Where(v => Match(v, before!.Own, after.Own) is null).Select(v => Gone(v, before!, after)),
            .. Order(before?.Own, after.Own),
            .. GlobalStyles.All.SelectMany(s => s.Properties.Select(p => Compare(s, p, before, after))).OfType<StyleChange>(),
        ];

    // The one of the same key, or that had it or will have it: a rename is no new variable. One that took another's place stood beside it.
    private static BrandVariable? Match(BrandVariable variable, HouseStyle own, HouseStyle other) =>
        other.FindVariable(variable.Key)
        ?? other.Variables.FirstOrDefault(o =>
            own.FindVariable(o.Key) is null
            && o.Type == variable.Type
            && (variable.Formerly.Contains(o.Key) || o.Formerly.Contains(variable.Key))
        );

    private static StyleChange? Compare(BrandVariable variable, StyleLayers? before, StyleLayers after)
    {
        var former = before is null ? null : Match(variable, after.Own, before.Own);
        if (former is not null && former with { Formerly = variable.Formerly } == variable)
        {
            return null;
        }

        var said = former is null ? null : InWords(former, before!);
        var (kind, was, now) = (former, InWords(variable, after)) switch
        {
            (null, var all) => (ChangeKind.Added, null, all),
            var (f, all) when f.Key != variable.Key => (
                ChangeKind.Renamed,
                $"{f.Label} ({f.Key}), {said}",
                $"{variable.Label} ({variable.Key}), {all}"
            ),
            var (f, all) when f.Label != variable.Label => (ChangeKind.Changed, $"{f.Label}, {said}", $"{variable.Label}, {all}"),
            (_, var all) when all == said => (ChangeKind.Changed, "group or description", "group or description"),
            (_, var all) => (ChangeKind.Changed, said, all),
        };
        return new StyleChange(
            kind,
            variable.Key,
            variable.Label,
            was,
            now,
            former is null ? null : Colour(variable.Type, before!.Explain(former.Key)),
            Colour(variable.Type, after.Explain(variable.Key)),
            Touched([variable.Key, former?.Key ?? variable.Key], before, after)
        );
    }

    private static StyleChange Gone(BrandVariable variable, StyleLayers before, StyleLayers after) =>
        new(
            ChangeKind.Removed,
            variable.Key,
            variable.Label,
            InWords(variable, before),
            after.Find(variable.Key) is { } heir ? $"led on to {heir.Label}" : null,
            Colour(variable.Type, before.Explain(variable.Key)),
            after.Find(variable.Key) is { } now ? Colour(now.Type, after.Explain(now.Key)) : null,
            Touched([variable.Key], before, after)
        );

    private static IEnumerable<StyleChange> Order(HouseStyle? before, HouseStyle after)
    {
        var was = before?.Variables.Select(v => Match(v, before, after)?.Key).OfType<string>().Distinct(StringComparer.Ordinal).ToList()
            ?? [];
        var now = after.Variables.Select(v => v.Key).Where(was.Contains).ToList();
        return was.SequenceEqual(now, StringComparer.Ordinal)
            ? []
            : [new StyleChange(ChangeKind.Moved, null, "Order of the variables", "", "", null, null, [])];
    }

    private static StyleChange? Compare(GlobalStyle style, StyleProperty property, StyleLayers? before, StyleLayers after)
    {
        var (was, now) = (before?.Own.FindStyle(style.Name, property.Name), after.Own.FindStyle(style.Name, property.Name));
        if (was == now)
        {
            return null;
        }

        var kind = (was, now) switch
        {
            (null, _) => ChangeKind.Added,
            (_, null) => ChangeKind.Removed,
            _ => ChangeKind.Changed,
        };
        return new StyleChange(
            kind,
            null,
            GlobalStyles.Label(style.Name, property.Name),
            was is null ? null : InWords(was, before!),
            now is null ? null : InWords(now, after),
            before is null ? null : Colour(property.Type, before[style.Name, property.Name]),
            Colour(property.Type, after[style.Name, property.Name]),
            Follow(style.Name, property.Name, after)
        );
    }

    // What follows this property where it says nothing of its own.
    private static ImmutableArray<string> Follow(string style, string property, StyleLayers layers) =>
        [.. All.Where(p => layers[p.Style, p.Property].SameAs == (style, property)).Select(p => GlobalStyles.Label(p.Style, p.Property))];

    private static ImmutableArray<string> Touched(string[] keys, StyleLayers? before, StyleLayers after) =>
        [
            .. All.Where(p =>
                    (before is not null && before[p.Style, p.Property].Through.Any(keys.Contains))
                    || after[p.Style, p.Property].Through.Any(keys.Contains)
                )
                .Where(p =>
                    before is null
                    || before[p.Style, p.Property].Value != after[p.Style, p.Property].Value
                    || before[p.Style, p.Property].Dark != after[p.Style, p.Property].Dark
                )
                .Select(p => GlobalStyles.Label(p.Style, p.Property)),
        ];

    private static IEnumerable<(string Style, string Property)> All =>
        GlobalStyles.All.SelectMany(s => s.Properties.Select(p => (s.Name, p.Name)));

    private static string? Colour(VariableType type, Resolved value) => type == VariableType.Colour ? value.Value : null;

    private static string InWords(BrandVariable variable, StyleLayers layers) =>
        InWords(variable.Value, layers) + (variable.Dark is null ? "" : $", dark {InWords(variable.Dark, layers)}");

    private static string InWords(string value, StyleLayers layers) =>
        value switch
        {
            "" => "nothing yet",
            _ when BrandVariable.Reference(value) is { } key => layers.Find(key)?.Label ?? key,
            _ => value,
        };
}
