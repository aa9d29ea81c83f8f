using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Governance;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Releases;
using GoldenRule.Core.Specimens;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;

namespace GoldenRule.Server.HouseStyles;

/// <summary>Lays a house style's draft out: values with where they come from, specimen, contrast table.</summary>
public sealed class HouseStyleRoom
{
    private readonly LoadedDocument loaded;
    private readonly HouseStyle draft;
    private readonly HouseStyle? released;
    private readonly StyleLayers layers;
    private readonly StyleLayers? under;
    private readonly ILookup<string, VariableUse> uses;

    private HouseStyleRoom(LoadedDocument loaded)
    {
        this.loaded = loaded;
        draft = (HouseStyle)loaded.Document;
        released = loaded.Library.Styles.All.GetValueOrDefault(loaded.Stored.Id);
        layers = loaded.StyleLayers;
        under = draft.Parent is { } parent ? loaded.Library.Styles.For(parent) : null;
        uses = Uses(layers, loaded.Library);
    }

    /// <summary>All but what the person could take back, which is asked about once it is stored.</summary>
    public static HouseStyleAnswer Lay(LoadedDocument loaded, Person person) => new HouseStyleRoom(loaded).Lay(person);

    public static ILookup<string, VariableUse> Uses(StyleLayers layers, LibrarySnapshot library) =>
        VariableUses.Find(layers, library.Releases.VariableUses);

    /// <summary>A picture of the brand's that fills the content, or else one of the library.</summary>
    private Picture? SpecimenPicture() =>
        layers
            .Variables.Where(v => v.Type == VariableType.Picture)
            .Select(v => loaded.Library.Pictures.Find(layers.Explain(v.Key).Value))
            .OfType<Picture>()
            .FirstOrDefault(p => p.Width >= layers.Number("page", "width"))
        ?? loaded.Library.Pictures.First;

    private HouseStyleAnswer Lay(Person person) =>
        new(
            true,
            loaded.Stored.Id,
            draft.Name,
            draft.Parent,
            draft.Parent is { } parent ? loaded.Library.Styles.All[parent].Name : null,
            loaded.Stored.Revision,
            loaded.Stored.ChangedAt,
            loaded.Library.Releases.Newest.GetValueOrDefault(loaded.Stored.Id)?.Number ?? 0,
            StyleDifference.Between(ReleasedLayers(loaded), layers).Length,
            Allowance.From(Governor.Decide(person, new RemoveVariable(""), new OpenDocument.OfHouseStyle(draft))).Allowed,
            [.. layers.Variables.Select(Variable)],
            [.. GlobalStyles.All.Select(s => new StyleEntry(s.Name, s.Label, [.. s.Properties.Select(p => Property(s, p))]))],
            [.. Legibility.ForStyle(layers).Select(Contrast)],
            Sheet(Specimen.Compile(layers, CompilationCache.PicturesAt, SpecimenPicture())),
            false,
            false
        );

    /// <summary>The newest release on those it lies on. Null: there is none.</summary>
    public static StyleLayers? ReleasedLayers(LoadedDocument loaded) => loaded.Library.Styles.Layers.GetValueOrDefault(loaded.Stored.Id);

    private VariableEntry Variable(BrandVariable variable)
    {
        var value = layers.Explain(variable.Key);
        var own = draft.FindVariable(variable.Key);
        return new VariableEntry(
            variable,
            value.Value,
            value.Dark,
            uses[variable.Key].Count(),
            own is not null,
            own is not null && released?.FindVariable(variable.Key) != own,
            under?.Find(variable.Key),
            value.Layers,
            value.Through
        );
    }

    private PropertyEntry Property(GlobalStyle style, StyleProperty property)
    {
        var (written, resolved) = (draft.FindStyle(style.Name, property.Name), layers[style.Name, property.Name]);
        return new PropertyEntry(
            property.Name,
            property.Label,
            property.Type,
            property.Choices,
            written,
            resolved.Layers.LastOrDefault(l => written is null || l.Layer != draft.Name)?.Value,
            resolved.Value,
            resolved.Dark,
            written is not null && property.Choices.IsEmpty && BrandVariable.Reference(written) is null,
            released?.FindStyle(style.Name, property.Name) != written,
            resolved.SameAs is var (s, p) ? GlobalStyles.Label(s, p) : null,
            resolved.Layers,
            resolved.Through
        );
    }

    private ContrastEntry Contrast(LegibilityPair pair) =>
        new(
            pair.Reading.What,
            pair.Reading.Text.ToString(),
            pair.Background,
            pair.Reading.Background.ToString(),
            Cut(pair.Reading.Ratio),
            pair.Reading.Needed,
            pair.Reading.Passes,
            pair.Reading.Dark,
            pair.Reading.Passes
                ? []
                :
                [
                    .. Legibility
                        .Remedies(pair, layers)
                        .Select(r => new RemedyEntry(
                            r.OfText,
                            r.Brand is null ? null : layers.Find(r.Brand)!.Label,
                            r.Colour.ToString(),
                            Cut(r.Ratio),
                            r.Edit is SetVariable set ? uses[set.Variable.Key].Count() : 1,
                            r.Edit
                        )),
                ]
        );

    private static SpecimenEntry Sheet(CompiledEmail sheet) =>
        new(Encoding.UTF8.GetString(sheet.Opening), [.. sheet.Rows.Select(r => Encoding.UTF8.GetString(r.Html.Span))]);

    private static double Cut(double ratio) => Math.Floor(ratio * 100) / 100;
}
