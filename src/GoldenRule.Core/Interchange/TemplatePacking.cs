using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Interchange;

/// <summary>Packing a template with what it needs, and unpacking it into a library that may have none of it.</summary>
public static class TemplatePacking
{
    /// <param name="style">What its variables come to; those that it has no need of stay out.</param>
    /// <param name="pictures">The bytes of a picture, Base64, by id; null: it is not there any more.</param>
    public static TemplateFile Pack(
        Template template,
        string campaignTypeName,
        ReleaseCatalog masters,
        StyleLayers style,
        PictureCatalog shelf,
        Func<string, string?> pictures
    )
    {
        var rows = template
            .PlacedRows.Where(p => p.Own is null)
            .Select(p => new PackedRow(p.Master!.Value, p.Release!.Value, masters.Row(p)))
            .DistinctBy(r => (r.Id, r.Release))
            .ToImmutableArray();
        var keys = new SortedSet<string>(StringComparer.Ordinal);
        var shown = new SortedSet<string>(StringComparer.Ordinal);
        Mapped walk = new(
            key =>
            {
                keys.Add(key);
                return null;
            },
            id =>
            {
                shown.Add(id);
                return id;
            }
        );
        walk.Map(template);
        foreach (var row in rows)
        {
            walk.Map(row.Row);
        }

        ImmutableArray<PackedVariable> variables =
        [
            .. keys.Select(k => style.Find(k))
                .OfType<BrandVariable>()
                .Select(v => new PackedVariable(v.Key, v.Type, style.Variable(v.Key, "export"))),
        ];
        shown.UnionWith(variables.Where(v => v.Type == VariableType.Picture).Select(v => v.Value));
        return new TemplateFile
        {
            FileType = TemplateFile.FileTypeName,
            Version = TemplateFile.CurrentFormat,
            CampaignTypeName = campaignTypeName,
            Template = template,
            Rows = rows,
            Variables = variables,
            Pictures =
            [
                .. shown
                    .Select(shelf.Find)
                    .OfType<Picture>()
                    .DistinctBy(p => p.Id)
                    .Select(p => (Picture: p, Data: pictures(p.Id)))
                    .Where(p => p.Data is not null)
                    .Select(p => new PackedPicture(p.Picture.Id, p.Picture.Name, p.Picture.Alt, p.Picture.Extension, p.Data!)),
            ],
        };
    }

    /// <summary>Writes values in place of references to variables that a house style does not have.</summary>
    public static Mapped Settling(TemplateFile file, StyleLayers style, Func<string, string> picture)
    {
        var values = file.Variables.ToDictionary(v => v.Key, v => v.Value, StringComparer.Ordinal);
        return new Mapped(
            key =>
                style.Find(key) is not null
                    ? null
                    : values.GetValueOrDefault(key)
                        ?? throw new StructureException(
                            $"The file refers to the brand variable \"{key}\", which neither it nor the chosen house style has.",
                            $"variable {key}"
                        ),
            picture
        );
    }

    /// <summary>The template with each placed saved row under the id and release it has here.</summary>
    public static Template Point(Template template, IReadOnlyDictionary<(Guid, int), (Guid Id, int Release)> known)
    {
        return template with
        {
            Order =
            [
                .. template.Order.Select(item =>
                    item switch
                    {
                        PlacedRow placed => To(placed),
                        Zone zone => zone with
                        {
                            Default = [.. zone.Default.Select(To)],
                            Rows =
                            [
                                .. zone
                                    .Rows.Select(id => known.Where(k => k.Key.Item1 == id).Select(k => k.Value.Id).FirstOrDefault(id))
                                    .Distinct(),
                            ],
                        },
                        _ => item,
                    }
                ),
            ],
        };

        PlacedRow To(PlacedRow placed)
        {
            if (placed.Own is not null)
            {
                return placed with { Master = null, Release = null };
            }

            return placed is { Master: { } id, Release: { } release } && known.TryGetValue((id, release), out var here)
                ? placed with
                {
                    Master = here.Id,
                    Release = here.Release,
                }
                : throw new StructureException(
                    $"The file places saved row {placed.Master}, release {placed.Release}, and does not bring it.",
                    placed.Id
                );
        }
    }
}
