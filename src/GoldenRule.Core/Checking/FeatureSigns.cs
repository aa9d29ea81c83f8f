using System.Collections.Frozen;
using System.Globalization;

namespace GoldenRule.Core.Checking;

/// <summary>
/// By what a feature of the dataset is known in HTML: "tag img", "attribute align", "property border-radius",
/// "value display:flex", "unit vw", "function calc", "at media", "pseudo hover", "selector class", "image png".
/// Most follow from the feature's own name; the others are named here.
/// </summary>
public static class FeatureSigns
{
    // What the name does not say, or says of several at once.
    private static readonly Dictionary<string, string[]> Named = new(StringComparer.Ordinal)
    {
        ["css-at-media-prefers-color-scheme"] = ["media prefers-color-scheme"],
        ["css-at-media-prefers-reduced-motion"] = ["media prefers-reduced-motion"],
        ["css-at-media-orientation"] = ["media orientation"],
        ["css-at-media-hover"] = ["media hover", "media any-hover"],
        ["css-at-media-device-pixel-ratio"] = ["media -webkit-device-pixel-ratio", "media -webkit-min-device-pixel-ratio"],
        ["css-display-flex"] = ["value display:flex", "value display:inline-flex"],
        ["css-display-grid"] = ["value display:grid", "value display:inline-grid"],
        ["css-display-none"] = ["value display:none"],
        ["css-flex-direction"] = ["value flex-direction:column"],
        ["css-flex-wrap"] = ["value flex-wrap:wrap"],
        ["css-important"] = ["important"],
        ["css-left-right-top-bottom"] = ["property left", "property right", "property top", "property bottom"],
        ["css-gap"] = ["property gap", "property column-gap", "property row-gap"],
        ["css-linear-gradient"] = ["function linear-gradient"],
        ["css-radial-gradient"] = ["function radial-gradient"],
        ["css-conic-gradient"] = ["function conic-gradient"],
        ["css-rgb"] = ["function rgb"],
        ["css-rgba"] = ["function rgba"],
        ["css-modern-color"] = ["function lch", "function oklch", "function lab", "function oklab"],
        ["css-variables"] = ["function var"],
        ["css-unit-calc"] = ["function calc"],
        ["css-unit-percent"] = ["unit %"],
        ["css-unit-initial"] = ["word initial"],
        ["css-intrinsic-size"] = ["word fit-content", "word min-content", "word max-content"],
        ["css-sytem-ui"] = ["word system-ui", "word ui-serif", "word ui-sans-serif", "word ui-rounded", "word ui-monospace"],
        ["css-selector-attribute"] = ["selector attribute"],
        ["css-selector-class"] = ["selector class"],
        ["css-selector-id"] = ["selector id"],
        ["css-selector-descendant"] = ["selector descendant"],
        ["css-selector-child"] = ["selector child"],
        ["css-selector-grouping"] = ["selector grouping"],
        ["css-selector-type"] = ["selector type"],
        ["css-selector-chaining"] = ["selector chaining"],
        ["css-selector-adjacent-sibling"] = ["selector adjacent"],
        ["css-selector-general-sibling"] = ["selector sibling"],
        ["css-selector-universal"] = ["selector universal"],
        ["html-anchor-links"] = ["link #"],
        ["html-mailto-links"] = ["link mailto"],
        ["html-h1-h6"] = ["tag h1", "tag h2", "tag h3", "tag h4", "tag h5", "tag h6"],
        ["html-lists"] = ["tag ul", "tag ol", "tag dl"],
        ["html-semantics"] =
        [
            "tag article",
            "tag aside",
            "tag figure",
            "tag footer",
            "tag header",
            "tag main",
            "tag nav",
            "tag section",
            "tag time",
        ],
        ["html-srcset"] = ["attribute srcset", "attribute sizes"],
        ["html-image-maps"] = ["tag map"],
        ["html-address"] = ["tag address"],
        ["html-base"] = ["tag base"],
        ["html-svg"] = ["tag svg"],
        ["html-meta-color-scheme"] = ["meta color-scheme"],
        ["html-doctype"] = ["doctype"],
        ["image-jpg"] = ["image jpg", "image jpeg"],
        ["image-base64"] = ["image data"],
        ["image-tiff"] = ["image tif", "image tiff"],
        ["image-heif"] = ["image heic", "image heif"],
        // Not to be seen in the HTML of one email, or there in every one for one client alone.
        ["amp"] = [],
        ["bimi"] = [],
        ["html-comments"] = [],
        ["css-comments"] = [],
        ["css-nesting"] = [],
        ["image-hdr"] = [],
        ["image-apng"] = [],
    };

    private static readonly FrozenDictionary<string, int[]> BySign = ClientSupport
        .Features.SelectMany((f, i) => ForFeature(f).Select(sign => (sign, i)))
        .GroupBy(s => s.sign, StringComparer.Ordinal)
        .ToFrozenDictionary(g => g.Key, g => g.Select(s => s.i).ToArray(), StringComparer.Ordinal);

    private static readonly FrozenDictionary<string, int[]>.AlternateLookup<ReadOnlySpan<char>> Look = BySign.GetAlternateLookup<
        ReadOnlySpan<char>
    >();

    /// <summary>Adds the features that a sign stands for.</summary>
    internal static void Add(ref FeatureSet found, ReadOnlySpan<char> kind, ReadOnlySpan<char> name)
    {
        if (name.Length is 0 or > 60)
        {
            return;
        }

        Span<char> sign = stackalloc char[kind.Length + 1 + name.Length];
        kind.CopyTo(sign);
        sign[kind.Length] = ' ';
        name.ToLower(sign[(kind.Length + 1)..], CultureInfo.InvariantCulture);
        if (Look.TryGetValue(kind.IsEmpty ? sign[1..] : sign, out var features))
        {
            foreach (var feature in features)
            {
                found.Add(feature);
            }
        }
    }

    public static IEnumerable<string> ForFeature(ClientFeature feature)
    {
        var (slug, title) = (feature.Slug, feature.Title);
        if (Named.TryGetValue(slug, out var named))
        {
            return named;
        }

        var rest = slug[(slug.IndexOf('-', StringComparison.Ordinal) + 1)..];
        return slug switch
        {
            _ when slug.StartsWith("image-", StringComparison.Ordinal) => [$"image {rest}"],
            _ when slug.StartsWith("css-at-", StringComparison.Ordinal) => [$"at {slug["css-at-".Length..]}"],
            _ when slug.StartsWith("css-unit-", StringComparison.Ordinal) => [$"unit {slug["css-unit-".Length..]}"],
            _ when slug.StartsWith("css-function-", StringComparison.Ordinal) => [$"function {slug["css-function-".Length..]}"],
            _ when slug.StartsWith("css-pseudo-", StringComparison.Ordinal) =>
            [
                $"pseudo {title.Trim(':').Replace("()", "", StringComparison.Ordinal)}",
            ],
            _ when slug.StartsWith("css-", StringComparison.Ordinal) => [$"property {rest}"],
            _ when title.Contains(" attribute", StringComparison.Ordinal) => [$"attribute {title.Split(' ')[0]}"],
            _ when title.StartsWith('<') => [$"tag {title[1..title.IndexOfAny([' ', '>'])]}"],
            _ => [],
        };
    }
}
