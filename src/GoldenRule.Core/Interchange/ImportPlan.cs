using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Interchange;

public enum ImportAction
{
    Added,
    Changed,

    /// <summary>It says what holds already.</summary>
    Same,

    /// <summary>It cannot be taken over.</summary>
    Left,
}

/// <summary>What an import would do at one place, and the edit that does it.</summary>
/// <param name="Place">Where it stands in the file.</param>
/// <param name="Name">What it would set, as the house style calls it.</param>
/// <param name="After">As it would be written: "{key}" or a literal.</param>
/// <param name="Shown">What it comes to.</param>
/// <param name="Reason">Why it is left.</param>
/// <param name="Edit">Null: there is nothing to do, or it is left.</param>
public sealed record ImportStep(
    string Place,
    string Name,
    VariableType? Type,
    ImportAction Action,
    string? Before,
    string? After,
    string? Shown,
    string? Reason,
    Edit? Edit
);

/// <summary>
/// Shows what an import will add, change and leave before it happens. Nothing is changed here: the steps' edits go the ordinary
/// road.
/// </summary>
public static class ImportPlan
{
    private const int MostFaults = 100;

    /// <param name="layers">The house style that takes the values in, on those it lies on.</param>
    public static ImmutableArray<ImportStep> Make(Found found, StyleLayers layers)
    {
        var faults = new Dictionary<string, string>(StringComparer.Ordinal);
        var after = After(found, layers, faults);
        return
        [
            .. found.Variables.Select(v => Variable(v, layers, after, faults)),
            .. found.Styles.Select(s => Style(s, layers, after)),
            .. found.Left.Select(l => new ImportStep(l.Place, "", null, ImportAction.Left, null, null, null, l.Reason, null)),
        ];
    }

    // What is at fault (an alias that leads nowhere, a circle, another type than stands) is left, one by one, until the rest holds.
    private static StyleLayers After(Found found, StyleLayers layers, Dictionary<string, string> faults)
    {
        var taken = new List<FoundVariable>();
        foreach (var variable in found.Variables)
        {
            if (layers.Find(variable.Variable.Key) is { } known && known.Type != variable.Variable.Type)
            {
                faults[variable.Place] =
                    $"\"{known.Label}\" is of type {Lower(known.Type)} here and of type {Lower(variable.Variable.Type)} in the file.";
            }
            else
            {
                taken.Add(variable);
            }
        }

        while (true)
        {
            try
            {
                return layers.With(taken.Aggregate(layers.Own, (style, v) => style.WithVariable(Merged(v, layers))));
            }
            catch (StructureException fault) when (taken.Count > 0)
            {
                // Each time all of it is looked at anew.
                if (faults.Count > MostFaults)
                {
                    throw new StructureException($"More than {MostFaults} of its values cannot be taken over; the last: {fault.Message}");
                }

                // A fault may show at a variable that stands already; then the last one that refers to another is to blame.
                var at = taken.FindIndex(v => fault.Piece == $"variable {v.Variable.Key}");
                at = at >= 0 ? at : Math.Max(0, taken.FindLastIndex(v => BrandVariable.Reference(v.Variable.Value) is not null));
                faults[taken[at].Place] = fault.Message;
                taken.RemoveAt(at);
            }
        }
    }

    // What a file does not say of a variable that stands already (its label, its group, its dark value) stays.
    private static BrandVariable Merged(FoundVariable found, StyleLayers layers)
    {
        var said = found.Variable;
        if (layers.Find(said.Key) is not { } known)
        {
            return said with { Label = said.Label.Length > 0 ? said.Label : found.Called };
        }

        return said with
        {
            Key = known.Key,
            Label = said.Label.Length > 0 ? said.Label : known.Label,
            Dark = said.Dark ?? known.Dark,
            Group = said.Group.Length > 0 ? said.Group : known.Group,
            Description = said.Description.Length > 0 ? said.Description : known.Description,
            Formerly = [.. known.Formerly.Union(said.Formerly, StringComparer.Ordinal).Order(StringComparer.Ordinal)],
        };
    }

    private static ImportStep Variable(FoundVariable found, StyleLayers layers, StyleLayers after, Dictionary<string, string> faults)
    {
        var (variable, known) = (Merged(found, layers), layers.Find(found.Variable.Key));
        var (before, now) = (known is null ? null : Words(known), Words(variable));
        if (faults.TryGetValue(found.Place, out var fault))
        {
            return new ImportStep(found.Place, variable.Label, variable.Type, ImportAction.Left, before, now, null, fault, null);
        }

        var action = known switch
        {
            null => ImportAction.Added,
            _ when known == variable => ImportAction.Same,
            _ => ImportAction.Changed,
        };
        return new ImportStep(
            found.Place,
            variable.Label,
            variable.Type,
            action,
            before,
            now,
            after.Explain(variable.Key).Value,
            null,
            action == ImportAction.Same ? null : new SetVariable(variable)
        );
    }

    private static ImportStep Style(FoundStyle found, StyleLayers layers, StyleLayers after)
    {
        var (name, type) = (GlobalStyles.Label(found.Style, found.Property), GlobalStyles.Find(found.Style, found.Property)!.Type);
        var (written, now) = (layers.Own.FindStyle(found.Style, found.Property), layers[found.Style, found.Property].Value);
        try
        {
            var shown = after.With(after.Own.WithStyle(found.Style, found.Property, found.Value))[found.Style, found.Property].Value;
            var same = written == found.Value || (written is null && shown == now && BrandVariable.Reference(found.Value) is null);
            var action = (same, written) switch
            {
                (true, _) => ImportAction.Same,
                (_, null) => ImportAction.Added,
                _ => ImportAction.Changed,
            };
            return new ImportStep(
                found.Place,
                name,
                type,
                action,
                written ?? now,
                found.Value,
                shown,
                null,
                same ? null : new SetStyle(found.Style, found.Property, found.Value)
            );
        }
        catch (StructureException fault)
        {
            return new ImportStep(found.Place, name, type, ImportAction.Left, written ?? now, found.Value, null, fault.Message, null);
        }
    }

    private static string Words(BrandVariable variable) =>
        variable.Dark is null ? variable.Value : $"{variable.Value}, dark {variable.Dark}";

    private static string Lower(VariableType type) => type.ToString().ToLowerInvariant();
}
