using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling;

/// <summary>
/// The style block of the head: only what cannot be inline. One large webmail drops a block over 8,192 characters
/// (common practice, no source), so it stays well under that. Of a row that narrows variables, only the rules that
/// differ from the email's are written, under class names of their own.
/// </summary>
internal sealed class HeadStyles
{
    private readonly string mark = "";
    private readonly HashSet<string> own = new(StringComparer.Ordinal);

    // What the phone has otherwise, by style.
    private readonly Dictionary<string, string> phone;

    public HeadStyles(StyleLayers style)
    {
        var (dark, former) = (Dark(style), style.Email is null ? [] : Dark(style.Email).ToDictionary(StringComparer.Ordinal));
        var changed = dark.Where(r => former.GetValueOrDefault(r.Key) != r.Value).ToList();
        phone = Phone(style).ToDictionary(r => r.Style, r => r.Rule, StringComparer.Ordinal);
        if (style.Email is not null)
        {
            own = [.. changed.Select(r => r.Key)];
            // The name comes from what the rules say, so that the same email gives the same bytes wherever the row stands.
            mark =
                "-"
                + Fnv1a.Hash(string.Concat(changed.Select(r => r.Value).Concat(phone.Values))).ToString("x8", CultureInfo.InvariantCulture);
        }

        var css = new StringBuilder();
        if (style.Email is null)
        {
            css.Append(
                "body{margin:0;padding:0;-webkit-text-size-adjust:100%}table{border-collapse:collapse}img{border:0;"
                    + "line-height:100%}a:hover{text-decoration:none!important}"
                    + ".bp:hover,.bs:hover,.bq:hover{text-decoration:underline!important}"
            );
        }

        css.Append("@media (max-width:480px){");
        if (style.Email is null)
        {
            css.Append(
                ".k{display:block!important;width:100%!important;max-width:100%!important;min-width:0!important}"
                    + ".w{display:block!important;width:auto!important}.g{padding-left:0!important;padding-right:0!important}"
                    + Hidden.PhoneRules
                    + TableStyles
            );
            css.Append(
                CultureInfo.InvariantCulture,
                $".sp{{padding-left:{style.Value("page", "phonePadding")}px!important;"
                    + $"padding-right:{style.Value("page", "phonePadding")}px!important}}"
            );
            css.Append(
                CultureInfo.InvariantCulture,
                $".ot{{padding-top:{style.Value("content", "phoneOuterSpace")}px!important}}"
                    + $".ob{{padding-bottom:{style.Value("content", "phoneOuterSpace")}px!important}}"
            );
        }

        foreach (var (name, rule) in phone)
        {
            css.Append(CultureInfo.InvariantCulture, $".{PhoneClass(name)}{{{rule}}}");
        }

        css.Append('}');
        css.Append("@media (prefers-color-scheme:dark){");
        Write(css, changed, "");
        css.Append('}');
        // One large webmail marks its dark scheme by attributes instead of the media query.
        Write(css, changed, "[data-ogsc] ");
        Css = Encoding.UTF8.GetBytes(style.Email is not null && changed.Count == 0 && phone.Count == 0 ? "" : css.ToString());
    }

    // A table that stacks: cells one below the other, each with the header that it stood under.
    private const string TableStyles =
        ".st,.st tbody,.st tr,.st td{display:block!important;width:auto!important;text-align:left!important}"
        + ".st .sh{display:none!important}.sl{display:inline!important;max-height:none!important}";

    public static ImmutableArray<string> TextStyles { get; } =
    ["body", "heading1", "heading2", "heading3", "heading4", "small", "caption", "preheader", "footer", "social", "table"];

    public static ImmutableArray<string> Buttons { get; } = ["primary", "secondary", "quiet"];

    public byte[] Css { get; }

    private static ImmutableArray<string> WithPhone { get; } = [.. TextStyles, .. Buttons];

    /// <summary>The class that a dark rule goes by here.</summary>
    public string Class(string name) => own.Contains(name) ? name + mark : name;

    /// <summary>The class of what a style has otherwise on the phone. Null: nothing.</summary>
    public string? PhoneClass(string style) =>
        phone.ContainsKey(style) ? string.Create(CultureInfo.InvariantCulture, $"y{WithPhone.IndexOf(style)}{mark}") : null;

    private void Write(StringBuilder css, List<KeyValuePair<string, string>> rules, string scope)
    {
        foreach (var (name, rule) in rules)
        {
            css.Append(CultureInfo.InvariantCulture, $"{scope}.{Class(name)}{{{rule}}}");
        }
    }

    private static IEnumerable<(string Style, string Rule)> Phone(StyleLayers style)
    {
        foreach (var name in TextStyles.Where(n => n != "social" && style.Value(n, "phoneSize") != style.Value(n, "size")))
        {
            var size = style.Number(name, "phoneSize");
            yield return (
                name,
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"font-size:{size:0}px!important;line-height:{Math.Round(size * style.Number(name, "lineHeight")):0}px!important"
                )
            );
        }

        foreach (var name in Buttons.Where(n => style.Value(n, "width") == "fit" && style.Value(n, "phoneWidth") == "full"))
        {
            yield return (name, "display:block!important;width:auto!important");
        }
    }

    private static IEnumerable<KeyValuePair<string, string>> Dark(StyleLayers style)
    {
        yield return new("pg", $"background-color:{style.Colour("page", "background", true)}!important");
        foreach (var surface in Enum.GetValues<Surface>())
        {
            var name = Theme.StyleName(surface);
            yield return new($"{name[0]}b", $"background-color:{style.Colour(name, "background", true)}!important");
            foreach (var (property, suffix) in ((string, char)[])[("heading", 'h'), ("text", 't'), ("quiet", 'q'), ("link", 'l')])
            {
                yield return new($"{name[0]}{suffix}", $"color:{style.Colour(name, property, true)}!important");
            }
        }

        foreach (var button in Buttons)
        {
            yield return new(
                $"b{button[0]}",
                $"background-color:{style.Colour(button, "fill", true)}!important;"
                    + $"border-color:{style.Colour(button, "border", true)}!important;color:{style.Colour(button, "text", true)}!important"
            );
        }

        yield return new("dv", $"border-color:{style.Colour("divider", "colour", true)}!important");
        yield return new("dc", $"background-color:{style.Colour("divider", "colour", true)}!important");
        yield return new("ed", $"border-color:{style.Colour("content", "border", true)}!important");
        yield return new("gr", $"border-color:{style.Colour("table", "rule", true)}!important");
        yield return new(
            "gh",
            $"border-color:{style.Colour("table", "rule", true)}!important;"
                + $"background-color:{style.Colour("table", "headFill", true)}!important;"
                + $"color:{style.Colour("table", "headText", true)}!important"
        );
    }
}
