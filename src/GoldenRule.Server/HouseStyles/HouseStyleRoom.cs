using System.Collections.Immutable;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Library;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;

namespace GoldenRule.Server.HouseStyles;

/// <summary>Lays a house style's draft out: values with where they come from, specimen, contrast table.</summary>
public static class HouseStyleRoom
{
    public static HouseStyleAnswer Lay(Kept kept, Person person, bool canUndo, bool canRedo)
    {
        var draft = (HouseStyle)kept.Document;
        var layers = Validity.Layers(draft, kept);
        var released = kept.Library.HouseStyles.GetValueOrDefault(kept.Stored.Id);
        var variables = Variables(draft, released, layers);
        var styles = Styles(draft, released, layers);
        return new HouseStyleAnswer(
            kept.Stored.Id,
            draft.Name,
            draft.Parent,
            kept.Stored.Revision,
            kept.Stored.ChangedAt,
            kept.Library.Newest.GetValueOrDefault(kept.Stored.Id)?.Number ?? 0,
            variables.Count(v => v.Changed) + styles.Sum(s => s.Properties.Count(p => p.Changed)) + Removed(draft, released),
            Allowance.From(Governor.Decide(person, new Core.Edits.RemoveVariable(""), new OpenDocument.OfMaster(draft))).Allowed,
            variables,
            styles,
            Contrasts(layers),
            Specimen.Compile(layers, ProofPress.PicturesAt).HtmlText(),
            canUndo,
            canRedo);
    }

    private static ImmutableArray<VariableEntry> Variables(HouseStyle draft, HouseStyle? released, StyleLayers layers)
    {
        var references = GlobalStyles.All.SelectMany(s => s.Properties.SelectMany(p => layers[s.Name, p.Name].Through))
            .Concat(layers.Variables.Select(v => BrandVariable.Reference(v.Value)).OfType<string>())
            .GroupBy(k => k, StringComparer.Ordinal).ToDictionary(g => g.Key, g => g.Count(), StringComparer.Ordinal);
        return
        [
            .. layers.Variables.Select(v => new VariableEntry(
                v,
                layers.Variable(v.Key, v.Key),
                v.Dark ?? layers.Variable(v.Key, v.Key),
                references.GetValueOrDefault(v.Key),
                draft.FindVariable(v.Key) is not null,
                draft.FindVariable(v.Key) is { } own && released?.FindVariable(v.Key) != own)),
        ];
    }

    private static ImmutableArray<StyleEntry> Styles(HouseStyle draft, HouseStyle? released, StyleLayers layers) =>
    [
        .. GlobalStyles.All.Select(s => new StyleEntry(s.Name, s.Label,
        [
            .. s.Properties.Select(p =>
            {
                var (written, resolved) = (draft.FindStyle(s.Name, p.Name), layers[s.Name, p.Name]);
                return new PropertyEntry(
                    p.Name,
                    p.Label,
                    p.Type,
                    written,
                    resolved.Value,
                    resolved.Dark,
                    written is not null && p.Type is VariableType.Colour or VariableType.Font && BrandVariable.Reference(written ?? "{}") is null,
                    released?.FindStyle(s.Name, p.Name) != written,
                    resolved.Layers,
                    resolved.Through);
            }),
        ])),
    ];

    private static int Removed(HouseStyle draft, HouseStyle? released) =>
        released?.Variables.Count(v => draft.FindVariable(v.Key) is null) ?? 0;

    private static ImmutableArray<ContrastEntry> Contrasts(StyleLayers layers) =>
    [
        .. Legibility.Of(layers).Select(p => new ContrastEntry(
            p.Reading.What,
            p.Reading.Text.ToString(),
            p.Background,
            p.Reading.Background.ToString(),
            Math.Floor(p.Reading.Ratio * 100) / 100,
            p.Reading.Needed,
            p.Reading.Passes,
            p.Reading.Dark)),
    ];
}
