using System.Collections.Immutable;
using System.Globalization;
using System.Text.RegularExpressions;
using AngleSharp.Css.Dom;
using AngleSharp.Dom;
using AngleSharp.Html.Dom;
using Ganss.Xss;

namespace GoldenRule.Core.Documents;

/// <summary>Hand-written HTML with everything taken out that could run, reach outside its cell or break the email.</summary>
internal sealed partial class SafeHtml
{
    private static readonly HtmlSanitizer Sanitizer = Configure();

    /// <param name="written">As somebody wrote it.</param>
    public SafeHtml(string written)
    {
        // Parsed and written anew: what comes out is balanced, whatever went in. (The sanitizer is safe to share once it is configured.)
        var page = Sanitizer.SanitizeDom(MarkupBounds.Fault(written) is null ? written : "");
        var body = page.Body!;
        Links = [.. body.QuerySelectorAll("a[href]").Select(a => a.GetAttribute("href")!)];
        Text = string.Join('\n', body.TextContent.Split('\n').Select(l => l.Trim()).Where(l => l.Length > 0));
        foreach (var element in body.QuerySelectorAll("[style]"))
        {
            // The Word-based client knows colours by their six digits only.
            element.SetAttribute("style", Opaque().Replace(element.GetAttribute("style")!, m => Hexadecimal(m)));
        }

        Html = body.InnerHtml;
        Declared = [.. body.QuerySelectorAll("[style]").SelectMany(e => e.GetStyle()).Select(d => (d.Name, d.Value)).Distinct()];
    }

    public string Html { get; }

    public string Text { get; }

    public ImmutableArray<string> Links { get; }

    /// <summary>Every declaration of its styles, each once; colours as "rgba(r, g, b, a)".</summary>
    public ImmutableArray<(string Property, string Value)> Declared { get; }

    private static string Hexadecimal(Match colour) =>
        string.Concat(
            ((string[])["r", "g", "b"])
                .Select(c =>
                    byte.Parse(colour.Groups[c].ValueSpan, CultureInfo.InvariantCulture).ToString("x2", CultureInfo.InvariantCulture)
                )
                .Prepend("#")
        );

    [GeneratedRegex(@"rgba?\((?<r>\d{1,3}), (?<g>\d{1,3}), (?<b>\d{1,3})(, 1)?\)", RegexOptions.ExplicitCapture)]
    private static partial Regex Opaque();

    private static HtmlSanitizer Configure()
    {
        // No ids or classes: they could meet the email's own. No forms, frames, media, styles of the page.
        var sanitizer = new HtmlSanitizer(
            new HtmlSanitizerOptions
            {
                AllowedTags = new HashSet<string>(StringComparer.OrdinalIgnoreCase)
                {
                    "a",
                    "abbr",
                    "b",
                    "blockquote",
                    "br",
                    "caption",
                    "code",
                    "del",
                    "div",
                    "em",
                    "h1",
                    "h2",
                    "h3",
                    "h4",
                    "hr",
                    "i",
                    "img",
                    "ins",
                    "li",
                    "ol",
                    "p",
                    "pre",
                    "s",
                    "small",
                    "span",
                    "strong",
                    "sub",
                    "sup",
                    "table",
                    "tbody",
                    "td",
                    "tfoot",
                    "th",
                    "thead",
                    "tr",
                    "u",
                    "ul",
                },
                AllowedAttributes = new HashSet<string>(StringComparer.OrdinalIgnoreCase)
                {
                    "align",
                    "alt",
                    "border",
                    "cellpadding",
                    "cellspacing",
                    "colspan",
                    "dir",
                    "height",
                    "href",
                    "lang",
                    "role",
                    "rowspan",
                    "scope",
                    "src",
                    "style",
                    "title",
                    "valign",
                    "width",
                },
                AllowedSchemes = new HashSet<string>(StringComparer.OrdinalIgnoreCase) { "https", "http", "mailto", "tel" },
                UriAttributes = new HashSet<string>(StringComparer.OrdinalIgnoreCase) { "href", "src" },
                AllowedCssProperties = new HashSet<string>(StringComparer.OrdinalIgnoreCase)
                {
                    "background-color",
                    "border",
                    "border-bottom",
                    "border-collapse",
                    "border-left",
                    "border-radius",
                    "border-right",
                    "border-top",
                    "color",
                    "font-family",
                    "font-size",
                    "font-style",
                    "font-weight",
                    "height",
                    "letter-spacing",
                    "line-height",
                    "list-style-type",
                    "margin",
                    "margin-bottom",
                    "margin-left",
                    "margin-right",
                    "margin-top",
                    "max-width",
                    "padding",
                    "padding-bottom",
                    "padding-left",
                    "padding-right",
                    "padding-top",
                    "text-align",
                    "text-decoration",
                    "text-transform",
                    "vertical-align",
                    "white-space",
                    "width",
                },
                AllowedAtRules = new HashSet<AngleSharp.Css.Dom.CssRuleType>(),
            }
        );
        // An email has no page that an address could be relative to.
        sanitizer.FilterUrl += (_, address) =>
            address.SanitizedUrl = Documents.Links.IsSafe(address.OriginalUrl.Trim()) ? address.SanitizedUrl : null;
        // What stands in a tag that goes stays, but for what nobody would read.
        sanitizer.KeepChildNodes = true;
        sanitizer.RemovingTag += (_, removing) =>
        {
            if (
                removing.Tag.LocalName
                is "script"
                    or "style"
                    or "template"
                    or "noscript"
                    or "title"
                    or "textarea"
                    or "xmp"
                    or "iframe"
                    or "object"
            )
            {
                removing.Tag.TextContent = "";
            }
        };
        return sanitizer;
    }
}
