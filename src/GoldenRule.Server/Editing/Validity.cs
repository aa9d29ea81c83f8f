using System.Runtime.CompilerServices;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Library;
using GoldenRule.Core.Resolving;
using GoldenRule.Data;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Editing;

/// <summary>Whether a document can be resolved after its edits, and all that stands on it. What cannot is refused before it is stored.</summary>
public static class Validity
{
    /// <param name="before">The document as it was.</param>
    /// <param name="kept">As it would be stored.</param>
    public static async Task CheckAsync(Document before, Kept kept, GoldenRuleDb db, CancellationToken cancel)
    {
        switch (kept.Document)
        {
            case HouseStyle style:
                var layers = Layers(style, kept);
                if (!OnlyPlainValuesDiffer((HouseStyle)before, style))
                {
                    CheckSubBrands(style, kept);
                }

                await RefuseVanishedAsync(kept, Layers((HouseStyle)before, kept), layers, db, cancel);
                break;
            case Email email:
                _ = Resolver.Resolve(email, RunningOrder.Of(email, kept.Library.Masters), StyleOf(email, kept.Library), kept.Library.Pictures);
                break;
            case Template template:
                _ = kept.Library.Style(template.HouseStyle).ForTemplate(template.Name, template.Narrowed);
                break;
            case SavedRow row:
                // A row may stand in emails of any house style that has what it narrows.
                _ = kept.Library.Styles.Values.FirstOrDefault(s => row.Narrowed.Keys.All(k => s.Find(k) is not null))?.ForRow(row.Name, row.Narrowed)
                    ?? throw new StructureException($"No house style has all of {string.Join(", ", row.Narrowed.Keys)}.");
                break;
            default:
                break;
        }
    }

    /// <summary>A variable that rows, templates or emails refer to does not go: another takes its place, or it is said what would break.</summary>
    private static async Task RefuseVanishedAsync(Kept kept, StyleLayers before, StyleLayers after, GoldenRuleDb db, CancellationToken cancel)
    {
        var library = kept.Library;
        // Rows belong to no house style: they count where a template is dressed in this one.
        if (!library.Templates.Values.Any(t => LibrarySnapshot.Chain(t.HouseStyle, library.HouseStyles).Contains(kept.Stored.Id)))
        {
            return;
        }

        foreach (var gone in before.Variables)
        {
            string[] keys = [.. gone.Formerly.Append(gone.Key).Where(k => after.Find(k) is null)];
            if (keys.Length == 0)
            {
                continue;
            }

            var users = library.Rows.Values.Where(r => VariableUses.In(r).Any(u => keys.Contains(u.Key))).Select(r => $"row \"{r.Name}\"")
                .Concat(library.Templates.Values.Where(t => VariableUses.In(t).Any(u => keys.Contains(u.Key))).Select(t => $"template \"{t.Name}\""))
                .Concat((await EmailsThatNameAsync(keys, db, cancel)).Select(e => $"email \"{e.Name}\"")).ToList();
            if (users.Count > 0)
            {
                throw new StructureException($"\"{gone.Label}\" is used and cannot go: {string.Join(", ", users.Take(6))}{(users.Count > 6 ? $" and {users.Count - 6} more" : "")}. Let another variable take its place.", $"variable {gone.Key}");
            }
        }
    }

    /// <summary>Emails whose own words, links or pictures refer to a variable.</summary>
    public static async Task<List<NamedEmail>> EmailsThatNameAsync(IEnumerable<string> keys, GoldenRuleDb db, CancellationToken cancel)
    {
        // As jsonb prints them: "variable": "key", or "{key}" as a whole value.
        var patterns = keys.SelectMany(k => new[] { $"%\"variable\": \"{k}\"%", $"%\"{{{k}}}\"%" }).ToArray();
        return await db.Database.SqlQuery<NamedEmail>($"select id, name from documents where kind = 'Email' and head::text like any ({patterns}) order by name, id").ToListAsync(cancel);
    }

    /// <summary>A house style's draft on the releases it lies on.</summary>
    public static StyleLayers Layers(HouseStyle draft, Kept kept) => Layers(kept.Stored.Id, draft, kept);

    /// <summary>A house style as it would be if the draft of one that it lies on were released.</summary>
    public static StyleLayers Layers(Guid style, HouseStyle draft, Kept kept)
    {
        var styles = kept.Library.HouseStyles.SetItem(kept.Stored.Id, draft);
        var chain = LibrarySnapshot.Chain(style, styles).Select(id => styles[id]).ToList();
        // An edit, its answer and the next edit ask for the same layers.
        return ReferenceEquals(chain[^1], draft) && Made.TryGetValue(draft, out var made) && made.Chain.SequenceEqual(chain, ReferenceEqualityComparer.Instance)
            ? made.Layers
            : Make(chain, draft);
    }

    private static readonly ConditionalWeakTable<HouseStyle, MadeLayers> Made = [];

    private static StyleLayers Make(List<HouseStyle> chain, HouseStyle draft)
    {
        var layers = new StyleLayers(chain);
        if (ReferenceEquals(chain[^1], draft))
        {
            Made.AddOrUpdate(draft, new MadeLayers(chain, layers));
        }

        return layers;
    }

    private sealed record MadeLayers(List<HouseStyle> Chain, StyleLayers Layers);

    public static StyleLayers StyleOf(Email email, LibrarySnapshot library) =>
        library.Style(library.Masters.Template(email.Template, email.TemplateRelease).HouseStyle);

    // A plain value in place of another, as when a colour is dragged, breaks nothing that refers to it.
    private static bool OnlyPlainValuesDiffer(HouseStyle before, HouseStyle after) =>
        ReferenceEquals(before.Styles, after.Styles) && before.Variables.Length == after.Variables.Length
        && before.Variables.Zip(after.Variables).All(v => ReferenceEquals(v.First, v.Second)
            || (v.First with { Value = v.Second.Value, Dark = v.Second.Dark } == v.Second && BrandVariable.Reference(v.Second.Value) is null && BrandVariable.Reference(v.Second.Dark ?? "") is null));

    private static void CheckSubBrands(HouseStyle draft, Kept kept)
    {
        foreach (var (id, style) in kept.Library.HouseStyles.Where(s => s.Key != kept.Stored.Id && LibrarySnapshot.Chain(s.Key, kept.Library.HouseStyles).Contains(kept.Stored.Id)))
        {
            try
            {
                _ = Layers(id, draft, kept);
            }
            catch (StructureException fault)
            {
                throw new StructureException($"{style.Name} lies on this house style and would break: {fault.Message}", fault.Piece);
            }
        }
    }
}

public sealed record NamedEmail(Guid Id, string Name);
